import { addDays, addMonths, weekday } from './dates'
import { addWorkdays, type WorkCalendar } from './calendar'

/** A stretch of days, both ends included; without an end when `to` is `null`. */
export interface DaySpan {
  readonly from: string
  readonly to: string | null
}

export const SPAN_NAMES = [
  'today',
  'yesterday',
  'tomorrow',
  'thisWeek',
  'lastWeek',
  'nextWeek',
  'thisMonth',
  'lastMonth',
  'nextMonth',
  'thisYear',
  'fromToday',
] as const
export type SpanName = (typeof SPAN_NAMES)[number]

export const SPAN_WORDS: { readonly [K in SpanName]: string } = {
  today: 'today',
  yesterday: 'yesterday',
  tomorrow: 'tomorrow',
  thisWeek: 'this week',
  lastWeek: 'last week',
  nextWeek: 'next week',
  thisMonth: 'this month',
  lastMonth: 'last month',
  nextMonth: 'next month',
  thisYear: 'this year',
  fromToday: 'today or later',
}

const single = (date: string): DaySpan => ({ from: date, to: date })

function week(today: string, shift: number): DaySpan {
  const monday = addDays(today, 1 - weekday(today) + 7 * shift)
  return { from: monday, to: addDays(monday, 6) }
}

function month(today: string, shift: number): DaySpan {
  const first = addMonths(`${today.slice(0, 7)}-01`, shift)
  return { from: first, to: addDays(addMonths(first, 1), -1) }
}

/** The days a named span covers, seen from `today`. Weeks run Monday to Sunday (ISO 8601). */
export function namedSpan(name: SpanName, today: string): DaySpan {
  switch (name) {
    case 'today':
      return single(today)
    case 'yesterday':
      return single(addDays(today, -1))
    case 'tomorrow':
      return single(addDays(today, 1))
    case 'thisWeek':
      return week(today, 0)
    case 'lastWeek':
      return week(today, -1)
    case 'nextWeek':
      return week(today, 1)
    case 'thisMonth':
      return month(today, 0)
    case 'lastMonth':
      return month(today, -1)
    case 'nextMonth':
      return month(today, 1)
    case 'thisYear':
      return { from: `${today.slice(0, 4)}-01-01`, to: `${today.slice(0, 4)}-12-31` }
    case 'fromToday':
      return { from: today, to: null }
  }
}

export const SPAN_UNITS = ['days', 'weeks', 'months', 'workdays'] as const
export type SpanUnit = (typeof SPAN_UNITS)[number]

const UNIT_WORDS: { readonly [K in SpanUnit]: readonly [one: string, many: string] } = {
  days: ['day', 'days'],
  weeks: ['week', 'weeks'],
  months: ['month', 'months'],
  workdays: ['working day', 'working days'],
}

/** "1 working day", "3 weeks". */
export const sayAmount = (count: number, unit: SpanUnit): string => `${count} ${UNIT_WORDS[unit][count === 1 ? 0 : 1]}`

/** The date so many units after `date`; before it when `count` is negative. Months clamp to the month's end. */
export function shiftDate(date: string, count: number, unit: SpanUnit, calendar: WorkCalendar): string {
  // A rule asks for the same few days all day long.
  const known = shifted.get(calendar) ?? new Map<string, string>()
  shifted.set(calendar, known)
  const key = `${date} ${count} ${unit}`
  let found = known.get(key)
  if (found === undefined) {
    if (known.size >= KNOWN_MOST) known.clear()
    known.set(key, (found = shift(date, count, unit, calendar)))
  }
  return found
}

const KNOWN_MOST = 1000
const shifted = new WeakMap<WorkCalendar, Map<string, string>>()

function shift(date: string, count: number, unit: SpanUnit, calendar: WorkCalendar): string {
  switch (unit) {
    case 'days':
      return addDays(date, count)
    case 'weeks':
      return addDays(date, 7 * count)
    case 'months':
      return addMonths(date, count)
    case 'workdays':
      return addWorkdays(date, count, calendar)
  }
}
