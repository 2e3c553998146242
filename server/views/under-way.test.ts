import { describe, expect, it } from 'vitest'
import { document, enters, task, type StepLine } from '../../core/testing/rules'
import { larkmoor, switchOn } from '../testing/workspace'
import { underWay } from './under-way'

const wait = (count: number): StepLine => [
  'wait',
  { until: { at: 'after', amount: { count, unit: 'days' }, minute: null }, recheck: true },
]

describe('who stands where in a rule', () => {
  it('is told by step, in the order of the rule, with whoever goes on first', () => {
    const { workspace, clock } = larkmoor()
    const id = switchOn(
      workspace,
      document({ when: [enters('hp-quoted')], then: [wait(3), task('Ring'), wait(1), task('Write')] }),
    )
    const rule = () => workspace.store.rules.get(id)!
    expect(underWay(workspace, rule(), null)).toEqual([])
    const enter = (name: string, owner: string) => {
      const { ref } = workspace.create('deal', { name, stage: 'hp-sized', owner }, [], 'ines')
      workspace.change(ref, { stage: 'hp-quoted' }, 'ines')
    }
    enter('Early', 'rosa')
    clock.set(clock.nowMs() + 3_600_000)
    enter('Late', 'jude')
    const [step, ...others] = underWay(workspace, rule(), null)
    expect(others).toEqual([])
    expect(step).toMatchObject({ stepId: 's1', label: '1', count: 2 })
    expect(step?.says).toContain('3 days')
    expect(step?.records.map(({ name }) => name)).toEqual(['Early', 'Late'])
    // Whoever does not see all sees how many there are, and the names of their own.
    const own = underWay(workspace, rule(), new Set(['jude']))
    expect([own[0]?.count, own[0]?.records.map(({ name }) => name)]).toEqual([2, ['Late']])
  })
})
