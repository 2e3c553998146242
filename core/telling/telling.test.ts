import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { isWorkday, workCalendar } from '../time/calendar'
import { dateAt, weekday } from '../time/dates'
import { instantAt, minuteAt } from '../time/moments'
import { nextTelling, sayTold, TELLING_TIMES, USUAL_TELLING, type Telling } from './telling'

const ZONE = 'Europe/Lisbon'
const calendar = workCalendar({ workdays: [1, 2, 3, 4, 5], holidays: [{ date: '2026-12-08' }] })
const mail: Telling = { ...USUAL_TELLING, by: 'mail', often: 'day' }
const at = (date: string, minute: number): number => instantAt(date, minute, ZONE)

describe('when somebody is told', () => {
  it('is never, for whoever looks in the app', () => {
    expect(nextTelling({ ...mail, by: 'app' }, at('2026-12-01', 600), ZONE, calendar)).toBeNull()
  })

  it('is at once, on a day on which they work, and else on the next', () => {
    const now: Telling = { ...mail, often: 'now' }
    expect(nextTelling(now, at('2026-12-01', 601), ZONE, calendar)).toBe(at('2026-12-01', 601))
    expect(nextTelling(now, at('2026-12-05', 601), ZONE, calendar)).toBe(at('2026-12-07', 480))
    expect(nextTelling({ ...now, daysOff: true }, at('2026-12-05', 601), ZONE, calendar)).toBe(at('2026-12-05', 601))
  })

  it('is once a day at the hour, over the weekend and the holiday', () => {
    expect(nextTelling(mail, at('2026-12-01', 479), ZONE, calendar)).toBe(at('2026-12-01', 480))
    expect(nextTelling(mail, at('2026-12-01', 480), ZONE, calendar)).toBe(at('2026-12-02', 480))
    expect(nextTelling(mail, at('2026-12-04', 480), ZONE, calendar)).toBe(at('2026-12-07', 480))
    expect(nextTelling(mail, at('2026-12-07', 480), ZONE, calendar)).toBe(at('2026-12-09', 480))
  })

  it('is once a week, and behind a day off where that falls on one', () => {
    const week: Telling = { ...mail, often: 'week', weekday: 2 }
    expect(nextTelling(week, at('2026-12-01', 480), ZONE, calendar)).toBe(at('2026-12-09', 480))
    expect(nextTelling({ ...week, daysOff: true }, at('2026-12-01', 480), ZONE, calendar)).toBe(at('2026-12-08', 480))
    expect(nextTelling({ ...week, weekday: 6 }, at('2026-12-01', 480), ZONE, calendar)).toBe(at('2026-12-07', 480))
  })

  it('lies ahead, at the chosen minute, on a day that fits, whatever was chosen', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 365 * 1440 }),
        fc.constantFrom(...TELLING_TIMES),
        fc.integer({ min: 0, max: 1439 }),
        fc.integer({ min: 1, max: 7 }),
        fc.boolean(),
        fc.constantFrom('Europe/Lisbon', 'America/Halifax', 'Pacific/Auckland'),
        (minutes, often, minute, day, daysOff, zone) => {
          const nowMs = at('2026-01-01', 0) + minutes * 60_000
          const next = nextTelling({ ...mail, often, minute, weekday: day, daysOff }, nowMs, zone, calendar)
          if (next === null) throw new Error('never')
          expect(next).toBeGreaterThanOrEqual(nowMs)
          if (next === nowMs) return
          const date = dateAt(next, zone)
          if (!daysOff) expect(isWorkday(date, calendar)).toBe(true)
          else if (often === 'week') expect(weekday(date)).toBe(day)
          expect(next - nowMs).toBeLessThanOrEqual(14 * 86_400_000)
          // A minute that a change of the clock leaves out is the first behind it.
          if (next === instantAt(date, minute, zone) && minuteAt(next, zone) !== minute)
            expect(minuteAt(next, zone)).toBeGreaterThan(minute)
        },
      ),
    )
  })
})

describe('what somebody is told', () => {
  const one = { subject: 'Look', body: 'Soon.', recordName: 'Two rooms', more: 0 }
  it('is itself when it is one, and a list when there are several', () => {
    expect(sayTold([one], 'Larkmoor')).toEqual({ subject: 'Look', body: 'Look (Two rooms)\nSoon.' })
    const several = sayTold([one, { ...one, body: '', more: 3 }], 'Larkmoor')
    expect(several.subject).toBe('2 notifications from Larkmoor')
    expect(several.body).toBe('Look (Two rooms)\nSoon.\n\nLook (Two rooms, and 3 more)')
    expect(
      sayTold(
        Array.from({ length: 50 }, () => one),
        'Larkmoor',
      ).body,
    ).toMatch(/And 10 more; see Notifications\.$/)
  })
})
