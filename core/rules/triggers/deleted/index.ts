import { wholeRecord } from '../whole-record'

export const deleted = wholeRecord({
  kind: 'deleted',
  does: 'a record is deleted',
  hint: 'Its values are still known and its links are not. What would write on it is skipped; merging a record into another is no deleting.',
  says: 'is deleted',
  on: ['deleted'],
  because: () => 'it was deleted',
  examples: [
    {
      say: 'deleted',
      object: 'company',
      params: {},
      event: { kind: 'deleted', changes: [{ field: 'name', old: 'A', new: null }] },
      starts: true,
    },
    { say: 'merged', object: 'company', params: {}, event: { kind: 'merged', changes: [] }, starts: false },
    {
      say: 'emptied',
      object: 'company',
      params: {},
      event: { kind: 'changed', changes: [{ field: 'sector', old: 'bakery', new: null }] },
      starts: false,
    },
  ],
})
