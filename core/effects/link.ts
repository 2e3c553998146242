import { z } from 'zod'
import type { RecordRef } from '../records/kinds'
import { defineEffect, zRef } from './effect'

interface Want {
  readonly from: RecordRef
  readonly to: RecordRef
  /** Of the other one, for telling. */
  readonly name: string
}

/** Two records are linked, in the direction in which links are kept. */
export const link = defineEffect({
  kind: 'link',
  category: 'data',
  left: z.object({ from: zRef, to: zRef, name: z.string() }),
  needs: ({ from, to }: Want) => [from, to],
  apply: ({ world, cause }, { from, to, name }) => (world.link(from, to, cause) ? { from, to, name } : null),
  describe: ({ name }) => `linked to ${name}`,
  undo({ from, to, name }, { facts, unlink }) {
    if (facts.linked(from, to)) unlink.push({ from, to, say: `link to ${name}` })
  },
  summarise: ({ from, to }) => ({ records: [from, to] }),
})
