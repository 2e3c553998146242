import { z } from 'zod'
import { aOne, say } from '../../sentence'
import { defineTrigger } from '../../trigger'

export const created = defineTrigger({
  kind: 'created',
  does: 'a record is created',
  hint: 'Once in its life: by hand, by an import or by a rule. Later changes start nothing.',
  objects: ['deal', 'contact', 'company'],
  params: z.strictObject({}),
  form: {},
  start: {},
  sentence: (_params, { object }) => [say(`${aOne(object)} is created`)],
  check: () => [],
  listen: () => [{ on: 'created' }],
  compile: () => (event) => event.kind === 'created',
  because: () => 'it was created',
  examples: [
    { say: 'created', object: 'contact', params: {}, event: { kind: 'created', changes: [] }, starts: true },
    { say: 'changed', object: 'contact', params: {}, event: { kind: 'changed', changes: [{ field: 'name', old: 'A', new: 'B' }] }, starts: false },
  ],
})
