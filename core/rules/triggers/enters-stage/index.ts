import type { Values } from '../../../language/value'
import { onValue } from '../../../signals/field'
import { defineTrigger } from '../../trigger'
import { checkStage, NO_STAGE, STAGE_FORM, stageSentence, standsInStage, zStageParams } from '../at-stage'

export const entersStage = defineTrigger({
  kind: 'entersStage',
  does: 'a deal enters a stage',
  hint: 'However it gets there: moved by a person, a rule or an import, or created there. Deals already in the stage don’t count.',
  objects: ['deal'],
  params: zStageParams,
  form: STAGE_FORM,
  start: NO_STAGE,
  sentence: (params, names) => stageSentence(params, 'enters', names),
  check: checkStage,
  listen: ({ stage }) => (stage === null ? [] : [onValue('stage', stage)]),
  compile:
    ({ stage }) =>
    (event) =>
      event.changes.some((change) => change.field === 'stage' && change.new === stage),
  stands: standsInStage,
  after: ({ stage }): Values => (stage === null ? {} : { stage }),
  because({ stage }, event, { catalogue }) {
    const name = (id: unknown) => (typeof id === 'string' ? (catalogue.stage(id)?.name ?? id) : null)
    const from = name(event.changes.find((change) => change.field === 'stage')?.old)
    return from ? `the deal moved from ${from} to ${name(stage)}` : `the deal was created in ${name(stage)}`
  },
  examples: [
    {
      say: 'comes from another stage',
      object: 'deal',
      params: { stage: 'hp-quoted' },
      event: { kind: 'changed', changes: [{ field: 'stage', old: 'hp-sized', new: 'hp-quoted' }] },
      starts: true,
    },
    {
      say: 'is created there',
      object: 'deal',
      params: { stage: 'hp-quoted' },
      event: { kind: 'created', changes: [{ field: 'stage', old: null, new: 'hp-quoted' }] },
      starts: true,
    },
    {
      say: 'leaves it',
      object: 'deal',
      params: { stage: 'hp-quoted' },
      event: { kind: 'changed', changes: [{ field: 'stage', old: 'hp-quoted', new: 'hp-terms' }] },
      starts: false,
    },
  ],
})
