import { z } from 'zod'
import { zAmount } from '../conditions/operators/dates'
import { sayDay } from '../time/say'
import { sayAmount, shiftDate, SPAN_UNITS } from '../time/spans'
import type { Form } from '../language/widgets'
import { word, say, type SentencePart } from '../language/sentence'
import type { Moment } from '../conditions/moment'

/** How often one record may go through a rule. Without a word about it: once for each time that it starts. */
export const zRepeats = z.discriminatedUnion('how', [
  z.strictObject({ how: z.literal('again') }),
  z.strictObject({ how: z.literal('once') }),
  z.strictObject({ how: z.literal('rest'), rest: zAmount.refine((amount) => amount.count > 0, 'Enter at least 1.') }),
])
export type Repeats = z.infer<typeof zRepeats>

export const REPEAT_HOWS = ['each', 'again', 'once', 'rest'] as const
export type RepeatHow = (typeof REPEAT_HOWS)[number]
const HOW_WORDS: { readonly [H in RepeatHow]: string } = {
  each: 'every time',
  again: 'every time, even again because of the same change,',
  once: 'only once',
  rest: 'at most once every',
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
  how === 'each' ? undefined : how === 'rest' ? { how, rest } : { how }

export const REPEAT_FORM: Form<RepeatParams> = {
  how: {
    widget: 'pick',
    label: 'How often',
    options: [
      { value: 'each', label: HOW_WORDS.each, hint: 'every time the trigger happens, once for each change' },
      {
        value: 'again',
        label: 'every time, even again because of the same change',
        hint: 'also when what a rule does triggers it again; at most 10 times in a row',
      },
      { value: 'once', label: HOW_WORDS.once, hint: 'never a second time' },
      { value: 'rest', label: 'at most once in a period', hint: 'not again until the time has passed' },
    ],
  },
  rest: {
    widget: 'amount',
    min: 1,
    max: 3650,
    units: SPAN_UNITS,
    note: 'Counted from the day of the last run. It can run again on the last day.',
  },
}

/** "runs every time for the same record", "runs only once …", "runs at most once every 7 days …". */
export function repeatSentence(repeats: Repeats | undefined): readonly SentencePart[] {
  const { how, rest } = repeatParams(repeats)
  return [
    say('runs '),
    word('how', HOW_WORDS[how], ''),
    ...(how === 'rest' ? [say(' '), word('rest', sayAmount(rest.count, rest.unit), '')] : []),
    say(' for the same record'),
  ]
}

/**
 * What keeps a record that went through a rule on `lastDay` (a plain date) from doing so again now, in words; `null`
 * when nothing does. Only runs count that got past the rule's conditions.
 */
export function stillResting(
  repeats: Exclude<Repeats, { how: 'again' }>,
  lastDay: string,
  { today, calendar }: Moment,
): string | null {
  if (repeats.how === 'once') return `it already ran for this record on ${sayDay(lastDay, today)} and runs only once`
  const again = shiftDate(lastDay, repeats.rest.count, repeats.rest.unit, calendar)
  return again > today
    ? `it ran for this record on ${sayDay(lastDay, today)} and can run again on ${sayDay(again, today)}`
    : null
}
