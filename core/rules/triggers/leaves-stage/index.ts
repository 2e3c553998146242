import { z } from 'zod'
import { aOne, say, word } from '../../sentence'
import { defineTrigger } from '../../trigger'

export const leavesStage = defineTrigger({
  kind: 'leavesStage',
  does: 'a deal leaves a stage',
  hint: 'For whichever other stage, also of another pipeline. Deleting it there is no leaving.',
  objects: ['deal'],
  params: z.strictObject({ stage: z.string().max(100).nullable() }),
  form: { stage: { widget: 'stage' } },
  start: { stage: null },
  sentence({ stage }, { catalogue, object }) {
    const found = stage === null ? null : catalogue.stage(stage)
    const pipeline = found ? catalogue.pipeline(found.pipelineId) : null
    return [say(`${aOne(object)} leaves `), word('stage', found?.name ?? null, 'a stage'), say(pipeline ? ` in ${pipeline.name}` : '')]
  },
  check: ({ stage }, { catalogue }) => (stage !== null && catalogue.stage(stage) ? [] : [{ param: 'stage', problem: { code: 'missing', what: 'the stage' } }]),
  listen: ({ stage }) => (stage === null ? [] : [{ on: 'field', field: 'stage' }]),
  compile: ({ stage }) => (event) => event.kind === 'changed' && event.changes.some((change) => change.field === 'stage' && change.old === stage),
  because({ stage }, event, { catalogue }) {
    const name = (id: unknown) => (typeof id === 'string' ? (catalogue.stage(id)?.name ?? id) : 'no stage')
    return `it left ${name(stage)} for ${name(event.changes.find((change) => change.field === 'stage')?.new)}`
  },
  examples: [
    { say: 'goes on', object: 'deal', params: { stage: 'hp-quoted' }, event: { kind: 'changed', changes: [{ field: 'stage', old: 'hp-quoted', new: 'hp-terms' }] }, starts: true },
    { say: 'comes in', object: 'deal', params: { stage: 'hp-quoted' }, event: { kind: 'changed', changes: [{ field: 'stage', old: 'hp-sized', new: 'hp-quoted' }] }, starts: false },
    { say: 'is deleted there', object: 'deal', params: { stage: 'hp-quoted' }, event: { kind: 'deleted', changes: [{ field: 'stage', old: 'hp-quoted', new: null }] }, starts: false },
  ],
})
