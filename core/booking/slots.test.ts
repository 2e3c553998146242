import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { dateAt, localMinute, weekday } from '../time/dates'
import { freeStarts, isFree, whoseTurn, type Bookable } from './slots'

const HOUR_MS = 3_600_000
const NOW = Date.UTC(2026, 10, 24, 9, 12)
const lengths = { minutes: 60, bufferMinutes: 0, noticeHours: 0, daysAhead: 0 }
const who = (more: Partial<Bookable> = {}): Bookable => ({
  person: { active: true, awayFrom: null, awayTo: null, zone: null },
  hours: { workdays: [1, 2, 3, 4, 5], opensAt: 540, closesAt: 780, holidays: [] },
  zone: 'Europe/Lisbon',
  taken: [],
  ...more,
})
const times = (more: Partial<typeof lengths>, of: Bookable = who()) =>
  freeStarts({ ...lengths, ...more }, of, NOW).map((at) =>
    localMinute(at, 'Europe/Lisbon').slice(0, 16).replace('T', ' '),
  )

describe('free times', () => {
  it('lie in office hours, behind the notice, and beside what is taken', () => {
    expect(times({})).toEqual([
      '2026-11-24 09:30',
      '2026-11-24 10:00',
      '2026-11-24 10:30',
      '2026-11-24 11:00',
      '2026-11-24 11:30',
      '2026-11-24 12:00',
    ])
    expect(times({ noticeHours: 2 })).toEqual(['2026-11-24 11:30', '2026-11-24 12:00'])
    const eleven = { startMs: Date.UTC(2026, 10, 24, 11), endMs: Date.UTC(2026, 10, 24, 11, 30) }
    expect(times({}, who({ taken: [eleven] }))).toEqual([
      '2026-11-24 09:30',
      '2026-11-24 10:00',
      '2026-11-24 11:30',
      '2026-11-24 12:00',
    ])
    expect(times({ bufferMinutes: 30 }, who({ taken: [eleven] }))).toEqual(['2026-11-24 09:30', '2026-11-24 12:00'])
  })

  it('lie on working days on which they are there, by their own clock', () => {
    const friday = who({
      hours: { workdays: [5], opensAt: 540, closesAt: 600, holidays: [{ date: '2026-11-27', name: 'Closed' }] },
    })
    expect(times({ daysAhead: 14 }, friday)).toEqual(['2026-12-04 09:00'])
    const away = { active: true, awayFrom: '2026-11-24', awayTo: '2026-12-01', zone: 'America/Halifax' }
    const [first] = freeStarts({ ...lengths, daysAhead: 14 }, who({ person: away }), NOW)
    expect(localMinute(first ?? 0, 'America/Halifax')).toMatch(/^2026-12-02.09:00/)
    expect(times({}, who({ person: { ...away, active: false } }))).toEqual([])
  })

  it('keep to all of it, whatever is asked', () => {
    fc.assert(
      fc.property(
        fc.record({
          minutes: fc.integer({ min: 5, max: 300 }),
          bufferMinutes: fc.constantFrom(0, 15, 60),
          noticeHours: fc.integer({ min: 0, max: 60 }),
          daysAhead: fc.integer({ min: 1, max: 20 }),
        }),
        fc.array(fc.tuple(fc.integer({ min: 0, max: 400 }), fc.integer({ min: 1, max: 9 })), { maxLength: 12 }),
        fc.constantFrom(null, 'Pacific/Auckland', 'America/Vancouver'),
        (asked, given, zone) => {
          const taken = given.map(([from, long]) => ({
            startMs: NOW + from * HOUR_MS,
            endMs: NOW + (from + long) * HOUR_MS,
          }))
          const of = who({ taken, person: { ...who().person, zone } })
          const found = freeStarts(asked, of, NOW)
          expect([...found].sort((a, b) => a - b)).toEqual(found)
          for (const at of found) {
            expect(at).toBeGreaterThanOrEqual(NOW + asked.noticeHours * HOUR_MS)
            expect(isFree(at, asked, taken)).toBe(true)
            const local = localMinute(at, zone ?? 'Europe/Lisbon')
            const minute = Number(local.slice(11, 13)) * 60 + Number(local.slice(14, 16))
            expect(minute).toBeGreaterThanOrEqual(540)
            expect(minute + asked.minutes).toBeLessThanOrEqual(780)
            expect(weekday(dateAt(at, zone ?? 'Europe/Lisbon'))).toBeLessThan(6)
          }
        },
      ),
      { numRuns: 200 },
    )
  })

  it('are with whoever has the fewest, the first of several', () => {
    const people = [
      { id: 'a', count: 2 },
      { id: 'b', count: 1 },
      { id: 'c', count: 1 },
    ]
    expect(whoseTurn(people)?.id).toBe('b')
    expect(whoseTurn([])).toBeNull()
  })
})
