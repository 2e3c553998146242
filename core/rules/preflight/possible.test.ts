import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { compileGroup } from '../../conditions/compile'
import type { Group, Item } from '../../conditions/document'
import { alone } from '../../conditions/subject'
import type { Field } from '../../fields/field'
import { FIELD_TYPES } from '../../fields/types'
import type { Value, Values } from '../../language/value'
import type { ObjectKind } from '../../records/kinds'
import { addDays, startOfDate } from '../../time/dates'
import { randomRule } from '../../testing/random-rules'
import { condition } from '../../testing/rules'
import { catalogue, moment, TODAY } from '../../testing/setting'
import { allOf, combinations, goThrough, isStrict, necessary } from './possible'

const of = (mode: Group['mode'], ...items: readonly Item[]): Group => ({ kind: 'group', id: 'c0', mode, items })
const possible = (group: Group, fixed: Values = {}) => goThrough(group, 'deal', catalogue, moment, fixed)
const holds = (group: Group, object: ObjectKind, values: Values): boolean =>
  compileGroup(group, object, catalogue).test(alone(values), moment)

/** What a field of a record may hold, far and near what conditions ask. */
function valueOf(field: Field): fc.Arbitrary<Value> {
  const day = fc.integer({ min: -500, max: 500 }).map((by) => addDays(TODAY, by))
  const some = (): fc.Arbitrary<Value> => {
    switch (FIELD_TYPES[field.type].widget) {
      case 'number':
        return fc.oneof(fc.integer({ min: -10, max: 10 }), fc.integer({ min: -100_000, max: 100_000 }))
      case 'date':
        return day
      case 'dateTime':
        return fc.tuple(day, fc.nat(86_399_999)).map(([date, ms]) => startOfDate(date, moment.zone) + ms)
      case 'yesNo':
        return fc.boolean()
      case 'choice':
        return fc.constantFrom(...field.choices.map(({ id }) => id))
      case 'choices':
        return fc.subarray(field.choices.map(({ id }) => id))
      case 'stage':
        return fc.constantFrom(...catalogue.allStages().map(({ id }) => id))
      case 'pipeline':
        return fc.constantFrom(...catalogue.pipelines.map(({ id }) => id))
      case 'person':
        return fc.constantFrom(...catalogue.people.map(({ id }) => id))
      case 'text':
      case 'longText':
        return fc.oneof(fc.string({ minLength: 1, maxLength: 8 }), fc.constantFrom('Larkmoor', 'bakery', 'x'))
    }
  }
  return field.required ? some() : fc.option(some(), { nil: null, freq: 6 })
}
const valuesOf = (object: ObjectKind): fc.Arbitrary<Values> =>
  fc.record(Object.fromEntries(catalogue.fields(object).map((field) => [field.key, valueOf(field)])))
/** Conditions of every shape, with a record of their kind. */
const asked = randomRule.chain(({ object, conditions }) =>
  fc.record({ object: fc.constant(object), group: fc.constant(conditions), values: valuesOf(object) }),
)

describe('what must hold in any case', () => {
  it('holds wherever the whole does', () => {
    fc.assert(
      fc.property(asked, ({ object, group, values }) => {
        if (holds(group, object, values)) expect(holds(necessary(group, object, catalogue), object, values)).toBe(true)
      }),
      { endOnFailure: true, numRuns: 300 },
    )
  })

  it('is the whole where all of it can be gone through', () => {
    const group = of('all', condition('amount', 'moreThan', { value: 5 }), of('any', condition('units', 'isEmpty', {})))
    expect(isStrict(group, 'deal', catalogue)).toBe(true)
    expect(necessary(group, 'deal', catalogue)).toEqual(group)
  })

  it.each([
    ['a part of a text', condition('reference', 'contains', { value: 'x' })],
    ['the value before', { ...condition('amount', 'moreThan', { value: 5 }), at: 'before' as const }],
    ['a field that is not there', condition('colour', 'isEmpty', {})],
    ['an operator of another type', condition('kind', 'moreThan', { value: 5 })],
    ['what is not filled in', condition('amount', 'moreThan', { value: null })],
    ['a list of labels', condition('labels', 'includes', { value: 'press' })],
  ])('leaves out %s, and keeps what stands beside it', (_, endless) => {
    const kept = condition('amount', 'lessThan', { value: 9 })
    expect(necessary(of('all', endless, kept), 'deal', catalogue).items).toEqual([kept])
    // One of several that may hold says nothing of the others.
    expect(necessary(of('any', endless, kept), 'deal', catalogue).items).toEqual([])
    expect(isStrict(of('all', endless), 'deal', catalogue)).toBe(false)
  })
})

describe('going through what can be', () => {
  it('is borne out by every record', () => {
    let [never, always] = [0, 0]
    fc.assert(
      fc.property(asked, ({ object, group, values }) => {
        const strict = necessary(group, object, catalogue)
        const found = goThrough(strict, object, catalogue, moment)
        if (!found) return
        const held = holds(strict, object, values)
        if (!found.ever) expect(held).toBe(false)
        if (found.always) expect(held).toBe(true)
        if (!found.ever) never++
        if (found.always) always++
      }),
      { endOnFailure: true, numRuns: 300 },
    )
    // The rules of chance reach both ends.
    expect(never).toBeGreaterThan(0)
    expect(always).toBeGreaterThan(0)
  })

  const amount = (op: 'moreThan' | 'lessThan', value: number, not = false) => condition('amount', op, { value }, not)
  it.each<readonly [string, Group, { readonly ever: boolean; readonly always: boolean }]>([
    ['a gap between two numbers', allOf(amount('moreThan', 4), amount('lessThan', 5)), { ever: true, always: false }],
    ['two numbers that exclude', allOf(amount('moreThan', 5), amount('lessThan', 5)), { ever: false, always: false }],
    [
      'a thing and its contrary',
      of('any', amount('moreThan', 5), amount('moreThan', 5, true)),
      { ever: true, always: true },
    ],
    ['nothing at all', allOf(), { ever: true, always: true }],
    [
      'two values of one choice',
      allOf(condition('kind', 'is', { value: 'hire' }), condition('kind', 'is', { value: 'service' })),
      { ever: false, always: false },
    ],
    [
      'a date that passed, and one to come',
      allOf(condition('closeDate', 'before', { date: TODAY }), condition('closeDate', 'after', { date: TODAY })),
      { ever: false, always: false },
    ],
    ['none of what always is', of('none', of('all')), { ever: false, always: false }],
  ])('%s', (_, group, expected) => {
    expect(possible(group)).toEqual(expected)
  })

  it('goes by what is known already', () => {
    const group = allOf(amount('moreThan', 5))
    expect(possible(group, { amount: 6 })).toEqual({ ever: true, always: true })
    expect(possible(group, { amount: 5 })).toEqual({ ever: false, always: false })
    expect(possible(group, { amount: null })).toEqual({ ever: false, always: false })
  })

  it('gives up where there are too many ways', () => {
    const many = allOf(
      ...['amount', 'units', 'margin'].map((field) => condition(field, 'isEmpty', {})),
      ...['closeDate', 'quoteSentOn', 'siteVisit'].map((field) =>
        condition(field, 'inNext', { amount: { count: 9, unit: 'days' } }),
      ),
    )
    expect(combinations([many], 'deal', catalogue, moment)).toBeNull()
    expect(possible(many)).toBeNull()
  })

  it('has what is required nowhere empty', () => {
    const stages = combinations([allOf(condition('stage', 'isEmpty', {}))], 'deal', catalogue, moment)
    expect(stages?.map(({ stage }) => stage)).toEqual(catalogue.allStages().map(({ id }) => id))
    const kinds = combinations([allOf(condition('kind', 'isEmpty', {}))], 'deal', catalogue, moment)
    expect(kinds?.map(({ kind }) => kind)).toEqual([null, 'hire', 'purchase', 'service'])
  })
})
