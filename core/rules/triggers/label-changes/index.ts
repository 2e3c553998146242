import { z } from 'zod'
import { say, word } from '../../../language/sentence'
import { isEmpty, type Value, zValue } from '../../../language/value'
import { fieldWord } from '../../../fields/say-value'
import { oneOf } from '../../../records/kinds'
import { labelsIn, onLabel } from '../../../signals/label'
import { checkLabels, labelField, labelList, LABEL_MOVES, LABELS_FORM, movesLabel, quoteLabels } from '../../labels'
import { defineTrigger } from '../../trigger'

interface Params {
  labels: Value
  how: 'added' | 'removed'
  field: string | null
}

export const labelChanges = defineTrigger<'labelChanges', Params>({
  kind: 'labelChanges',
  does: 'a label is added or removed',
  hint: 'One choice of a multiple-choice field, whatever else it holds. A record that is created with it doesn’t count.',
  objects: ['deal', 'contact', 'company'],
  params: z.strictObject({
    labels: zValue,
    how: z.enum(['added', 'removed']),
    field: z.string().max(100).nullable(),
  }),
  form: { ...LABELS_FORM, how: { label: 'Added or removed', widget: 'pick', options: LABEL_MOVES } },
  start: { labels: null, how: 'added', field: null },
  sentence({ labels, how, field: key }, names) {
    const field = labelField(key, names)
    return [
      word('labels', field && quoteLabels(labels, field, names.catalogue, 'or'), 'a label'),
      say(' is '),
      word('how', how, ''),
      say(how === 'added' ? ` to the ${oneOf(names.object)}’s ` : ` from the ${oneOf(names.object)}’s `),
      word('field', fieldWord(field), 'field'),
    ]
  },
  check: (params, names) => checkLabels(params, names, params.how === 'added' ? 'gained' : 'lost'),
  listen: ({ field, how, labels }) =>
    field === null || isEmpty(labels) ? [] : labelList(labels).map((one) => onLabel(field, how, one)),
  compile: (params) => (event) => event.kind === 'changed' && movesLabel(params, event.changes, params.how),
  because({ field: key, how, labels }, event, names) {
    const field = labelField(key, names)
    const change = event.changes.find((one) => one.field === key)
    if (!field || !change) return 'a label changed'
    const moved = labelsIn(change, how).filter((one) => labelList(labels).includes(one))
    return `${quoteLabels([...moved], field, names.catalogue, 'and')} was ${how} ${how === 'added' ? 'to' : 'from'} ${fieldWord(field)}`
  },
  examples: [
    {
      say: 'is added',
      object: 'deal',
      params: { labels: ['urgent'], how: 'added', field: 'labels' },
      event: { kind: 'changed', changes: [{ field: 'labels', old: ['press'], new: ['press', 'urgent'] }] },
      starts: true,
    },
    {
      say: 'is the first that is added',
      object: 'deal',
      params: { labels: ['urgent', 'press'], how: 'added', field: 'labels' },
      event: { kind: 'changed', changes: [{ field: 'labels', old: null, new: ['urgent'] }] },
      starts: true,
    },
    {
      say: 'another one is added',
      object: 'deal',
      params: { labels: ['urgent'], how: 'added', field: 'labels' },
      event: { kind: 'changed', changes: [{ field: 'labels', old: ['urgent'], new: ['urgent', 'press'] }] },
      starts: false,
    },
    {
      say: 'is removed, with the last of them',
      object: 'deal',
      params: { labels: ['urgent'], how: 'removed', field: 'labels' },
      event: { kind: 'changed', changes: [{ field: 'labels', old: ['urgent'], new: null }] },
      starts: true,
    },
    {
      say: 'stands on a new record',
      object: 'deal',
      params: { labels: ['urgent'], how: 'added', field: 'labels' },
      event: { kind: 'created', changes: [{ field: 'labels', old: null, new: ['urgent'] }] },
      starts: false,
    },
  ],
})
