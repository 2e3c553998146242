import { OBJECTS } from '../../../records/kinds'
import { fieldWord } from '../../../fields/say-value'
import { labelsIn } from '../../../signals/label'
import { LABEL_MOVE, labelField, labelList, movesLabel, quoteLabels, type LabelMoveParams } from '../../labels'
import { standsBy } from '../../standing'
import { defineTrigger } from '../../trigger'

const { signals: listen, ...common } = LABEL_MOVE

export const labelChanges = defineTrigger<'labelChanges', LabelMoveParams>({
  kind: 'labelChanges',
  does: 'a label is added or removed',
  hint: 'One choice of a multiple-choice field, whatever else it holds. A record that is created with it doesn’t count.',
  objects: OBJECTS,
  ...common,
  listen,
  compile: (params) => (event) => event.kind === 'changed' && movesLabel(params, event.changes, params.how),
  stands({ field: key, how, labels }, names) {
    const field = labelField(key, names)
    if (!field || how === 'removed') return null
    const quoted = quoteLabels(labels, field, names.catalogue, 'or') ?? ''
    return standsBy(field, 'includes', { values: labelList(labels) }, { say: `with ${quoted} in ${fieldWord(field)}` })
  },
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
