import type { Catalogue } from '../fields/catalogue'
import { FIELD_TYPES } from '../fields/types'
import type { Field } from '../fields/field'
import { isEmpty, type Value, type Values } from '../fields/value'
import { OBJECT_WORDS, type ObjectKind } from '../records/kinds'

/**
 * One piece of a sentence. A piece with a `param` can be edited: the name says which part of the params, and the
 * kind's form says with which widget. `missing` marks what is still to be chosen.
 */
export type SentencePart =
  | { readonly text: string }
  /** `soft` marks what may be left out: it is offered on the sheet and not said aloud. */
  | { readonly param: string; readonly text: string; readonly missing?: boolean; readonly soft?: boolean }
  /** A merge field inside a text, with its words; belongs to the text of `param`. */
  | { readonly merge: string; readonly label: string; readonly param: string }
  | { readonly break: true }

/** What sentences are said with. */
export interface Names {
  readonly catalogue: Catalogue
  readonly object: ObjectKind
}

export const say = (text: string): SentencePart => ({ text })
export const word = (param: string, text: string | null, placeholder: string): SentencePart =>
  text === null || text === '' ? { param, text: placeholder, missing: true } : { param, text }

/** "deal", "contact", "company". */
export const oneOf = (object: ObjectKind): string => OBJECT_WORDS[object].one

/** "a deal"; every kind of record begins with a consonant. */
export const aOne = (object: ObjectKind): string => `a ${oneOf(object)}`

/** Labels stand in the middle of sentences in lower case, unless they are names or abbreviations. */
export function fieldWord(field: Field | null): string | null {
  if (!field) return null
  return /^\p{Lu}\p{Ll}/u.test(field.label) ? field.label.charAt(0).toLowerCase() + field.label.slice(1) : field.label
}

/** A value in words for its field; the empty one is "empty". `values` are those of the same record, for its currency. */
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

/** The sentence as one text, for lists, the journal and screen readers. */
export const plainSentence = (parts: readonly SentencePart[]): string =>
  parts
    .map((part) =>
      'break' in part ? ' — ' : 'merge' in part ? `[${part.label}]` : 'soft' in part && part.soft ? '' : part.text,
    )
    .join('')
    .replace(/\s+/g, ' ')
    // What may be left out leaves the commas around it behind.
    .replace(/,(?:\s*,)+/g, ',')
    .replace(/,\s*—/g, ' —')
    .replace(/( — )+$/, '')
    .replace(/,\s*$/, '')
    .trim()
