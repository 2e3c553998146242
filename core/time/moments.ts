import { addDays, addMonths, dateAt, instantOf, localMinute, plainDate, weekday } from './dates'
import { addWorkdays, type WorkCalendar } from './calendar'

/**
 * Moments counted from a date or an instant: "10 working days before, at 8:30". All of it is calendar arithmetic in a
 * zone; nothing here reads a clock.
 */

export const MOMENT_UNITS = ['minutes', 'hours', 'days', 'weeks', 'months', 'workdays'] as const
export type MomentUnit = (typeof MOMENT_UNITS)[number]
export type DayUnit = Exclude<MomentUnit, 'minutes' | 'hours'>

const WORDS: { readonly [U in MomentUnit]: readonly [one: string, many: string] } = {
  minutes: ['minute', 'minutes'],
  hours: ['hour', 'hours'],
  days: ['day', 'days'],
  weeks: ['week', 'weeks'],
  months: ['month', 'months'],
  workdays: ['working day', 'working days'],
}
export const UNIT_WORDS: { readonly [U in MomentUnit]: string } = {
  minutes: 'minutes',
  hours: 'hours',
  days: 'days',
  weeks: 'weeks',
  months: 'months',
  workdays: 'working days',
}
/** "1 working day", "45 minutes". */
export const sayCount = (count: number, unit: MomentUnit): string => `${count} ${WORDS[unit][count === 1 ? 0 : 1]}`

const UNIT_MS = { minutes: 60_000, hours: 3_600_000 } as const
const isExact = (unit: MomentUnit): unit is 'minutes' | 'hours' => unit === 'minutes' || unit === 'hours'

/** "8:30" of minutes from midnight. */
export const sayMinute = (minute: number): string =>
  `${Math.floor(minute / 60)}:${String(minute % 60).padStart(2, '0')}`

/** "Lisbon", for a zone of the IANA list: short enough to stand behind a time. */
export const sayZone = (zone: string): string => zone.split('/').at(-1)?.replaceAll('_', ' ') ?? zone

/** Minutes from midnight of "8:30", "08:30" or "8"; `null` when it is no time of a day. */
export function readMinute(text: string): number | null {
  const found = /^(\d{1,2})(?:[:.h](\d{2}))?$/.exec(text.trim())
  const [hour, minute] = [Number(found?.[1] ?? 99), Number(found?.[2] ?? 0)]
  return hour > 23 || minute > 59 ? null : hour * 60 + minute
}

/** Minutes from midnight of an instant in a zone. */
export function minuteAt(atMs: number, zone: string): number {
  const local = localMinute(atMs, zone)
  return Number(local.slice(11, 13)) * 60 + Number(local.slice(14, 16))
}

/** The instant of a day and minutes from midnight: behind a gap, the first of two. */
export const instantAt = (date: string, minute: number, zone: string): number =>
  instantOf(date, Math.floor(minute / 60), minute % 60, zone)

/**
 * Days forward or back; months clamp to the month's end, and with `workdays` 0 is the day itself or the next working
 * one.
 */
export function shiftDays(date: string, count: number, unit: DayUnit, calendar: WorkCalendar): string {
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

/** How far a moment lies from what it is counted from; negative before it. */
export interface Offset {
  readonly count: number
  readonly unit: MomentUnit
  /** Minutes from midnight at which it is; `null` for the time of day it is counted from. */
  readonly minute: number | null
}

/** A moment counted from an instant. Hours and minutes are exact; days go by the calendar and keep the time of day. */
export function fromInstant(
  atMs: number,
  { count, unit, minute }: Offset,
  zone: string,
  calendar: WorkCalendar,
): number {
  if (isExact(unit)) return atMs + count * UNIT_MS[unit]
  return instantAt(shiftDays(dateAt(atMs, zone), count, unit, calendar), minute ?? minuteAt(atMs, zone), zone)
}

/** A moment counted from a date, which has no time of day of its own: without `minute` it is midnight. */
export function fromDate(date: string, { count, unit, minute }: Offset, zone: string, calendar: WorkCalendar): number {
  if (isExact(unit)) return instantAt(date, minute ?? 0, zone) + count * UNIT_MS[unit]
  return instantAt(shiftDays(date, count, unit, calendar), minute ?? 0, zone)
}

/** Counted from whichever a field holds. */
export const fromValue = (value: string | number, offset: Offset, zone: string, calendar: WorkCalendar): number =>
  typeof value === 'number' ? fromInstant(value, offset, zone, calendar) : fromDate(value, offset, zone, calendar)

/** Where 29 February falls in a common year. */
export type Leap = 'feb28' | 'mar1'

/** The day that a date has in a year; always counted from the date itself, so that 29 February does not drift. */
export function anniversary(date: string, year: number, leap: Leap): string {
  const [month, day] = [Number(date.slice(5, 7)), Number(date.slice(8, 10))]
  return plainDate(year, month, day) ?? (leap === 'feb28' ? `${year}-02-28` : `${year}-03-01`)
}

/** The day that a date has in a month (`YYYY-MM`): its own number, or the month's last. */
export function monthly(date: string, month: string): string {
  const day = Number(date.slice(8, 10))
  return (
    plainDate(Number(month.slice(0, 4)), Number(month.slice(5, 7)), day) ?? addDays(addMonths(`${month}-01`, 1), -1)
  )
}

/**
 * The next moment that is within some hours of a day: now, when it is; otherwise when they next begin. Only on working
 * days, when asked.
 */
export function nextWithin(
  atMs: number,
  from: number,
  to: number,
  workdaysOnly: boolean,
  zone: string,
  calendar: WorkCalendar,
): number {
  const today = dateAt(atMs, zone)
  const allowed = (date: string): boolean =>
    !workdaysOnly || (calendar.workdays.includes(weekday(date)) && !calendar.holidays.has(date))
  for (let date = today; ; date = addDays(date, 1)) {
    if (!allowed(date)) continue
    const [begins, ends] = [instantAt(date, from, zone), instantAt(date, to, zone)]
    if (atMs < begins) return begins
    if (atMs < ends) return atMs
  }
}
