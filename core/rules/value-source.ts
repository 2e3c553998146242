import { z } from 'zod'
import type { Catalogue } from '../fields/catalogue'
import type { Field } from '../fields/field'
import { FIELD_TYPES } from '../fields/types'
import { currencyOf, heldAs, worthIn } from '../money/worth'
import { isEmpty, type Value, type Values, zValue } from '../language/value'
import { PLAIN_STYLE } from '../fields/kind'
import { FORMULA_MOST, formulaOf, formulaThere } from '../formulas/asked'
import { fit } from '../formulas/fit'
import { keptAs, sayType } from '../formulas/types'
import type { LinkedRecord } from '../records/subject'
import type { FormulaFault } from '../language/formula-fault'
import { bad, good, type Problem, type Result } from '../language/problems'
import { mainKinds } from '../conditions/operators/another-field'
import { OBJECTS, type ObjectKind, oneOf } from '../records/kinds'
import type { RecordSnapshot } from '../records/record'
import { fieldWord, quoteValue } from '../fields/say-value'
import type { Moment } from '../conditions/moment'

/** Where the value that a step writes comes from. */
export const zSource = z.discriminatedUnion('from', [
  z.strictObject({ from: z.literal('value'), value: zValue }),
  z.strictObject({ from: z.literal('field'), field: z.string().max(100) }),
  /** A field of the main linked record of a kind. */
  z.strictObject({ from: z.literal('linked'), via: z.enum(OBJECTS), field: z.string().max(100) }),
  /** What stands there with a number added to it, or a line of text. */
  z.strictObject({ from: z.literal('add'), value: zValue }),
  /**
   * A formula that stands in this rule alone. Where it comes to nothing the field is left as it is, or cleared when
   * `clears` says so.
   */
  z.strictObject({
    from: z.literal('formula'),
    text: z.string().max(FORMULA_MOST),
    clears: z.boolean().optional(),
  }),
  z.strictObject({ from: z.literal('today') }),
  z.strictObject({ from: z.literal('empty') }),
])
export type ValueSource = z.infer<typeof zSource>

/** Fields to which something can be added: numbers and texts. Labels have a step of their own. */
export const canAdd = (field: Field): boolean => ['number', 'text', 'longText'].includes(FIELD_TYPES[field.type].widget)

/** The value with something added: a number to a number, a text on a line of its own. An empty field begins with it. */
function added(held: Value, given: Value, field: Field): Value {
  if (isEmpty(held) || isEmpty(given)) return isEmpty(given) ? held : given
  if (typeof held === 'number' && typeof given === 'number') return Number((held + given).toFixed(6))
  if (typeof held === 'string' && typeof given === 'string')
    return field.type === 'longText' ? `${held}\n${given}` : `${held} ${given}`
  return given
}

/** The source in words; `null` while it is still to be chosen. */
export function saySource(source: ValueSource, field: Field, object: ObjectKind, catalogue: Catalogue): string | null {
  switch (source.from) {
    case 'value':
      return quoteValue(source.value, field, catalogue)
    case 'field': {
      const other = fieldWord(catalogue.field(object, source.field))
      return other && `the ${other}`
    }
    case 'linked': {
      const other = fieldWord(catalogue.field(source.via, source.field))
      return other && `the ${oneOf(source.via)}’s ${other}`
    }
    case 'add':
      return quoteValue(source.value, field, catalogue)
    case 'today':
      return field.type === 'dateTime' ? 'now' : 'today'
    case 'formula':
      return source.text.trim() === ''
        ? null
        : `${source.text}${source.clears ? ' (cleared if there is no result)' : ''}`
    case 'empty':
      return 'clear'
  }
}

/** Two fields fit when their values are kept in the same form: the same type, or two kinds of text or number. */
export function fits(from: Field, to: Field): boolean {
  if (from.type === to.type) return from.type !== 'choice' && from.type !== 'choices' ? true : from.id === to.id
  // A text that a step found is one of a known list, and still a text.
  if (from.id === 0 && from.type === 'choice' && (to.type === 'text' || to.type === 'longText')) return true
  const loose = (field: Field) => FIELD_TYPES[field.type].widget
  return (
    (loose(to) === 'number' && loose(from) === 'number') ||
    (to.type === 'text' && from.type === 'text') ||
    (to.type === 'longText' && loose(from) === 'text')
  )
}

export function checkSource(
  source: ValueSource,
  field: Field,
  object: ObjectKind,
  catalogue: Catalogue,
): Problem | null {
  switch (source.from) {
    case 'value': {
      if (isEmpty(source.value)) return { code: 'missing', what: 'value' }
      const read = FIELD_TYPES[field.type].accept(source.value, {
        catalogue,
        field,
        style: PLAIN_STYLE,
        pipelineId: null,
      })
      return read.ok ? null : read.problem
    }
    case 'field': {
      const other = catalogue.field(object, source.field)
      if (!other) return { code: 'unknownField', field: source.field }
      return fits(other, field) ? null : { code: 'wrongType', type: FIELD_TYPES[field.type].word }
    }
    case 'linked': {
      const other = mainKinds(object).includes(source.via) ? catalogue.field(source.via, source.field) : null
      if (!other) return { code: 'unknownField', field: `${source.via} ${source.field}` }
      return fits(other, field) ? null : { code: 'wrongType', type: FIELD_TYPES[field.type].word }
    }
    case 'add': {
      if (!canAdd(field)) return { code: 'cannotAdd', type: FIELD_TYPES[field.type].word }
      if (isEmpty(source.value)) return { code: 'missing', what: 'added' }
      const read = FIELD_TYPES[field.type].accept(source.value, {
        catalogue,
        field,
        style: PLAIN_STYLE,
        pipelineId: null,
      })
      return read.ok ? null : read.problem
    }
    case 'formula': {
      if (source.text.trim() === '') return { code: 'missing', what: 'formula' }
      const read = formulaOf(source.text, object, catalogue)
      if (!read) return null
      if (!read.ok) {
        const { from, to, text } = read.problem
        return { code: 'formula', from, to, said: text }
      }
      return keptAs(read.formula.type).includes(field.type)
        ? null
        : {
            code: 'resultMisfit',
            gives: sayType(read.formula.type),
            field: field.label,
            type: FIELD_TYPES[field.type].word,
          }
    }
    case 'today':
      return field.type === 'date' || field.type === 'dateTime'
        ? null
        : { code: 'wrongType', type: FIELD_TYPES[field.type].word }
    case 'empty':
      return field.required ? { code: 'required', field: field.label } : null
  }
}

/** What is to be written; or that nothing is, because a formula came to nothing; or why it cannot be told. */
export type Resolved =
  | { readonly ok: true; readonly value: Value }
  | { readonly ok: true; readonly nothing: true }
  | { readonly ok: false; readonly problem: Problem }
  | { readonly ok: false; readonly fault: FormulaFault }

/** The value at this moment for this record. */
export function resolveSource(
  source: ValueSource,
  field: Field,
  record: RecordSnapshot,
  moment: Moment,
  related: (object: ObjectKind) => RecordSnapshot | null,
  asked: { readonly catalogue: Catalogue; linked(object: ObjectKind): readonly LinkedRecord[] },
): Resolved {
  switch (source.from) {
    case 'value':
      return inItsCurrency(source.value)
    case 'field':
      return copied(asked.catalogue.field(record.object, source.field), record.values)
    case 'linked':
      return copied(asked.catalogue.field(source.via, source.field), related(source.via)?.values ?? {})
    case 'add': {
      const more = inItsCurrency(source.value)
      return more.ok ? good(added(record.values[field.key] ?? null, more.value, field)) : more
    }
    case 'formula': {
      const read = formulaThere(source.text, record.object, asked.catalogue)
      if (!read.ok) return bad({ code: 'unreadFormula', said: read.problem.text })
      const subject = {
        values: record.values,
        linked: (object: ObjectKind) => asked.linked(object).map((one) => one.record),
      }
      const { value, fault } = read.formula.outcome(subject, moment)
      if (fault) return { ok: false, fault }
      if (value === null && !source.clears) return { ok: true, nothing: true }
      const held = inItsCurrency(value)
      return held.ok ? fit(held.value, field, asked.catalogue) : held
    }
    case 'today':
      return field.type === 'dateTime'
        ? good(moment.nowMs)
        : field.type === 'date'
          ? good(moment.today)
          : bad({ code: 'wrongType', type: FIELD_TYPES[field.type].word })
    case 'empty':
      return good(null)
  }

  /** An amount that is said in the workspace's currency, in that of the record. */
  function inItsCurrency(value: Value): Result<Value> {
    if (typeof value !== 'number') return good(value)
    const held = heldAs(field, asked.catalogue, record.values, value)
    return held === null
      ? bad({ code: 'noRate', currency: currencyOf(field, record.values, asked.catalogue) })
      : good(held)
  }

  /** What another field holds; an amount in the currency of this one. */
  function copied(other: Field | null, values: Values): Result<Value> {
    if (!other) return good(null)
    const plain = values[other.key] ?? null
    const { catalogue } = asked
    if (other.type !== 'currency' || field.type !== 'currency' || isEmpty(plain)) return good(plain)
    const [from, to] = [currencyOf(other, values, catalogue), currencyOf(field, record.values, catalogue)]
    if (from === to) return good(plain)
    const worth = worthIn(other, catalogue)(values)
    return isEmpty(worth) ? bad({ code: 'noRate', currency: from }) : inItsCurrency(worth)
  }
}
