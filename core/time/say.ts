import { Temporal } from 'temporal-polyfill'

/**
 * Dates and times in words. Month and weekday names are our own short list instead of the runtime's, because
 * the server and the browser may carry different versions of the locale data and would then disagree on a page.
 */
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']
const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']

const two = (n: number): string => String(n).padStart(2, '0')

/** Plain dates are always written `YYYY-MM-DD`: day and month are read off without building a date. */
const dayMonth = (date: string): string => `${Number(date.slice(8, 10))} ${MONTHS[Number(date.slice(5, 7)) - 1]}`

/** "24 Nov 2026" */
export function sayDate(date: string): string {
  return `${dayMonth(date)} ${Number(date.slice(0, 4))}`
}

/** "24 Nov", with the year only when it is not that of `today`. */
export function sayDay(date: string, today: string): string {
  return date.slice(0, 4) === today.slice(0, 4) ? dayMonth(date) : sayDate(date)
}

/** "Tue 24 Nov" */
export function sayWeekday(date: string): string {
  const at = Temporal.PlainDate.from(date)
  return `${DAYS[at.dayOfWeek - 1]} ${at.day} ${MONTHS[at.month - 1]}`
}

/** "9:05" in the zone. */
export function sayTime(atMs: number, zone: string): string {
  const at = Temporal.Instant.fromEpochMilliseconds(atMs).toZonedDateTimeISO(zone)
  return `${at.hour}:${two(at.minute)}`
}

/** "24 Nov 2026, 9:05" in the zone. */
export function sayInstant(atMs: number, zone: string): string {
  const at = Temporal.Instant.fromEpochMilliseconds(atMs).toZonedDateTimeISO(zone)
  return `${sayDate(at.toPlainDate().toString())}, ${at.hour}:${two(at.minute)}`
}

/** A date as seen from today: "today", "tomorrow", "in 5 days", "3 days ago", otherwise the day itself. */
export function sayRelative(date: string, today: string): string {
  const days = Temporal.PlainDate.from(today).until(Temporal.PlainDate.from(date), { largestUnit: 'day' }).days
  if (days === 0) return 'today'
  if (days === 1) return 'tomorrow'
  if (days === -1) return 'yesterday'
  if (days > 1 && days < 15) return `in ${days} days`
  if (days < -1 && days > -15) return `${-days} days ago`
  return sayDay(date, today)
}
