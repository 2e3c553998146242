import { z } from 'zod'
import { defineOperator } from '../operator'
import { word } from '../../language/sentence'

const OUTCOMES = ['open', 'won', 'lost'] as const
type StageOutcome = (typeof OUTCOMES)[number]

/** Whatever the pipeline: a stage that is open, won or lost. */
export const standing = defineOperator<'standing', { outcome: StageOutcome }>({
  op: 'standing',
  types: ['stage'],
  words: ['is one that counts as', 'is not one that counts as'],
  params: z.strictObject({ outcome: z.enum(OUTCOMES) }),
  form: { outcome: { widget: 'pick', options: OUTCOMES.map((value) => ({ value, label: value })) } },
  start: { outcome: 'open' },
  sentence: ({ outcome }) => [word('outcome', outcome, '…')],
  missing: () => [],
  read: ({ outcome }, _field, catalogue) => ({
    is: 'oneOf',
    keys: catalogue
      .allStages()
      .filter((stage) => stage.outcome === outcome)
      .map((stage) => stage.id),
  }),
  examples: [
    { type: 'stage', value: 'hp-quoted', params: { outcome: 'open' }, holds: true },
    { type: 'stage', value: 'ren-renewed', params: { outcome: 'won' }, holds: true },
    { type: 'stage', value: 'hp-lost', params: { outcome: 'open' }, holds: false },
  ],
})
