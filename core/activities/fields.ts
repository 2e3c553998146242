import { ACTIVITY_NAMES, type ActivityName, type ActivityTable, type OwnActivity } from '.'
import type { Field } from '../fields/field'
import { capital } from '../language/nouns'
import type { Value, Values } from '../language/value'
import type { Activity } from '../records/activity'
import type { ObjectKind } from '../records/kinds'
import type { ActivityKind, ActivityValue } from './kind'

/** Every value that one can be asked for: its text, its data, and when it was done. */
const values = ({ about, data }: ActivityKind): readonly ActivityValue[] => [
  { key: 'about', label: about, type: 'text' },
  ...data,
  { key: 'atMs', label: 'time', type: 'dateTime' },
]

const keyOf = (kind: ActivityName, key: string): string => `${kind}.${key}`

const kept = new WeakMap<ActivityKind, Map<ObjectKind, readonly Field[]>>()

/** A number of its own for each kind: those that come with the product by their places, the others behind them. */
const numberOf = (kind: ActivityKind): number =>
  'id' in kind ? 1000 + (kind as OwnActivity).id : ACTIVITY_NAMES.findIndex((one) => one === kind.kind)

/**
 * What can be asked of an activity, as fields: conditions, sentences and editors treat them like those of a record.
 * `object` is the kind of record whose activity it is. Their numbers are below those of all fields, and no key of a
 * field of a record has a point in it.
 */
export function activityFields(kind: ActivityKind, object: ObjectKind): readonly Field[] {
  const known = kept.get(kind)?.get(object)
  if (known) return known
  const made = values(kind).map(({ key, label, type, choices = [] }, i): Field => ({
    id: -1_000_000 - numberOf(kind) * 1000 - i,
    object,
    key: keyOf(kind.kind, key),
    label: capital(label),
    type,
    description: '',
    keptBy: 'activity',
    required: false,
    choices,
    currencyKey: null,
    synonyms: null,
  }))
  kept.set(kind, (kept.get(kind) ?? new Map<ObjectKind, readonly Field[]>()).set(object, made))
  return made
}

/** The activity whose value has that key; `null` for every other key. */
export function activityOf(key: string, table: ActivityTable): ActivityKind | null {
  const [kind = '', rest] = key.split('.')
  return rest === undefined ? null : table.get(kind)
}

/** The field of that key, of an activity; `null` for every other key. */
export function activityField(object: ObjectKind, key: string, table: ActivityTable): Field | null {
  const kind = activityOf(key, table)
  return kind && (activityFields(kind, object).find((field) => field.key === key) ?? null)
}

/** The values of one, by the keys of those fields. */
export function activityValues({
  kind,
  about,
  atMs,
  data,
}: Pick<Activity, 'kind' | 'about' | 'atMs' | 'data'>): Values {
  const found: { [key: string]: Value } = {
    [keyOf(kind, 'about')]: about === '' ? null : about,
    [keyOf(kind, 'atMs')]: atMs,
  }
  for (const [key, value] of Object.entries(data)) found[keyOf(kind, key)] = value
  return found
}
