import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fieldOf, habitName, HabitReview, type Acts, type History } from './habit'

const HOUR = 3_600_000
const DAY = 24 * HOUR
const NOW = 200 * DAY
const FROM = NOW - 90 * DAY
const HABIT = { after: 'stage=quoted', then: 'labels+press', withinMs: DAY }

const at = (atMs: number, item: string, byHand = true) => ({ atMs, items: [item], numbers: [], byHand })
const sizeAt = (atMs: number, value: number) => ({
  atMs,
  items: [],
  numbers: [['amount', value] as const],
  byHand: true,
})
/** What a review says of one record's moments. */
function told(moments: History['moments'], acts: Acts | null = null, habit: HabitReviewed = HABIT) {
  const review = new HabitReview([habit], [acts], FROM, NOW)
  review.add({ id: 1, moments })
  const { right, tooMuch, missed } = review.past(90)[0] ?? { right: -1, tooMuch: -1, missed: -1 }
  return { right, tooMuch, missed }
}
type HabitReviewed = ConstructorParameters<typeof HabitReview>[0][number]

describe('what a rule for a habit would have done', () => {
  const quoted = FROM + 10 * DAY

  it('is right where somebody did it in time, and too much where nobody did', () => {
    expect(told([at(quoted, 'stage=quoted'), at(quoted + HOUR, 'labels+press')])).toEqual({
      right: 1,
      tooMuch: 0,
      missed: 0,
    })
    expect(told([at(quoted, 'stage=quoted')])).toEqual({ right: 0, tooMuch: 1, missed: 0 })
    expect(told([at(quoted, 'stage=quoted'), at(quoted + 2 * DAY, 'labels+press')])).toEqual({
      right: 0,
      tooMuch: 1,
      missed: 1,
    })
  })

  it('misses what somebody did without it, and not what a rule did', () => {
    expect(told([at(quoted, 'labels+press')])).toEqual({ right: 0, tooMuch: 0, missed: 1 })
    expect(told([at(quoted, 'labels+press', false)])).toEqual({ right: 0, tooMuch: 0, missed: 0 })
  })

  it('waits where the time is not over, and leaves out what was before the days that are asked about', () => {
    expect(told([at(NOW - HOUR, 'stage=quoted')])).toEqual({ right: 0, tooMuch: 0, missed: 0 })
    expect(told([at(FROM - DAY, 'stage=quoted')])).toEqual({ right: 0, tooMuch: 0, missed: 0 })
    // Begun before, done within: neither counted as right nor as missed.
    const across = [at(FROM - HOUR, 'stage=quoted'), at(FROM + HOUR, 'labels+press')]
    for (const acts of [null, new Map()]) expect(told(across, acts)).toEqual({ right: 0, tooMuch: 0, missed: 0 })
  })

  it('does not do again what was done before', () => {
    expect(told([at(quoted - DAY, 'labels+press'), at(quoted, 'stage=quoted')])).toEqual({
      right: 0,
      tooMuch: 0,
      missed: 1,
    })
  })

  it('goes by what the rule did in a rehearsal, where there was one', () => {
    const moments = [at(quoted, 'stage=quoted'), at(quoted + HOUR, 'labels+press')]
    expect(told(moments, new Map())).toEqual({ right: 0, tooMuch: 0, missed: 1 })
    expect(told(moments, new Map([[1, [quoted]]]))).toEqual({ right: 1, tooMuch: 0, missed: 0 })
    expect(told(moments, new Map([[1, [quoted, quoted + 5 * DAY]]]))).toEqual({ right: 1, tooMuch: 1, missed: 0 })
    expect(told(moments, new Map([[2, [quoted]]]))).toEqual({ right: 0, tooMuch: 0, missed: 1 })
    const review = new HabitReview([HABIT, HABIT], [new Map(), null], FROM, NOW)
    expect(review.past(90).map(({ rehearsed }) => rehearsed)).toEqual([true, false])
  })

  it('follows a number that passes a line', () => {
    const habit = { ...HABIT, after: { field: 'amount', above: 40_000 } }
    const size = (value: number) => told([sizeAt(quoted, value), at(quoted + HOUR, 'labels+press')], null, habit)
    expect(size(40_001)).toEqual({ right: 1, tooMuch: 0, missed: 0 })
    expect(size(40_000)).toEqual({ right: 0, tooMuch: 0, missed: 1 })
  })

  it('counts everything that was done by hand once: as right, or as missed', () => {
    const moment = fc.record({
      atMs: fc.integer({ min: FROM + DAY, max: NOW - 2 * DAY }),
      what: fc.constantFrom('stage=quoted', 'labels+press', 'labels+large'),
      byHand: fc.boolean(),
    })
    fc.assert(
      fc.property(fc.array(moment, { maxLength: 12 }), (given) => {
        const moments = given.sort((a, b) => a.atMs - b.atMs).map(({ atMs, what, byHand }) => at(atMs, what, byHand))
        const starts = moments.filter(({ items }) => items.includes('stage=quoted')).map(({ atMs }) => atMs)
        const byHand = moments.filter((one) => one.byHand && one.items.includes('labels+press')).length
        for (const acts of [null, new Map([[1, starts]])]) {
          const { right, tooMuch, missed } = told(moments, acts)
          expect(missed).toBeLessThanOrEqual(byHand)
          expect(right + tooMuch).toBeLessThanOrEqual(starts.length)
          // Two starts may be answered by one act; never the other way round.
          expect(right + missed).toBeGreaterThanOrEqual(right === 0 ? byHand : 1)
        }
      }),
    )
  })
})

describe('the name of a habit', () => {
  it('says what it follows and what is done', () => {
    expect(habitName(HABIT)).toBe('stage=quoted → labels+press')
    expect(habitName({ ...HABIT, after: { field: 'amount', above: 40_000 } })).toBe('amount>40000 → labels+press')
    expect([fieldOf('stage=quoted'), fieldOf('labels+press'), fieldOf('created')]).toEqual([
      'stage',
      'labels',
      'created',
    ])
  })
})
