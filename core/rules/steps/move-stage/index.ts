import { z } from 'zod'
import { say, word } from '../../sentence'
import { defineStep, valueOf } from '../../step'

interface Params { stage: string | null; backwards: boolean; across: boolean }

export const moveStage = defineStep<'moveStage', Params>({
  kind: 'moveStage',
  hue: 'data',
  does: 'move the deal to a stage',
  alsoCalled: ['pipeline', 'advance', 'progress', 'stage'],
  objects: ['deal'],
  params: z.strictObject({ stage: z.string().max(100).nullable(), backwards: z.boolean(), across: z.boolean() }),
  form: {
    stage: { widget: 'stage' },
    backwards: { widget: 'toggle', on: 'also backwards', off: 'never backwards' },
    across: { widget: 'toggle', on: 'from any pipeline', off: 'if it is in that pipeline' },
  },
  start: { stage: null, backwards: false, across: false },
  sentence({ stage, backwards, across }, { catalogue }) {
    const found = stage === null ? null : catalogue.stage(stage)
    const pipeline = found ? catalogue.pipeline(found.pipelineId) : null
    return [
      say('move the deal to '), word('stage', found?.name ?? null, 'a stage'), say(pipeline ? ` in ${pipeline.name}, ` : ', '),
      word('across', across ? 'from any pipeline' : 'if it is in that pipeline', ''), say(', '),
      word('backwards', backwards ? 'also backwards' : 'never backwards', ''),
    ]
  },
  check: ({ stage }, { catalogue }) =>
    stage !== null && catalogue.stage(stage) ? [] : [{ param: 'stage', problem: { code: 'missing', what: 'the stage' } }],
  touches({ stage, backwards, across }, { catalogue }, held) {
    const to = stage === null ? null : catalogue.stage(stage)
    if (!to) return []
    const from = typeof held.stage === 'string' ? catalogue.stage(held.stage) : null
    // It will be skipped: the deal stands there already, further on, or in another pipeline.
    const stays = from && (from.id === to.id || (from.pipelineId === to.pipelineId ? from.position > to.position && !backwards : !across))
    return stays ? [] : [{ object: 'deal', field: 'stage', value: to.id }, { object: 'deal', field: 'pipeline', value: to.pipelineId }]
  },
  run({ stage, backwards, across }, { catalogue, record }) {
    const to = stage === null ? null : catalogue.stage(stage)
    if (!to) return { go: 'fail', reason: { code: 'unknownStage', stage: String(stage) } }
    const current = valueOf(record, 'stage')
    const from = typeof current === 'string' ? catalogue.stage(current) : null
    if (from?.id === to.id) return { go: 'skip', reason: { code: 'alreadyThere', stage: to.name } }
    if (from && from.pipelineId !== to.pipelineId && !across) {
      return { go: 'skip', reason: { code: 'otherPipeline', stage: from.name, pipeline: catalogue.pipeline(from.pipelineId)?.name ?? from.pipelineId } }
    }
    if (from && from.pipelineId === to.pipelineId && from.position > to.position && !backwards) {
      return { go: 'skip', reason: { code: 'backwards', from: from.name, to: to.name } }
    }
    return { go: 'on', effects: [{ effect: 'write', ref: { object: 'deal', id: record.id }, values: { stage: to.id } }] }
  },
  examples: [
    {
      say: 'goes forward', params: { stage: 'hp-terms', backwards: false, across: false }, record: { stage: 'hp-quoted', pipeline: 'hp' },
      expect: { go: 'on', effects: [{ effect: 'write', ref: { object: 'deal', id: 1 }, values: { stage: 'hp-terms' } }] },
    },
    { say: 'is there already', params: { stage: 'hp-terms', backwards: true, across: true }, record: { stage: 'hp-terms', pipeline: 'hp' }, expect: { go: 'skip', reason: { code: 'alreadyThere', stage: 'Terms' } } },
    { say: 'would go back', params: { stage: 'hp-sized', backwards: false, across: false }, record: { stage: 'hp-terms', pipeline: 'hp' }, expect: { go: 'skip', reason: { code: 'backwards', from: 'Terms', to: 'Sized' } } },
    {
      say: 'is in another pipeline', params: { stage: 'hp-sized', backwards: false, across: false }, record: { stage: 'enq-talking', pipeline: 'enq' },
      expect: { go: 'skip', reason: { code: 'otherPipeline', stage: 'Talking', pipeline: 'Enquiries' } },
    },
    {
      say: 'may come from another pipeline', params: { stage: 'hp-sized', backwards: false, across: true }, record: { stage: 'enq-talking', pipeline: 'enq' },
      expect: { go: 'on', effects: [{ effect: 'write', ref: { object: 'deal', id: 1 }, values: { stage: 'hp-sized' } }] },
    },
  ],
})
