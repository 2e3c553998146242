import { z } from 'zod'
import { ACTIVITIES, type ActivityName } from '.'
import type { Values } from '../language/value'
import type { ActivityValue } from './kind'

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
