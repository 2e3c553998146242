import { Temporal } from 'temporal-polyfill'
import { periodAt, plainInstant } from './zone'

/**
 * Plain dates are `YYYY-MM-DD` texts and instants integer milliseconds UTC. Nothing here reads a clock.
 */

const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec']
/**
 * Every day of the calendar used here has exactly these: instants of plain dates are reckoned in UTC, which has no
 * gaps.
 */
const DAY_MS = 86_400_000
const MINUTE_MS = 60_000

/** Midnight UTC of a date; refuses what is none. */
function utcOf(date: string): number {
  const ms = Date.parse(`${date}T00:00:00Z`)
  if (Number.isNaN(ms)) throw new RangeError(`“${date}” is no date`)
  return ms
}
const dateOf = (utcMs: number): string => new Date(utcMs).toISOString().slice(0, 10)

const ISO = /^(\d{4})-(\d{2})-(\d{2})$/

/** The date if it exists in the calendar (proleptic Gregorian, ISO 8601), otherwise `null`. */
export function plainDate(year: number, month: number, day: number): string | null {
  if (year < 1000 || year > 9999 || month < 1 || month > 12 || day < 1) return null
  try {
    return Temporal.PlainDate.from({ year, month, day }, { overflow: 'reject' }).toString()
  } catch (error) {
    if (error instanceof RangeError) return null
    throw error
  }
}

/** True for a date that exists, written `YYYY-MM-DD`. */
export function isDate(text: string): boolean {
  const found = ISO.exec(text)
  return found !== null && plainDate(Number(found[1]), Number(found[2]), Number(found[3])) === text
}

/** Two-digit years are of this century up to 69, of the last one from 70. */
const fullYear = (text: string): number =>
  text.length > 2 ? Number(text) : Number(text) + (Number(text) < 70 ? 2000 : 1900)

/**
 * Reads a date in one of the styles people write: `2026-11-24`, `24.11.2026`, `24/11/2026`, `24 Nov 2026`,
 * `Nov 24, 2026`. Slashes, points and dashes between numbers follow `order`, unless only the other is possible.
 */
export function readDate(raw: string, order: 'dayFirst' | 'monthFirst'): string | null {
  const text = raw.trim().toLowerCase()
  let found = /^(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})(?:[t ]00:00(?::00(?:\.0+)?)?)?z?$/.exec(text)
  if (found) return plainDate(Number(found[1]), Number(found[2]), Number(found[3]))
  found = /^(\d{1,2})([-/.])(\d{1,2})\2(\d{2}|\d{4})$/.exec(text)
  if (found) {
    const [a, b, year] = [Number(found[1]), Number(found[3]), fullYear(found[4] ?? '')]
    const dayFirst = found[2] === '.' || order === 'dayFirst'
    return dayFirst ? plainDate(year, b, a) : plainDate(year, a, b)
  }
  found = /^(\d{1,2})\.?[\s-]*([a-z]{3})[a-z]*\.?[\s,-]*(\d{2}|\d{4})$/.exec(text)
  if (found) return plainDate(fullYear(found[3] ?? ''), MONTHS.indexOf(found[2] ?? '') + 1, Number(found[1]))
  found = /^([a-z]{3})[a-z]*\.?\s*(\d{1,2})(?:st|nd|rd|th)?[\s,]+(\d{4})$/.exec(text)
  if (found) return plainDate(Number(found[3]), MONTHS.indexOf(found[1] ?? '') + 1, Number(found[2]))
  return null
}

/** The date in `zone` at an instant. */
export const dateAt = (atMs: number, zone: string): string => dateOf(atMs + periodAt(atMs, zone).offsetMs)

/** First instant of a date in a zone; the first moment after the gap where midnight does not exist. */
export function startOfDate(date: string, zone: string): number {
  return plainInstant(utcOf(date), zone) ?? Temporal.PlainDate.from(date).toZonedDateTime(zone).epochMilliseconds
}

/**
 * The instant of a date and a wall-clock time. Of one that occurs twice the first; for one that a change of the clock
 * skips, the first moment behind it.
 */
export function instantOf(date: string, hour: number, minute: number, zone: string): number {
  const plain = plainInstant(utcOf(date) + (hour * 60 + minute) * MINUTE_MS, zone)
  if (plain !== null) return plain
  const local = Temporal.PlainDate.from(date).toPlainDateTime({ hour, minute })
  const found = local.toZonedDateTime(zone, { disambiguation: 'compatible' })
  if (found.toPlainDateTime().equals(local)) return found.epochMilliseconds
  // It was moved on by the length of the gap; the gap ends at the change before it.
  return found.add({ milliseconds: 1 }).getTimeZoneTransition('previous')?.epochMilliseconds ?? found.epochMilliseconds
}

/** The wall-clock time of an instant in a zone to the minute, `2026-11-24T09:30`, as date-time boxes take it. */
export const localMinute = (atMs: number, zone: string): string =>
  new Date(atMs + periodAt(atMs, zone).offsetMs).toISOString().slice(0, 16)

/** Reads `2026-11-24 09:30`, with or without seconds, `T`, and an offset; without one it is of `zone`. */
export function readInstant(raw: string, zone: string, order: 'dayFirst' | 'monthFirst'): number | null {
  const text = raw.trim()
  if (/^\d{4}-\d{2}-\d{2}[T ]\d{2}:\d{2}.*(?:Z|[+-]\d{2}:?\d{2})$/i.test(text)) {
    const ms = Date.parse(text.replace(' ', 'T'))
    return Number.isNaN(ms) ? null : ms
  }
  const found = /^(.*?)[T ,]+(\d{1,2}):(\d{2})(?::\d{2})?$/i.exec(text)
  const date = readDate(found?.[1] ?? text, order)
  const [hour, minute] = [Number(found?.[2] ?? 0), Number(found?.[3] ?? 0)]
  return date === null || hour > 23 || minute > 59 ? null : instantOf(date, hour, minute, zone)
}

export const addDays = (date: string, days: number): string => dateOf(utcOf(date) + days * DAY_MS)

/** Calendar months; clamps to the month's end (31 January + 1 month is 28 or 29 February). */
export const addMonths = (date: string, months: number): string =>
  Temporal.PlainDate.from(date).add({ months }).toString()

/** Whole days from `a` to `b`; negative when `b` is earlier. */
export const daysBetween = (a: string, b: string): number => (utcOf(b) - utcOf(a)) / DAY_MS

/** ISO weekday, 1 Monday … 7 Sunday. */
export const weekday = (date: string): number => new Date(utcOf(date)).getUTCDay() || 7
