import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { numbers } from '../testing/numbers'
import { moreNeeded, newcombe, wilson, type Share } from './intervals'

const share = (reached: number, of: number): Share => ({ reached, of })

describe('the interval of a share', () => {
  // Worked examples: Newcombe, "Two-sided confidence intervals for the single proportion", Statistics in Medicine 17
  // (1998), table I, score method.
  it.each([
    [81, 263, 0.2553, 0.3662],
    [15, 148, 0.0624, 0.1605],
    [0, 20, 0, 0.1611],
    [1, 29, 0.0061, 0.1718],
  ])('of %i of %i is %f to %f, as published', (reached, of, low, high) => {
    const found = wilson(share(reached, of))
    expect(found.low).toBeCloseTo(low, 4)
    expect(found.high).toBeCloseTo(high, 4)
  })

  it('holds the share, lies within 0 and 1, and is as wide seen from the other side', () => {
    fc.assert(
      fc.property(fc.nat(5000), fc.nat(5000), (a, b) => {
        const [reached, of] = [Math.min(a, b), Math.max(a, b, 1)]
        const { low, high } = wilson(share(reached, of))
        expect(low).toBeGreaterThanOrEqual(0)
        expect(high).toBeLessThanOrEqual(1)
        expect(low).toBeLessThanOrEqual(reached / of)
        expect(high).toBeGreaterThanOrEqual(reached / of)
        expect(wilson(share(of - reached, of)).low).toBeCloseTo(1 - high, 10)
      }),
    )
    expect(wilson(share(0, 0))).toEqual({ low: 0, high: 1 })
  })
})

describe('the interval of a difference', () => {
  // Newcombe (1998), comparison of eleven methods, table II, method 10: examples (a) to (h), and two of them the other
  // way round.
  it.each([
    [56, 70, 48, 80, 0.0524, 0.3339],
    [9, 10, 3, 10, 0.1705, 0.809],
    [6, 7, 2, 7, 0.0582, 0.8062],
    [5, 56, 0, 29, -0.0381, 0.1926],
    [0, 10, 0, 20, -0.1611, 0.2775],
    [0, 10, 0, 10, -0.2775, 0.2775],
    [10, 10, 0, 20, 0.6791, 1],
    [10, 10, 0, 10, 0.6075, 1],
    [48, 80, 56, 70, -0.3339, -0.0524],
    [3, 10, 9, 10, -0.809, -0.1705],
  ])('of %i of %i and %i of %i is as published', (a, m, b, n, low, high) => {
    const found = newcombe(share(a, m), share(b, n))
    expect(found.low).toBeCloseTo(low, 4)
    expect(found.high).toBeCloseTo(high, 4)
  })
})

describe('in 10,000 trials of made-up records', () => {
  const TRIALS = 10_000
  const reachedOf = (next: () => number, of: number, p: number): Share => {
    let reached = 0
    for (let i = 0; i < of; i++) if (next() < p) reached++
    return share(reached, of)
  }

  it.each([
    [200, 0.3],
    [400, 0.12],
    [150, 0.5],
  ])('the share of %i at %f lies within its interval in 94 to 96 of a hundred', (of, p) => {
    const next = numbers(of)
    let held = 0
    for (let i = 0; i < TRIALS; i++) {
      const { low, high } = wilson(reachedOf(next, of, p))
      if (low <= p && p <= high) held++
    }
    expect(held / TRIALS).toBeGreaterThan(0.94)
    expect(held / TRIALS).toBeLessThan(0.96)
  })

  it.each([
    [300, 0.3, 100, 0.2],
    [200, 0.5, 200, 0.5],
    [400, 0.15, 120, 0.12],
  ])('the difference of %i at %f and %i at %f does too', (of, p, against, q) => {
    const next = numbers(of + against)
    let held = 0
    for (let i = 0; i < TRIALS; i++) {
      const { low, high } = newcombe(reachedOf(next, of, p), reachedOf(next, against, q))
      if (low <= p - q && p - q <= high) held++
    }
    expect(held / TRIALS).toBeGreaterThan(0.94)
    expect(held / TRIALS).toBeLessThan(0.96)
  })
})

describe('how many more are needed', () => {
  it('is nothing where the difference is told, or where there is none to tell', () => {
    expect(moreNeeded(share(300, 500), share(20, 100))).toBeNull()
    expect(moreNeeded(share(10, 50), share(2, 10))).toBeNull()
    expect(moreNeeded(share(0, 0), share(2, 10))).toBeNull()
  })

  it('is enough, and hardly more than that', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 60 }), fc.integer({ min: 1, max: 30 }), (a, b) => {
        const [one, other] = [share(a, 100), share(b, 50)]
        const more = moreNeeded(one, other)
        if (more === null) return
        const grown = (by: number, { reached, of }: Share): Share => {
          const times = (150 + by) / 150
          return share(reached * times, of * times)
        }
        const { low, high } = newcombe(grown(more + 1, one), grown(more + 1, other))
        expect(low > 0 || high < 0).toBe(true)
      }),
    )
  })
})
