import type { Catalogue } from '../fields/catalogue'
import { isEmpty, sameValue, type Value, type Values } from '../language/value'
import type { ObjectKind } from './kinds'

/** One field in which two records of a kind that are to become one differ. */
export interface MergeField {
  readonly key: string
  readonly label: string
  readonly kept: Value
  readonly other: Value
  /** Whose value the merged record gets unless somebody says otherwise: the kept one's, where it has one. */
  readonly from: 'kept' | 'other'
}

/** The fields in which the two differ, in the order of the catalogue; those kept by the system are not chosen. */
export const mergeFields = (
  object: ObjectKind,
  kept: Values,
  other: Values,
  catalogue: Catalogue,
): readonly MergeField[] =>
  catalogue.fields(object).flatMap((field): MergeField[] => {
    const [mine, theirs] = [kept[field.key] ?? null, other[field.key] ?? null]
    if (field.keptBy || sameValue(mine, theirs)) return []
    return [{ key: field.key, label: field.label, kept: mine, other: theirs, from: isEmpty(mine) ? 'other' : 'kept' }]
  })

/** The values that are to be written on the kept record: what it lacks, and what is to be taken from the other one. */
export const mergedValues = (
  fields: readonly MergeField[],
  take: ReadonlySet<string>,
): Readonly<Record<string, Value>> =>
  Object.fromEntries(
    fields
      .filter((field) => field.from === 'other' || take.has(field.key))
      .filter((field) => !isEmpty(field.other))
      .map((field) => [field.key, field.other]),
  )
