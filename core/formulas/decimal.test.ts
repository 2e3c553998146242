import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { minus, over, plus, power, times } from './decimal'
import { compileFormula } from './formula'
import { momentAt } from '../engine/moment'
import { catalogue, NOW_MS } from '../testing/setting'

/** An oracle of its own: fractions of whole numbers of any length, read from the digits. */
interface Fraction {
  readonly top: bigint
  readonly bottom: bigint
}
function fraction(text: string): Fraction {
  const [, sign = '', whole = '0', rest = ''] = /^(-?)(\d+)(?:\.(\d+))?$/.exec(text) ?? []
  return { top: BigInt(`${sign}${whole}${rest}`), bottom: 10n ** BigInt(rest.length) }
}
/** Cents of a fraction, a half to the even one. */
function cents({ top, bottom }: Fraction): bigint {
  const [scaled, negative] = [(top < 0n ? -top : top) * 100n, top < 0n]
  const [whole, rest] = [scaled / bottom, scaled % bottom]
  const up = rest * 2n > bottom || (rest * 2n === bottom && whole % 2n === 1n)
  const found = whole + (up ? 1n : 0n)
  return negative ? -found : found
}

const decimal = (digits: number, places: number): fc.Arbitrary<string> =>
  fc
    .tuple(fc.boolean(), fc.bigInt({ min: 0n, max: 10n ** BigInt(digits) - 1n }), fc.integer({ min: 0, max: places }))
    .map(([negative, units, scale]) => {
      const text = String(units).padStart(scale + 1, '0')
      const point = text.length - scale
      return `${negative && units > 0n ? '-' : ''}${text.slice(0, point)}${scale > 0 ? `.${text.slice(point)}` : ''}`
    })

describe('decimals', () => {
  it.each([
    [plus(0.1, 0.2), 0.3],
    [plus(1.1, 2.2), 3.3],
    [minus(1000.1, 1000), 0.1],
    [minus(0.3, 0.1), 0.2],
    [times(1.1, 1.1), 1.21],
    [times(4.35, 100), 435],
    [times(1.005, 1000), 1005],
    [times(1e-7, 3), 3e-7],
    [times(123456789.123, 1000.001), 123456912579.78912],
    [over(0.3, 0.1), 3],
    [over(4.35, 100), 0.0435],
    [over(1, 3), 1 / 3],
    [power(1.1, 2), 1.21],
    [power(0.1, 3), 0.001],
    [power(2, -1), 0.5],
    [plus(9_007_199_254_740_991, 1), 9_007_199_254_740_992],
  ])('are as on paper: %d', (made, wanted) => {
    expect(made).toBe(wanted)
  })

  it('are the numbers nearest to the exact results', () => {
    fc.assert(
      fc.property(decimal(15, 9), decimal(12, 9), (x, y) => {
        const [a, b] = [fraction(x), fraction(y)]
        const near = (made: number, top: bigint, bottom: bigint): void => {
          // The exact result as a text with more digits than a number holds, read by the machine: the nearest.
          const digits = 60n
          const scaled = (top * 10n ** digits) / bottom
          expect(made + 0).toBe(Number(`${scaled}e-${digits}`) + 0)
        }
        near(plus(Number(x), Number(y)), a.top * b.bottom + b.top * a.bottom, a.bottom * b.bottom)
        near(minus(Number(x), Number(y)), a.top * b.bottom - b.top * a.bottom, a.bottom * b.bottom)
        near(times(Number(x), Number(y)), a.top * b.top, a.bottom * b.bottom)
      }),
      { numRuns: 5000 },
    )
  })

  it('a price times a rate is no cent off, in formulas too', () => {
    const made = compileFormula('decimal(amount * margin, 2)', 'deal', catalogue)
    if (!made.ok) throw new Error(made.problem.text)
    const moment = momentAt(NOW_MS, catalogue.workspace)
    fc.assert(
      fc.property(decimal(9, 2), decimal(7, 6), (price, rate) => {
        const [a, b] = [fraction(price), fraction(rate)]
        const wanted = cents({ top: a.top * b.top, bottom: a.bottom * b.bottom })
        // Results of more digits are not told apart by numbers; the document says so.
        const units = a.top * b.top
        fc.pre(units < 2n ** 52n && units > -(2n ** 52n))
        const values = { amount: Number(price), margin: Number(rate) }
        const got = made.formula.raw({ values, linked: () => [] }, moment)
        expect(Number(got) + 0).toBe(Number(`${wanted}e-2`) + 0)
      }),
      { numRuns: 20_000 },
    )
  })

  it('a quotient times the divisor is the dividend again, where it ends', () => {
    fc.assert(
      fc.property(decimal(7, 4), decimal(6, 3), (x, y) => {
        fc.pre(Number(y) !== 0)
        expect(over(times(Number(x), Number(y)), Number(y)) + 0).toBe(Number(x) + 0)
      }),
      { numRuns: 5000 },
    )
  })
})
