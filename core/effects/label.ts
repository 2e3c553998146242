import { z } from 'zod'
import { listOf } from '../language/counts'
import { sayValue, fieldWord } from '../fields/say-value'
import { zValue, type Value } from '../language/value'
import type { RecordRef } from '../records/kinds'
import { labelsIn } from '../signals/label'
import { defineEffect, refused, zRef } from './effect'

interface Want {
  readonly ref: RecordRef
  readonly field: string
  readonly add: readonly string[]
  readonly remove: readonly string[]
}

interface Left {
  readonly ref: RecordRef
  readonly eventSeq: number
  readonly field: string
  readonly old: Value
  readonly new: Value
}
const zLeft: z.ZodType<Left> = z.object({
  ref: zRef,
  eventSeq: z.number(),
  field: z.string(),
  old: zValue,
  new: zValue,
})

/** The labels with some added and some removed; empty when none is left. */
export function labelsWith(held: Value, add: readonly string[], remove: readonly string[]): Value {
  const before = Array.isArray(held) ? (held as readonly string[]) : []
  const next = [...before.filter((one) => !remove.includes(one)), ...add.filter((one) => !before.includes(one))]
  return next.length === 0 ? null : next
}

/** Labels come and go without the others being touched, also when it is taken back. */
export const label = defineEffect({
  kind: 'label',
  category: 'data',
  left: zLeft,
  needs: ({ ref }: Want) => [ref],
  apply({ world, event, cause }, { ref, field, add, remove }): Left | null | ReturnType<typeof refused> {
    const values = { [field]: labelsWith(world.read(ref)?.values[field] ?? null, add, remove) }
    const written = world.write(ref, values, cause, { chainId: event.chainId, depth: event.depth + 1 })
    if (!written.ok) return refused(written.problems)
    const change = written.event?.changes.find((one) => one.field === field)
    return written.event && change
      ? { ref, eventSeq: written.event.seq, field, old: change.old, new: change.new }
      : null
  },
  describe(left, { catalogue }) {
    const field = catalogue.field(left.ref.object, left.field)
    if (!field) return left.field
    const said = (labels: readonly string[]) => listOf(labels.map((one) => `“${sayValue([one], field, catalogue)}”`))
    const [added, removed] = [labelsIn(left, 'added'), labelsIn(left, 'removed')]
    return [
      ...(added.length > 0 ? [`added ${said(added)} to ${fieldWord(field)}`] : []),
      ...(removed.length > 0 ? [`removed ${said(removed)} from ${fieldWord(field)}`] : []),
    ].join('; ')
  },
  undo(left, undoing) {
    undoing.own.add(left.eventSeq)
    undoing.labelled(left.ref, left.field, labelsIn(left, 'added'), labelsIn(left, 'removed'))
  },
  summarise: ({ ref, field, old, new: now }) => ({ changed: { ref, changes: [{ field, old, new: now }] } }),
})
