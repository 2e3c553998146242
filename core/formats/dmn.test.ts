import { sayProblem } from '../language/problems'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Cell, DecisionTable } from '../tables/table'
import { readDmn, writeDmn } from './dmn'
import { names } from '../testing/setting'

const border = fc.integer({ min: -1000, max: 1000 })
const band: fc.Arbitrary<Cell> = fc.oneof(
  fc
    .tuple(border, border, fc.boolean(), fc.boolean())
    .filter(([a, b]) => a < b)
    .map(([from, to, fromIn, toIn]) => ({ is: 'band' as const, from, to, fromIn, toIn })),
  fc
    .tuple(border, fc.boolean())
    .map(([from, fromIn]) => ({ is: 'band' as const, from, fromIn, to: null, toIn: false })),
  fc.tuple(border, fc.boolean()).map(([to, toIn]) => ({ is: 'band' as const, from: null, fromIn: false, to, toIn })),
  fc.record({
    is: fc.constant('values' as const),
    values: fc.uniqueArray(border, { minLength: 2, maxLength: 4 }),
    not: fc.boolean(),
  }),
)
const common = fc.constantFrom<Cell>({ is: 'any' }, { is: 'empty' }, { is: 'filled' })
const valuesOf = (...values: readonly (string | boolean)[]): fc.Arbitrary<Cell> =>
  fc.record({
    is: fc.constant('values' as const),
    values: fc.subarray([...values], { minLength: 1 }),
    not: fc.boolean(),
  })
const days: fc.Arbitrary<Cell> = fc.constantFrom<Cell>(
  { is: 'band', from: '2026-01-31', fromIn: true, to: '2026-03-01', toIn: false },
  { is: 'band', from: null, fromIn: false, to: '2024-02-29', toIn: true },
)
const row = fc.record({
  when: fc.tuple(
    fc.oneof(common, band),
    fc.oneof(common, valuesOf('new', 'returning')),
    fc.oneof(common, days),
    fc.oneof(common, valuesOf('A <b> & "c"', 'with, comma', '-')),
  ),
  then: fc.tuple(
    fc.option(fc.string({ minLength: 1, maxLength: 30 })),
    fc.option(fc.integer()),
    fc.option(fc.boolean()),
  ),
})
const tables: fc.Arbitrary<DecisionTable> = fc
  .record({
    hit: fc.constantFrom('unique', 'first', 'collect'),
    collect: fc.constantFrom('list', 'count'),
    inputs: fc.constant([
      { via: null, field: 'amount' },
      { via: null, field: 'customer' },
      { via: null, field: 'closeDate' },
      { via: 'company' as const, field: 'name' },
    ]),
    outputs: fc.constant([
      { key: 'thanks', label: 'Thanks & more', type: 'text' as const },
      { key: 'points', label: 'Points', type: 'number' as const },
      { key: 'call', label: 'Call', type: 'yesNo' as const },
    ]),
    rows: fc.array(row, { maxLength: 8 }).map((rows) => rows.map((one, i) => ({ id: `r${i + 1}`, ...one }))),
  })
  .map((table) => (table.hit === 'collect' ? table : { ...table, collect: 'list' }))

describe('a decision table as a DMN file', () => {
  it('reads back what it writes', () => {
    fc.assert(
      fc.property(tables, fc.constantFrom('Thanks', 'Größe <&> "so"'), (table, name) => {
        expect(readDmn(writeDmn(table, name, names()), names())).toEqual({ ok: true, value: { name, table } })
      }),
      { numRuns: 300 },
    )
  })

  const file = (inside: string, policy = 'hitPolicy="UNIQUE"') => `<?xml version="1.0"?>
<dmn:definitions xmlns:dmn="https://www.omg.org/spec/DMN/20191111/MODEL/" name="x" namespace="y">
  <dmn:inputData id="i" name="amount"><dmn:variable name="amount" typeRef="number"/></dmn:inputData>
  <dmn:decision id="d" name="Thanks"><dmn:informationRequirement><dmn:requiredInput href="#i"/></dmn:informationRequirement>
    <dmn:decisionTable ${policy}>${inside}</dmn:decisionTable>
  </dmn:decision></dmn:definitions>`
  const columns =
    '<dmn:input><dmn:inputExpression typeRef="number"><dmn:text>deal.amount</dmn:text></dmn:inputExpression></dmn:input><dmn:output name="thank-you gift" typeRef="string"/>'
  const line = (test: string, result: string) =>
    `<dmn:rule><dmn:inputEntry><dmn:text>${test}</dmn:text></dmn:inputEntry><dmn:outputEntry><dmn:text>${result}</dmn:text></dmn:outputEntry></dmn:rule>`

  it('reads one that another program wrote', () => {
    expect(
      readDmn(file(columns + line('&lt; 10000', '"card"') + line('&gt;= 10000', '"hamper"'), ''), names()),
    ).toEqual({
      ok: true,
      value: {
        name: 'Thanks',
        table: {
          hit: 'unique',
          collect: 'list',
          inputs: [{ via: null, field: 'amount' }],
          outputs: [{ key: 'thankYouGift', label: 'thank-you gift', type: 'text' }],
          rows: [
            { id: 'r1', when: [{ is: 'band', from: null, fromIn: false, to: 10000, toIn: false }], then: ['card'] },
            { id: 'r2', when: [{ is: 'band', from: 10000, fromIn: true, to: null, toIn: false }], then: ['hamper'] },
          ],
        },
      },
    })
  })

  it.each([
    ['another hit policy', file(columns, 'hitPolicy="PRIORITY"'), /Hit policy PRIORITY is not supported/],
    [
      'a literal expression',
      file('').replace(
        /<dmn:decisionTable.*<\/dmn:decisionTable>/s,
        '<dmn:literalExpression><dmn:text>1</dmn:text></dmn:literalExpression>',
      ),
      /“literalExpression” is not supported/,
    ],
    [
      'a default output',
      file(columns.replace('typeRef="string"/>', 'typeRef="string"><dmn:defaultOutputEntry/></dmn:output>')),
      /“defaultOutputEntry” is not supported/,
    ],
    [
      'another language of expressions',
      file(columns, 'hitPolicy="UNIQUE" expressionLanguage="http://www.ecma-international.org/ecma-262"'),
      /“http:\/\/www.ecma-international.org\/ecma-262” is not supported. Only FEEL is./,
    ],
    [
      'another language in one cell',
      file(columns + line('5', '"x"').replace('<dmn:inputEntry>', '<dmn:inputEntry expressionLanguage="juel">')),
      /“juel” is not supported/,
    ],
    ['a cross table', file(columns, 'preferredOrientation="CrossTable"'), /Cross tables are not supported/],
    [
      'an aggregation without COLLECT',
      file(columns, 'hitPolicy="UNIQUE" aggregation="SUM"'),
      /goes with the hit policy/,
    ],
    [
      'an aggregation of texts',
      file(columns, 'hitPolicy="COLLECT" aggregation="SUM"'),
      /needs numbers, and “thank-you gift” is not one/,
    ],
    [
      'an input of another type than its field',
      file(columns.replace('typeRef="number"', 'typeRef="string"')),
      /Input 1: string in the file, but Amount is number/,
    ],
    [
      'a range of texts',
      file(columns.replace('deal.amount', 'deal.name').replace('typeRef="number"', '') + line('> "m"', '"x"')),
      /Row 1, input 1: A column of texts has no ranges/,
    ],
    [
      'two decisions',
      file(columns).replace('</dmn:definitions>', '<dmn:decision name="b"/></dmn:definitions>'),
      /2 decisions/,
    ],
    [
      'an unknown field',
      file(columns.replace('deal.amount', 'customer age')),
      /Input 1: “customer age” is not a field of deals/,
    ],
    ['an expression as a result', file(columns + line('-', '1 + 2')), /Row 1, output 1: Only a fixed text/],
    ['a test that is none', file(columns + line('much', '"a"')), /Row 1, input 1: “much” is not a fixed value/],
    [
      'a row that is too short',
      file(columns + '<dmn:rule><dmn:outputEntry><dmn:text>"a"</dmn:text></dmn:outputEntry></dmn:rule>'),
      /Row 1: 0 cells/,
    ],
    ['broken XML, with its line', '<definitions>\n<decision>\n</definitions>', /Line \d+, column \d+/],
    ['a document type', `<!DOCTYPE x [<!ENTITY a "b">]>${file(columns)}`, /Document types/],
    ['no table at all', '<definitions/>', /no d/],
  ])('refuses %s', (_what, text, reason) => {
    const read = readDmn(text, names())
    expect(read.ok ? '' : sayProblem(read.problem)).toMatch(reason)
  })
})
