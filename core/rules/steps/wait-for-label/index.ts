import { z } from 'zod'
import { say, word } from '../../../language/sentence'
import { isEmpty, type Value, zValue } from '../../../language/value'
import { fieldWord } from '../../../fields/say-value'
import { oneOf } from '../../../records/kinds'
import { onLabel } from '../../../signals/label'
import { checkLabels, labelField, labelList, LABEL_MOVES, LABELS_FORM, movesLabel, quoteLabels } from '../../labels'
import { defineAwait } from '../awaiting'

interface Params {
  labels: Value
  how: 'added' | 'removed'
  field: string | null
}

/** Lets time pass until somebody or another rule adds a label, or removes it. */
export const waitForLabel = defineAwait<'waitForLabel', Params>({
  kind: 'waitForLabel',
  does: 'wait until a label is added or removed',
  alsoCalled: ['tag', 'mark', 'label'],
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
  signals: ({ field, how, labels }) =>
    field === null || isEmpty(labels) ? [] : labelList(labels).map((one) => onLabel(field, how, one)),
  comes: (params, event) => movesLabel(params, event.changes, params.how),
  examples: [
    {
      say: 'waits three days at most',
      params: {
        labels: ['urgent'],
        how: 'added',
        field: 'labels',
        most: { count: 3, unit: 'days' },
        recheck: true,
      },
      expect: { go: 'wait', dueMs: Date.UTC(2026, 10, 27, 9, 12) },
    },
  ],
})
