import { count } from '../../language/counts'
import { z } from 'zod'
import { addDays, daysBetween, isDate } from '../../time/dates'
import {
  namedSpan,
  sayAmount,
  shiftDate,
  SPAN_NAMES,
  SPAN_UNITS,
  SPAN_WORDS,
  type SpanName,
  type SpanUnit,
} from '../../time/spans'
import { defineOperator, type OperatorExample } from '../operator'
import { word } from '../../language/sentence'
import { quoteValue } from '../../fields/say-value'

const TYPES = ['date', 'dateTime'] as const

export const zAmount = z.strictObject({ count: z.int().min(0).max(3650), unit: z.enum(SPAN_UNITS) })
interface AmountParams {
  amount: { count: number; unit: SpanUnit }
}

interface Relative<K extends string> {
  readonly op: K
  readonly words: readonly [string, string]
  readonly tail: string
  readonly note: string
  readonly start: AmountParams
  readonly direction: 1 | -1
  /** The days it takes in, given today and the day `count` units away in the operator's direction. */
  readonly days: (today: string, edge: string) => { readonly from: string | null; readonly to: string | null }
  readonly examples: readonly [OperatorExample<AmountParams>, ...OperatorExample<AmountParams>[]]
}

function relative<const K extends string>(given: Relative<K>) {
  return defineOperator<K, AmountParams>({
    op: given.op,
    types: TYPES,
    words: given.words,
    params: z.strictObject({ amount: zAmount }),
    form: { amount: { widget: 'amount', min: 0, max: 3650, units: SPAN_UNITS, note: given.note } },
    start: given.start,
    sentence: ({ amount }) => [word('amount', sayAmount(amount.count, amount.unit), '…'), { text: given.tail }],
    missing: () => [],
    readOn: ({ amount }, _field, { today, calendar }) => ({
      is: 'days',
      ...given.days(today, shiftDate(today, given.direction * amount.count, amount.unit, calendar)),
    }),
    examples: given.examples,
  })
}

/** "in the next 5 days" includes today and the 5th day. */
export const inNext = relative({
  op: 'inNext',
  words: ['is in the next', 'is not in the next'],
  tail: '',
  note: 'Includes today and the last day of the span.',
  start: { amount: { count: 7, unit: 'days' } },
  direction: 1,
  days: (today, edge) => ({ from: today, to: edge }),
  examples: [
    { type: 'date', value: '2026-11-24', params: { amount: { count: 5, unit: 'days' } }, holds: true },
    { type: 'date', value: '2026-11-29', params: { amount: { count: 5, unit: 'days' } }, holds: true },
    { type: 'date', value: '2026-11-30', params: { amount: { count: 5, unit: 'days' } }, holds: false },
    { type: 'date', value: null, params: { amount: { count: 5, unit: 'days' } }, holds: false },
  ],
})

/** "in the last 5 days" includes today and the 5th day back. */
export const inLast = relative({
  op: 'inLast',
  words: ['is in the last', 'is not in the last'],
  tail: '',
  note: 'Includes today and the first day of the span.',
  start: { amount: { count: 7, unit: 'days' } },
  direction: -1,
  days: (today, edge) => ({ from: edge, to: today }),
  examples: [
    { type: 'date', value: '2026-11-19', params: { amount: { count: 5, unit: 'days' } }, holds: true },
    { type: 'date', value: '2026-11-18', params: { amount: { count: 5, unit: 'days' } }, holds: false },
    { type: 'date', value: '2026-11-25', params: { amount: { count: 5, unit: 'days' } }, holds: false },
  ],
})

/** "more than 2 weeks ago" leaves out the day exactly two weeks back. */
export const longAgo = relative({
  op: 'longAgo',
  words: ['is more than', 'is not more than'],
  tail: ' ago',
  note: 'Does not include the day exactly that long ago.',
  start: { amount: { count: 2, unit: 'weeks' } },
  direction: -1,
  days: (_today, edge) => ({ from: null, to: addDays(edge, -1) }),
  examples: [
    { type: 'date', value: '2026-11-09', params: { amount: { count: 2, unit: 'weeks' } }, holds: true },
    { type: 'date', value: '2026-11-10', params: { amount: { count: 2, unit: 'weeks' } }, holds: false },
  ],
})

/** "more than 2 weeks ahead" leaves out the day exactly two weeks on. */
export const farAhead = relative({
  op: 'farAhead',
  words: ['is more than', 'is not more than'],
  tail: ' away',
  note: 'Does not include the day exactly that far away.',
  start: { amount: { count: 2, unit: 'weeks' } },
  direction: 1,
  days: (_today, edge) => ({ from: addDays(edge, 1), to: null }),
  examples: [
    { type: 'date', value: '2026-12-09', params: { amount: { count: 2, unit: 'weeks' } }, holds: true },
    { type: 'date', value: '2026-12-08', params: { amount: { count: 2, unit: 'weeks' } }, holds: false },
  ],
})

/** A named stretch of days: today, this week, last month. */
export const within = defineOperator<'within', { span: SpanName }>({
  op: 'within',
  types: TYPES,
  words: ['is', 'is not'],
  params: z.strictObject({ span: z.enum(SPAN_NAMES) }),
  form: { span: { widget: 'pick', options: SPAN_NAMES.map((value) => ({ value, label: SPAN_WORDS[value] })) } },
  start: { span: 'today' },
  sentence: ({ span }) => [word('span', SPAN_WORDS[span], '…')],
  missing: () => [],
  readOn: ({ span }, _field, { today }) => ({ is: 'days', ...namedSpan(span, today) }),
  examples: [
    { type: 'date', value: '2026-11-23', params: { span: 'thisWeek' }, holds: true },
    { type: 'date', value: '2026-11-30', params: { span: 'thisWeek' }, holds: false },
    { type: 'date', value: '2026-10-31', params: { span: 'lastMonth' }, holds: true },
  ],
})

const zDate = z.string().refine(isDate, 'is not a date. Use 24 Nov 2026 or 2026-11-24.').nullable()
interface FixedParams {
  date: string | null
}

function fixed<const K extends string>(
  op: K,
  words: readonly [string, string],
  sign: 1 | -1,
  examples: readonly [OperatorExample<FixedParams>, ...OperatorExample<FixedParams>[]],
) {
  return defineOperator<K, FixedParams>({
    op,
    types: TYPES,
    words,
    params: z.strictObject({ date: zDate }),
    form: { date: { widget: 'value', of: 'field' } },
    start: { date: null },
    sentence: ({ date }, field, catalogue) => [
      word('date', date === null ? null : quoteValue(date, { ...field, type: 'date' }, catalogue), '…'),
    ],
    missing: ({ date }) => (date === null ? ['date'] : []),
    read: ({ date }) =>
      date === null || !isDate(date)
        ? { is: 'never' }
        : sign > 0
          ? { is: 'days', from: addDays(date, 1), to: null }
          : { is: 'days', from: null, to: addDays(date, -1) },
    distance: (value, { date }) => {
      if (date === null || !isDate(date) || typeof value !== 'string') return null
      const days = Math.abs(daysBetween(date, value))
      return days === 0 ? 'on that date exactly' : `${count(days, 'day')} outside`
    },
    examples,
  })
}

export const before = fixed('before', ['is before', 'is not before'], -1, [
  { type: 'date', value: '2026-11-23', params: { date: '2026-11-24' }, holds: true },
  { type: 'date', value: '2026-11-24', params: { date: '2026-11-24' }, holds: false },
])

export const after = fixed('after', ['is after', 'is not after'], 1, [
  { type: 'date', value: '2026-11-25', params: { date: '2026-11-24' }, holds: true },
  { type: 'date', value: '2026-11-24', params: { date: '2026-11-24' }, holds: false },
])
