import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Field } from '../fields/field'
import type { Values } from '../language/value'
import { checkRule } from '../rules/check'
import { all, condition, document } from '../testing/rules'
import { compileGroup, conditionSentence } from './compile'
import { alone } from './subject'
import { isAsk, EMPTY_GROUP, groupDepth, zGroup, type Group, type Item } from './document'
import { addNode, newCondition, removeNode, setConditionWord, setMode } from './edit'
import { OPERATORS, operatorsFor } from './operators'
import { plainSentence } from '../language/sentence'
import { OPERATOR_NAMES } from './operator-names'
import { FIELD_TYPE_NAMES } from '../language/field-types'
import { catalogue, moment } from '../testing/setting'

const fieldOf = (type: string): Field => {
  const found = catalogue.data.fields.find((field) => field.type === type)
  return (
    found ?? {
      ...catalogue.data.fields[0]!,
      type: type as Field['type'],
      choices: [
        { id: 'hire', label: 'Hire' },
        { id: 'service', label: 'Service' },
      ],
    }
  )
}

describe.each(OPERATOR_NAMES)('operator %s', (op) => {
  const operator = OPERATORS[op]

  it.each(operator.examples.map((example) => [JSON.stringify(example), example] as const))(
    '%s',
    (_name, { type, value, params, holds }) => {
      expect(operator.types).toContain(type)
      expect(operator.params.safeParse(params).success).toBe(true)
      const test = operator.compile(params, fieldOf(type), catalogue)
      expect(value === null && !operator.asksEmpty ? false : test(value, moment, alone({}))).toBe(holds)
    },
  )

  it('begins with params that its schema takes and a sentence that can be read', () => {
    expect(operator.params.safeParse(operator.start).success).toBe(true)
    for (const type of operator.types)
      expect(plainSentence(operator.sentence(operator.start, fieldOf(type), catalogue))).not.toMatch(/undefined|null/)
    expect(Object.keys(operator.form).sort()).toEqual(Object.keys(operator.start).sort())
  })

  it('holds for nothing while it is unfinished, and an empty value passes only its negation', () => {
    const [type] = operator.types
    const field = catalogue.data.fields.find((one) => one.type === type)
    if (!field) return
    const ask = (params: object, not: boolean) =>
      compileGroup(all(condition(field.key, op, params, not)), field.object, catalogue).test(alone({}), moment)
    if (operator.missing(operator.start).length > 0) {
      expect([ask(operator.start, false), ask(operator.start, true)]).toEqual([false, false])
    } else {
      expect([ask(operator.start, false), ask(operator.start, true)]).toEqual([operator.asksEmpty, !operator.asksEmpty])
    }
  })
})

describe('every type', () => {
  it.each(FIELD_TYPE_NAMES)('%s can be asked something, empty or not', (type) => {
    expect(operatorsFor(type)).toContain('isEmpty')
    expect(new Set(operatorsFor(type)).size).toBe(operatorsFor(type).length)
  })
})

describe('groups', () => {
  const yes = condition('units', 'is', { value: 1 }, false, 'y')
  const no = condition('units', 'is', { value: 2 }, false, 'n')
  const group = (mode: Group['mode'], ...items: Group['items']): Group => ({ kind: 'group', id: 'g', mode, items })
  const test = (one: Group) => compileGroup(one, 'deal', catalogue).test(alone({ units: 1 }), moment)

  it('an empty one lets everything through', () =>
    expect([test(group('all')), test(group('any')), test(group('none'))]).toEqual([true, true, true]))
  it('all, any, none', () => {
    expect([
      test(group('all', yes, no)),
      test(group('any', yes, no)),
      test(group('none', yes, no)),
      test(group('none', no)),
    ]).toEqual([false, true, false, true])
    expect(test(group('all', yes, group('any', no, group('none', no))))).toBe(true)
  })

  it('agrees with plain logic on random trees', () => {
    const leaf = fc
      .record({ field: fc.constantFrom('units', 'amount'), not: fc.boolean(), value: fc.integer({ min: 0, max: 2 }) })
      .map(({ field, not, value }) => condition(field, 'is', { value }, not, 'x'))
    const { tree } = fc.letrec<{ tree: Group }>((tie) => ({
      tree: fc.record({
        kind: fc.constant('group' as const),
        id: fc.constant('g'),
        mode: fc.constantFrom('all' as const, 'any' as const, 'none' as const),
        items: fc.array(fc.oneof({ maxDepth: 3 }, leaf, tie('tree')), { maxLength: 3 }),
      }),
    }))
    const plain = (node: Item, values: Values): boolean => {
      if (node.kind === 'linked' || node.kind === 'did' || isAsk(node)) throw new Error('there is none here')
      if (node.kind === 'condition') {
        const value = values[node.field] ?? null
        return (value !== null && value === (node.params as { value: number }).value) !== node.not
      }
      const answers = node.items.map((item) => plain(item, values))
      return node.mode === 'all'
        ? answers.every(Boolean)
        : node.mode === 'any'
          ? answers.length === 0 || answers.some(Boolean)
          : !answers.some(Boolean)
    }
    const maybe = fc.option(fc.integer({ min: 0, max: 2 }), { nil: null })
    fc.assert(
      fc.property(tree, maybe, maybe, (one, units, amount) => {
        expect(compileGroup(one, 'deal', catalogue).test(alone({ units, amount }), moment)).toBe(
          plain(one, { units, amount }),
        )
      }),
      { seed: 7, numRuns: 500 },
    )
  })

  it('finds the one thing a near miss fails, and none when two fail', () => {
    const compiled = compileGroup(
      all(
        condition('amount', 'moreThan', { value: 100 }, false, 'a'),
        condition('units', 'is', { value: 1 }, false, 'u'),
      ),
      'deal',
      catalogue,
    )
    expect(compiled.onlyMiss(alone({ amount: 99, units: 1 }), moment)).toBe('a')
    expect(compiled.onlyMiss(alone({ amount: 99, units: 2 }), moment)).toBeNull()
    expect(compiled.explain(alone({ amount: 99, units: 1 }), moment)[0]).toMatchObject({
      holds: false,
      off: '€1 below the limit',
      gap: 1,
    })
  })

  it('refuses what is no group, by place', () => {
    expect(zGroup.safeParse({ kind: 'group', id: 'g', mode: 'most', items: [] }).success).toBe(false)
    expect(
      zGroup.safeParse({ kind: 'group', id: 'g', mode: 'all', items: [{ ...yes, op: 'sounds like' }] }).success,
    ).toBe(false)
  })

  it('the edge of relative days moves with the day and not only at compiling', () => {
    const compiled = compileGroup(all(condition('closeDate', 'within', { span: 'today' })), 'deal', catalogue)
    expect(compiled.test(alone({ closeDate: '2026-11-24' }), moment)).toBe(true)
    expect(compiled.test(alone({ closeDate: '2026-11-24' }), { ...moment, today: '2026-11-25' })).toBe(false)
    const ahead = compileGroup(
      all(condition('closeDate', 'inNext', { amount: { count: 1, unit: 'workdays' } })),
      'deal',
      catalogue,
    )
    expect(ahead.test(alone({ closeDate: '2026-11-30' }), { ...moment, today: '2026-11-27' })).toBe(true)
    expect(ahead.test(alone({ closeDate: '2026-11-30' }), moment)).toBe(false)
  })
})

describe('editing', () => {
  it('keeps the value when the operator changes and the type allows it', () => {
    const start = addNode(EMPTY_GROUP, 'c0', newCondition('c1', 'amount', 'deal', catalogue))
    const valued = setConditionWord(start, 'c1', 'value', 5, 'deal', catalogue)
    const asked = setConditionWord(valued, 'c1', 'op', 'not moreThan', 'deal', catalogue)
    expect(asked.items[0]).toMatchObject({ op: 'moreThan', not: true, params: { value: 5 } })
    const kind = setConditionWord(asked, 'c1', 'field', 'kind', 'deal', catalogue)
    expect(kind.items[0]).toMatchObject({ field: 'kind', op: 'is', not: false, params: { value: null } })
    const one = setConditionWord(kind, 'c1', 'value', 'hire', 'deal', catalogue)
    expect(setConditionWord(one, 'c1', 'op', 'isAnyOf', 'deal', catalogue).items[0]).toMatchObject({
      params: { values: ['hire'] },
    })
    expect(start.items[0]).toMatchObject({ params: { value: null } })
  })

  it('nests, joins and takes out', () => {
    const nested = addNode(
      addNode(EMPTY_GROUP, 'c0', { kind: 'group', id: 'c1', mode: 'any', items: [] }),
      'c1',
      newCondition('c2', 'units', 'deal', catalogue),
    )
    expect(groupDepth(nested)).toBe(2)
    expect(setMode(nested, 'c1', 'none').items[0]).toMatchObject({ mode: 'none' })
    expect(removeNode(nested, 'c2').items[0]).toMatchObject({ items: [] })
  })

  it('says a condition on a field that has gone as something to be mended', () => {
    expect(conditionSentence(condition('gone', 'is', { value: 1 }), 'deal', catalogue)).toContainEqual({
      param: 'field',
      text: 'gone',
      missing: true,
    })
  })
})

describe('a field compared with another one', () => {
  it.each([
    ['closeDate', 'laterThan', 'createdAt', /^“Creation date” has a time of day.*date\(…\)/],
    ['createdAt', 'sameAs', 'closeDate', /^“Creation date” has a time of day/],
    ['margin', 'aboveField', 'name', /^“Margin” can’t be compared with “Name”\.$/],
    ['margin', 'aboveField', 'confetti', /^Field “confetti” does not exist\.$/],
  ] as const)('%s %s %s is refused with what would do instead', (key, op, other, said) => {
    const given = document({
      when: [],
      onlyIf: all(condition(key, op, { other: { via: null, field: other } })),
      then: [],
    })
    const texts = checkRule(given, catalogue).map((finding) => finding.text)
    expect(texts.find((text) => said.test(text))).toBeDefined()
  })
})
