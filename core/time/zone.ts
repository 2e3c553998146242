import { Temporal } from 'temporal-polyfill'

/** How far a zone's clock is ahead of UTC, and between which instants. */
interface Period {
  /** The first instant of it, in ms UTC; `-Infinity` where no change of the clock comes before. */
  readonly fromMs: number
  /** The first instant behind it. */
  readonly toMs: number
  readonly offsetMs: number
}

/** The periods of each zone that were asked for, the one asked for last in front. */
const known = new Map<string, Period[]>()

/**
 * The period of unchanged offset around an instant. Looked up in the IANA database once for each period, of which a
 * zone has two a year: asking for each instant anew is what costs.
 */
export function periodAt(atMs: number, zone: string): Period {
  const periods = known.get(zone) ?? []
  const at = periods.findIndex((period) => atMs >= period.fromMs && atMs < period.toMs)
  const found = periods[at]
  if (found) {
    if (at > 0) periods.unshift(...periods.splice(at, 1))
    return found
  }
  const moment = Temporal.Instant.fromEpochMilliseconds(atMs).toZonedDateTimeISO(zone)
  const period: Period = {
    // A change that happens at this very instant begins the period.
    fromMs: moment.add({ milliseconds: 1 }).getTimeZoneTransition('previous')?.epochMilliseconds ?? -Infinity,
    toMs: moment.getTimeZoneTransition('next')?.epochMilliseconds ?? Infinity,
    offsetMs: moment.offsetNanoseconds / 1e6,
  }
  periods.unshift(period)
  known.set(zone, periods)
  return period
}

const DAY_MS = 86_400_000

/**
 * The instant of a local time given as if it were UTC, where the clock of the zone does not change within a day around
 * it; `null` where it does, and the calendar has to be asked.
 */
export function plainInstant(localMs: number, zone: string): number | null {
  const { fromMs, toMs, offsetMs } = periodAt(localMs, zone)
  const atMs = localMs - offsetMs
  return atMs - DAY_MS >= fromMs && atMs + DAY_MS < toMs ? atMs : null
}
