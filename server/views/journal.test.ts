import { expect, it } from 'vitest'
import { document, enters, task } from '../../core/testing/rules'
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
  expect(line).toMatchObject({ state: 'waiting', outcome: 'waiting until 26 Nov 2026, 9:12' })
})
