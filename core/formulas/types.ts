import type { Field } from '../fields/field'
import type { ObjectKind } from '../records/kinds'
import type { FieldTypeName } from '../language/field-types'

/**
 * The types of formulas, known before anything is worked out: FEEL (Decision Model and Notation 1.3, chapter 10) leaves
 * them to the moment of evaluation, where "7" > 5 is silently something. Here every part has its type when it is
 * written.
 */
export type FeelType =
  | { readonly is: 'number' }
  /** `field` where the text is a choice, stage or person of that field. */
  | { readonly is: 'string'; readonly field?: Field }
  | { readonly is: 'boolean' }
  | { readonly is: 'date' }
  | { readonly is: 'dateTime' }
  /** A span of days, hours, minutes and seconds. */
  | { readonly is: 'days' }
  /** A span of years and months. */
  | { readonly is: 'months' }
  /** Nothing: fits everywhere. */
  | { readonly is: 'null' }
  | { readonly is: 'list'; readonly of: FeelType }
  | { readonly is: 'record'; readonly object: ObjectKind }
  | { readonly is: 'context'; readonly entries: { readonly [name: string]: FeelType } }
  | { readonly is: 'range'; readonly of: FeelType }

/**
 * A value while a formula is worked out. Dates are days since 1970-01-01, instants and spans of days are milliseconds,
 * spans of months are months; what a number stands for is known by its type.
 */
export type FeelValue = number | string | boolean | null | readonly FeelValue[] | FeelRecord | FeelContext | FeelRange

export interface FeelRecord {
  readonly values: { readonly [key: string]: unknown }
}

export interface FeelContext {
  readonly entries: { readonly [name: string]: FeelValue }
}

export interface FeelRange {
  readonly from: FeelValue
  readonly to: FeelValue
  readonly fromIn: boolean
  readonly toIn: boolean
}

export const NUMBER: FeelType = { is: 'number' }
export const STRING: FeelType = { is: 'string' }
export const BOOLEAN: FeelType = { is: 'boolean' }
export const DATE: FeelType = { is: 'date' }
export const DATE_TIME: FeelType = { is: 'dateTime' }
export const DAYS: FeelType = { is: 'days' }
export const MONTHS: FeelType = { is: 'months' }
export const NULL: FeelType = { is: 'null' }
export const listOf = (of: FeelType): FeelType => ({ is: 'list', of })

const WORDS: { readonly [K in FeelType['is']]: string } = {
  number: 'a number',
  string: 'a text',
  boolean: 'yes or no',
  date: 'a date',
  dateTime: 'a date with a time',
  days: 'a number of days',
  months: 'a number of months',
  null: 'nothing',
  list: 'a list',
  record: 'a record',
  context: 'a context',
  range: 'a range',
}

/** The type in words: "a number", "a list of dates". */
export function sayType(type: FeelType): string {
  if (type.is === 'record') return `a ${type.object}`
  if (type.is !== 'list') return WORDS[type.is]
  return type.of.is === 'null' ? 'an empty list' : `a list, each ${sayType(type.of)}`
}

/** Whether two values of these types can be the same thing. */
export function alike(a: FeelType, b: FeelType): boolean {
  if (a.is === 'null' || b.is === 'null') return true
  if (a.is === 'list' && b.is === 'list') return alike(a.of, b.of)
  if (a.is === 'record' && b.is === 'record') return a.object === b.object
  if (a.is === 'context' && b.is === 'context') return JSON.stringify(a.entries) === JSON.stringify(b.entries)
  return a.is === b.is
}

/** The type of something that is either of two; `null` when they do not go together. */
export function either(a: FeelType, b: FeelType): FeelType | null {
  if (a.is === 'null') return b
  if (b.is === 'null') return a
  if (a.is === 'list' && b.is === 'list') {
    const of = either(a.of, b.of)
    return of && listOf(of)
  }
  if (!alike(a, b)) return null
  return a.is === 'string' && b.is === 'string' && a.field !== b.field ? STRING : a
}

/** Types whose values have an order. */
export const isOrdered = ({ is }: FeelType): boolean =>
  is === 'number' || is === 'string' || is === 'date' || is === 'dateTime' || is === 'days' || is === 'months'

const OF_FIELD: { readonly [T in FieldTypeName]: FeelType | 'choice' } = {
  text: STRING,
  longText: STRING,
  number: NUMBER,
  currency: NUMBER,
  percent: NUMBER,
  date: DATE,
  dateTime: DATE_TIME,
  yesNo: BOOLEAN,
  choice: 'choice',
  choices: listOf(STRING),
  email: STRING,
  phone: STRING,
  link: STRING,
  person: 'choice',
  stage: 'choice',
  pipeline: 'choice',
}

/** What a field is in a formula. */
export function typeOfField(field: Field): FeelType {
  const type = OF_FIELD[field.type]
  return type === 'choice' ? { is: 'string', field } : type
}

/** The types of fields that can hold what a formula comes to; a span of days is kept as a number of days. */
export function keptAs(type: FeelType): readonly FieldTypeName[] {
  switch (type.is) {
    case 'number':
      return ['number', 'currency', 'percent']
    case 'days':
    case 'months':
      return ['number']
    case 'string':
      return ['text', 'longText']
    case 'boolean':
      return ['yesNo']
    case 'date':
      return ['date']
    case 'dateTime':
      return ['dateTime']
    case 'null':
      return ['number', 'currency', 'percent', 'text', 'longText', 'yesNo', 'date', 'dateTime']
    case 'list':
    case 'record':
    case 'context':
    case 'range':
      return []
  }
}
