import fc from 'fast-check'
import { sayProblem } from '../language/problems'
import { describe, expect, it } from 'vitest'
import type { Field } from '../fields/field'
import type { Value } from '../language/value'
import { readCell, writeCell } from './cell-text'
import { coverageOf, sayBox, type Box, type Piece } from './coverage'
import { decide, fittingRows, passes, zTable, type DecisionTable, type HitPolicy } from './table'
import { catalogue } from '../testing/setting'

const field = (key: string): Field => {
  const found = catalogue.field('deal', key)
  if (!found) throw new Error(key)
  return found
}
const [amount, customer, close] = [field('amount'), field('customer'), field('closeDate')]
const FIELDS = [amount, customer, close]

const table = (
  rows: readonly (readonly string[])[],
  hit: HitPolicy = 'unique',
  fields: readonly Field[] = [amount, customer],
): DecisionTable => ({
  hit,
  collect: 'list',
  inputs: fields.map(({ key }) => ({ via: null, field: key })),
  outputs: [{ key: 'thanks', label: 'Thanks', type: 'text' }],
  rows: rows.map((row, i) => ({
    id: `r${i}`,
    then: [`row ${i + 1}`],
    when: fields.map((one, at) => {
      const read = readCell(row[at] ?? '', one, catalogue)
      if (!read.ok) throw new Error(`${row[at]}: ${JSON.stringify(read.problem)}`)
      return read.value
    }),
  })),
})
const gapsOf = (of: DecisionTable, fields = [amount, customer]) =>
  coverageOf(of, fields, catalogue).gaps.map((gap) => sayBox(gap.box, fields, catalogue))

describe('tests of a cell', () => {
  it.each<[text: string, written: string, ...cases: [Value, boolean][]]>([
    ['< 10000', '< 10000', [9_999.99, true], [10_000, false], [null, false]],
    ['[10000..40000)', '[10000..40000)', [10_000, true], [39_999, true], [40_000, false]],
    [']10000..40000]', '(10000..40000]', [10_000, false], [40_000, true]],
    ['>= 40000', '>= 40000', [40_000, true]],
    ['100,200,300', '100, 200, 300', [100, true], [200, true], [100_200_300, false], [null, false]],
    ['not(1, 2.5)', 'not(1, 2.5)', [1, false], [3, true], [null, true]],
    ['', '-', [null, true], [5, true]],
    ['empty', 'empty', [null, true], [0, false]],
    ['filled', 'filled', [null, false], [0, true]],
    ['not(null)', 'filled', [null, false], [0, true]],
  ])('“%s” of an amount is %s', (text, written, ...cases) => {
    const read = readCell(text, amount, catalogue)
    if (!read.ok) throw new Error(text)
    for (const [value, fits] of cases)
      expect([value, passes(read.value, value, amount, catalogue)]).toEqual([value, fits])
    expect(writeCell(read.value, amount, catalogue)).toBe(written)
    const again = readCell(writeCell(read.value, amount, catalogue), amount, catalogue)
    expect(again.ok && cases.every(([value, fits]) => passes(again.value, value, amount, catalogue) === fits)).toBe(
      true,
    )
  })

  it.each<[text: string, of: Field, ...cases: [Value, boolean][]]>([
    ['new, Returning', customer, ['new', true], ['returning', true], [null, false]],
    ['not(new)', customer, ['new', false], ['returning', true], [null, true]],
  ])('“%s” of a choice', (text, of, ...cases) => {
    const read = readCell(text, of, catalogue)
    if (!read.ok) throw new Error(text)
    for (const [value, fits] of cases) expect([value, passes(read.value, value, of, catalogue)]).toEqual([value, fits])
  })

  it.each([
    ['10000..40000', amount, /Add brackets/],
    ['10000 to 40000', amount, /Add brackets/],
    ['[5..3]', amount, /contains no values/],
    ['(5..5]', amount, /contains no values/],
    ['much', amount, /is not a number/],
    ['5%', amount, /“5%” is not a plain number. Write 5./],
    ['€ 5', amount, /“€ 5” is not a plain number. Write 5./],
    ['10 000', amount, /Write 10000./],
    ['>= 40 000', amount, /Write 40000./],
    ['2,500', amount, /could be one number or several. Write 2500, or 2, 500./],
    ['< 5, > 10', amount, /One range, or several values/],
    ['not(< 5)', amount, /takes values/],
    ['> "m"', field('name'), /Texts have no order/],
    ['true', field('name'), /in quotes if it is a text/],
    ['[1..5]', field('name'), /in quotes if it is a text/],
    ['rented', customer, /is not a choice/],
    ['not("new)', customer, /is not closed/],
    ['new,', customer, /is not closed/],
    ['[2026-02-30..2026-03-01]', close, /is not a date/],
  ] as const)('“%s” is refused with its reason', (text, of, reason) => {
    const read = readCell(text, of, catalogue)
    expect(read.ok ? '' : sayProblem(read.problem)).toMatch(reason)
  })

  it('reads back what it writes', () => {
    const border = fc.option(fc.integer({ min: -1e6, max: 1e6 }), { nil: null })
    const band = fc
      .record({ is: fc.constant('band' as const), from: border, fromIn: fc.boolean(), to: border, toIn: fc.boolean() })
      .map((cell) => ({ ...cell, fromIn: cell.from !== null && cell.fromIn, toIn: cell.to !== null && cell.toIn }))
      .filter(
        ({ from, to, fromIn, toIn }) =>
          (from === null) !== (to === null) ||
          (from !== null && to !== null && (from < to || (from === to && fromIn && toIn))),
      )
    fc.assert(
      fc.property(band, (cell) => {
        expect(readCell(writeCell(cell, amount, catalogue), amount, catalogue)).toEqual({ ok: true, value: cell })
      }),
    )
    const texts = fc.record({
      is: fc.constant('values' as const),
      values: fc.uniqueArray(
        fc
          .string({ minLength: 1, maxLength: 12 })
          .map((one) => one.trim())
          .filter((one) => one !== ''),
        { minLength: 1, maxLength: 4 },
      ),
      not: fc.boolean(),
    })
    fc.assert(
      fc.property(texts, (cell) => {
        const read = readCell(writeCell(cell, field('name'), catalogue), field('name'), catalogue)
        expect(read).toEqual({ ok: true, value: cell })
      }),
    )
  })
})

describe('what a table leaves out and says twice', () => {
  it('finds nothing in one that is whole', () => {
    const whole = table([
      ['< 10000', '-'],
      ['[10000..40000)', 'New'],
      ['[10000..40000)', 'Returning'],
      ['[10000..40000)', 'empty'],
      ['>= 40000', '-'],
      ['empty', '-'],
    ])
    expect(coverageOf(whole, [amount, customer], catalogue)).toEqual({ gaps: [], overlaps: [], never: [], whole: true })
  })

  it('says which border falls in no row', () => {
    expect(
      gapsOf(
        table([
          ['< 2500', '-'],
          ['> 2500', '-'],
          ['empty', '-'],
        ]),
      ),
    ).toEqual(['amount exactly €2,500'])
  })

  it('says what is empty, and what only one of several choices has', () => {
    expect(
      gapsOf(
        table([
          ['< 10000', '-'],
          ['>= 10000', 'New'],
        ]),
      ),
    ).toEqual(['amount from €10,000, customer Returning, or empty', 'amount empty'])
  })

  it('finds a stretch and joins neighbours of it', () => {
    expect(
      gapsOf(
        table([
          ['< 10', '-'],
          ['[20..30]', 'New'],
          ['[20..30]', 'not(New)'],
          ['> 40', '-'],
          ['empty', '-'],
        ]),
      ),
    ).toEqual(['amount from €10 and less than €20, or more than €30 and up to €40'])
  })

  it('names rows that both fit, where only one may', () => {
    const double = table([
      ['<= 10000', '-'],
      ['>= 10000', '-'],
      ['empty', '-'],
    ])
    const { overlaps } = coverageOf(double, [amount, customer], catalogue)
    expect(overlaps.map(({ box, rows }) => [sayBox(box, [amount, customer], catalogue), rows])).toEqual([
      ['amount exactly €10,000', [0, 1]],
    ])
    expect(coverageOf({ ...double, hit: 'first' }, [amount, customer], catalogue).overlaps).toEqual([])
  })

  it('names rows that never have a say', () => {
    expect(
      coverageOf(
        table(
          [
            ['-', '-'],
            ['< 5', '-'],
          ],
          'first',
        ),
        [amount, customer],
        catalogue,
      ).never,
    ).toEqual([1])
  })

  it('knows that no day lies between two neighbouring ones', () => {
    const days = table([['<= 2026-11-24'], ['>= 2026-11-25'], ['empty']], 'unique', [close])
    expect(coverageOf(days, [close], catalogue).gaps).toEqual([])
  })

  it('agrees with asking for every value', () => {
    const cells: readonly (readonly string[])[] = [
      ['-', 'empty', '< 2', '<= 2', '> 2', '[1..3)', '(1..3]', '[2..2]', '>= 3'],
      ['-', 'empty', 'New', 'Returning', 'not(New)'],
      ['-', '<= 2026-11-24', '> 2026-11-24', '[2026-11-23..2026-11-26)', 'empty'],
    ]
    const values: readonly (readonly Value[])[] = [
      [null, 0, 1, 1.5, 2, 2.5, 3, 4],
      [null, 'new', 'returning'],
      [null, '2026-11-22', '2026-11-23', '2026-11-24', '2026-11-25', '2026-11-26', '2026-11-27'],
    ]
    const row = fc.tuple(...cells.map((texts) => fc.constantFrom(...texts)))
    fc.assert(
      fc.property(fc.array(row, { maxLength: 7 }), fc.constantFrom<HitPolicy>('unique', 'first'), (rows, hit) => {
        const of = table(rows, hit, FIELDS)
        const { gaps, overlaps, never } = coverageOf(of, FIELDS, catalogue)
        const said = new Set<number>()
        for (const a of values[0] ?? [])
          for (const b of values[1] ?? [])
            for (const c of values[2] ?? []) {
              const fitting = fittingRows(of, [a, b, c], FIELDS, catalogue)
              if (fitting[0] !== undefined) said.add(fitting[0])
              expect(gaps.some(({ box }) => inside(box, [a, b, c]))).toBe(fitting.length === 0)
              if (hit === 'unique')
                expect(overlaps.some((one) => inside(one.box, [a, b, c]) && one.rows.join() === fitting.join())).toBe(
                  fitting.length > 1,
                )
            }
        if (hit === 'first') expect(never).toEqual(of.rows.map((_, i) => i).filter((i) => !said.has(i)))
      }),
      { numRuns: 150 },
    )
  })
})

function inside(box: Box, values: readonly Value[]): boolean {
  return box.every((pieces, at) => pieces === null || pieces.some((piece) => holds(piece, values[at] ?? null)))
}

function holds(piece: Piece, value: Value): boolean {
  switch (piece.piece) {
    case 'empty':
      return value === null
    case 'value':
      return value === piece.value
    case 'other':
      return false
    case 'point':
      return value === piece.at
    case 'between':
      return (
        (typeof value === 'number' || (typeof value === 'string' && /^\d{4}-/.test(value))) &&
        (piece.from === null || value > piece.from) &&
        (piece.to === null || value < piece.to)
      )
  }
}

describe('deciding', () => {
  const several = table(
    [
      ['-', '-'],
      ['> 5', '-'],
    ],
    'unique',
  )
  it('follows the hit policy', () => {
    expect(decide(several, [1, null], [amount, customer], catalogue)).toEqual({
      ok: true,
      rows: [0],
      values: ['row 1'],
    })
    expect(decide(several, [9, null], [amount, customer], catalogue)).toEqual({
      ok: false,
      why: 'several',
      rows: [0, 1],
    })
    expect(decide({ ...several, hit: 'first' }, [9, null], [amount, customer], catalogue)).toMatchObject({
      values: ['row 1'],
    })
    expect(decide({ ...several, hit: 'collect' }, [9, null], [amount, customer], catalogue)).toMatchObject({
      rows: [0, 1],
      values: ['row 1, row 2'],
    })
    expect(decide({ ...several, rows: [] }, [9, null], [amount, customer], catalogue)).toEqual({
      ok: false,
      why: 'none',
    })
  })

  it('reckons with what it gathers', () => {
    const points: DecisionTable = {
      ...several,
      hit: 'collect',
      outputs: [{ key: 'points', label: 'Points', type: 'number' }],
      rows: several.rows.map((one, i) => ({ ...one, then: [i + 3] })),
    }
    expect(
      (['sum', 'min', 'max', 'count'] as const).map((collect) =>
        decide({ ...points, collect }, [9, null], [amount, customer], catalogue),
      ),
    ).toMatchObject([{ values: [7] }, { values: [3] }, { values: [4] }, { values: [2] }])
  })

  it('refuses a row that does not fit its columns, and what stands twice', () => {
    const wrong = { ...several, rows: [{ id: 'r1', when: [], then: ['x'] }] }
    expect(zTable.safeParse(wrong).error?.issues[0]).toMatchObject({
      path: ['rows', 0, 'when'],
      message: 'Row has 0 cells for 2 inputs.',
    })
    expect(zTable.safeParse({ ...several, outputs: [...several.outputs, ...several.outputs], rows: [] }).success).toBe(
      false,
    )
    expect(zTable.safeParse({ ...several, hit: 'priority' }).success).toBe(false)
  })
})
