import { z } from 'zod'
import { aOne, say, word } from '../../sentence'
import { defineTrigger } from '../../trigger'

export const entersStage = defineTrigger({
  kind: 'entersStage',
  does: 'a deal enters a stage',
  hint: 'By hand, by a rule or by an import; also when it is created there. Being there already starts nothing.',
  objects: ['deal'],
  params: z.strictObject({ stage: z.string().max(100).nullable() }),
  form: { stage: { widget: 'stage' } },
  start: { stage: null },
  sentence({ stage }, { catalogue, object }) {
    const found = stage === null ? null : catalogue.stage(stage)
    const pipeline = found ? catalogue.pipeline(found.pipelineId) : null
    return [say(`${aOne(object)} enters `), word('stage', found?.name ?? null, 'a stage'), say(pipeline ? ` in ${pipeline.name}` : '')]
  },
  check: ({ stage }, { catalogue }) =>
    stage !== null && catalogue.stage(stage) ? [] : [{ param: 'stage', problem: { code: 'missing', what: 'the stage' } }],
  listen: ({ stage }) => (stage === null ? [] : [{ on: 'value', field: 'stage', key: stage }]),
  compile: ({ stage }) => (event) => event.changes.some((change) => change.field === 'stage' && change.new === stage),
  because({ stage }, event, { catalogue }) {
    const name = (id: unknown) => (typeof id === 'string' ? (catalogue.stage(id)?.name ?? id) : null)
    const from = name(event.changes.find((change) => change.field === 'stage')?.old)
    return from ? `it went from ${from} to ${name(stage)}` : `it began in ${name(stage)}`
  },
  examples: [
    { say: 'comes from another stage', object: 'deal', params: { stage: 'hp-quoted' }, event: { kind: 'changed', changes: [{ field: 'stage', old: 'hp-sized', new: 'hp-quoted' }] }, starts: true },
    { say: 'is created there', object: 'deal', params: { stage: 'hp-quoted' }, event: { kind: 'created', changes: [{ field: 'stage', old: null, new: 'hp-quoted' }] }, starts: true },
    { say: 'leaves it', object: 'deal', params: { stage: 'hp-quoted' }, event: { kind: 'changed', changes: [{ field: 'stage', old: 'hp-quoted', new: 'hp-terms' }] }, starts: false },
  ],
})
