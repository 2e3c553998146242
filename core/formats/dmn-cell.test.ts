import { sayProblem } from '../language/problems'
import fc from 'fast-check'
import * as feelin from 'feelin'
import { describe, expect, it } from 'vitest'
import { catalogue } from '../testing/setting'
import type { Value } from '../language/value'
import type { Field } from '../fields/field'
import { passes } from '../tables/table'
import { readDmnCell } from './dmn-cell'

/** The oracle is feelin, an interpreter of the same language by other people; it is used in tests alone. */

const field = (key: string): Field => {
  const found = catalogue.field('deal', key)
  if (!found) throw new Error(key)
  return found
}
const [amount, name, close, customer] = ['amount', 'name', 'closeDate', 'customer'].map(field) as [
  Field,
  Field,
  Field,
  Field,
]
const oracle = (text: string, value: Value, of: Field): boolean | null => {
  const given = of === close && typeof value === 'string' ? feelin.date(value) : value
  try {
    const found: unknown = feelin.unaryTest(text, { '?': given }).value
    return typeof found === 'boolean' ? found : null
  } catch {
    return null
  }
}
/** `SKY_LEVER_CASES=20000 npx vitest run core/formats/dmn-cell` tries more of them. */
const CASES = Number(process.env.SKY_LEVER_CASES ?? 1500)

/** What stands in cells of files, and pieces of it put together any which way. */
const pieces = [
  ...['5', '10', '-3', '2.50', '.5', '1e3', '5%', '€ 5', '10 000', '100', '007'],
  ...['"m"', '"new"', '"a, b"', '"say \\"so\\""', '"unfinished', 'm', 'new', "'m'"],
  ...['date("2026-11-24")', '@"2026-12-01"', 'date("2026-02-30")', 'date(2026, 1, 1)', '2026-11-24'],
  ...['true', 'false', 'null', '-', 'today()', '? > 5', 'amount'],
  ...['<', '<=', '>', '>=', '=', '!='],
  ...['[', ']', '(', ')', '..', ',', 'not(', ' ', ''],
]
const texts = fc.oneof(
  fc.array(fc.constantFrom(...pieces), { minLength: 1, maxLength: 7 }).map((some) => some.join('')),
  fc.array(fc.constantFrom(...pieces), { minLength: 1, maxLength: 4 }).map((some) => some.join(' ')),
  fc
    .array(fc.constantFrom('1', '5', '10', '"new"', 'date("2026-11-24")', '< 5', '[1..5)'), {
      minLength: 1,
      maxLength: 3,
    })
    .map((some) => some.join(', ')),
  fc
    .array(fc.constantFrom('1', '5', '10', '"new"', 'null'), { minLength: 1, maxLength: 3 })
    .map((some) => `not(${some.join(', ')})`),
  fc
    .tuple(
      fc.constantFrom('[', '(', ']'),
      fc.constantFrom('1', '5', 'date("2026-11-24")'),
      fc.constantFrom('5', '9', '@"2026-12-01"'),
      fc.constantFrom(']', ')', '['),
    )
    .map(([a, from, to, z]) => `${a}${from}..${to}${z}`),
)
const VALUES: readonly (readonly [Field, readonly Value[]])[] = [
  [amount, [null, 0, 1, 4.99, 5, 5.01, 9, 10, 100, -3, 2.5, 0.5, 10_000]],
  [name, ['m', 'new', 'a, b', 'say "so"', '5', 'true', 'null', '-', 'x']],
  [close, [null, '2026-11-23', '2026-11-24', '2026-11-30', '2026-12-01', '2026-12-02']],
  [customer, [null, 'new', 'returning']],
]

describe('a cell of a DMN file', () => {
  it('is read as what the standard says of it, or refused', () => {
    let read = 0
    fc.assert(
      fc.property(texts, fc.constantFrom(...VALUES), (text, [of, values]) => {
        const cell = readDmnCell(text, of, catalogue)
        if (!cell.ok || cell.value.is === 'any') return
        read++
        for (const value of values) {
          // Nothing is none of some values; the oracle leaves that open (its answer is nothing).
          const other = oracle(text, value, of)
          if (value === null && other === null) continue
          expect([text, value, passes(cell.value, value, of, catalogue)]).toEqual([text, value, other ?? false])
        }
      }),
      { seed: 11, numRuns: CASES },
    )
    expect(read).toBeGreaterThan(CASES / 20)
  })

  it.each([
    ['100,200,300', amount, { is: 'values', values: [100, 200, 300], not: false }],
    ['not(null)', name, { is: 'filled' }],
    ['"true"', name, { is: 'values', values: ['true'], not: false }],
    ['"New", "returning"', customer, { is: 'values', values: ['new', 'returning'], not: false }],
    ['-', amount, { is: 'any' }],
    ['', amount, { is: 'any' }],
  ] as const)('takes %s', (text, of, cell) =>
    expect(readDmnCell(text, of, catalogue)).toEqual({ ok: true, value: cell }),
  )

  it.each([
    ['> "m"', name, 'A column of texts has no ranges.'],
    ['true', name, 'This is a column of texts, and needs a text in quotes.'],
    ['m', name, '“m” is not a fixed value.'],
    ['5', name, 'needs a text in quotes'],
    ['5%', amount, '“5%” is not a fixed value.'],
    ['€ 5', amount, 'is not a fixed value'],
    ['10 000', amount, '“000” is not understood here.'],
    ['"5"', amount, 'needs a number'],
    ['today()', close, '“today()” is not a fixed value.'],
    ['date("2026-02-30")', close, 'is not a date'],
    ['< 5, > 10', amount, 'Several ranges in one cell are not supported.'],
    ['not(< 5)', amount, 'Write the other range.'],
    ['null, 5', amount, 'null stands alone'],
    ['[5..1]', amount, 'The range contains no values.'],
    ['"rented"', customer, '"rented" is not a value of Customer.'],
  ] as const)('refuses %s', (text, of, reason) => {
    const cell = readDmnCell(text, of, catalogue)
    expect(cell.ok ? '' : sayProblem(cell.problem)).toContain(reason)
  })
})
