import { z } from 'zod'
import { FIELD_TYPES } from '../fields/types'
import { PLAIN_STYLE } from '../fields/kind'
import type { Catalogue } from '../fields/catalogue'
import type { Field } from '../fields/field'
import type { Value } from '../language/value'
import type { ObjectKind } from '../records/kinds'
import { atPath, readPath } from './json'

/** A value that is read out of what a service answered. */

export const READING_TYPES = ['text', 'number', 'date', 'yesNo'] as const
const READINGS_MOST = 20

export interface Reading {
  /** How steps name it; letters and digits, permanent. */
  readonly key: string
  readonly label: string
  readonly type: (typeof READING_TYPES)[number]
  /** Where it stands in the answer, as `$.order.number`. */
  readonly path: string
}

const zReading: z.ZodType<Reading> = z.strictObject({
  key: z.string().regex(/^[A-Za-z][A-Za-z\d]{0,39}$/),
  label: z.string().trim().min(1).max(100),
  type: z.enum(READING_TYPES),
  path: z
    .string()
    .trim()
    .min(1)
    .max(300)
    .refine((path) => readPath(path) !== null, 'is no path such as $.order.number'),
})
export const zReadings = z.array(zReading).max(READINGS_MOST)

/** As a field, for its type. */
export const readingField = ({ key, label, type }: Reading, object: ObjectKind): Field => ({
  id: 0,
  object,
  key,
  label,
  type,
  description: '',
  keptBy: null,
  required: false,
  choices: [],
  currencyKey: null,
  synonyms: null,
})

/** Many services write numbers as texts, as JSON has one kind of number only. */
const numberIn = (text: string): number | null =>
  text.trim() !== '' && Number.isFinite(Number(text)) ? Number(text) : null

/** The value, in its type; empty where the answer has none there, or one that does not fit. */
export function readValue({ type, path }: Reading, answer: string, field: Field, catalogue: Catalogue): Value {
  let json: unknown
  try {
    json = JSON.parse(answer)
  } catch {
    return null
  }
  const found = atPath(json, path)
  if (found === null) return null
  const plain =
    type === 'text' ? String(found) : type === 'number' && typeof found === 'string' ? numberIn(found) : found
  const read = FIELD_TYPES[type].accept(plain, { catalogue, field, style: PLAIN_STYLE, pipelineId: null })
  return read.ok ? read.value : null
}
