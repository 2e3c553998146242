import { describe, expect, it } from 'vitest'
import { daysBefore, document, enters, given, set, task } from '../testing/rules'
import { catalogue } from '../testing/setting'
import { changeTrigger, duplicateStep } from './edit-kind'
import { zRule } from './schema'

const of = (...when: Parameters<typeof document>[0]['when']) => document({ when, then: [task('Ring')] })
const kindOf = (rule: ReturnType<typeof of>) => rule.triggers[0]

describe('another kind of trigger', () => {
  it('keeps what fits: the stage, the field, the time of day', () => {
    expect(kindOf(changeTrigger(of(enters('hp-quoted')), 't1', 'leavesStage', catalogue))).toMatchObject({
      id: 't1',
      kind: 'leavesStage',
      params: { stage: 'hp-quoted' },
    })
    const [kind, params] = daysBefore(3)
    const recurs = changeTrigger(of([kind, { ...params, minute: 615 }]), 't1', 'recurring', catalogue)
    expect(kindOf(recurs)?.params).toMatchObject({ minute: 615 })
    const changes = changeTrigger(of([kind, params]), 't1', 'fieldChanges', catalogue)
    expect(kindOf(changes)?.params).toMatchObject({ field: 'closeDate', how: 'anything' })
  })

  it('begins anew where it does not: a field that is no date', () => {
    const rule = of(['fieldChanges', { field: 'amount', how: 'up', from: null, to: null }])
    const dated = changeTrigger(rule, 't1', 'atDate', catalogue)
    expect(kindOf(dated)?.params).toMatchObject({ field: null })
    expect(zRule.safeParse(dated).success).toBe(true)
    expect(changeTrigger(rule, 't1', 'fieldChanges', catalogue)).toEqual(rule)
  })
})

describe('a step once more', () => {
  it('stands behind it with everything inside, under ids of its own', () => {
    const rule = document({
      when: [enters('hp-quoted')],
      then: [['choosePath', {}, [given('g1'), set('units', 1)], [null]], task('Last')],
    })
    const made = duplicateStep(rule, 's1')
    expect(made?.rule.steps.map(({ kind }) => kind)).toEqual(['choosePath', 'choosePath', 'createTask'])
    expect(made?.rule.steps[1]?.id).toBe(made?.id)
    expect(made?.rule.steps[1]?.branches?.[0]?.steps).toHaveLength(1)
    expect(zRule.safeParse(made?.rule).success).toBe(true)
    const inside = duplicateStep(rule, 's2')
    expect(inside?.rule.steps[0]?.branches?.[0]?.steps).toHaveLength(2)
    expect(duplicateStep(rule, 'gone')).toBeNull()
  })
})
