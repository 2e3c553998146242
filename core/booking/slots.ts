import type { Hours, Person } from '../fields/field'
import { isWorkday, workCalendar } from '../time/calendar'
import { addDays, dateAt, instantOf } from '../time/dates'
import type { BookingPage } from './page'

const MINUTE_MS = 60_000
/** Appointments begin at these steps from the office hours on, in minutes; short ones one behind the other. */
const STEP = 30

/** A time that is taken; the end does not belong to it. */
export interface Taken {
  readonly startMs: number
  readonly endMs: number
}

/** Whom an appointment can be with, and when they are there. */
export interface Bookable {
  readonly person: Pick<Person, 'active' | 'awayFrom' | 'awayTo' | 'zone'>
  readonly hours: Hours
  /** The workspace’s zone, for who has none. */
  readonly zone: string
  readonly taken: readonly Taken[]
}

type Lengths = Pick<BookingPage, 'minutes' | 'bufferMinutes' | 'noticeHours' | 'daysAhead'>

/** Whether a time with its buffer on both sides touches nothing that is taken. */
export const isFree = (startMs: number, { minutes, bufferMinutes }: Lengths, taken: readonly Taken[]): boolean => {
  const [from, to] = [startMs - bufferMinutes * MINUTE_MS, startMs + (minutes + bufferMinutes) * MINUTE_MS]
  return taken.every(({ startMs: start, endMs: end }) => end <= from || start >= to)
}

/**
 * When somebody can be met, as instants (ms UTC) in order: within their office hours, on their working days, not while
 * they are away, not too soon, and beside nothing that is taken.
 *
 * @param nowMs the instant from which notice and days are counted
 */
export function freeStarts(
  lengths: Lengths,
  { person, hours, zone: own, taken }: Bookable,
  nowMs: number,
): readonly number[] {
  if (!person.active) return []
  const zone = person.zone ?? own
  const calendar = workCalendar(hours)
  const today = dateAt(nowMs, zone)
  const soonest = nowMs + lengths.noticeHours * 60 * MINUTE_MS
  const step = Math.min(STEP, lengths.minutes)
  const found: number[] = []
  for (let i = 0; i <= lengths.daysAhead; i++) {
    const day = addDays(today, i)
    const isAway = person.awayFrom !== null && person.awayTo !== null && day >= person.awayFrom && day <= person.awayTo
    if (isAway || !isWorkday(day, calendar)) continue
    for (let minute = hours.opensAt; minute + lengths.minutes <= hours.closesAt; minute += step) {
      const startMs = instantOf(day, Math.floor(minute / 60), minute % 60, zone)
      if (startMs >= soonest && isFree(startMs, lengths, taken)) found.push(startMs)
    }
  }
  // Two minutes of the hour that is left out in spring are one instant.
  return [...new Set(found)]
}

/** Whoever has the fewest of those who are free; the first of several. `null` when nobody is. */
export function whoseTurn<P extends { readonly id: string; readonly count: number }>(free: readonly P[]): P | null {
  return free.reduce<P | null>((best, one) => (best === null || one.count < best.count ? one : best), null)
}
