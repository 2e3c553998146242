import { z } from 'zod'
import { fieldWord, sayValue } from '../fields/say-value'
import { zValue, type Value } from '../language/value'
import type { RecordRef } from '../records/kinds'
import type { FieldChange } from '../records/record'
import { defineEffect, refused, zRef } from './effect'

/** Fields that only follow from another one need no words of their own. */
const FOLLOWING = new Set(['pipeline', 'stageSince'])

interface Left {
  /** Names the record, where it was not the one that the step worked on. */
  readonly ref?: RecordRef | undefined
  readonly eventSeq: number
  readonly changes: readonly FieldChange[]
}
const zLeft: z.ZodType<Left> = z.object({
  ref: zRef.optional(),
  eventSeq: z.number(),
  changes: z.array(z.object({ field: z.string(), old: zValue, new: zValue })),
})

/** Values are written to a record, as one change. */
export const fields = defineEffect({
  kind: 'fields',
  category: 'data',
  left: zLeft,
  needs: ({ ref }: { readonly ref: RecordRef; readonly values: { readonly [field: string]: Value } }) => [ref],
  apply({ world, event, cause }, { ref, values }): Left | null | ReturnType<typeof refused> {
    const written = world.write(ref, values, cause, { chainId: event.chainId, depth: event.depth + 1 })
    if (!written.ok) return refused(written.problems)
    return written.event && { eventSeq: written.event.seq, changes: written.event.changes }
  },
  describe: ({ ref, changes }, { catalogue, object }) =>
    changes
      .filter((change) => !FOLLOWING.has(change.field))
      .map((change) => {
        const field = catalogue.field(ref?.object ?? object, change.field)
        return field
          ? `${fieldWord(field)}: ${sayValue(change.old, field, catalogue)} → ${sayValue(change.new, field, catalogue)}`
          : change.field
      })
      .join('; '),
  undo({ ref, eventSeq, changes }, undoing) {
    undoing.own.add(eventSeq)
    for (const change of changes) undoing.wrote(ref ?? undoing.record, change.field, change.old, change.new)
  },
  summarise: ({ ref, changes }) => ({ changed: { ref: ref ?? null, changes } }),
})
