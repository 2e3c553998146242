import { wholeRecord } from '../whole-record'

export const created = wholeRecord({
  kind: 'created',
  does: 'a record is created',
  hint: 'Once per record, however it is created: by a person, an import or a rule. Later changes don’t count.',
  says: 'is created',
  on: ['created'],
  because: () => 'the record was created',
  examples: [
    { say: 'created', object: 'contact', params: {}, event: { kind: 'created', changes: [] }, starts: true },
    {
      say: 'changed',
      object: 'contact',
      params: {},
      event: { kind: 'changed', changes: [{ field: 'name', old: 'A', new: 'B' }] },
      starts: false,
    },
  ],
})
