import { z } from 'zod'
import type { Catalogue } from '../fields/catalogue'
import type { Field } from '../fields/field'
import { FIELD_TYPES } from '../fields/types'
import { isEmpty, type Value } from '../fields/value'
import { PLAIN_STYLE } from '../fields/kind'
import type { Problem, Result } from '../problems'
import { bad, good } from '../problems'
import type { Moment } from '../conditions/operator'
import type { ObjectKind } from '../records/kinds'
import type { RecordSnapshot } from '../records/record'
import { fieldWord, quoteValue } from './sentence'
import { zValue } from './values'

/** Where the value that a step writes comes from. */
export const zSource = z.discriminatedUnion('from', [
  z.strictObject({ from: z.literal('value'), value: zValue }),
  z.strictObject({ from: z.literal('field'), field: z.string().max(100) }),
  z.strictObject({ from: z.literal('today') }),
  z.strictObject({ from: z.literal('empty') }),
])
export type ValueSource = z.infer<typeof zSource>

/** The source in words; `null` while it is still to be chosen. */
export function saySource(source: ValueSource, field: Field, object: ObjectKind, catalogue: Catalogue): string | null {
  switch (source.from) {
    case 'value': return quoteValue(source.value, field, catalogue)
    case 'field': { const other = fieldWord(catalogue.field(object, source.field)); return other && `its ${other}` }
    case 'today': return field.type === 'dateTime' ? 'now' : 'today'
    case 'empty': return 'nothing'
  }
}

/** Two fields fit when their values are kept in the same form: the same type, or two kinds of text or number. */
export function fits(from: Field, to: Field): boolean {
  if (from.type === to.type) return from.type !== 'choice' && from.type !== 'choices' ? true : from.id === to.id
  // A text that a step found is one of a known list, and still a text.
  if (from.id === 0 && from.type === 'choice' && (to.type === 'text' || to.type === 'longText')) return true
  const loose = (field: Field) => FIELD_TYPES[field.type].widget
  return (loose(to) === 'number' && loose(from) === 'number') || (to.type === 'text' && from.type === 'text') || to.type === 'longText' && loose(from) === 'text'
}

export function checkSource(source: ValueSource, field: Field, object: ObjectKind, catalogue: Catalogue): Problem | null {
  switch (source.from) {
    case 'value': {
      if (isEmpty(source.value)) return { code: 'missing', what: 'the value' }
      const read = FIELD_TYPES[field.type].accept(source.value, { catalogue, field, style: PLAIN_STYLE, pipelineId: null })
      return read.ok ? null : read.problem
    }
    case 'field': {
      const other = catalogue.field(object, source.field)
      if (!other) return { code: 'unknownField', field: source.field }
      return fits(other, field) ? null : { code: 'wrongType', type: FIELD_TYPES[field.type].word }
    }
    case 'today': return field.type === 'date' || field.type === 'dateTime' ? null : { code: 'wrongType', type: FIELD_TYPES[field.type].word }
    case 'empty': return field.required ? { code: 'required', field: field.label } : null
  }
}

/** The value at this moment for this record. */
export function resolveSource(source: ValueSource, field: Field, record: RecordSnapshot, moment: Moment): Result<Value> {
  switch (source.from) {
    case 'value': return good(source.value)
    case 'field': return good(record.values[source.field] ?? null)
    case 'today': return field.type === 'dateTime' ? good(moment.nowMs) : field.type === 'date' ? good(moment.today) : bad({ code: 'wrongType', type: FIELD_TYPES[field.type].word })
    case 'empty': return good(null)
  }
}
