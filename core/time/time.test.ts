import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { addWorkdays, isWorkday, workCalendar } from './calendar'
import {
  addDays,
  addMonths,
  dateAt,
  daysBetween,
  instantOf,
  isDate,
  localMinute,
  readDate,
  readInstant,
  startOfDate,
  weekday,
} from './dates'
import { sayDate, sayDay, sayInstant, sayRelative, sayWeekday } from './say'
import { namedSpan, shiftDate, SPAN_NAMES } from './spans'

const calendar = workCalendar({ workdays: [1, 2, 3, 4, 5], holidays: [{ date: '2026-12-08' }] })
const aDate = fc.integer({ min: -20_000, max: 30_000 }).map((days) => addDays('2000-01-01', days))

describe('dates', () => {
  it.each([
    ['2026-11-24', '2026-11-24'],
    ['2026/3/4', '2026-03-04'],
    ['24.11.2026', '2026-11-24'],
    ['3/4/26', '2026-04-03'],
    ['24 November 2026', '2026-11-24'],
    ['Nov 24th, 2026', '2026-11-24'],
    ['29.02.2028', '2028-02-29'],
    ['29.02.2026', null],
    ['31/04/2026', null],
    ['2026-13-01', null],
    ['24', null],
    ['tomorrow', null],
    ['13/13/2026', null],
    ['2026-11-24T00:00:00', '2026-11-24'],
  ])('%s reads as %s', (raw, date) => expect(readDate(raw, 'dayFirst')).toBe(date))

  it('reads slashes by the order that was chosen, points always day first', () => {
    expect(readDate('3/4/2026', 'monthFirst')).toBe('2026-03-04')
    expect(readDate('3.4.2026', 'monthFirst')).toBe('2026-04-03')
  })

  it('clamps months to their end', () => {
    expect([addMonths('2026-03-31', -1), addMonths('2028-03-31', -1), addMonths('2026-01-31', 1)]).toEqual([
      '2026-02-28',
      '2028-02-29',
      '2026-02-28',
    ])
  })

  it('writes what it reads', () =>
    fc.assert(
      fc.property(aDate, (date) => {
        expect(isDate(date)).toBe(true)
        expect(readDate(sayDate(date), 'dayFirst')).toBe(date)
      }),
      { seed: 1 },
    ))

  it('an instant lies in the date it is said to lie in, across daylight saving', () => {
    fc.assert(
      fc.property(
        aDate,
        fc.constantFrom('Europe/Lisbon', 'America/Halifax', 'Pacific/Auckland', 'UTC'),
        fc.integer({ min: 0, max: 23 }),
        (date, zone, hour) => {
          expect(dateAt(instantOf(date, hour, 30, zone), zone)).toBe(date)
          expect(dateAt(startOfDate(date, zone), zone)).toBe(date)
        },
      ),
      { seed: 2 },
    )
  })

  it('a time that is skipped is the first moment behind the gap, one that comes twice is the first', () => {
    expect(sayInstant(instantOf('2026-03-29', 1, 30, 'Europe/Lisbon'), 'Europe/Lisbon')).toBe('29 Mar 2026, 2:00')
    expect(instantOf('2026-10-25', 1, 30, 'Europe/Lisbon')).toBe(Date.UTC(2026, 9, 25, 0, 30))
  })

  it('reads date and time together', () => {
    expect(readInstant('2026-07-01 09:30', 'Europe/Lisbon', 'dayFirst')).toBe(Date.UTC(2026, 6, 1, 8, 30))
    expect(readInstant('2026-07-01T09:30:00+02:00', 'Europe/Lisbon', 'dayFirst')).toBe(Date.UTC(2026, 6, 1, 7, 30))
    expect(readInstant('1.7.2026 9:30', 'UTC', 'dayFirst')).toBe(Date.UTC(2026, 6, 1, 9, 30))
    expect(readInstant('2026-07-01 25:00', 'UTC', 'dayFirst')).toBeNull()
  })
})

describe('working days', () => {
  it('leave out weekends and holidays', () => {
    expect(addWorkdays('2026-12-04', 2, calendar)).toBe('2026-12-09')
    expect(addWorkdays('2026-12-05', 0, calendar)).toBe('2026-12-07')
    expect(addWorkdays('2026-12-09', -1, calendar)).toBe('2026-12-07')
  })

  it('land on a working day, with as many between as asked', () =>
    fc.assert(
      fc.property(aDate, fc.integer({ min: -40, max: 40 }), (date, count) => {
        const to = addWorkdays(date, count, calendar)
        expect(isWorkday(to, calendar)).toBe(true)
        const [low, high] = to < date ? [to, date] : [date, to]
        let between = 0
        for (let at = low; at < high; at = addDays(at, 1))
          if (isWorkday(count < 0 ? at : addDays(at, 1), calendar)) between++
        if (count !== 0) expect(between).toBe(Math.abs(count))
      }),
      { seed: 9 },
    ))

  it('need at least one day a week', () =>
    expect(() => workCalendar({ workdays: [], holidays: [] })).toThrow(RangeError))
})

describe('named spans', () => {
  it.each(SPAN_NAMES)('%s begins before it ends', (name) =>
    fc.assert(
      fc.property(aDate, (today) => {
        const { from, to } = namedSpan(name, today)
        if (to === null) return void expect(from).toBe(today)
        expect(from <= to).toBe(true)
        if (name.startsWith('this') || name === 'today') expect(from <= today && today <= to).toBe(true)
        if (name.endsWith('Week')) expect([weekday(from), weekday(to), daysBetween(from, to)]).toEqual([1, 7, 6])
      }),
      { seed: 4 },
    ),
  )

  it('last month is whole', () =>
    expect(namedSpan('lastMonth', '2026-03-31')).toEqual({ from: '2026-02-01', to: '2026-02-28' }))
  it('shifts by each unit', () =>
    expect(
      ['days', 'weeks', 'months', 'workdays'].map((unit) => shiftDate('2026-01-30', 1, unit as 'days', calendar)),
    ).toEqual(['2026-01-31', '2026-02-06', '2026-02-28', '2026-02-02']))
})

it('says days as people do', () => {
  const today = '2026-11-24'
  expect(
    ['2026-11-24', '2026-11-25', '2026-11-23', '2026-11-30', '2026-11-10', '2027-02-01'].map((date) =>
      sayRelative(date, today),
    ),
  ).toEqual(['today', 'tomorrow', 'yesterday', 'in 6 days', '14 days ago', '1 Feb 2027'])
  expect([sayDay('2026-01-05', today), sayWeekday('2026-11-24')]).toEqual(['5 Jan', 'Tue 24 Nov'])
})

it('an instant in a date-time box reads back as itself, in any zone', () => {
  // The hour that occurs twice is read as its first occurrence and cannot come back as the second.
  const twice = (atMs: number, zone: string) => localMinute(atMs, zone) === localMinute(atMs - 3_600_000, zone)
  fc.assert(
    fc.property(
      fc.integer({ min: 0, max: 60_000_000 }),
      fc.constantFrom('UTC', 'Europe/Lisbon', 'America/Halifax', 'Pacific/Auckland', 'Asia/Kolkata'),
      (minute, zone) => {
        const atMs = minute * 60_000
        expect(readInstant(localMinute(atMs, zone), zone, 'dayFirst')).toBe(twice(atMs, zone) ? atMs - 3_600_000 : atMs)
      },
    ),
    { seed: 12 },
  )
})
