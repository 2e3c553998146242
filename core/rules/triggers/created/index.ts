import { wholeRecord } from '../whole-record'

export const created = wholeRecord({
  kind: 'created',
  does: 'a record is created',
  hint: 'Once in its life: by hand, by an import or by a rule. Later changes start nothing.',
  says: 'is created',
  on: ['created'],
  because: () => 'it was created',
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
