import { z } from 'zod'
import type { RecordRef } from '../records/kinds'
import { defineEffect, zRef } from './effect'

interface Want {
  readonly from: RecordRef
  readonly to: RecordRef
  /** Of the other one, for telling. */
  readonly name: string
}

/** A link between two records is taken away. */
export const unlink = defineEffect({
  kind: 'unlink',
  category: 'data',
  left: z.object({ from: zRef, to: zRef, role: z.string(), name: z.string() }),
  needs: ({ from, to }: Want) => [from, to],
  apply({ world, cause }, { from, to, name }) {
    const role = world.unlink(from, to, cause)
    return role === null ? null : { from, to, role, name }
  },
  describe: ({ name }) => `unlinked from ${name}`,
  undo({ from, to, role, name }, { facts, link }) {
    if (!facts.linked(from, to) && facts.read(from) && facts.read(to))
      link.push({ from, to, role, say: `link to ${name}` })
  },
  summarise: ({ from, to }) => ({ records: [from, to] }),
})
