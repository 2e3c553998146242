import { addDays, weekday } from './dates'

/** The days on which the firm works. */
export interface WorkCalendar {
  /** ISO weekday numbers, at least one. */
  readonly workdays: readonly number[]
  readonly holidays: ReadonlySet<string>
}

export function workCalendar(given: {
  readonly workdays: readonly number[]
  readonly holidays: readonly { readonly date: string }[]
}): WorkCalendar {
  if (given.workdays.length === 0) throw new RangeError('a working week needs at least one day')
  return { workdays: given.workdays, holidays: new Set(given.holidays.map((holiday) => holiday.date)) }
}

export const isWorkday = (date: string, calendar: WorkCalendar): boolean =>
  calendar.workdays.includes(weekday(date)) && !calendar.holidays.has(date)

/**
 * The `count`-th working day after `date` (before it, when negative). With 0, the date itself when it is a
 * working day, otherwise the next one.
 */
export function addWorkdays(date: string, count: number, calendar: WorkCalendar): string {
  const step = count < 0 ? -1 : 1
  let at = date
  if (count === 0) {
    while (!isWorkday(at, calendar)) at = addDays(at, 1)
    return at
  }
  for (let left = Math.abs(count); left > 0;) {
    at = addDays(at, step)
    if (isWorkday(at, calendar)) left--
  }
  return at
}
