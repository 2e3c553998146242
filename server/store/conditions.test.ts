import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { compileGroup } from '../../core/conditions/compile'
import type { Condition, Group } from '../../core/conditions/document'
import { OPERATORS, operatorsFor, type OperatorName } from '../../core/conditions/operators'
import { SPAN_NAMES, SPAN_UNITS } from '../../core/time/spans'
import type { Field } from '../../core/fields/field'
import { FIELD_TYPES, FIELD_TYPE_NAMES, type FieldTypeName } from '../../core/fields/types'
import type { Value, Values } from '../../core/fields/value'
import { larkmoor } from '../testing/workspace'
import type { Workspace } from '../engine/workspace'

const CHOICES = [{ id: 'a', label: 'Ähnlich' }, { id: 'b', label: 'B' }, { id: 'c', label: 'C' }]
const TEXTS = ['', 'Éclair', 'eclair', 'ECLAIR  two', 'a', 'b', '10', '9', '%', "it's", 'ß', 'İ', 'ﬁ', '100 %']
/** Around the ends of summer time in Lisbon and the turn of days, where a day is easily mistaken. */
const INSTANTS = ['2026-10-25T00:30:00Z', '2026-10-25T23:59:59.999Z', '2026-10-26T00:00:00Z', '2026-11-23T23:59:59.999Z', '2026-11-24T00:00:00Z', '2026-11-24T23:59:59.999Z', '2026-11-25T00:00:00Z', '2027-03-28T00:59:59Z', '2027-03-28T23:30:00Z'].map((text) => Date.parse(text))
const DATES = ['2026-10-25', '2026-11-16', '2026-11-22', '2026-11-23', '2026-11-24', '2026-11-25', '2026-11-30', '2026-12-01', '2027-02-28']

/** A workspace whose deals have a field of every type, some with an index and some without. */
function everyType(): { readonly workspace: Workspace; readonly fields: readonly Field[] } {
  const { workspace } = larkmoor()
  const types = FIELD_TYPE_NAMES.filter((type) => type !== 'stage' && type !== 'pipeline')
  workspace.addFields(types.flatMap((type, i) => [false, true].map((indexed) => ({
    object: 'deal' as const, key: `t${i}${indexed ? 'i' : ''}`, label: `${type} ${indexed ? 'indexed' : ''}`, type, description: '', keptBy: null, required: false, currencyKey: null,
    indexed, position: 100 + i, choices: type === 'choice' || type === 'choices' ? CHOICES : [],
  }))))
  return { workspace, fields: workspace.catalogue().fields('deal').filter((field) => /^t\d+i?$/.test(field.key)) }
}

function valueOf(type: FieldTypeName): fc.Arbitrary<Value> {
  switch (FIELD_TYPES[type].widget) {
    case 'number': return fc.constantFrom<Value>(null, 0, -1, 1, 1.5, 99.99, 100, 1e6)
    case 'date': return fc.constantFrom<Value>(null, ...DATES)
    case 'dateTime': return fc.constantFrom<Value>(null, ...INSTANTS)
    case 'yesNo': return fc.constantFrom<Value>(null, true, false)
    case 'choice': return fc.constantFrom<Value>(null, 'a', 'b', 'c')
    case 'choices': return fc.constantFrom<Value>(null, ['a'], ['a', 'b'], ['c'])
    case 'person': return fc.constantFrom<Value>(null, 'rosa', 'jude')
    case 'stage': return fc.constantFrom<Value>('hp-sized', 'hp-quoted')
    default: return type === 'email' ? fc.constantFrom<Value>(null, 'ida@lund.example', 'ole@lund.example')
      : type === 'phone' ? fc.constantFrom<Value>(null, '+351210000123', '+4412345678')
        : type === 'link' ? fc.constantFrom<Value>(null, 'https://lund.example/Path', 'https://lund.example/path') : fc.constantFrom<Value>(...TEXTS, null)
  }
}

/** Params for an operator as somebody could choose them, unfinished ones among them. */
function paramsOf(op: OperatorName, field: Field): fc.Arbitrary<object> {
  const value = valueOf(field.type)
  const number = fc.constantFrom(null, 0, 1, 1.5, 99.99, 100, -5)
  switch (op) {
    case 'is': return fc.record({ value })
    case 'contains': return fc.record({ value: fc.constantFrom<Value>(null, '', 'CLAIR', 'e', '%', 'lund', '35121', ' ') })
    case 'isAnyOf': return fc.record({ values: fc.array(valueOf(field.type).filter((one): one is string => typeof one === 'string'), { maxLength: 3 }) })
    case 'includes': return fc.record({ values: fc.subarray(['a', 'b', 'c', 'gone']) })
    case 'moreThan': case 'lessThan': return fc.record({ value: number })
    case 'between': return fc.record({ low: number, high: number })
    case 'within': return fc.record({ span: fc.constantFrom(...SPAN_NAMES) })
    case 'inNext': case 'inLast': case 'longAgo': case 'farAhead': return fc.record({ amount: fc.record({ count: fc.constantFrom(0, 1, 2, 5, 30), unit: fc.constantFrom(...SPAN_UNITS) }) })
    case 'before': case 'after': return fc.record({ date: fc.constantFrom(null, ...DATES, 'no date') })
    case 'isEmpty': return fc.constant({})
  }
}

/** `SKY_LEVER_CASES=10000 npx vitest run server/store/conditions` tries more of them. */
const CASES = Number(process.env.SKY_LEVER_CASES ?? 250)
let ids = 0
const conditionOn = (fields: readonly Field[]): fc.Arbitrary<Condition> => fc.constantFrom(...fields).chain((field) => fc.constantFrom(...operatorsFor(field.type)).chain((op) =>
  fc.record({ params: paramsOf(op, field), not: fc.boolean() }).map(({ params, not }): Condition => ({ kind: 'condition', id: `c${++ids}`, field: field.key, op, not, params }))))
const groupOn = (fields: readonly Field[]): fc.Arbitrary<Group> => fc.letrec<{ group: Group }>((tie) => ({
  group: fc.record({ mode: fc.constantFrom('all' as const, 'any' as const, 'none' as const), items: fc.array(fc.oneof({ maxDepth: 2, withCrossShrink: true }, conditionOn(fields), tie('group')), { maxLength: 3 }) })
    .map(({ mode, items }): Group => ({ kind: 'group', id: `g${++ids}`, mode, items })),
})).group

function fillWith(workspace: Workspace, fields: readonly Field[], count: number): readonly { readonly id: number; readonly values: Values }[] {
  const record = fc.record(Object.fromEntries(fields.map((field) => [field.key, valueOf(field.type)])))
  workspace.db.atomically(() => {
    fc.sample(record, { numRuns: count, seed: 5 }).forEach((values, i) => {
      workspace.createBy('deal', { ...values, name: `Deal ${i}`, stage: i % 2 ? 'hp-sized' : 'hp-quoted' }, [], { by: 'person', personId: 'ines' }, true)
    })
  })
  return [...workspace.store.records.scan('deal', workspace.catalogue().fields('deal').map((field) => field.key))]
}

describe('a condition as a predicate and as a query', () => {
  it('has every operator on every type it takes, with and without an index, empty values and negations included', () => {
    const { workspace, fields } = everyType()
    const all = fillWith(workspace, fields, 80)
    const catalogue = workspace.catalogue()
    const moment = workspace.moment()
    let compared = 0
    for (const field of [...fields, catalogue.field('deal', 'stage')!, catalogue.field('deal', 'pipeline')!]) {
      for (const op of operatorsFor(field.type)) {
        for (const [i, params] of fc.sample(paramsOf(op, field), { numRuns: 12, seed: 3 }).entries()) {
          const group: Group = { kind: 'group', id: 'g', mode: 'all', items: [{ kind: 'condition', id: 'c', field: field.key, op, not: i % 2 === 1, params }] }
          const plain = compileGroup(group, 'deal', catalogue)
          const found = workspace.store.records.matching('deal', workspace.store.records.where(group, 'deal', catalogue, moment), 1000).map((record) => record.id)
          expect(found, `${field.label} ${op} ${JSON.stringify(params)} ${i % 2}`).toEqual(all.filter((record) => plain.test(record.values, moment)).map((record) => record.id))
          compared += all.length
        }
      }
    }
    expect(compared).toBeGreaterThan(50_000)
    expect(Object.keys(OPERATORS)).toHaveLength(15)
  })

  it('agree on random groups, in what matches, what each lets through, and what is just missed', () => {
    const { workspace, fields } = everyType()
    const all = fillWith(workspace, fields, 60)
    const catalogue = workspace.catalogue()
    const { records } = workspace.store
    const moment = workspace.moment()
    fc.assert(fc.property(groupOn(fields), (group) => {
      const plain = compileGroup(group, 'deal', catalogue)
      const where = records.where(group, 'deal', catalogue, moment)
      const matched = all.filter((record) => plain.test(record.values, moment))
      expect(records.matching('deal', where, 1000).map((record) => record.id)).toEqual(matched.map((record) => record.id))
      const missed = all.flatMap((record) => plain.onlyMiss(record.values, moment) ?? [])
      const counts = records.counts('deal', where, group.mode === 'all')
      expect([counts.total, counts.matched, counts.near]).toEqual([all.length, matched.length, missed.length])
      plain.conditions.forEach(({ id }, i) => { expect(counts.alone.get(id)).toBe(all.filter((record) => plain.each(record.values, moment)[i]).length) })
      if (group.mode !== 'all') return
      const nearest = records.nearest('deal', where, 1000)
      expect(nearest.map(({ missId }) => missId).sort()).toEqual([...missed].sort())
      for (const { record, missId } of nearest) expect(plain.onlyMiss(record.values, moment)).toBe(missId)
      // The nearest come first, by the same measure as a single record is measured by.
      const gaps = nearest.map(({ record, missId }) => plain.explain(record.values, moment).find((seen) => seen.id === missId)?.gap ?? Infinity)
      for (const [i, gap] of gaps.slice(1).entries()) expect(gap).toBeGreaterThanOrEqual((gaps[i] ?? 0) - 1.05)
    }), { seed: 12, numRuns: CASES })
  })
})
