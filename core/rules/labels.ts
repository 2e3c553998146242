import { z } from 'zod'
import type { Catalogue } from '../fields/catalogue'
import type { Field } from '../fields/field'
import type { Names } from '../fields/names'
import { FIELD_TYPES } from '../fields/types'
import { fieldWord, sayValue } from '../fields/say-value'
import { listOf } from '../language/counts'
import type { Missing } from '../language/missing'
import { say, word, type SentencePart } from '../language/sentence'
import { isEmpty, zValue, type Value } from '../language/value'
import type { Form } from '../language/widgets'
import { oneOf } from '../records/kinds'
import { labelsIn, onLabel, type LabelMove } from '../signals/label'
import type { FieldChange } from '../records/record'
import type { StepProblem } from './step'

/** What a trigger, a step and a wait about labels have in common. Labels are choices of a field that holds several. */
export interface LabelParams {
  /** Any of these. */
  labels: Value
  field: string | null
}

export const LABELS_FORM = {
  labels: { widget: 'value', of: 'field' },
  field: { widget: 'field', writable: false, types: ['choices'] },
} as const satisfies Form<LabelParams>

const LABEL_MOVES: readonly { readonly value: LabelMove; readonly label: string }[] = [
  { value: 'added', label: 'added' },
  { value: 'removed', label: 'removed' },
]

export const labelList = (value: Value): readonly string[] =>
  Array.isArray(value) ? value : typeof value === 'string' ? [value] : []

export function labelField(key: string | null, { catalogue, object }: Names): Field | null {
  const field = key === null ? null : catalogue.field(object, key)
  return field?.type === 'choices' ? field : null
}

/** “Urgent” or “Press”; `null` while none is chosen. */
export const quoteLabels = (labels: Value, field: Field, catalogue: Catalogue, joined: 'and' | 'or'): string | null =>
  isEmpty(labels)
    ? null
    : listOf(
        labelList(labels).map((one) => `“${sayValue([one], field, catalogue)}”`),
        joined,
      )

/** `missing` is what is said while no label is chosen. */
export function checkLabels(
  { field: key, labels }: LabelParams,
  names: Names,
  missing: Missing,
): readonly StepProblem[] {
  const known = key === null ? null : names.catalogue.field(names.object, key)
  if (!known)
    return [
      {
        param: 'field',
        problem: key === null ? { code: 'missing', what: 'field' } : { code: 'unknownField', field: key },
      },
    ]
  const field = labelField(key, names)
  if (!field) return [{ param: 'field', problem: { code: 'wrongType', type: FIELD_TYPES[known.type].word } }]
  if (isEmpty(labels)) return [{ param: 'labels', problem: { code: 'missing', what: missing } }]
  const gone = labelList(labels).find((one) => !field.choices.some((choice) => choice.id === one))
  return gone === undefined
    ? []
    : [{ param: 'labels', problem: { code: 'notAChoice', raw: gone, choices: field.choices.map((one) => one.label) } }]
}

/** A label that is added or removed, as a trigger starts by it and a step waits for it. */
export interface LabelMoveParams extends LabelParams {
  how: LabelMove
}

export const LABEL_MOVE = {
  params: z.strictObject({
    labels: zValue,
    how: z.enum(['added', 'removed']),
    field: z.string().max(100).nullable(),
  }),
  form: { ...LABELS_FORM, how: { label: 'Added or removed', widget: 'pick', options: LABEL_MOVES } },
  start: { labels: null, how: 'added', field: null },
  /** "“Urgent” is added to the deal’s labels". */
  sentence({ labels, how, field: key }: LabelMoveParams, names: Names): readonly SentencePart[] {
    const field = labelField(key, names)
    return [
      word('labels', field && quoteLabels(labels, field, names.catalogue, 'or'), 'a label'),
      say(' is '),
      word('how', how, ''),
      say(how === 'added' ? ` to the ${oneOf(names.object)}’s ` : ` from the ${oneOf(names.object)}’s `),
      word('field', fieldWord(field), 'field'),
    ]
  },
  check: (params: LabelMoveParams, names: Names) =>
    checkLabels(params, names, params.how === 'added' ? 'gained' : 'lost'),
  signals: ({ field, how, labels }: LabelMoveParams) =>
    field === null || isEmpty(labels) ? [] : labelList(labels).map((one) => onLabel(field, how, one)),
} as const

/** Whether one of the labels came or went in a change, whatever else did. */
export function movesLabel({ field, labels }: LabelParams, changes: readonly FieldChange[], move: LabelMove): boolean {
  const wanted = labelList(labels)
  return changes.some((one) => one.field === field && labelsIn(one, move).some((id) => wanted.includes(id)))
}
