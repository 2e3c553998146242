import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { compileGroup } from '../conditions/compile'
import { OPERATORS } from '../conditions/operators'
import { OPERATOR_NAMES } from '../conditions/operator-names'
import { alone, type LinkedSubject, type Subject } from '../conditions/subject'
import type { Field } from '../fields/field'
import type { Value, Values } from '../language/value'
import { OBJECTS, type ObjectKind } from '../records/kinds'
import { all, condition } from '../testing/rules'
import { randomRule } from '../testing/random-rules'
import { catalogue, moment } from '../testing/setting'
import { addFormula, addGroup, addWorth, nothing, reachOf, type Depends } from './depends'
import { compileFormula } from '../formulas/formula'

/** Values of a field that conditions can tell apart. */
function valueOf(field: Field): fc.Arbitrary<Value> {
  const some = (): fc.Arbitrary<Value> => {
    switch (field.type) {
      case 'number':
      case 'currency':
        return fc.constantFrom(-5, 0, 4, 5, 40_000)
      case 'date':
        return fc.constantFrom('2026-11-20', '2026-11-24', '2026-12-10', '2027-02-01')
      case 'dateTime':
        return fc.constantFrom(moment.nowMs - 86_400_000, moment.nowMs, moment.nowMs + 86_400_000)
      case 'yesNo':
        return fc.boolean()
      case 'choice':
        return fc.constantFrom(...field.choices.map(({ id }) => id))
      case 'choices':
        return fc.subarray(field.choices.map(({ id }) => id))
      case 'stage':
        return fc.constantFrom('hp-sized', 'hp-quoted', 'hp-signed', 'ren-due')
      case 'pipeline':
        return fc.constantFrom('hp', 'ren')
      case 'person':
        return fc.constantFrom('rosa', 'jude')
      default:
        return fc.constantFrom('', 'Two rooms', 'Lisbon', 'mila@bakery.example')
    }
  }
  return fc.oneof({ arbitrary: fc.constant(null), weight: 1 }, { arbitrary: some(), weight: 4 })
}
const valuesOf = (object: ObjectKind): fc.Arbitrary<Values> =>
  fc.record(Object.fromEntries(catalogue.fields(object).map((field) => [field.key, valueOf(field)])))
const everything = fc.record(
  Object.fromEntries(OBJECTS.map((object) => [object, valuesOf(object)])) as Record<ObjectKind, fc.Arbitrary<Values>>,
)

/** A record with one record of each kind linked to it, and from there on again, two links deep. */
function subject(own: Values, linked: Readonly<Record<string, Values>>, depth = 2): Subject {
  return {
    ...alone(own),
    linked: (object): readonly LinkedSubject[] =>
      depth === 0 || !linked[object] ? [] : [{ ...subject(linked[object], linked, depth - 1), main: true }],
  }
}
const dependsOf = (rule: {
  readonly object: ObjectKind
  readonly conditions: Parameters<typeof addGroup>[1]
}): Depends => {
  const depends = nothing()
  addGroup(depends, rule.conditions, rule.object, catalogue)
  const name = catalogue.field(rule.object, 'name')
  if (name) addWorth(depends, name, catalogue)
  return depends
}

describe('what conditions hang on', () => {
  it('is everything: no other field of the record changes whether they hold', () => {
    fc.assert(
      fc.property(
        randomRule.filter(({ object }) => object !== 'none'),
        everything,
        everything,
        (rule, before, other) => {
          const { own } = dependsOf(rule)
          const group = compileGroup(rule.conditions, rule.object, catalogue)
          const held = group.test(subject(before[rule.object], before), moment)
          const changed = Object.fromEntries(
            Object.entries(before[rule.object]).map(([key, value]) => [
              key,
              own.has(key) ? value : (other[rule.object][key] ?? null),
            ]),
          )
          expect(group.test(subject(changed, before), moment)).toBe(held)
        },
      ),
      { numRuns: 200 },
    )
  })

  it('is everything of linked records too', () => {
    fc.assert(
      fc.property(
        randomRule.filter(({ object }) => object !== 'none'),
        everything,
        everything,
        (rule, before, other) => {
          const { reaches } = dependsOf(rule)
          const group = compileGroup(rule.conditions, rule.object, catalogue)
          const own = before[rule.object]
          const linked = Object.fromEntries(
            OBJECTS.map((object) => {
              const asked = new Set(
                reaches.filter(({ path }) => path.at(-1) === object).flatMap(({ fields }) => [...fields]),
              )
              return [
                object,
                Object.fromEntries(
                  Object.entries(before[object]).map(([key, value]) => [
                    key,
                    asked.has(key) ? value : (other[object][key] ?? null),
                  ]),
                ),
              ]
            }),
          )
          expect(group.test(subject(own, linked), moment)).toBe(group.test(subject(own, before), moment))
        },
      ),
      { numRuns: 200 },
    )
  })

  it('is the day, where they ask of it', () => {
    const byDay = OPERATOR_NAMES.filter((op) => {
      const depends = nothing()
      addGroup(depends, all(condition('closeDate', op, OPERATORS[op].start)), 'deal', catalogue)
      return depends.byDay
    })
    expect(byDay).toEqual(['within', 'inNext', 'inLast', 'longAgo', 'farAhead'])
  })

  it('is of an amount its currency, and when the deal was closed', () => {
    const depends = nothing()
    addGroup(depends, all(condition('amount', 'moreThan', { value: 5 })), 'deal', catalogue)
    expect([...depends.own]).toEqual(['amount'])
    const name = catalogue.field('deal', 'name')
    if (!name) throw new Error('no name')
    addWorth(depends, name, catalogue)
    expect([...depends.own].sort()).toEqual(['amount', 'currency', 'stage', 'stageSince'])
    expect(depends.byRates).toBe(true)
  })

  it('is what a formula uses, of the record at the end of the path', () => {
    const read = compileFormula('amount * units > 5 and closeDate < today()', 'deal', catalogue)
    if (!read.ok) throw new Error('no formula')
    const own = nothing()
    addFormula(own, read.formula)
    expect([...own.own].sort()).toEqual(['amount', 'closeDate', 'units'])
    expect(own.byDay).toBe(true)
    const far = nothing()
    addFormula(far, read.formula, ['company', 'deal'])
    expect(far.own.size).toBe(0)
    expect([...reachOf(far, ['company', 'deal']).fields].sort()).toEqual(['amount', 'closeDate', 'units'])
    expect(far.reaches).toHaveLength(1)
  })
})
