import fc from 'fast-check'
import { Temporal } from 'temporal-polyfill'
import { describe, expect, it } from 'vitest'
import { addDays, dateAt, daysBetween, instantOf, localMinute, startOfDate, weekday } from './dates'
import { periodAt } from './zone'

/**
 * Zones with gaps at midnight, by half an hour, without any, at the other end of the day, and one that skipped a day.
 */
const ZONES = [
  'Europe/Lisbon',
  'America/Halifax',
  'America/Santiago',
  'Australia/Lord_Howe',
  'Pacific/Auckland',
  'Pacific/Apia',
  'Africa/Casablanca',
  'Asia/Kolkata',
  'UTC',
]
const zone = fc.constantFrom(...ZONES)
const anInstant = fc.integer({ min: Date.UTC(1970, 0, 1), max: Date.UTC(2060, 0, 1) })
/** Within two hours of a change of the clock, where there is one. */
const nearChange = fc
  .tuple(zone, anInstant, fc.integer({ min: -7_200_000, max: 7_200_000 }))
  .map(([name, atMs, off]) => {
    const change = Temporal.Instant.fromEpochMilliseconds(atMs).toZonedDateTimeISO(name).getTimeZoneTransition('next')
    return [name, (change?.epochMilliseconds ?? atMs) + off] as const
  })
const place = fc.oneof(fc.tuple(zone, anInstant), nearChange)
const zoned = (atMs: number, name: string) => Temporal.Instant.fromEpochMilliseconds(atMs).toZonedDateTimeISO(name)

describe('reckoning by periods says what the calendar says', () => {
  it('of the date and the time of day at an instant', () => {
    fc.assert(
      fc.property(place, ([name, atMs]) => {
        const local = zoned(atMs, name).toPlainDateTime()
        expect(dateAt(atMs, name)).toBe(local.toPlainDate().toString())
        expect(localMinute(atMs, name)).toBe(local.toString({ smallestUnit: 'minute' }))
      }),
      { numRuns: 2000 },
    )
  })

  it('of the instant of a local time, in gaps and where it comes twice', () => {
    fc.assert(
      fc.property(place, ([name, atMs]) => {
        const local = zoned(atMs, name).toPlainDateTime().round({ smallestUnit: 'minute', roundingMode: 'floor' })
        const found = instantOf(local.toPlainDate().toString(), local.hour, local.minute, name)
        expect(found).toBe(local.toZonedDateTime(name, { disambiguation: 'earlier' }).epochMilliseconds)
        const date = local.toPlainDate()
        expect(startOfDate(date.toString(), name)).toBe(date.toZonedDateTime(name).epochMilliseconds)
      }),
      { numRuns: 2000 },
    )
  })

  it('of the first moment behind a gap', () => {
    for (const name of ZONES) {
      for (let atMs = Date.UTC(2000, 0, 1), n = 0; n < 40; n++) {
        const change = zoned(atMs, name).getTimeZoneTransition('next')
        if (!change) break
        atMs = change.epochMilliseconds
        const [before, after] = [zoned(atMs - 1, name).offsetNanoseconds, change.offsetNanoseconds]
        if (after <= before) continue
        // The last minute that the clock leaps over.
        const leapt = change.toPlainDateTime().subtract({ minutes: 1 })
        expect(instantOf(leapt.toPlainDate().toString(), leapt.hour, leapt.minute, name)).toBe(atMs)
      }
    }
  })

  it('of days between dates, and of weekdays', () => {
    const date = fc.integer({ min: -300_000, max: 300_000 }).map((days) => addDays('2000-01-01', days))
    fc.assert(
      fc.property(date, date, (a, b) => {
        expect(daysBetween(a, b)).toBe(Temporal.PlainDate.from(a).until(b, { largestUnit: 'day' }).days)
        expect(addDays(a, daysBetween(a, b))).toBe(b)
        expect(weekday(a)).toBe(Temporal.PlainDate.from(a).dayOfWeek)
      }),
      { numRuns: 2000 },
    )
  })
})

it('a period holds the instant it is asked for, and ends where the next begins', () => {
  fc.assert(
    fc.property(place, ([name, atMs]) => {
      const { fromMs, toMs, offsetMs } = periodAt(atMs, name)
      expect(atMs >= fromMs && atMs < toMs).toBe(true)
      expect(offsetMs * 1e6).toBe(zoned(atMs, name).offsetNanoseconds)
      if (toMs !== Infinity) expect(periodAt(toMs, name).fromMs).toBe(toMs)
    }),
  )
})
