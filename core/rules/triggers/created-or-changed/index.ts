import { wholeRecord } from '../whole-record'
import { sayChanged } from '../changed'

export const createdOrChanged = wholeRecord({
  kind: 'createdOrChanged',
  does: 'a record is created or changed',
  hint: 'When the record is created and again at every change of any field. Much more often than “is created”.',
  says: 'is created or changed',
  on: ['created', 'changed'],
  because: (event, names) => (event.kind === 'created' ? 'the record was created' : sayChanged(event, names)),
  examples: [
    {
      say: 'changed',
      object: 'deal',
      params: {},
      event: { kind: 'changed', changes: [{ field: 'amount', old: 1, new: 2 }] },
      starts: true,
    },
    { say: 'created', object: 'deal', params: {}, event: { kind: 'created', changes: [] }, starts: true },
    { say: 'deleted', object: 'deal', params: {}, event: { kind: 'deleted', changes: [] }, starts: false },
  ],
})
