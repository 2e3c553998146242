import { z } from 'zod'
import {
  ALIKE_TYPES,
  besideWidget,
  isAlike,
  openBeside,
  sayAlike,
  sayBeside,
  zBeside,
  type Beside,
} from '../../open-beside'
import { defineStep, valueOf } from '../../step'
import { say, word, extra } from '../../../language/sentence'

interface Params {
  stage: string | null
  backwards: boolean
  across: boolean
  /** Which other open deal of that pipeline keeps it from being moved into it; its company's, when left out. */
  beside?: Beside | undefined
  /** A field in which that one holds the same; any counts, when left out. */
  alike?: string | null | undefined
}

export const moveStage = defineStep<'moveStage', Params>({
  kind: 'moveStage',
  category: 'data',
  does: 'move the deal to a stage',
  alsoCalled: ['pipeline', 'advance', 'progress', 'stage'],
  objects: ['deal'],
  params: z.strictObject({
    stage: z.string().max(100).nullable(),
    backwards: z.boolean(),
    across: z.boolean(),
    beside: zBeside.optional(),
    alike: z.string().max(100).nullable().optional(),
  }),
  form: {
    stage: { widget: 'stage' },
    backwards: { widget: 'toggle', on: 'backwards too', off: 'never backwards' },
    across: { widget: 'toggle', on: 'from any pipeline', off: 'only if it is in that pipeline' },
    beside: besideWidget,
    alike: { widget: 'field', writable: false, types: ALIKE_TYPES, label: 'Same value in', none: 'of any kind' },
  },
  start: { stage: null, backwards: false, across: false, beside: 'company', alike: null },
  sentence({ stage, backwards, across, beside = 'company', alike = null }, { catalogue }) {
    const found = stage === null ? null : catalogue.stage(stage)
    const pipeline = found ? catalogue.pipeline(found.pipelineId) : null
    return [
      say('move the deal to '),
      word('stage', found?.name ?? null, 'a stage'),
      say(pipeline ? ` (${pipeline.name}), ` : ', '),
      extra('across', across ? 'from any pipeline' : 'only if it is in that pipeline', !across),
      say(', '),
      extra('backwards', backwards ? 'backwards too' : 'never backwards', !backwards),
      ...(across
        ? [
            say(', '),
            extra('beside', sayBeside(beside, ' there'), beside === 'company' && alike === null),
            ...(beside === 'none' ? [] : sayAlike(alike, 'deal', catalogue)),
          ]
        : []),
    ]
  },
  check: ({ stage }, { catalogue }) =>
    stage !== null && catalogue.stage(stage) ? [] : [{ param: 'stage', problem: { code: 'missing', what: 'stage' } }],
  touches({ stage, backwards, across }, { catalogue }, held) {
    const to = stage === null ? null : catalogue.stage(stage)
    if (!to) return []
    const from = typeof held.stage === 'string' ? catalogue.stage(held.stage) : null
    // It will be skipped: the deal stands there already, further on, or in another pipeline.
    const stays =
      from &&
      (from.id === to.id || (from.pipelineId === to.pipelineId ? from.position > to.position && !backwards : !across))
    return stays
      ? []
      : [
          { object: 'deal', field: 'stage', value: to.id },
          { object: 'deal', field: 'pipeline', value: to.pipelineId },
        ]
  },
  run({ stage, backwards, across, beside = 'company', alike = null }, context) {
    const { catalogue, record } = context
    const to = stage === null ? null : catalogue.stage(stage)
    if (!to) return { go: 'fail', reason: { code: 'unknownStage', stage: String(stage) } }
    const current = valueOf(record, 'stage')
    const from = typeof current === 'string' ? catalogue.stage(current) : null
    if (from?.id === to.id) return { go: 'skip', reason: { code: 'alreadyThere', stage: to.name } }
    if (from && from.pipelineId !== to.pipelineId && !across) {
      return {
        go: 'skip',
        reason: {
          code: 'otherPipeline',
          stage: from.name,
          pipeline: catalogue.pipeline(from.pipelineId)?.name ?? from.pipelineId,
        },
      }
    }
    if (from && from.pipelineId === to.pipelineId && from.position > to.position && !backwards) {
      return { go: 'skip', reason: { code: 'backwards', from: from.name, to: to.name } }
    }
    if (from && from.pipelineId !== to.pipelineId && to.outcome === 'open') {
      const other = openBeside(
        beside,
        record,
        context,
        (deal) =>
          catalogue.stage(String(deal.values.stage))?.pipelineId === to.pipelineId &&
          isAlike(deal, record, alike, catalogue),
      )
      if (other) return { go: 'skip', reason: { code: 'openBeside', deal: String(other.values.name), of: beside } }
    }
    return {
      go: 'on',
      effects: [{ effect: 'fields', ref: { object: 'deal', id: record.id }, values: { stage: to.id } }],
    }
  },
  examples: [
    {
      say: 'goes forward',
      params: { stage: 'hp-terms', backwards: false, across: false },
      record: { stage: 'hp-quoted', pipeline: 'hp' },
      expect: {
        go: 'on',
        effects: [{ effect: 'fields', ref: { object: 'deal', id: 1 }, values: { stage: 'hp-terms' } }],
      },
    },
    {
      say: 'is there already',
      params: { stage: 'hp-terms', backwards: true, across: true },
      record: { stage: 'hp-terms', pipeline: 'hp' },
      expect: { go: 'skip', reason: { code: 'alreadyThere', stage: 'Terms' } },
    },
    {
      say: 'would go back',
      params: { stage: 'hp-sized', backwards: false, across: false },
      record: { stage: 'hp-terms', pipeline: 'hp' },
      expect: { go: 'skip', reason: { code: 'backwards', from: 'Terms', to: 'Sized' } },
    },
    {
      say: 'is in another pipeline',
      params: { stage: 'hp-sized', backwards: false, across: false },
      record: { stage: 'enq-talking', pipeline: 'enq' },
      expect: { go: 'skip', reason: { code: 'otherPipeline', stage: 'Talking', pipeline: 'Enquiries' } },
    },
    {
      say: 'may come from another pipeline',
      params: { stage: 'hp-sized', backwards: false, across: true },
      record: { stage: 'enq-talking', pipeline: 'enq' },
      expect: {
        go: 'on',
        effects: [{ effect: 'fields', ref: { object: 'deal', id: 1 }, values: { stage: 'hp-sized' } }],
      },
    },
  ],
})
