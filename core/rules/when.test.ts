import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { momentAt } from '../engine/moment'
import { isWorkday } from '../time/calendar'
import { dateAt } from '../time/dates'
import { MOMENT_UNITS, minuteAt } from '../time/moments'
import { catalogue, NOW_MS } from '../testing/setting'
import { anchorOf, checkWhen, sayWhen, shortWhen, whenAt, zWhen, type When } from './when'

const now = momentAt(NOW_MS, catalogue.workspace)
const { zone, calendar } = now
const DAY = 86_400_000

const amount = fc.record({ count: fc.integer({ min: 0, max: 400 }), unit: fc.constantFrom(...MOMENT_UNITS) })
const minute = fc.option(fc.integer({ min: 0, max: 1439 }))
const hours = fc
  .tuple(fc.integer({ min: 0, max: 1438 }), fc.integer({ min: 1, max: 1439 }), fc.boolean())
  .filter(([from, to]) => from < to)
  .map(([from, to, workdays]): When => ({ at: 'hours', from, to, workdays }))
const after = fc.record({ at: fc.constant('after' as const), amount, minute })
const dated = fc.record({
  at: fc.constant('field' as const),
  field: fc.constantFrom('closeDate', 'quoteSentOn', 'createdAt'),
  side: fc.constantFrom('before' as const, 'on' as const, 'after' as const),
  amount,
  minute,
})
const anyWhen: fc.Arbitrary<When> = fc.oneof(after, dated, hours)
/** Moments over three years, both changes of the clock among them. */
const moments = fc
  .integer({ min: -500, max: 600 })
  .chain((days) =>
    fc.integer({ min: 0, max: 1439 }).map((at) => momentAt(NOW_MS + days * DAY + at * 60_000, catalogue.workspace)),
  )

describe('a later moment', () => {
  it('counted from now never lies before it', () => {
    fc.assert(
      fc.property(after, moments, (when, moment) => {
        const at = whenAt(when, {}, 'deal', moment, catalogue)
        if (typeof at !== 'number') throw new Error('none')
        // A time of day may have passed on the very day that is meant.
        const today = when.minute !== null && dateAt(at, zone) === moment.today
        if (!today) expect(at).toBeGreaterThanOrEqual(moment.nowMs)
      }),
    )
  })

  it('is at the time of day that was said, but where the clock leaves that one out', () => {
    fc.assert(
      fc.property(after, moments, (when, moment) => {
        const at = whenAt(when, {}, 'deal', moment, catalogue)
        if (typeof at !== 'number') throw new Error('none')
        const { unit } = when.amount
        if (when.minute === null || unit === 'minutes' || unit === 'hours') return
        const late = minuteAt(at, zone) - when.minute
        expect([0, 60]).toContain(late)
      }),
    )
  })

  it('in working days is on one', () => {
    fc.assert(
      fc.property(after, moments, (when, moment) => {
        if (when.amount.unit !== 'workdays') return
        const at = whenAt(when, {}, 'deal', moment, catalogue)
        expect(isWorkday(dateAt(at as number, zone), calendar)).toBe(true)
      }),
    )
  })

  it('within hours is now, or the next beginning of them', () => {
    fc.assert(
      fc.property(hours, moments, (when, moment) => {
        if (when.at !== 'hours') return
        const at = whenAt(when, {}, 'deal', moment, catalogue) as number
        expect(at).toBeGreaterThanOrEqual(moment.nowMs)
        const minuteThere = minuteAt(at, zone)
        if (when.workdays) expect(isWorkday(dateAt(at, zone), calendar)).toBe(true)
        if (at === moment.nowMs) {
          expect(minuteThere).toBeGreaterThanOrEqual(when.from)
          expect(minuteThere).toBeLessThan(when.to)
        } else expect([0, 60]).toContain(minuteThere - when.from)
      }),
    )
  })

  it('before a date lies before it, and after it behind it, by as much as was said', () => {
    fc.assert(
      fc.property(dated, fc.integer({ min: -300, max: 300 }), (when, days) => {
        const date = dateAt(NOW_MS + days * DAY, zone)
        const values = { closeDate: date, quoteSentOn: date, createdAt: NOW_MS + days * DAY }
        if (when.field !== 'createdAt' && checkWhen(when, 'deal', catalogue) !== null) return
        const at = whenAt(when, values, 'deal', now, catalogue) as number
        const there = dateAt(at, zone)
        if (when.side === 'on' || when.amount.count === 0) {
          if (when.amount.unit !== 'workdays') expect(there).toBe(date)
        } else if (when.side === 'before') expect(there <= date).toBe(true)
        else expect(there >= date).toBe(true)
      }),
    )
  })

  it('of a date that the record does not have there is none, and why is said', () => {
    const when: When = {
      at: 'field',
      field: 'closeDate',
      side: 'before',
      amount: { count: 2, unit: 'days' },
      minute: null,
    }
    expect(whenAt(when, { closeDate: null }, 'deal', now, catalogue)).toEqual({
      none: { code: 'emptyField', field: 'Expected close' },
    })
    expect(whenAt({ ...when, field: 'gone' }, {}, 'deal', now, catalogue)).toEqual({
      none: { code: 'emptyField', field: 'The date' },
    })
    expect(whenAt({ ...when, field: 'name' }, { name: 'x' }, 'deal', now, catalogue)).toMatchObject({
      none: { code: 'emptyField' },
    })
  })

  it.each([
    [{ at: 'hours', from: 600, to: 600, workdays: true }, 'endBeforeStart'],
    [{ at: 'field', field: null, side: 'on', amount: { count: 0, unit: 'days' }, minute: null }, 'missing'],
    [{ at: 'field', field: 'gone', side: 'on', amount: { count: 0, unit: 'days' }, minute: null }, 'unknownField'],
    [{ at: 'field', field: 'name', side: 'on', amount: { count: 0, unit: 'days' }, minute: null }, 'notADateField'],
    [
      { at: 'field', field: 'closeDate', side: 'before', amount: { count: 2, unit: 'hours' }, minute: null },
      'noTimeOfDay',
    ],
  ] as const)('%o is not finished: %s', (when, code) => {
    expect(checkWhen(when, 'deal', catalogue)).toMatchObject({ code })
  })

  it('is said in whole words, long and short, and reads again as it was written', () => {
    fc.assert(
      fc.property(anyWhen, (when) => {
        const said = sayWhen(when, 'deal', catalogue)
        expect(said).not.toBe(null)
        for (const text of [said, shortWhen(when)]) expect(text).not.toMatch(/undefined|null|NaN|\s{2}/)
        expect(zWhen.parse(JSON.parse(JSON.stringify(when)))).toEqual(when)
        expect(anchorOf(when)).toBe(when.at === 'field' ? when.field : null)
      }),
    )
    expect(
      sayWhen(
        { at: 'field', field: null, side: 'on', amount: { count: 0, unit: 'days' }, minute: null },
        'deal',
        catalogue,
      ),
    ).toBe(null)
  })
})
