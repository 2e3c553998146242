import { describe, expect, it } from 'vitest'
import { all, condition, document, set, task } from '../../core/testing/rules'
import { EACH_AT_ONCE } from '../../core/engine/walk'
import { larkmoor, switchOn } from '../testing/workspace'
import { runPage } from '../views/journal'
import { actAhead } from './ahead'
import { planClock, workClock } from './clockwork'
import type { Workspace } from './workspace'

const control = { awaited: () => false, nowMs: () => 0, pause: () => Promise.resolve() }
const MANY = EACH_AT_ONCE * 2 + 50
const each = document(
  {
    object: 'company',
    when: [['fieldChanges', { field: 'region', how: 'anything', from: null, to: null }]],
    onlyIf: all(condition('region', 'is', { value: 'North' })),
    then: [
      set('region', 'Seen'),
      [
        'eachLinked',
        { to: 'deal' },
        [{ ...all(condition('stage', 'is', { value: 'hp-sized' })), id: 'g9' }, set('units', 7)],
      ],
      task('All done'),
    ],
  },
  'Each',
)

function begin(): { workspace: Workspace; runId: number; reopen: () => Workspace; set: (ms: number) => void } {
  const { workspace, clock, reopen } = larkmoor()
  switchOn(workspace, each)
  const firm = workspace.create('company', { name: 'Large', owner: 'rosa' }, [], 'ines').ref
  workspace.db.atomically(() => {
    for (let n = 0; n < MANY; n++)
      workspace.createBy('deal', { name: `D${n}`, stage: 'hp-sized', owner: 'rosa' }, [firm], {
        by: 'person',
        personId: 'ines',
      })
    workspace.handleNew()
  })
  const { reports } = workspace.change(firm, { region: 'North' }, 'ines')
  return { workspace, runId: reports[0]?.runId ?? 0, reopen, set: (ms) => clock.set(ms) }
}
const seven = (workspace: Workspace) =>
  (
    workspace.db.sqlite
      .prepare(`SELECT count(*) AS n FROM events WHERE kind = 'changed' AND object = 'deal'`)
      .get() as { n: number }
  ).n

describe('very many linked records', () => {
  it('are gone through in pieces, with what is done so far, and nothing behind them before the last', async () => {
    const { workspace, runId } = begin()
    expect(workspace.store.runs.get(runId)?.state).toBe('waiting')
    expect(seven(workspace)).toBe(EACH_AT_ONCE)
    expect(JSON.stringify(runPage(workspace, runId)?.steps)).toContain(
      `${EACH_AT_ONCE} of ${MANY} done, the rest follows in the background`,
    )
    expect(workspace.store.tasks.openCount('rosa')).toBe(0)
    await workClock(workspace, control)
    expect(workspace.store.runs.get(runId)?.state).toBe('done')
    expect(seven(workspace)).toBe(MANY)
    expect(workspace.store.tasks.openCount('rosa')).toBe(1)
  })

  it('are gone on with after a stop, however long it was, and none of them twice', async () => {
    const { runId, reopen, workspace, set: setClock } = begin()
    setClock(workspace.clock.nowMs() + 40 * 86_400_000)
    const again = reopen()
    planClock(again)
    await workClock(again, control)
    expect(again.store.runs.get(runId)?.state).toBe('done')
    expect(seven(again)).toBe(MANY)
  })

  it('can be stopped on the way: what was done stays', async () => {
    const { workspace, runId } = begin()
    const [wait] = workspace.store.waits.ofRun(runId)
    actAhead(workspace, [{ wait: wait?.id ?? 0 }], { act: 'end' }, 'enough', 'ines')
    await workClock(workspace, control)
    expect(workspace.store.runs.get(runId)?.state).toBe('stopped')
    expect(seven(workspace)).toBe(EACH_AT_ONCE)
    expect(workspace.store.tasks.openCount('rosa')).toBe(0)
  })
})
