import { z } from 'zod'
import type { Values } from '../language/value'
import type { ObjectKind, RecordRef } from '../records/kinds'
import { defineEffect, refused, zRef } from './effect'

interface Want {
  readonly object: ObjectKind
  readonly values: Values
  readonly linkTo: readonly RecordRef[]
  /** Links it to what this step made before it. */
  readonly linkToMade?: boolean
  readonly linkFrom: RecordRef | null
  readonly name: string
}

/** A record is made with its links, as one change. */
export const created = defineEffect({
  kind: 'created',
  category: 'data',
  left: z.object({ ref: zRef, eventSeq: z.number(), name: z.string() }),
  needs: ({ linkTo, linkFrom }: Want) => (linkFrom === null ? linkTo : [...linkTo, linkFrom]),
  apply({ world, event, cause, made }, { object, values, linkTo, linkToMade, linkFrom, name }) {
    const links = linkToMade && made ? [...linkTo, made] : linkTo
    const answer = world.create(object, values, links, cause, { chainId: event.chainId, depth: event.depth + 1 })
    if (!answer.ok) return refused(answer.problems)
    if (!answer.ref || !answer.event) return { fails: { code: 'notCreated' } }
    if (linkFrom) world.link(linkFrom, answer.ref, cause)
    return { ref: answer.ref, eventSeq: answer.event.seq, name }
  },
  describe: ({ ref, name }) => `created ${ref.object} “${name}”`,
  undo({ ref, eventSeq, name }, { facts, remove, left }) {
    if (!facts.read(ref)) return
    if (facts.changedSince(ref, eventSeq)) left.push(`“${name}” has changed since`)
    else remove.push({ ref, name })
  },
  summarise: ({ ref }) => ({ records: [ref], made: ref }),
})
