import fc from 'fast-check'
import { Temporal } from 'temporal-polyfill'
import { describe, expect, it } from 'vitest'
import {
  addMonthsTo,
  civilOf,
  dayNumber,
  dayOfText,
  dayOfYear,
  monthsBetween,
  readSpan,
  textOfDay,
  weekdayOf,
  weekOfYear,
  writeDays,
  writeMonths,
} from './calendar'

const plain = (day: number): Temporal.PlainDate => Temporal.PlainDate.from('1970-01-01').add({ days: day })
/** From the year 1000 to 9999. */
const days = fc.integer({ min: dayNumber(1000, 1, 1), max: dayNumber(9999, 12, 31) })

describe('days as numbers', () => {
  it('agree with the calendar of the standard, whatever the day', () => {
    fc.assert(
      fc.property(days, (day) => {
        const date = plain(day)
        expect(civilOf(day)).toEqual({ year: date.year, month: date.month, day: date.day })
        expect([dayNumber(date.year, date.month, date.day), textOfDay(day), dayOfText(date.toString())]).toEqual([
          day,
          date.toString(),
          day,
        ])
        expect([weekdayOf(day), dayOfYear(day), weekOfYear(day)]).toEqual([
          date.dayOfWeek,
          date.dayOfYear,
          date.weekOfYear,
        ])
      }),
      { numRuns: 400 },
    )
  })

  it('go on by months as the calendar does, and clamp to the month’s end', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: dayNumber(1200, 1, 1), max: dayNumber(9000, 1, 1) }),
        fc.integer({ min: -2000, max: 2000 }),
        (day, months) => {
          expect(addMonthsTo(day, months)).toBe(dayOfText(plain(day).add({ months }).toString()))
        },
      ),
      { numRuns: 400 },
    )
    expect(textOfDay(addMonthsTo(dayOfText('2028-02-29'), 12))).toBe('2029-02-28')
  })

  it('lie so many whole months apart, the same both ways round', () => {
    fc.assert(
      fc.property(days, fc.integer({ min: 0, max: 40_000 }), (from, more) => {
        const months = monthsBetween(from, from + more)
        expect(months).toBeGreaterThanOrEqual(0)
        expect(monthsBetween(from + more, from)).toBe(-months + 0)
        const [a, b] = [civilOf(from), civilOf(from + more)]
        expect(months).toBe((b.year - a.year) * 12 + b.month - a.month - (b.day < a.day ? 1 : 0))
      }),
      { numRuns: 300 },
    )
  })

  it('are none outside the years that a field can hold', () => {
    expect([textOfDay(dayNumber(999, 12, 31)), textOfDay(dayNumber(10_000, 1, 1))]).toEqual([null, null])
  })
})

describe('spans', () => {
  it.each([
    ['P14D', { is: 'days', value: 14 * 86_400_000 }],
    ['PT2H30M', { is: 'days', value: 9_000_000 }],
    ['-P1DT1S', { is: 'days', value: -86_401_000 }],
    ['P1Y2M', { is: 'months', value: 14 }],
    ['-P3M', { is: 'months', value: -3 }],
    ['P0D', { is: 'days', value: 0 }],
  ])('%s reads', (text, wanted) => {
    expect(readSpan(text)).toEqual(wanted)
  })

  it.each(['P', 'PT', 'P1DT', '14D', 'P1Y2D', 'P1M2DT3H', 'P1.5D', 'p1d', 'P-1D', ''])('“%s” does not', (text) => {
    expect(readSpan(text)).toBeNull()
  })

  it('read as they were written', () => {
    fc.assert(
      fc.property(fc.integer({ min: -4_000_000, max: 4_000_000 }), (seconds) => {
        expect(readSpan(writeDays(seconds * 1000))?.value).toBe(seconds * 1000)
      }),
      { numRuns: 300 },
    )
    fc.assert(
      fc.property(fc.integer({ min: -5000, max: 5000 }), (months) => {
        expect(readSpan(writeMonths(months))).toEqual({ is: 'months', value: months })
      }),
      { numRuns: 200 },
    )
  })
})
