import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { all, condition } from '../testing/rules'
import { groupDepth, placedConditions, zGroup, type Group } from './document'
import { addNode, newCondition, removeNode, setConditionWord, setMode } from './edit'
import { OPERATORS, operatorsFor } from './operators'
import { catalogue } from '../testing/setting'

const allConditions = (of: Group) => placedConditions(of, 'deal').map((placed) => placed.condition)

const inner: Group = {
  kind: 'group',
  id: 'g1',
  mode: 'any',
  items: [condition('kind', 'is', { value: 'hire' }, false, 'c2')],
}
const group = all(condition('amount', 'moreThan', { value: 5 }, false, 'c1'), inner)
const word = (param: string, value: unknown, id = 'c1', of: Group = group) =>
  allConditions(setConditionWord(of, id, param, value, 'deal', catalogue)).find((one) => one.id === id)

describe('editing conditions', () => {
  it('reaches into groups and leaves the old one as it was', () => {
    const before = JSON.stringify(group)
    expect(allConditions(removeNode(group, 'c2')).map((one) => one.id)).toEqual(['c1'])
    expect(removeNode(group, 'g1').items).toHaveLength(1)
    expect(setMode(group, 'g1', 'none').items[1]).toMatchObject({ mode: 'none' })
    expect(setMode(group, 'c0', 'any').mode).toBe('any')
    expect(
      allConditions(addNode(group, 'g1', newCondition('c3', 'owner', 'deal', catalogue))).map((one) => one.id),
    ).toEqual(['c1', 'c2', 'c3'])
    expect(groupDepth(group)).toBe(2)
    expect(JSON.stringify(group)).toBe(before)
  })

  it('keeps the value when only the question changes, as one or as one of several', () => {
    expect(word('op', 'lessThan')).toMatchObject({ op: 'lessThan', not: false, params: { value: 5 } })
    expect(word('op', 'not moreThan')).toMatchObject({ op: 'moreThan', not: true, params: { value: 5 } })
    expect(word('op', 'isAnyOf', 'c2')).toMatchObject({ op: 'isAnyOf', params: { values: ['hire'] } })
    expect(word('op', 'is', 'c2', setConditionWord(group, 'c2', 'op', 'isAnyOf', 'deal', catalogue))).toMatchObject({
      params: { value: 'hire' },
    })
    expect(word('op', 'between')).toMatchObject({ params: { low: null, high: null } })
  })

  it('keeps the question when the other field is of the same type, and begins anew when it is not', () => {
    expect(word('field', 'margin')).toMatchObject({ field: 'margin', op: 'moreThan', params: { value: 5 } })
    expect(word('field', 'closeDate')).toMatchObject({ field: 'closeDate', op: operatorsFor('date')[0] })
    // A choice of one field says nothing about another's.
    expect(word('field', 'customer', 'c2')).toMatchObject({ field: 'customer', params: { value: null } })
  })

  it('whatever is done, the document stays one that can be read', () => {
    const fields = catalogue.fields('deal').map((field) => field.key)
    const act = fc.oneof(
      fc.constantFrom(...fields).map((key) => ({ param: 'field', value: key })),
      fc
        .constantFrom(...Object.keys(OPERATORS))
        .chain((op) => fc.boolean().map((not) => ({ param: 'op', value: not ? `not ${op}` : op }))),
    )
    fc.assert(
      fc.property(fc.array(act, { maxLength: 8 }), (acts) => {
        let now = group
        for (const { param, value } of acts) now = setConditionWord(now, 'c1', param, value, 'deal', catalogue)
        expect(zGroup.safeParse(now).success).toBe(true)
        for (const one of allConditions(now)) expect(OPERATORS[one.op].params.safeParse(one.params).success).toBe(true)
      }),
      { seed: 23, numRuns: 300 },
    )
  })
})
