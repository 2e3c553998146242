import { expect, it } from 'vitest'
import { daysBefore, document, task } from '../../core/testing/rules'
import { instantOf } from '../../core/time/dates'
import { larkmoor, switchOn } from '../testing/workspace'
import { journalPage, runPage } from '../views/journal'
import { planClock, workClock } from './clockwork'

const control = { awaited: () => false, nowMs: () => 0, pause: () => Promise.resolve() }

it('a long time down leaves one line a rule and day in the journal, with how many; each record still says its own', async () => {
  const { workspace, clock, reopen } = larkmoor()
  const near = (name: string) =>
    document(
      {
        when: [daysBefore(3)],
        then: [task('Near')],
      },
      name,
    )
  switchOn(workspace, near('First'))
  switchOn(workspace, near('Second'))
  const refs = ['2026-12-01', '2026-12-01', '2026-12-01', '2026-12-02'].map(
    (closeDate, n) =>
      workspace.create('deal', { name: `D${n}`, stage: 'hp-visit', owner: 'rosa', closeDate }, [], 'ines').ref,
  )
  planClock(workspace)
  clock.set(instantOf('2026-12-20', 9, 0, 'Europe/Lisbon'))
  const again = reopen()
  planClock(again)
  await workClock(again, control)
  const { lines } = journalPage(again, { limit: 50 })
  expect(lines.map((line) => [line.ruleName, line.more + 1, line.outcome]).sort()).toEqual([
    ['First', 1, expect.stringContaining('it was due on 29 Nov 2026')],
    ['First', 3, expect.stringContaining('it was due on 28 Nov 2026')],
    ['Second', 1, expect.stringContaining('it was due on 29 Nov 2026')],
    ['Second', 3, expect.stringContaining('it was due on 28 Nov 2026')],
  ])
  const many = lines.find((line) => line.more === 2)
  expect(journalPage(again, { limit: 50, bundle: many?.id ?? 0 }).lines.map((line) => line.recordName)).toHaveLength(3)
  for (const { object, id } of refs) {
    const own = journalPage(again, { limit: 50, object, recordId: id }).lines
    expect(own).toHaveLength(2)
    for (const { id: runId } of own) expect(runPage(again, runId)?.outcome).toContain('while the server was down')
  }
})
