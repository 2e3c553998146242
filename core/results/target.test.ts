import { describe, expect, it } from 'vitest'
import { addUp, brokenDown, Tally } from './figures'
import { sayTarget, targetBy, targetResult } from './target'

const KEY = 'k'
function figures(done: [number, number], alone: [number, number], within = 0) {
  const tally = new Tally()
  tally.add(done[0], 'k reached')
  tally.add(done[1], 'k through')
  tally.add(alone[0], 'k alone reached')
  tally.add(alone[1], 'k alone through')
  tally.add(within, 'k within')
  return tally.figures()
}
const says = (done: [number, number], alone: [number, number], within = 0): string =>
  sayTarget(targetResult(figures(done, alone, within), KEY, 30), 30)

describe('what is said of a target', () => {
  it('is no more than can be told', () => {
    expect(says([0, 0], [0, 0])).toBe('No record has gone through this rule since its target was set.')
    expect(says([0, 0], [0, 0], 1)).toMatch(/^Too early to tell: 30 days .* one is still/)
    expect(says([0, 0], [0, 0], 7)).toMatch(/all 7 are still within that time\.$/)
    expect(says([3, 8], [0, 0])).toMatch(/^3 of 8 reached the target .* Too few to tell: about 12 more\.$/)
    expect(says([30, 80], [0, 0])).toMatch(/Without records left alone/)
    expect(says([30, 80], [8, 25])).toMatch(/Too few to tell whether that is because of the rule: about [\d,]+ more/)
    expect(says([60, 80], [4, 25])).toMatch(/The rule helps: 59 percentage points more/)
    expect(says([4, 80], [20, 25])).toMatch(/The rule does harm: 75 percentage points fewer/)
  })
})

describe('the curve of a target', () => {
  it('grows from day to day to the share that reached it', () => {
    const all = addUp([
      figures([4, 10], [1, 5]),
      { 'k reached|days|0': 1, 'k reached|days|2': 3, 'k alone reached|days|2': 1 },
    ])
    const { curve } = targetResult(all, KEY, 3)
    expect(curve).toEqual([
      { day: 0, done: 0.1, alone: 0 },
      { day: 1, done: 0.1, alone: 0 },
      { day: 2, done: 0.4, alone: 0.2 },
      { day: 3, done: 0.4, alone: 0.2 },
    ])
  })
})

describe('a breakdown', () => {
  it('has the most first, months in their order, and only what went through', () => {
    const all = {
      'k through|owner|rosa': 3,
      'k reached|owner|rosa': 1,
      'k through|owner|jude': 5,
      'other through|owner|ida': 5,
      'k through|month|2026-11': 2,
      'k through|month|2026-10': 1,
    }
    expect(targetBy(all, KEY, 'owner').map(({ value, done }) => [value, done.reached, done.of])).toEqual([
      ['jude', 0, 5],
      ['rosa', 1, 3],
    ])
    expect(targetBy(all, KEY, 'month').map(({ value }) => value)).toEqual(['2026-10', '2026-11'])
    expect([...brokenDown(all, 'month').keys()]).toEqual(['2026-11', '2026-10'])
  })
})
