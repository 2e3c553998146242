import { describe, expect, it } from 'vitest'
import { document, enters, task } from '../../core/testing/rules'
import { deal } from '../engine/derived.setting'
import { larkmoor, switchOn } from '../testing/workspace'
import { plannedFor } from './planned-for'

const waits = document(
  {
    when: [enters('hp-quoted')],
    then: [
      task('Ring'),
      ['wait', { until: { at: 'after', amount: { count: 3, unit: 'days' }, minute: null }, recheck: false }],
    ],
  },
  'Waits',
)

describe('what is planned for somebody', () => {
  it('is nothing for who has nothing, and says that nobody gets their tasks', () => {
    const { workspace } = larkmoor()
    const { lines, then } = plannedFor(workspace, 'edda')
    expect(lines).toEqual([])
    expect(then).toMatch(/no active deputy/)
  })

  it('names tasks, records, waiting runs and rules, each once and with its number', () => {
    const { workspace } = larkmoor()
    switchOn(workspace, waits)
    switchOn(
      workspace,
      document({ when: [enters('hp-terms')], then: [['assignOwner', { person: 'rosa', replace: true }]] }, 'Assigns'),
    )
    for (const name of ['A', 'B']) workspace.change(deal(workspace, { name }), { stage: 'hp-quoted' }, 'ines')
    deal(workspace, { name: 'C', owner: 'jude' })
    const { lines } = plannedFor(workspace, 'rosa')
    expect(lines.join('\n')).toContain('2 open tasks, which stay until someone hands them over')
    expect(lines).toContain('owner of 2 deals')
    expect(lines).toContain('2 waiting runs on those records')
    expect(lines).toContain('named in rule “Assigns”')
    expect(plannedFor(workspace, 'jude').lines).toContain('owner of 1 deal')
  })

  it('says who gets what comes later, as long as that one is there', () => {
    const { workspace } = larkmoor()
    const rosa = workspace.catalogue().person('rosa')!
    const deputy = workspace.catalogue().people.find((one) => one.id === rosa.deputyId)
    expect(plannedFor(workspace, 'rosa').then).toBe(
      deputy?.active
        ? `New tasks go to ${deputy.name}, the deputy.`
        : 'New tasks go to no one: there is no active deputy, so rules skip those steps and say so.',
    )
  })
})
