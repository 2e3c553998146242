import type { FieldTypeName } from '../../language/field-types'
import type { FieldType } from '../kind'
import { choice, choices, yesNo } from './choice'
import { email, link, phone } from './contact-points'
import { date, dateTime } from './date'
import { currency, number, percent } from './number'
import { person } from './person'
import { pipeline, stage } from './stage'
import { longText, text } from './text'

/** By name. A name without its type does not compile, nor the other way round. */
export const FIELD_TYPES: { readonly [K in FieldTypeName]: FieldType<K> } = {
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
