import { OBJECTS } from '../../../records/kinds'
import { z } from 'zod'
import { isEmpty, type Value, zValue } from '../../../language/value'
import { say, word } from '../../../language/sentence'
import { fieldWord } from '../../../fields/say-value'
import { checkLabels, labelField, labelList, LABELS_FORM, quoteLabels } from '../../labels'
import { defineStep, valueOf } from '../../step'

interface Params {
  how: 'add' | 'remove'
  labels: Value
  field: string | null
}

/** Labels come and go one by one: what else a person or another rule put there stays. */
export const changeLabels = defineStep<'changeLabels', Params>({
  kind: 'changeLabels',
  category: 'data',
  does: 'add or remove a label',
  alsoCalled: ['label', 'tag', 'mark', 'multiple choice'],
  objects: OBJECTS,
  params: z.strictObject({
    how: z.enum(['add', 'remove']),
    labels: zValue,
    field: z.string().max(100).nullable(),
  }),
  form: {
    how: {
      label: 'Add or remove',
      widget: 'pick',
      options: [
        { value: 'add', label: 'add' },
        { value: 'remove', label: 'remove' },
      ],
    },
    labels: LABELS_FORM.labels,
    field: { ...LABELS_FORM.field, writable: true },
  },
  start: { how: 'add', labels: null, field: null },
  sentence({ how, labels, field: key }, names) {
    const field = labelField(key, names)
    return [
      word('how', how, ''),
      say(' '),
      word('labels', field && quoteLabels(labels, field, names.catalogue, 'and'), 'a label'),
      say(how === 'add' ? ' to the ' : ' from the '),
      word('field', fieldWord(field), 'field'),
    ]
  },
  check({ how, labels, field: key }, names) {
    const problems = checkLabels({ field: key, labels }, names, how === 'add' ? 'added' : 'removed')
    const field = labelField(key, names)
    return field?.keptBy
      ? [{ param: 'field', problem: { code: 'readOnly', field: field.label, keptBy: field.keptBy } }]
      : problems
  },
  touches: ({ how, labels, field }, { object }) =>
    field === null || isEmpty(labels)
      ? []
      : [
          {
            object,
            field,
            moves: how === 'add' ? { old: null, new: labelList(labels) } : { old: labelList(labels), new: null },
          },
        ],
  run({ how, labels, field: key }, { catalogue, record }) {
    const field = labelField(key, { catalogue, object: record.object })
    if (!field) return { go: 'fail', reason: { code: 'unknownField', field: String(key) } }
    const held = labelList(valueOf(record, field.key))
    const some = labelList(labels).filter((one) => held.includes(one) === (how === 'remove'))
    if (some.length === 0) return { go: 'skip', reason: { code: 'sameValue', field: field.label } }
    const [add, remove] = how === 'add' ? [some, []] : [[], some]
    return {
      go: 'on',
      effects: [{ effect: 'label', ref: { object: record.object, id: record.id }, field: field.key, add, remove }],
    }
  },
  examples: [
    {
      say: 'adds what is not there yet',
      params: { how: 'add', labels: ['urgent', 'press'], field: 'labels' },
      record: { labels: ['press'] },
      expect: {
        go: 'on',
        effects: [{ effect: 'label', ref: { object: 'deal', id: 1 }, field: 'labels', add: ['urgent'], remove: [] }],
      },
    },
    {
      say: 'has the label already',
      params: { how: 'add', labels: ['urgent'], field: 'labels' },
      record: { labels: ['urgent'] },
      expect: { go: 'skip', reason: { code: 'sameValue', field: 'Labels' } },
    },
    {
      say: 'removes one',
      params: { how: 'remove', labels: ['urgent'], field: 'labels' },
      record: { labels: ['press', 'urgent'] },
      expect: {
        go: 'on',
        effects: [{ effect: 'label', ref: { object: 'deal', id: 1 }, field: 'labels', add: [], remove: ['urgent'] }],
      },
    },
    {
      say: 'a field that has gone',
      params: { how: 'add', labels: ['urgent'], field: 'gone' },
      expect: { go: 'fail', reason: { code: 'unknownField', field: 'gone' } },
    },
  ],
})
