import type { FieldType } from '../kind'
import { choice, choices, yesNo } from './choice'
import { email, link, phone } from './contact-points'
import { date, dateTime } from './date'
import { currency, number, percent } from './number'
import { person } from './person'
import { pipeline, stage } from './stage'
import { longText, text } from './text'

/** Every field type there is. A new type is one export above and its name here. */
const rows = {
  text,
  longText,
  number,
  currency,
  percent,
  date,
  dateTime,
  yesNo,
  choice,
  choices,
  email,
  phone,
  link,
  person,
  stage,
  pipeline,
}

export type FieldTypeName = keyof typeof rows
export const FIELD_TYPES: { readonly [K in FieldTypeName]: FieldType } = rows
export const FIELD_TYPE_NAMES = Object.keys(rows) as readonly FieldTypeName[]
