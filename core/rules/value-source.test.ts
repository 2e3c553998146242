import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Field } from '../fields/field'
import { PLAIN_STYLE } from '../fields/kind'
import { FIELD_TYPES } from '../fields/types'
import { sayProblem } from '../language/problems'
import type { Value } from '../language/value'
import type { RecordSnapshot } from '../records/record'
import { catalogue, moment, TODAY } from '../testing/setting'
import { canAdd, checkSource, fits, resolveSource, saySource, type ValueSource, zSource } from './value-source'

const of = (key: string, object: 'deal' | 'contact' | 'company' = 'deal'): Field => {
  const field = catalogue.field(object, key)
  if (!field) throw new Error(`there is no field ${key}`)
  return field
}
const deal = (values: Readonly<Record<string, Value>> = {}): RecordSnapshot => ({
  object: 'deal',
  id: 1,
  version: 1,
  values: { name: 'Two rooms', ...values },
})
const company: RecordSnapshot = { object: 'company', id: 2, version: 1, values: { name: 'Tide Labs' } }
const resolve = (source: ValueSource, key: string, values: Readonly<Record<string, Value>> = {}) =>
  resolveSource(source, of(key), deal(values), moment, (object) => (object === 'company' ? company : null), {
    catalogue,
    linked: () => [],
  })
const check = (source: ValueSource, key: string): string => {
  const problem = checkSource(source, of(key), 'deal', catalogue)
  return problem ? sayProblem(problem) : 'fits'
}

const SOURCES: readonly ValueSource[] = [
  { from: 'value', value: 3 },
  { from: 'field', field: 'units' },
  { from: 'linked', via: 'company', field: 'name' },
  { from: 'add', value: 1 },
  { from: 'formula', text: 'amount * 2' },
  { from: 'formula', text: 'amount * 2', clears: true },
  { from: 'today' },
  { from: 'empty' },
]

describe('what a step writes', () => {
  it.each(SOURCES)('%j is read as it was kept, and with nothing more', (source) => {
    expect(zSource.parse(JSON.parse(JSON.stringify(source)))).toEqual(source)
    expect(zSource.safeParse({ ...source, more: 1 }).success).toBe(false)
  })

  it.each([
    [{ from: 'value', value: 3 }, 'units', '3'],
    [{ from: 'field', field: 'margin' }, 'amount', 'the margin'],
    [{ from: 'field', field: 'gone' }, 'amount', null],
    [{ from: 'linked', via: 'company', field: 'name' }, 'name', 'the company’s name'],
    [{ from: 'today' }, 'closeDate', 'today'],
    [{ from: 'formula', text: 'amount * 2' }, 'amount', 'amount * 2'],
    [{ from: 'formula', text: 'amount * 2', clears: true }, 'amount', 'amount * 2 (cleared if there is no result)'],
    [{ from: 'formula', text: '  ' }, 'amount', null],
    [{ from: 'empty' }, 'units', 'clear'],
  ] as readonly (readonly [ValueSource, string, string | null])[])('%j into %s is said as %s', (source, key, said) =>
    expect(saySource(source, of(key), 'deal', catalogue)).toBe(said),
  )

  it.each([
    [{ from: 'value', value: 3 }, 'units', 'fits'],
    [{ from: 'value', value: null }, 'units', /./],
    [{ from: 'value', value: 'many' }, 'units', /number/],
    [{ from: 'field', field: 'gone' }, 'units', 'Field “gone” does not exist.'],
    [{ from: 'field', field: 'name' }, 'units', /can’t be used in a number field/],
    [{ from: 'linked', via: 'company', field: 'gone' }, 'name', /does not exist/],
    [{ from: 'add', value: 1 }, 'units', 'fits'],
    [{ from: 'add', value: 1 }, 'closeDate', 'You can’t add to a date field.'],
    [{ from: 'add', value: null }, 'units', /./],
    [{ from: 'formula', text: '' }, 'units', /./],
    [{ from: 'formula', text: 'amount >' }, 'units', /^\d+–\d+: /],
    [{ from: 'formula', text: 'name' }, 'units', /gives (a )?text/],
    [{ from: 'today' }, 'closeDate', 'fits'],
    [{ from: 'today' }, 'units', /can’t be used/],
    [{ from: 'empty' }, 'units', 'fits'],
    [{ from: 'empty' }, 'name', /is required/],
  ] as readonly (readonly [ValueSource, string, string | RegExp])[])('%j into %s: %s', (source, key, said) => {
    if (typeof said === 'string') expect(check(source, key)).toBe(said)
    else {
      expect(check(source, key)).not.toBe('fits')
      expect(check(source, key)).toMatch(said)
    }
  })
})

describe('the value at a moment', () => {
  it.each([
    [{ from: 'value', value: 3 }, 'units', {}, 3],
    [{ from: 'field', field: 'units' }, 'units', { units: 7 }, 7],
    [{ from: 'field', field: 'gone' }, 'units', {}, null],
    [{ from: 'linked', via: 'company', field: 'name' }, 'name', {}, 'Tide Labs'],
    [{ from: 'linked', via: 'contact', field: 'name' }, 'name', {}, null],
    [{ from: 'add', value: 1 }, 'units', { units: 7 }, 8],
    [{ from: 'add', value: 1 }, 'units', {}, 1],
    [{ from: 'add', value: 0.1 }, 'units', { units: 0.2 }, 0.3],
    [{ from: 'add', value: 'again' }, 'name', {}, 'Two rooms again'],
    [{ from: 'add', value: 'again' }, 'notes', { notes: 'once' }, 'once\nagain'],
    [{ from: 'add', value: 'first' }, 'notes', {}, 'first'],
    [{ from: 'today' }, 'closeDate', {}, TODAY],
    [{ from: 'formula', text: 'units * 2' }, 'units', { units: 7 }, 14],
    [{ from: 'empty' }, 'units', { units: 7 }, null],
  ] as readonly (readonly [ValueSource, string, Readonly<Record<string, Value>>, Value])[])(
    '%j into %s of %j is %j',
    (source, key, values, value) => expect(resolve(source, key, values)).toMatchObject({ ok: true, value }),
  )

  it('is nothing where a formula comes to nothing, but where it is to clear the field', () => {
    const text = 'units * 2'
    expect(resolve({ from: 'formula', text }, 'units')).toEqual({ ok: true, nothing: true })
    expect(resolve({ from: 'formula', text, clears: true }, 'units')).toEqual({ ok: true, value: null })
  })

  it('is told why it is none', () => {
    expect(resolve({ from: 'formula', text: 'units >' }, 'units')).toMatchObject({
      ok: false,
      problem: { code: 'unreadFormula' },
    })
    expect(resolve({ from: 'formula', text: '1 / units' }, 'units', { units: 0 })).toEqual({
      ok: false,
      fault: { code: 'dividedByZero' },
    })
    expect(resolve({ from: 'today' }, 'units')).toMatchObject({ ok: false, problem: { code: 'wrongType' } })
  })

  it('grows by what is added, whatever the order, and never by a rounding', () => {
    const cents = fc.integer({ min: -1_000_000, max: 1_000_000 }).map((n) => n / 100)
    fc.assert(
      fc.property(fc.array(cents, { minLength: 1, maxLength: 12 }), (parts) => {
        const total = parts.reduce<Value>((held, value) => {
          const next = resolve({ from: 'add', value }, 'units', { units: held })
          return next.ok && 'value' in next ? next.value : null
        }, null)
        expect(total).toBe(Number((parts.reduce((sum, n) => sum + Math.round(n * 100), 0) / 100).toFixed(6)))
      }),
    )
  })

  it('fits what it was checked for: what is kept is of the type of its field', () => {
    for (const field of catalogue.fields('deal'))
      for (const source of SOURCES) {
        if (checkSource(source, field, 'deal', catalogue) !== null) continue
        const made = resolve(source, field.key, { units: 3, amount: 5, name: 'x' })
        expect([field.key, source.from, made.ok]).toEqual([field.key, source.from, true])
        if (!made.ok || !('value' in made) || made.value === null) continue
        const context = { catalogue, field, style: PLAIN_STYLE, pipelineId: null }
        expect([field.key, FIELD_TYPES[field.type].accept(made.value, context).ok]).toEqual([field.key, true])
      }
  })
})

describe('two fields', () => {
  it('fit themselves, but for choices of other fields', () => {
    for (const field of catalogue.fields('deal')) expect(fits(field, field)).toBe(true)
    const choices = (['deal', 'company', 'contact'] as const)
      .flatMap((object) => catalogue.fields(object))
      .filter(({ type }) => type === 'choice')
    for (const one of choices) for (const other of choices) expect(fits(one, other)).toBe(one.id === other.id)
  })
  it('take additions where they are numbers or texts', () => {
    expect(canAdd(of('units'))).toBe(true)
    expect(canAdd(of('notes'))).toBe(true)
    expect(canAdd(of('closeDate'))).toBe(false)
    expect(canAdd(of('stage'))).toBe(false)
  })
})
