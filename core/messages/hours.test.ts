import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { dateAt, weekday } from '../time/dates'
import { instantAt, minuteAt } from '../time/moments'
import { nextDecent, type DecentHours } from './hours'

const USUAL: DecentHours = { from: 480, to: 1200, days: [1, 2, 3, 4, 5, 6] }
const at = (date: string, hour: number, zone: string): number => instantAt(date, hour * 60, zone)
const zones = ['Europe/Lisbon', 'Pacific/Auckland', 'America/Halifax', 'America/Nuuk', 'Asia/Kathmandu', 'UTC'] as const
const hours = fc
  .record({
    from: fc.integer({ min: 0, max: 1380 }),
    length: fc.integer({ min: 60, max: 1440 }),
    days: fc.uniqueArray(fc.integer({ min: 1, max: 7 }), { minLength: 1 }),
  })
  .map(({ from, length, days }): DecentHours => ({ from, to: Math.min(1440, from + length), days }))
const instants = fc.integer({ min: Date.UTC(2024, 0, 1), max: Date.UTC(2032, 0, 1) })

describe('decent hours', () => {
  it('are those of whoever gets it: at three in the night it goes at eight', () => {
    expect(nextDecent(at('2026-11-24', 3, 'America/Halifax'), 'America/Halifax', USUAL)).toBe(
      at('2026-11-24', 8, 'America/Halifax'),
    )
    expect(nextDecent(at('2026-11-24', 20, 'UTC'), 'UTC', USUAL)).toBe(at('2026-11-25', 8, 'UTC'))
    expect(nextDecent(at('2026-11-24', 19, 'UTC'), 'UTC', USUAL)).toBe(at('2026-11-24', 19, 'UTC'))
    // A Saturday evening: not on Sunday.
    expect(nextDecent(at('2026-11-28', 21, 'UTC'), 'UTC', USUAL)).toBe(at('2026-11-30', 8, 'UTC'))
  })

  it('never lie before, always within, and nothing earlier would do', () => {
    fc.assert(
      fc.property(instants, fc.constantFrom(...zones), hours, (nowMs, zone, given) => {
        const found = nextDecent(nowMs, zone, given)
        expect(found).toBeGreaterThanOrEqual(nowMs)
        expect(given.days).toContain(weekday(dateAt(found, zone)))
        const minute = minuteAt(found, zone)
        expect(minute).toBeGreaterThanOrEqual(given.from)
        expect(minute).toBeLessThan(given.to)
        // Every quarter of an hour before it is out of the question.
        for (let earlier = nowMs; earlier < found - 60_000; earlier += 900_000) {
          const within = given.days.includes(weekday(dateAt(earlier, zone)))
          const then = minuteAt(earlier, zone)
          expect(within && then >= given.from && then < given.to).toBe(false)
        }
        expect(nextDecent(found, zone, given)).toBe(found)
      }),
      { numRuns: 300 },
    )
  })

  it('that never come are refused', () => {
    expect(() => nextDecent(0, 'UTC', { ...USUAL, days: [] })).toThrow(RangeError)
    expect(() => nextDecent(0, 'UTC', { ...USUAL, to: 480 })).toThrow(RangeError)
  })
})
