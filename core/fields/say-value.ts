import type { Catalogue } from './catalogue'
import { FIELD_TYPES } from './types'
import type { Field } from './field'
import { isEmpty, type Value, type Values } from '../language/value'

/**
 * What a field is called inside a sentence: its own phrase, else its label. Labels stand in the middle of sentences in
 * lower case, unless they are names or abbreviations.
 */
export function fieldWord(field: Field | null): string | null {
  if (!field) return null
  if (field.phrase) return field.phrase
  return /^\p{Lu}\p{Ll}/u.test(field.label) ? field.label.charAt(0).toLowerCase() + field.label.slice(1) : field.label
}

/**
 * A value in words for its field; the empty one is "empty". `values` are those of the same record, for its currency.
 */
export function sayValue(value: Value, field: Field, catalogue: Catalogue, values: Values = {}): string {
  if (isEmpty(value)) return 'empty'
  // What a field held before it was given another type is told as it was kept.
  if (typeof value === 'string' && FIELD_TYPES[field.type].storage !== 'text') return value
  if (typeof value === 'number' && FIELD_TYPES[field.type].storage === 'text') return String(value)
  const currency = field.currencyKey ? (values[field.currencyKey] ?? null) : null
  return FIELD_TYPES[field.type].write(value, {
    catalogue,
    field,
    currency: typeof currency === 'string' ? currency.toUpperCase() : null,
  })
}

/** A value inside a sentence: texts in quotes, everything else plain. */
export function quoteValue(value: Value, field: Field, catalogue: Catalogue): string | null {
  if (isEmpty(value)) return null
  const said = sayValue(value, field, catalogue)
  return FIELD_TYPES[field.type].widget === 'text' || FIELD_TYPES[field.type].widget === 'longText' ? `“${said}”` : said
}
