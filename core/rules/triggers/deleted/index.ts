import { wholeRecord } from '../whole-record'

export const deleted = wholeRecord({
  kind: 'deleted',
  does: 'a record is deleted',
  hint: 'Steps can use the values of the deleted record, but not its links. Steps that change it are skipped. Merging does not count as deleting.',
  says: 'is deleted',
  on: ['deleted'],
  because: () => 'the record was deleted',
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
