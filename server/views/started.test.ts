import { describe, expect, it } from 'vitest'
import { workDue } from '../../core/engine/clockwork'
import { daysBefore, document, enters, set } from '../../core/testing/rules'
import { planClock } from '../engine/clockwork'
import { larkmoor, switchOn } from '../testing/workspace'
import { startedIn30Days } from './started'

const DAY_MS = 86_400_000

describe('how often a rule would have started', () => {
  it('counts the last 30 days, goes on counting from where it was, and lets what is too old go', () => {
    const { workspace, clock } = larkmoor()
    const rule = document({
      when: [
        enters('hp-quoted'),
        ['created', {}],
        ['fieldChanges', { field: 'units', from: null, to: null, how: 'any' }],
      ],
      then: [set('units', 1)],
    })
    const ref = workspace.create('deal', { name: 'Two rooms', stage: 'hp-sized', owner: 'rosa' }, [], 'ines').ref
    const counts = () =>
      Object.values(startedIn30Days(workspace, { object: rule.object, triggers: rule.triggers.slice(0, 2) }))
    expect(counts()).toEqual([0, 1])
    workspace.change(ref, { stage: 'hp-quoted' }, 'rosa')
    expect(counts()).toEqual([1, 1])
    workspace.change(ref, { stage: 'hp-terms' }, 'rosa')
    // The word stands in another field too: only the stage counts.
    workspace.change(ref, { notes: '{"field":"stage","new":"hp-quoted"}' }, 'rosa')
    clock.set(clock.nowMs() + 20 * DAY_MS)
    workspace.change(ref, { stage: 'hp-quoted' }, 'rosa')
    expect(counts()).toEqual([2, 1])
    clock.set(clock.nowMs() + 11 * DAY_MS)
    expect(counts()).toEqual([1, 0])
    clock.set(clock.nowMs() + 31 * DAY_MS)
    expect(counts()).toEqual([0, 0])
    // Another window asks for the first time and counts the same.
    expect(startedIn30Days(workspace, { object: 'deal', triggers: [{ ...rule.triggers[0]!, id: 'other' }] })).toEqual({
      other: 0,
    })
  })

  it('says nothing of a button: what others or the clock started is no press of it', () => {
    const { workspace, clock } = larkmoor()
    switchOn(workspace, document({ when: [daysBefore()], then: [set('units', 1)] }))
    workspace.create(
      'deal',
      { name: 'Two rooms', stage: 'hp-sized', owner: 'rosa', closeDate: '2026-11-29' },
      [],
      'ines',
    )
    planClock(workspace)
    clock.set(clock.nowMs() + 5 * DAY_MS)
    workDue(workspace.world, workspace.matcher(), 9)
    workspace.drain()
    expect(workspace.store.runs.list({ limit: 9 })).toHaveLength(1)
    const button = document({ when: [['byHand', { button: 'Go', facts: [], questions: [] }]], then: [set('units', 2)] })
    expect(startedIn30Days(workspace, button)).toEqual({})
  })
})
