import { z } from 'zod'
import { aOne, say } from '../../sentence'
import { defineTrigger } from '../../trigger'

export const deleted = defineTrigger({
  kind: 'deleted',
  does: 'a record is deleted',
  hint: 'Its values are still known and its links are not. What would write on it is skipped; merging a record into another is no deleting.',
  objects: ['deal', 'contact', 'company'],
  params: z.strictObject({}),
  form: {},
  start: {},
  sentence: (_params, { object }) => [say(`${aOne(object)} is deleted`)],
  check: () => [],
  listen: () => [{ on: 'deleted' }],
  compile: () => (event) => event.kind === 'deleted',
  because: () => 'it was deleted',
  examples: [
    { say: 'deleted', object: 'company', params: {}, event: { kind: 'deleted', changes: [{ field: 'name', old: 'A', new: null }] }, starts: true },
    { say: 'merged', object: 'company', params: {}, event: { kind: 'merged', changes: [] }, starts: false },
    { say: 'emptied', object: 'company', params: {}, event: { kind: 'changed', changes: [{ field: 'sector', old: 'bakery', new: null }] }, starts: false },
  ],
})
