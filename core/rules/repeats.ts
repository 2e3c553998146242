import { z } from 'zod'
import { zAmount } from '../conditions/operators/dates'
import { sayDay } from '../time/say'
import { sayAmount, shiftDate, SPAN_UNITS } from '../time/spans'
import type { Form } from '../language/widgets'
import { word, say, type SentencePart } from '../language/sentence'
import type { Moment } from '../conditions/moment'

/** How often one record may go through a rule. Without a word about it: once for each time that it starts. */
export const zRepeats = z.discriminatedUnion('how', [
  z.strictObject({ how: z.literal('once') }),
  z.strictObject({ how: z.literal('rest'), rest: zAmount.refine((amount) => amount.count > 0, 'must be at least 1') }),
])
export type Repeats = z.infer<typeof zRepeats>

export const REPEAT_HOWS = ['each', 'once', 'rest'] as const
export type RepeatHow = (typeof REPEAT_HOWS)[number]
const HOW_WORDS: { readonly [H in RepeatHow]: string } = {
  each: 'each time',
  once: 'once ever for each record',
  rest: 'each time, but then not again for',
}

const REST = { count: 7, unit: 'days' } as const

export interface RepeatParams {
  readonly how: RepeatHow
  readonly rest: { readonly count: number; readonly unit: (typeof SPAN_UNITS)[number] }
}

export const repeatParams = (repeats: Repeats | undefined): RepeatParams => ({
  how: repeats?.how ?? 'each',
  rest: repeats?.how === 'rest' ? repeats.rest : REST,
})
export const repeatsOf = ({ how, rest }: RepeatParams): Repeats | undefined =>
  how === 'each' ? undefined : how === 'once' ? { how } : { how, rest }

export const REPEAT_FORM: Form<RepeatParams> = {
  how: {
    widget: 'pick',
    options: [
      { value: 'each', label: HOW_WORDS.each, hint: 'every time that it starts' },
      { value: 'once', label: HOW_WORDS.once, hint: 'never again, whatever happens' },
      { value: 'rest', label: 'each time, with a rest', hint: 'not again until it is over' },
    ],
  },
  rest: {
    widget: 'amount',
    min: 1,
    max: 3650,
    units: SPAN_UNITS,
    note: 'Counted in days from the day on which it ran; on the last of them it may run again.',
  },
}

/** "each time", "once ever for each record", "each time, but then not again for 7 days". */
export function repeatSentence(repeats: Repeats | undefined): readonly SentencePart[] {
  const { how, rest } = repeatParams(repeats)
  return [
    word('how', HOW_WORDS[how], ''),
    ...(how === 'rest' ? [say(' '), word('rest', sayAmount(rest.count, rest.unit), '')] : []),
  ]
}

/**
 * What keeps a record that went through a rule on `lastDay` (a plain date) from doing so again now, in words; `null`
 * when nothing does. Only runs count that got past the rule's conditions.
 */
export function stillResting(repeats: Repeats, lastDay: string, { today, calendar }: Moment): string | null {
  if (repeats.how === 'once') return `it ran for this record on ${sayDay(lastDay, today)}, and does so once`
  const again = shiftDate(lastDay, repeats.rest.count, repeats.rest.unit, calendar)
  return again > today
    ? `it ran for this record on ${sayDay(lastDay, today)} and rests until ${sayDay(again, today)}`
    : null
}
