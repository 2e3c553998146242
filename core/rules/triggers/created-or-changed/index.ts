import { z } from 'zod'
import { aOne, say } from '../../sentence'
import { defineTrigger } from '../../trigger'
import { sayChanged } from '../changed'

export const createdOrChanged = defineTrigger({
  kind: 'createdOrChanged',
  does: 'a record is created or changes',
  hint: 'When it comes, and at every change of any field after that: far more often than “is created”.',
  objects: ['deal', 'contact', 'company'],
  params: z.strictObject({}),
  form: {},
  start: {},
  sentence: (_params, { object }) => [say(`${aOne(object)} is created or changes`)],
  check: () => [],
  listen: () => [{ on: 'created' }, { on: 'changed' }],
  compile: () => (event) => event.kind === 'created' || event.kind === 'changed',
  because: (_params, event, names) => (event.kind === 'created' ? 'it was created' : sayChanged(event, names)),
  examples: [
    { say: 'changed', object: 'deal', params: {}, event: { kind: 'changed', changes: [{ field: 'amount', old: 1, new: 2 }] }, starts: true },
    { say: 'created', object: 'deal', params: {}, event: { kind: 'created', changes: [] }, starts: true },
    { say: 'deleted', object: 'deal', params: {}, event: { kind: 'deleted', changes: [] }, starts: false },
  ],
})
