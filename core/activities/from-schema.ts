import '../language/refusals/of-server'
import { sayProblem, type Problem } from '../language/problems'
import { z } from 'zod'
import { foldText } from '../language/value'
import type { ActivityValue } from './kind'

/** Data of an activity as a JSON Schema (draft 2020-12) describes it: an object of plain values. */

const MOST_VALUES = 30
/** Longer texts are long ones. */
const SHORT_MOST = 500

const zProperty = z.looseObject({
  type: z.string().optional(),
  description: z.string().max(100).optional(),
  title: z.string().max(100).optional(),
  maxLength: z.number().optional(),
  format: z.string().optional(),
  enum: z.array(z.string().min(1).max(100)).min(1).max(60).optional(),
})
const zSchema = z.looseObject({ type: z.literal('object'), properties: z.record(z.string(), zProperty) })
type Property = z.infer<typeof zProperty>

function typeOf({ type, format, maxLength, enum: choices }: Property): ActivityValue['type'] | null {
  if (choices) return 'choice'
  switch (type) {
    case 'string':
      return (maxLength ?? 0) > SHORT_MOST ? 'longText' : 'text'
    case 'boolean':
      return 'yesNo'
    case 'number':
      return 'number'
    case 'integer':
      return format === 'epoch-ms' ? 'dateTime' : 'number'
    default:
      return null
  }
}

/** The values that a schema describes, or where and why it cannot be read. */
export function valuesOfSchema(
  schema: unknown,
): { readonly data: readonly ActivityValue[] } | { readonly path: string; readonly text: string } {
  const read = zSchema.safeParse(schema)
  if (!read.success) {
    const [issue] = read.error.issues
    return { path: (issue?.path ?? []).join('.'), text: issue?.message ?? 'is no schema of an object' }
  }
  const data: ActivityValue[] = []
  for (const [key, property] of Object.entries(read.data.properties)) {
    const type = typeOf(property)
    const path = `properties.${key}`
    if (type === null)
      return { path: `${path}.type`, text: 'Only texts, numbers, yes or no, and texts with “enum” can be kept.' }
    data.push({
      key,
      label: (property.title ?? property.description ?? key).trim() || key,
      type,
      ...(type === 'choice' ? { choices: (property.enum ?? []).map((id) => ({ id, label: id })) } : {}),
    })
  }
  const problem = valuesProblem(data)
  return problem ? { path: `properties.${problem.key}`, text: sayProblem(problem.problem) } : { data }
}

/** Those are there anyway: the text, and when it was done. */
const TAKEN = ['about', 'atMs']

/** What is wrong with the values of a kind of one’s own; `null` when nothing is. */
export function valuesProblem(
  data: readonly ActivityValue[],
): { readonly key: string; readonly problem: Problem } | null {
  if (data.length > MOST_VALUES) return { key: '', problem: { code: 'mostValues', most: MOST_VALUES } }
  for (const [at, { key, label, type, choices = [] }] of data.entries()) {
    if (!/^[a-z][A-Za-z0-9]{0,39}$/.test(key)) return { key, problem: { code: 'notAKey', key } }
    if (TAKEN.includes(key)) return { key, problem: { code: 'keyThere', key } }
    if (label.trim() === '') return { key, problem: { code: 'noLabel' } }
    const before = data.slice(0, at)
    if (before.some((one) => one.key === key)) return { key, problem: { code: 'standsTwice', what: key } }
    if (before.some((one) => foldText(one.label) === foldText(label)))
      return { key, problem: { code: 'standsTwice', what: label } }
    if (type === 'choice' && choices.length === 0) return { key, problem: { code: 'noChoices', field: label } }
  }
  return null
}
