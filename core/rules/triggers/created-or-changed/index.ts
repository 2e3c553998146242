import { wholeRecord } from '../whole-record'
import { sayChanged } from '../changed'

export const createdOrChanged = wholeRecord({
  kind: 'createdOrChanged',
  does: 'a record is created or changes',
  hint: 'When it comes, and at every change of any field after that: far more often than “is created”.',
  says: 'is created or changes',
  on: ['created', 'changed'],
  because: (event, names) => (event.kind === 'created' ? 'it was created' : sayChanged(event, names)),
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
