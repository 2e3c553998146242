import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { compileGroup } from '../conditions/compile'
import { alone } from '../conditions/subject'
import { Catalogue } from '../fields/catalogue'
import { compileFormula } from '../formulas/formula'
import type { Values } from '../language/value'
import { all, condition } from '../testing/rules'
import { catalogue as plain, moment } from '../testing/setting'
import { cents, Rates } from './rates'
import { sayWorth } from './say'
import { heldAs, worthIn } from './worth'

const RATES = [
  { code: 'CAD', day: '2026-01-05', perOwn: 1.25 },
  { code: 'CAD', day: '2026-11-02', perOwn: 1.5 },
  { code: 'NZD', day: '2026-11-02', perOwn: 1.75 },
]
const catalogue = new Catalogue({ ...plain.data, rates: RATES })
const amount = catalogue.field('deal', 'amount')!
const worth = worthIn(amount, catalogue)
const closed = (day: string, values: Values): Values => ({
  stage: 'hp-signed',
  stageSince: Date.parse(`${day}T12:00:00Z`),
  ...values,
})

describe('a rate', () => {
  it('holds from its day until the next one, and not before the first', () => {
    const rates = new Rates(RATES, 'EUR')
    expect(
      ['2026-01-04', '2026-01-05', '2026-11-01', '2026-11-02', '2027-01-01'].map((day) => rates.on('CAD', day)),
    ).toEqual([null, 1.25, 1.25, 1.5, 1.5])
    expect([rates.on('CAD'), rates.on('EUR'), rates.on('PLN')]).toEqual([1.5, 1, null])
    expect(rates.codes).toEqual(['CAD', 'NZD'])
  })

  it('comes to cents, the half to the even one, of the number as it is written', () => {
    expect([1.005, 1.015, -1.005, 0.125, 2.675, 1e14 + 0.5].map(cents)).toEqual([1, 1.02, -1, 0.12, 2.68, 1e14 + 0.5])
    expect(Object.is(cents(-0.001), 0)).toBe(true)
  })
})

describe('the worth of an amount', () => {
  it('is by the newest rate while the record is open, and by that of the day it was closed', () => {
    expect(worth({ amount: 150, currency: 'cad', stage: 'hp-quoted' })).toBe(100)
    expect(worth(closed('2026-03-01', { amount: 150, currency: 'cad' }))).toBe(120)
    expect(worth(closed('2025-12-31', { amount: 150, currency: 'cad' }))).toBe(null)
    expect(worth({ amount: 150 })).toBe(150)
    expect(worth({ amount: 150, currency: 'eur' })).toBe(150)
    expect(worth({ amount: null, currency: 'cad' })).toBe(null)
  })

  it('is what conditions, other fields and formulas see; whether something is there is asked of what stands there', () => {
    const holds = (op: 'moreThan' | 'is' | 'isEmpty', params: object, values: Values, not = false): boolean =>
      compileGroup(all(condition('amount', op, params, not)), 'deal', catalogue).test(alone(values), moment)
    const cad = { amount: 15_000, currency: 'cad' }
    expect(holds('moreThan', { value: 10_000 }, cad)).toBe(false)
    expect(holds('moreThan', { value: 9_999 }, cad)).toBe(true)
    expect(holds('is', { value: 10_000 }, cad)).toBe(true)
    const none = { amount: 15_000, currency: 'pln' }
    expect([holds('moreThan', { value: 1 }, none), holds('isEmpty', {}, none)]).toEqual([false, false])
    const formula = compileFormula('amount * 0.1', 'deal', catalogue)
    if (!formula.ok) throw new Error(formula.problem.text)
    const linked = () => []
    expect(formula.formula.value({ values: cad, linked }, moment)).toBe(1000)
    expect(formula.formula.value({ values: none, linked }, moment)).toBe(null)
  })

  it('is told beside the amount', () => {
    expect(sayWorth(amount, { amount: 150, currency: 'cad' }, catalogue)).toBe('CA$150 (€100)')
    expect(sayWorth(amount, { amount: 150, currency: 'pln' }, catalogue)).toContain('(no rate)')
    expect(sayWorth(amount, { amount: 150, currency: 'eur' }, catalogue)).toBe('€150')
  })
})

const code = fc.constantFrom('eur', 'cad', 'nzd')
const euros = fc.integer({ min: -1e9, max: 1e9 }).map((n) => n / 100)
/** What a record holds that is worth so much, whatever its currency. */
const held = (value: number, currency: string): Values => ({
  currency,
  amount: heldAs(amount, catalogue, { currency }, value) as number,
})

describe('whatever two amounts are written in', () => {
  it('they compare as what they are worth', () => {
    const other = catalogue.field('deal', 'margin')!
    fc.assert(
      fc.property(euros, euros, code, code, (a, b, x, y) => {
        const [one, two] = [worth(held(a, x)) as number, worth(held(b, y)) as number]
        // A unit of each of these is worth less than one of ours, so that no cent is lost on the way there and back.
        expect([one, two]).toEqual([a, b])
        const asked = compileGroup(all(condition('amount', 'moreThan', { value: b })), 'deal', catalogue)
        expect(asked.test(alone(held(a, x)), moment)).toBe(a > b)
        const against = compileGroup(
          all(condition('amount', 'aboveField', { other: { via: null, field: 'margin' } })),
          'deal',
          catalogue,
        )
        const both = { ...held(a, x), margin: heldAs(other, catalogue, { currency: x }, b) }
        expect(against.test(alone(both), moment)).toBe(a > b)
      }),
      { seed: 18, numRuns: 500 },
    )
  })

  it('the order of three is the same whatever they are in', () => {
    fc.assert(
      fc.property(fc.tuple(euros, euros, euros), fc.tuple(code, code, code), (values, codes) => {
        const written = values.map((value, i) => ({ value, record: held(value, codes[i] ?? 'eur') }))
        const sorted = [...written].sort((p, q) => (worth(p.record) as number) - (worth(q.record) as number))
        expect(sorted.map((one) => one.value)).toEqual([...values].sort((p, q) => p - q))
      }),
      { seed: 18, numRuns: 300 },
    )
  })
})
