import { describe, expect, it } from 'vitest'
import { all, condition, document, enters, move, set, task, type StepLine } from '../../core/testing/rules'
import { refusal } from '../testing/refusal'
import { larkmoor, switchOn } from '../testing/workspace'
import { changeField } from './fields'
import { removeStage } from './pipelines'
import { retype } from './retype'
import { makeSegment, removeSegment } from './segments'
import type { Workspace } from './workspace'

const wait: StepLine = [
  'wait',
  { until: { at: 'after', amount: { count: 3, unit: 'days' }, minute: null }, recheck: true },
]
/** A rule whose first version waits and then needs something that its second one no longer names; two runs wait. */
function waiting(workspace: Workspace, needs: StepLine, also: Parameters<typeof document>[0]['when'] = []): number {
  const rule = switchOn(workspace, document({ when: [enters('hp-quoted'), ...also], then: [wait, needs] }, 'Slow'))
  for (const name of ['A', 'B']) {
    const { ref } = workspace.create('deal', { name, stage: 'hp-visit', owner: 'rosa' }, [], 'ines')
    workspace.change(ref, { stage: 'hp-quoted' }, 'ines')
  }
  const next = document({ when: [enters('hp-terms')], then: [task('Nothing of it')] }, 'Slow')
  workspace.store.rules.publish(rule, next, 'ines', workspace.clock.nowMs())
  workspace.store.rules.saveDraft(rule, next, 1, 'ines', workspace.clock.nowMs())
  workspace.rulesChanged()
  return rule
}
const STILL = '2 waiting runs of version 1 of rule “Slow” still need it. Let them finish, or end them in Ahead.'

describe('what runs that wait still need', () => {
  it.each([
    ['a field that a step sets', set('units', 7), 'units'],
    ['a field that a text names', task('Ring about {{deal.margin}}'), 'margin'],
  ])('keeps %s from being archived, or getting another type', (_, step, key) => {
    const { workspace } = larkmoor()
    const rule = waiting(workspace, step)
    const field = workspace.catalogue().field('deal', key)
    if (!field) throw new Error('there is a field')
    expect(refusal(() => changeField(workspace, field, { archived: true }))).toContain(STILL)
    expect(refusal(() => retype(workspace, field, 'longText'))).toContain(STILL)
    workspace.store.waits.endAllOf(rule, { code: 'ended', say: '' }, workspace.clock.nowMs())
    changeField(workspace, field, { archived: true })
    expect(workspace.catalogue().field('deal', key)).toBeNull()
  })

  it('keeps a stage, and a rule that was put away lets none of it go', () => {
    const { workspace } = larkmoor()
    const rule = waiting(workspace, move('hp-terms'))
    // The version that runs names it as well: that comes first.
    const stage = workspace.catalogue().stage('hp-terms')
    if (!stage) throw new Error('there is a stage')
    expect(refusal(() => removeStage(workspace, stage, null, 'ines'))).toContain('used by rule “Slow”')
    workspace.store.rules.setState(rule, 'archived', 'ines', workspace.clock.nowMs())
    expect(refusal(() => removeStage(workspace, stage, null, 'ines'))).toContain(STILL)
  })

  it('keeps a segment', () => {
    const { workspace } = larkmoor()
    const segment = makeSegment(
      workspace,
      {
        object: 'deal',
        name: 'Large',
        filter: all(condition('amount', 'moreThan', { value: 100 })),
        columns: [],
        sort: 'name',
        down: false,
      },
      'ines',
    )
    const rule = waiting(workspace, set('units', 7), [['segmentEntered', { segment }]])
    expect(refusal(() => removeSegment(workspace, segment))).toContain(STILL)
    workspace.store.waits.endAllOf(rule, { code: 'ended', say: '' }, workspace.clock.nowMs())
    removeSegment(workspace, segment)
    expect(workspace.store.segments.all()).toEqual([])
  })
})
