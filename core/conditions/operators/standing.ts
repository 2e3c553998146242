import { z } from 'zod'
import { defineOperator } from '../operator'
import { word } from '../../language/sentence'

const OUTCOMES = ['open', 'won', 'lost'] as const
const STANDING_WORDS = { open: 'an open stage', won: 'a won stage', lost: 'a lost stage' } as const
type StageOutcome = (typeof OUTCOMES)[number]

/** Whatever the pipeline: a stage that is open, won or lost. */
export const standing = defineOperator<'standing', { outcome: StageOutcome }>({
  op: 'standing',
  types: ['stage'],
  words: ['is', 'is not'],
  listed: 'an open, won or lost stage',
  params: z.strictObject({ outcome: z.enum(OUTCOMES) }),
  form: { outcome: { widget: 'pick', options: OUTCOMES.map((value) => ({ value, label: STANDING_WORDS[value] })) } },
  start: { outcome: 'open' },
  sentence: ({ outcome }) => [word('outcome', STANDING_WORDS[outcome], '…')],
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
