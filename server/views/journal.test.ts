import { expect, it } from 'vitest'
import { all, condition, document, enters, set, task, type StepLine } from '../../core/testing/rules'
import { larkmoor, switchOn } from '../testing/workspace'
import { journalPage } from './journal'

it('says until when a run waits that has done nothing yet', () => {
  const { workspace } = larkmoor()
  const until = { at: 'after', amount: { count: 2, unit: 'days' }, minute: null }
  const rule = document(
    { when: [enters('hp-quoted')], then: [['wait', { until, recheck: true }], task('Later')] },
    'Wait',
  )
  switchOn(workspace, rule)
  const { ref } = workspace.create('deal', { name: 'Room', stage: 'hp-sized', owner: 'rosa' }, [], 'ines')
  workspace.change(ref, { stage: 'hp-quoted' }, 'rosa')
  const [line] = journalPage(workspace, { limit: 5 }).lines
  expect(line).toMatchObject({ state: 'waiting', outcome: 'waiting until 26 Nov 2026, 9:12', hue: 'time' })
})

it('marks a run by what it did, whatever the words of it', () => {
  const { workspace } = larkmoor()
  const marked = (name: string, then: readonly StepLine[]) => {
    switchOn(workspace, document({ when: [enters('hp-quoted')], then }, name))
    const { ref } = workspace.create('deal', { name: 'Room', stage: 'hp-sized', owner: 'rosa' }, [], 'ines')
    workspace.change(ref, { stage: 'hp-quoted' }, 'rosa')
    return journalPage(workspace, { limit: 50 }).lines.find((line) => line.ruleName === name)
  }
  expect(marked('Notes', [set('notes', 'a task for nobody')])).toMatchObject({ hue: 'data' })
  expect(marked('Both', [set('units', 3), task('Ring')])).toMatchObject({ hue: 'people' })
  const nobody = document(
    { when: [enters('hp-quoted')], onlyIf: all(condition('amount', 'moreThan', { value: 1 })), then: [task('x')] },
    'Kept out',
  )
  switchOn(workspace, nobody)
  expect(marked('Other', [set('units', 4)])).toMatchObject({ hue: 'data' })
  const kept = journalPage(workspace, { limit: 50 }).lines.find((line) => line.ruleName === 'Kept out')
  expect(kept).toMatchObject({ state: 'stopped', hue: null })
})
