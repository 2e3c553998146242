import type { Value } from '../language/value'
import type { FieldChange } from '../records/record'
import { changesOf, defineSignal } from './signal'

/** Labels are choices of a field that holds several: some of them were added or removed, whatever else was. */
export const label = defineSignal({
  kind: 'label',
  *keys(event) {
    for (const change of changesOf(event)) {
      if (!Array.isArray(change.old) && !Array.isArray(change.new)) continue
      for (const one of labelsIn(change, 'added')) yield `${change.field}+${one}`
      for (const one of labelsIn(change, 'removed')) yield `${change.field}-${one}`
    }
  },
  about(key) {
    const at = key.search(/[+-]/)
    return { field: key.slice(0, at), exact: key.slice(at) }
  },
})

export type LabelMove = 'added' | 'removed'

const listOf = (value: Value): readonly string[] => (Array.isArray(value) ? value : [])

/** The labels that a change added or removed. */
export function labelsIn({ old, new: now }: FieldChange, move: LabelMove): readonly string[] {
  const [there, not] = move === 'added' ? [now, old] : [old, now]
  const without = listOf(not)
  return listOf(there).filter((one) => !without.includes(one))
}

export const onLabel = (field: string, move: LabelMove, one: string) =>
  ({
    signal: 'label',
    key: `${field}${move === 'added' ? '+' : '-'}${one}`,
  }) as const
