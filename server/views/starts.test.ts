import { describe, expect, it } from 'vitest'
import { all, condition, document, enters, set, task } from '../../core/testing/rules'
import { deal } from '../engine/derived.setting'
import { larkmoor, switchOn } from '../testing/workspace'
import { otherStarts, startButtons } from './starts'

const handOver = document(
  {
    when: [['byHand', { button: 'Hand over', facts: ['amount', 'notes'], questions: [] }], enters('hp-quoted')],
    onlyIf: all(condition('amount', 'moreThan', { value: 100 }, false, 'c1')),
    then: [set('units', 1)],
  },
  'Hands over',
)

describe('buttons of rules', () => {
  it('stand on records of their kind, with facts and what keeps a record out', () => {
    const { workspace } = larkmoor()
    const ruleId = switchOn(workspace, handOver)
    const read = (amount: number) => workspace.store.records.read(deal(workspace, { amount, notes: null }))
    const [fits] = startButtons(workspace, 'deal', read(200_000))
    expect(fits).toMatchObject({ ruleId, ruleName: 'Hands over', trigger: 't1', button: 'Hand over', keeps: null })
    expect(fits?.facts.map(({ label }) => label)).toEqual(['Amount', 'Notes'])
    expect(startButtons(workspace, 'deal', read(5))[0]?.keeps).toContain('amount')
    expect(startButtons(workspace, 'contact', null)).toEqual([])
  })

  it('say nothing of a record as long as none is chosen', () => {
    const { workspace } = larkmoor()
    switchOn(workspace, handOver)
    expect(startButtons(workspace, 'deal', null)).toMatchObject([{ facts: [], keeps: null }])
  })

  it('go with the rule: off means none', () => {
    const { workspace } = larkmoor()
    const ruleId = switchOn(workspace, handOver)
    workspace.store.rules.setState(ruleId, 'off', 'ines', 0)
    workspace.rulesChanged()
    expect(startButtons(workspace, 'deal', null)).toEqual([])
  })

  it('leave the others to be run for a list, by what else starts them', () => {
    const { workspace } = larkmoor()
    switchOn(workspace, handOver)
    const other = switchOn(workspace, document({ when: [enters('hp-quoted')], then: [task('Ring')] }, 'Rings'))
    expect(otherStarts(workspace, 'deal')).toEqual([
      { ruleId: other, ruleName: 'Rings', when: expect.stringContaining('Quoted') as string },
    ])
    expect(otherStarts(workspace, 'company')).toEqual([])
  })
})
