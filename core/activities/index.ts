import { z } from 'zod'
import type { Field } from '../fields/field'
import type { Values } from '../language/value'
import type { RecordKind } from '../records/kinds'
import * as all from './all'
import type { ActivityKind, ActivityValue } from './kind'

/** Everything that people can do, and what it is read and checked by. */

export type ActivityName = (typeof all)[keyof typeof all]['kind']

/** Every kind, by its name. */
export const ACTIVITIES = Object.fromEntries(Object.values(all).map((one) => [one.kind, one])) as unknown as {
  readonly [K in ActivityName]: ActivityKind<K>
}
export const ACTIVITY_NAMES = Object.keys(ACTIVITIES) as [ActivityName, ...ActivityName[]]

/** Every value that one can be asked for: its text, its data, and when it was done. */
const values = ({ about, data }: ActivityKind): readonly ActivityValue[] => [
  { key: 'about', label: about, type: 'text' },
  ...data,
  { key: 'atMs', label: 'time', type: 'dateTime' },
]

const kept = new Map<string, readonly Field[]>()

/**
 * What can be asked of an activity, as fields: conditions, sentences and editors treat them like those of a record.
 * `object` is the kind of record whose activity it is. Their numbers are below those of all fields.
 */
export function activityFields(kind: ActivityName, object: RecordKind): readonly Field[] {
  const name = `${kind}@${object}`
  const known = kept.get(name)
  if (known) return known
  const made = values(ACTIVITIES[kind]).map(({ key, label, type, choices = [] }, i): Field => ({
    id: -1_000_000 - ACTIVITY_NAMES.indexOf(kind) * 1000 - i,
    object,
    key,
    label: label.replace(/^./, (first) => first.toUpperCase()),
    type,
    description: '',
    keptBy: 'activity',
    required: false,
    choices,
    currencyKey: null,
    synonyms: null,
  }))
  kept.set(name, made)
  return made
}

/** The values of one, by the keys of those fields. */
export const activityValues = ({
  about,
  atMs,
  data,
}: {
  readonly about: string
  readonly atMs: number
  readonly data: Values
}): Values => ({ ...data, about: about === '' ? null : about, atMs })

const TEXT_MOST = 500
const LONG_MOST = 5000

function shape({ label, type, choices = [] }: ActivityValue): z.ZodType {
  switch (type) {
    case 'text':
      return z.string().max(TEXT_MOST).describe(label)
    case 'longText':
      return z.string().max(LONG_MOST).describe(label)
    case 'number':
      return z.number().describe(label)
    case 'yesNo':
      return z.boolean().describe(label)
    case 'dateTime':
      return z.int().min(0).max(8.64e15).describe(`${label}, in ms since 1970 UTC`)
    case 'choice':
      return z.enum(choices.map(({ id }) => id) as [string, ...string[]]).describe(label)
  }
}

const shapes = new Map<ActivityName, z.ZodType<Values>>()

/** What the data of a kind must look like. */
export function activityData(kind: ActivityName): z.ZodType<Values> {
  let found = shapes.get(kind)
  if (!found) {
    const entries = ACTIVITIES[kind].data.map((one) => [one.key, shape(one).optional()] as const)
    shapes.set(kind, (found = z.strictObject(Object.fromEntries(entries)) as unknown as z.ZodType<Values>))
  }
  return found
}

/** The same as a JSON Schema (draft 2020-12), for programs that send activities. */
export const activitySchema = (kind: ActivityName): object => ({
  ...z.toJSONSchema(activityData(kind), { target: 'draft-2020-12', io: 'input' }),
  $id: `urn:sky-lever:activity:${kind}`,
  title: ACTIVITIES[kind].one,
})

/** What is wrong with the data, with its place; `null` when nothing is. */
export function dataProblem(kind: ActivityName, data: Values): string | null {
  const read = activityData(kind).safeParse(data)
  if (read.success) return null
  const issue = read.error.issues[0]
  return `${['data', ...(issue?.path ?? [])].join('.')}: ${issue?.message ?? 'is not valid'}`
}
