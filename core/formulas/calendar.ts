/**
 * Dates as days since 1970-01-01 in the proleptic Gregorian calendar (ISO 8601). The sums are those of Howard Hinnant's
 * "chrono-compatible low-level date algorithms": plain integer arithmetic, a hundred times as fast as date objects.
 */
export const DAY_MS = 86_400_000

export interface Civil {
  readonly year: number
  /** 1 to 12. */
  readonly month: number
  readonly day: number
}

export function dayNumber(year: number, month: number, day: number): number {
  const y = month <= 2 ? year - 1 : year
  const era = Math.floor(y / 400)
  const yearOfEra = y - era * 400
  const dayOfYear = Math.floor((153 * (month + (month > 2 ? -3 : 9)) + 2) / 5) + day - 1
  return era * 146_097 + yearOfEra * 365 + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100) + dayOfYear - 719_468
}

export function civilOf(dayNo: number): Civil {
  const z = dayNo + 719_468
  const era = Math.floor(z / 146_097)
  const dayOfEra = z - era * 146_097
  const yearOfEra = Math.floor(
    (dayOfEra - Math.floor(dayOfEra / 1460) + Math.floor(dayOfEra / 36_524) - Math.floor(dayOfEra / 146_096)) / 365,
  )
  const dayOfYear = dayOfEra - (365 * yearOfEra + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100))
  const mp = Math.floor((5 * dayOfYear + 2) / 153)
  const month = mp < 10 ? mp + 3 : mp - 9
  return {
    year: yearOfEra + era * 400 + (month <= 2 ? 1 : 0),
    month,
    day: dayOfYear - Math.floor((153 * mp + 2) / 5) + 1,
  }
}

export const isLeap = (year: number): boolean => (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0
export const daysInMonth = (year: number, month: number): number =>
  month === 2 ? (isLeap(year) ? 29 : 28) : month === 4 || month === 6 || month === 9 || month === 11 ? 30 : 31

/** `YYYY-MM-DD`, known to be a date, as a day number. */
export function dayOfText(text: string): number {
  const digit = (i: number): number => text.charCodeAt(i) - 48
  return dayNumber(
    digit(0) * 1000 + digit(1) * 100 + digit(2) * 10 + digit(3),
    digit(5) * 10 + digit(6),
    digit(8) * 10 + digit(9),
  )
}

/** A day number as `YYYY-MM-DD`; `null` outside the years 1000 to 9999, which no field can hold. */
export function textOfDay(dayNo: number): string | null {
  const { year, month, day } = civilOf(dayNo)
  return year < 1000 || year > 9999 ? null : `${year}-${month < 10 ? '0' : ''}${month}-${day < 10 ? '0' : ''}${day}`
}

/** So many calendar months later; clamps to the month's end. */
export function addMonthsTo(dayNo: number, months: number): number {
  const { year, month, day } = civilOf(dayNo)
  const all = year * 12 + month - 1 + months
  const [y, m] = [Math.floor(all / 12), (((all % 12) + 12) % 12) + 1]
  return dayNumber(y, m, Math.min(day, daysInMonth(y, m)))
}

/**
 * Whole calendar months from a day to another (DMN 1.3, "years and months duration"); negative when the other is
 * earlier.
 */
export function monthsBetween(from: number, to: number): number {
  if (to < from) return -monthsBetween(to, from) + 0
  const [a, b] = [civilOf(from), civilOf(to)]
  const months = (b.year - a.year) * 12 + b.month - a.month
  return b.day < a.day ? months - 1 : months
}

/** ISO 8601: 1 Monday … 7 Sunday. */
export const weekdayOf = (dayNo: number): number => ((((dayNo + 3) % 7) + 7) % 7) + 1

export const dayOfYear = (dayNo: number): number => dayNo - dayNumber(civilOf(dayNo).year, 1, 1) + 1

/** ISO 8601 week: the one that holds the year's first Thursday is 1. */
export function weekOfYear(dayNo: number): number {
  const thursday = dayNo + 4 - weekdayOf(dayNo)
  return Math.floor((thursday - dayNumber(civilOf(thursday).year, 1, 1)) / 7) + 1
}

const SPAN = /^(-)?P(?:(\d+)Y)?(?:(\d+)M)?(?:(\d+)D)?(?:T(?:(\d+)H)?(?:(\d+)M)?(?:(\d+(?:\.\d+)?)S)?)?$/

/** Reads an ISO 8601 duration, of either years and months or days and time; `null` when it is none, or mixes both. */
export function readSpan(text: string): { readonly is: 'days' | 'months'; readonly value: number } | null {
  const found = SPAN.exec(text)
  if (!found || /[PT]$/.test(text)) return null
  const [, minus, years, months, days, hours, minutes, seconds] = found
  const sign = minus ? -1 : 1
  const dated = years !== undefined || months !== undefined
  if (dated && (days ?? hours ?? minutes ?? seconds) !== undefined) return null
  if (dated) return { is: 'months', value: sign * (Number(years ?? 0) * 12 + Number(months ?? 0)) + 0 }
  return {
    is: 'days',
    value:
      sign *
        Math.round(
          Number(days ?? 0) * DAY_MS +
            Number(hours ?? 0) * 3_600_000 +
            Number(minutes ?? 0) * 60_000 +
            Number(seconds ?? 0) * 1000,
        ) +
      0,
  }
}

/** A span of days as ISO 8601 writes it: P2DT3H. */
export function writeDays(ms: number): string {
  const all = Math.abs(ms)
  const [days, hours, minutes, seconds] = [
    Math.floor(all / DAY_MS),
    Math.floor(all / 3_600_000) % 24,
    Math.floor(all / 60_000) % 60,
    (all % 60_000) / 1000,
  ]
  const time = `${hours ? `${hours}H` : ''}${minutes ? `${minutes}M` : ''}${seconds ? `${seconds}S` : ''}`
  return all === 0 ? 'PT0S' : `${ms < 0 ? '-' : ''}P${days ? `${days}D` : ''}${time ? `T${time}` : ''}`
}

/** A span of months as ISO 8601 writes it: P1Y2M. */
export function writeMonths(months: number): string {
  const all = Math.abs(months)
  return all === 0
    ? 'P0M'
    : `${months < 0 ? '-' : ''}P${all >= 12 ? `${Math.floor(all / 12)}Y` : ''}${all % 12 ? `${all % 12}M` : ''}`
}
