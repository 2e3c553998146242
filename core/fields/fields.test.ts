import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sayProblem } from '../language/problems'
import type { Field } from './field'
import { PLAIN_STYLE } from './kind'
import { FIELD_TYPES } from './types'
import { readNumber } from './types/number'
import { foldText, sameValue } from '../language/value'
import { FIELD_TYPE_NAMES, type FieldTypeName } from '../language/field-types'
import { catalogue } from '../testing/setting'

const KEYS: Partial<Record<FieldTypeName, string>> = {
  choice: 'kind',
  stage: 'stage',
  pipeline: 'pipeline',
  person: 'owner',
  currency: 'amount',
}
const hire = [
  { id: 'hire', label: 'Hire' },
  { id: 'service', label: 'Service' },
]

function fieldOf(type: FieldTypeName): Field {
  const found = KEYS[type] ? catalogue.field('deal', KEYS[type]) : null
  return (
    found ?? {
      id: 1,
      object: 'deal',
      key: 'x',
      label: 'X',
      type,
      description: '',
      keptBy: null,
      required: false,
      choices: hire,
      currencyKey: null,
      synonyms: null,
    }
  )
}

describe.each(FIELD_TYPE_NAMES)('field type %s', (name) => {
  const type = FIELD_TYPES[name]
  const context = {
    catalogue: name === 'dateTime' ? zoned('UTC') : catalogue,
    field: fieldOf(name),
    style: PLAIN_STYLE,
    pipelineId: null,
  }

  it.each(type.examples)('reads %j as %j', (raw, value) => {
    expect(type.read(raw, context)).toEqual({ ok: true, value })
    // What was read is in its stored form: taking it again changes nothing, and it can be written for people.
    expect(type.accept(value, context)).toEqual({ ok: true, value })
    if (value !== null) expect(type.write(value, { catalogue, field: context.field, currency: null })).not.toBe('')
  })

  it('never throws on any text or value, and says what is wrong in words', () => {
    fc.assert(
      fc.property(
        fc.oneof(fc.string(), fc.float(), fc.boolean(), fc.constant(null), fc.array(fc.string(), { maxLength: 3 })),
        (given) => {
          for (const read of [
            typeof given === 'string' ? type.read(given, context) : null,
            type.accept(given, context),
          ]) {
            if (!read) continue
            if (!read.ok) expect(sayProblem(read.problem).length).toBeGreaterThan(3)
            else expect(type.accept(read.value, context)).toEqual(read)
          }
        },
      ),
      { seed: 3, numRuns: 200 },
    )
  })
})

function zoned(zone: string): typeof catalogue {
  return new (catalogue.constructor as new (data: typeof catalogue.data) => typeof catalogue)({
    ...catalogue.data,
    workspace: { ...catalogue.workspace, zone },
  })
}

describe('numbers as people write them', () => {
  it.each([
    ['1.234,50', 'point', 1234.5],
    ['1,234.50', 'comma', 1234.5],
    ['1.234', 'comma', 1234],
    ['1.234', 'point', 1.234],
    ['12,5', 'comma', 12.5],
    ['1 234 567,8', 'comma', 1_234_567.8],
    ['€ 1.000', 'comma', 1000],
    ['-€5', 'point', -5],
    ['12 %', 'point', 12],
    ['CAD 900', 'point', 900],
    ['1.234.567,89', 'comma', 1_234_567.89],
    ['0', 'point', 0],
    ['1,23,4', 'point', null],
    ['12.34.56', 'comma', null],
    ['', 'point', null],
    ['-', 'point', null],
    ['1e5', 'point', null],
    ['abc', 'point', null],
    ['12 apples', 'point', null],
  ] as const)('%s with a decimal %s is %s', (raw, decimal, value) => expect(readNumber(raw, decimal)).toBe(value))

  it('reads back what either style writes', () => {
    fc.assert(
      fc.property(fc.integer({ min: -99_999_999_99, max: 99_999_999_99 }), (cents) => {
        const value = cents / 100
        const english = value.toLocaleString('en-GB', { minimumFractionDigits: 2 })
        const german = english.replace(/[.,]/g, (mark) => (mark === '.' ? ',' : '.'))
        expect(readNumber(english, 'point')).toBe(value)
        expect(readNumber(german, 'comma')).toBe(value)
      }),
      { seed: 5 },
    )
  })
})

describe('values', () => {
  it('compares lists by their elements', () => {
    expect(sameValue(['a', 'b'], ['a', 'b'])).toBe(true)
    expect(sameValue(['a'], ['a', 'b'])).toBe(false)
    expect(sameValue(null, undefined)).toBe(true)
    expect(sameValue(0, null)).toBe(false)
  })

  it('folds case, blanks and accents', () => expect(foldText('  ÉCOLE   Łódź ')).toBe('ecole łodz'))

  it('shows money in the record’s own currency', () => {
    const field = catalogue.field('deal', 'amount')!
    expect(FIELD_TYPES.currency.write(1234.5, { catalogue, field, currency: 'NZD' })).toBe('NZ$1,234.50')
    expect(FIELD_TYPES.currency.write(40_000, { catalogue, field, currency: null })).toBe('€40,000')
  })

  it('never keeps a link that could run something', () => {
    const read = FIELD_TYPES.link.read('javascript:alert(1)', {
      catalogue,
      field: fieldOf('link'),
      style: PLAIN_STYLE,
      pipelineId: null,
    })
    expect(read.ok).toBe(false)
  })
})
