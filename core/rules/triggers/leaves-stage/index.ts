import { onField } from '../../../signals/field'
import { defineTrigger } from '../../trigger'
import { checkStage, NO_STAGE, STAGE_FORM, stageSentence, zStageParams } from '../at-stage'

export const leavesStage = defineTrigger({
  kind: 'leavesStage',
  does: 'a deal leaves a stage',
  hint: 'For any other stage, also in another pipeline. Deleting the deal does not count.',
  objects: ['deal'],
  params: zStageParams,
  form: STAGE_FORM,
  start: NO_STAGE,
  sentence: (params, names) => stageSentence(params, 'leaves', names),
  check: checkStage,
  listen: ({ stage }) => (stage === null ? [] : [onField('stage')]),
  compile:
    ({ stage }) =>
    (event) =>
      event.kind === 'changed' && event.changes.some((change) => change.field === 'stage' && change.old === stage),
  because({ stage }, event, { catalogue }) {
    const name = (id: unknown) => (typeof id === 'string' ? (catalogue.stage(id)?.name ?? id) : 'no stage')
    return `the deal moved from ${name(stage)} to ${name(event.changes.find((change) => change.field === 'stage')?.new)}`
  },
  examples: [
    {
      say: 'goes on',
      object: 'deal',
      params: { stage: 'hp-quoted' },
      event: { kind: 'changed', changes: [{ field: 'stage', old: 'hp-quoted', new: 'hp-terms' }] },
      starts: true,
    },
    {
      say: 'comes in',
      object: 'deal',
      params: { stage: 'hp-quoted' },
      event: { kind: 'changed', changes: [{ field: 'stage', old: 'hp-sized', new: 'hp-quoted' }] },
      starts: false,
    },
    {
      say: 'is deleted there',
      object: 'deal',
      params: { stage: 'hp-quoted' },
      event: { kind: 'deleted', changes: [{ field: 'stage', old: 'hp-quoted', new: null }] },
      starts: false,
    },
  ],
})
