import { addDays, dateAt, weekday } from '../time/dates'
import { instantAt, minuteAt } from '../time/moments'

/** When somebody may be written to, by their own clock. */

export interface DecentHours {
  /** In minutes from midnight; the first may, the last no more. */
  readonly from: number
  readonly to: number
  /** ISO weekday numbers, at least one. */
  readonly days: readonly number[]
}

/** Two weeks always have a day of each weekday, also where a clock change swallows the hours of one. */
const DAYS_LOOKED = 15

const isDecent = (atMs: number, zone: string, { from, to, days }: DecentHours): boolean => {
  const minute = minuteAt(atMs, zone)
  return days.includes(weekday(dateAt(atMs, zone))) && minute >= from && minute < to
}

/**
 * The first moment from `atMs` on (ms, UTC) at which somebody in a zone may be written to: `atMs` itself within their
 * hours. Hours need at least one day, and an end behind their beginning.
 */
export function nextDecent(atMs: number, zone: string, hours: DecentHours): number {
  if (hours.days.length === 0 || hours.to <= hours.from) throw new RangeError('hours that never come')
  if (isDecent(atMs, zone, hours)) return atMs
  const today = dateAt(atMs, zone)
  for (let n = 0; n <= DAYS_LOOKED; n++) {
    const day = addDays(today, n)
    if (!hours.days.includes(weekday(day))) continue
    // Where a clock change skips the hour, the first moment behind the gap.
    const opens = instantAt(day, hours.from, zone)
    if (opens >= atMs && isDecent(opens, zone, hours)) return opens
  }
  // All days that are left lie in a gap: nobody is disturbed by waiting.
  return instantAt(addDays(today, 1), hours.from, zone)
}
