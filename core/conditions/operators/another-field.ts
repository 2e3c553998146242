import { z } from 'zod'
import type { Catalogue } from '../../fields/catalogue'
import type { Field } from '../../fields/field'
import { FIELD_TYPES } from '../../fields/types'
import { LINKABLE } from '../../records/record'
import { OBJECTS, type ObjectKind } from '../../records/kinds'
import { defineOperator, type OperatorExample } from '../operator'
import type { Relation } from '../reading'
import type { Problem } from '../../language/problems'
import { word } from '../../language/sentence'
import { fieldWord } from '../../fields/say-value'
import type { FieldTypeName } from '../../language/field-types'

/** A field to compare with: the record's own, or that of its main linked record of a kind. */
export interface OtherField {
  readonly via: ObjectKind | null
  readonly field: string
}

export const zOtherField = z.strictObject({ via: z.enum(OBJECTS).nullable(), field: z.string().max(100) }).nullable()
interface Params {
  other: OtherField | null
}

/**
 * Two fields can be compared when their values are kept in the same form. A date and an instant cannot: which day an
 * instant lies on hangs on a zone, and nobody has named one. Choices of two fields are different choices.
 */
export function comparable(a: Field, b: Field): boolean {
  if (a.id === b.id && a.object === b.object) return a.type === b.type
  if (a.type === 'choice' || a.type === 'choices' || a.type === 'longText') return false
  const number = (field: Field) => FIELD_TYPES[field.type].widget === 'number'
  return a.type === b.type || (number(a) && number(b))
}

/** The kinds of which a record has one main linked record. */
export const mainKinds = (object: ObjectKind): readonly ObjectKind[] =>
  LINKABLE.filter((pair) => pair.from === object).map((pair) => pair.to)

/** Everything a field can be compared with. */
export const othersFor = (
  field: Field,
  catalogue: Catalogue,
): readonly { readonly other: OtherField; readonly field: Field }[] =>
  [null, ...mainKinds(field.object)].flatMap((via) =>
    catalogue
      .fields(via ?? field.object)
      .filter((one) => comparable(field, one) && !(via === null && one.key === field.key))
      .map((one) => ({ other: { via, field: one.key }, field: one })),
  )

const found = ({ via, field: key }: OtherField, field: Field, catalogue: Catalogue): Field | null => {
  const other = catalogue.field(via ?? field.object, key)
  return other && comparable(field, other) && (via === null || mainKinds(field.object).includes(via)) ? other : null
}

/** Why a field cannot be compared with another one. */
function misfit({ via, field: key }: OtherField, field: Field, catalogue: Catalogue): Problem {
  const other = catalogue.field(via ?? field.object, key)
  const types = [field.type, other?.type]
  if (!other) return { code: 'unknownField', field: key }
  return types.includes('date') && types.includes('dateTime')
    ? { code: 'dateAndTime', time: (field.type === 'dateTime' ? field : other).label }
    : { code: 'cannotCompare', field: field.label, other: other.label }
}

/** "its margin", "the company’s owner". */
export function sayOther(other: OtherField, field: Field, catalogue: Catalogue): string | null {
  const named = fieldWord(catalogue.field(other.via ?? field.object, other.field))
  return named && (other.via === null ? `its ${named}` : `the ${other.via}’s ${named}`)
}

interface Given<K extends string> {
  readonly op: K
  readonly types: readonly FieldTypeName[]
  readonly words: readonly [string, string]
  readonly relation: Relation
  readonly examples: readonly [OperatorExample<Params>, ...OperatorExample<Params>[]]
}

function withField<const K extends string>({ op, types, words, relation, examples }: Given<K>) {
  return defineOperator<K, Params>({
    op,
    types,
    words,
    params: z.strictObject({ other: zOtherField }),
    form: { other: { widget: 'otherField' } },
    start: { other: null },
    sentence: ({ other }, field, catalogue) => [
      word('other', other && (sayOther(other, field, catalogue) ?? other.field), 'another field'),
    ],
    missing: ({ other }) => (other === null ? ['other'] : []),
    wrong: ({ other }, field, catalogue) =>
      other === null || found(other, field, catalogue)
        ? null
        : { param: 'other', problem: misfit(other, field, catalogue) },
    read({ other }, field, catalogue) {
      const against = other && found(other, field, catalogue)
      return against && other ? { is: 'field', relation, other: against, via: other.via } : { is: 'never' }
    },
    examples,
  })
}

const ALONE = { other: { via: null, field: 'gone' } } as const

export const sameAs = withField({
  op: 'sameAs',
  types: [
    'text',
    'email',
    'phone',
    'link',
    'person',
    'stage',
    'pipeline',
    'number',
    'currency',
    'percent',
    'yesNo',
    'date',
    'dateTime',
    'choice',
  ],
  words: ['is the same as', 'is not the same as'],
  relation: 'same',
  // Against a field that is not there, or is empty, nothing is the same.
  examples: [
    { type: 'text', value: 'Lund', params: ALONE, holds: false },
    { type: 'text', value: null, params: ALONE, holds: false },
  ],
})
export const aboveField = withField({
  op: 'aboveField',
  types: ['number', 'currency', 'percent'],
  words: ['is more than the value of', 'is at most the value of'],
  relation: 'above',
  examples: [{ type: 'number', value: 1, params: ALONE, holds: false }],
})
export const belowField = withField({
  op: 'belowField',
  types: ['number', 'currency', 'percent'],
  words: ['is less than the value of', 'is at least the value of'],
  relation: 'below',
  examples: [{ type: 'number', value: 1, params: ALONE, holds: false }],
})
export const laterThan = withField({
  op: 'laterThan',
  types: ['date', 'dateTime'],
  words: ['is later than', 'is not later than'],
  relation: 'above',
  examples: [{ type: 'date', value: '2026-11-24', params: ALONE, holds: false }],
})
export const earlierThan = withField({
  op: 'earlierThan',
  types: ['date', 'dateTime'],
  words: ['is earlier than', 'is not earlier than'],
  relation: 'below',
  examples: [{ type: 'date', value: '2026-11-24', params: ALONE, holds: false }],
})
