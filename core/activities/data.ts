import { z } from 'zod'
import type { Value, Values } from '../language/value'
import type { ActivityKind, ActivityValue } from './kind'

/** What the data of an activity must look like. */

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
      return z.int().min(0).max(8.64e15).describe(label).meta({ format: 'epoch-ms' })
    case 'choice':
      return z.enum(choices.map(({ id }) => id) as [string, ...string[]]).describe(label)
  }
}

const shapes = new WeakMap<ActivityKind, z.ZodType<Values>>()

/** What the data of a kind must look like. */
export function activityData(kind: ActivityKind): z.ZodType<Values> {
  let found = shapes.get(kind)
  if (!found) {
    const entries = kind.data.map((one) => [one.key, shape(one).optional()] as const)
    shapes.set(kind, (found = z.strictObject(Object.fromEntries(entries)) as unknown as z.ZodType<Values>))
  }
  return found
}

/** The same as a JSON Schema (draft 2020-12), for programs that send activities. */
export const activitySchema = (kind: ActivityKind): object => ({
  ...z.toJSONSchema(activityData(kind), { target: 'draft-2020-12', io: 'input' }),
  $id: `urn:sky-lever:activity:${kind.kind}`,
  title: kind.one,
})

function sampleOf({ type, choices = [] }: ActivityValue): Value {
  switch (type) {
    case 'text':
    case 'longText':
      return 'text'
    case 'number':
      return 1
    case 'yesNo':
      return true
    case 'dateTime':
      return Date.UTC(2026, 10, 24, 9)
    case 'choice':
      return choices[0]?.id ?? null
  }
}

/** An example of one, made from its values where nobody wrote one. */
export const exampleOf = ({ about, data, example }: ActivityKind): ActivityKind['example'] =>
  example.about === '' && Object.keys(example.data).length === 0
    ? { about, data: Object.fromEntries(data.map((one) => [one.key, sampleOf(one)])) }
    : example

/** What is wrong with the data, with its place; `null` when nothing is. */
export function dataProblem(kind: ActivityKind, data: Values): string | null {
  const read = activityData(kind).safeParse(data)
  if (read.success) return null
  const issue = read.error.issues[0]
  return `${['data', ...(issue?.path ?? [])].join('.')}: ${issue?.message ?? 'is not valid'}`
}
