import { describe, expect, it } from 'vitest'
import { TASK_START } from '../../core/rules/steps/create-task/task'
import { document, task } from '../../core/testing/rules'
import { larkmoor, switchOn } from '../testing/workspace'
import { finishTask } from './finish-task'
import { aheadOf } from '../views/ahead'
import { daySheet } from '../views/day-sheet'
import { journalPage, runPage } from '../views/journal'
import { titles } from './derived.setting'

const ESCALATE = document(
  {
    object: 'deal',
    when: [['fieldChanges', { field: 'amount', how: 'anything', from: null, to: null }]],
    then: [
      [
        'taskAndWait',
        { ...TASK_START, title: 'Ring', most: { count: 3, unit: 'days' }, recheck: true },
        [null, task('Rung')],
        [null, task('Nobody rang')],
      ],
    ],
  },
  'Ring, or tell somebody',
)

function asked() {
  const { workspace, clock } = larkmoor()
  const ref = workspace.create('deal', { name: 'Room', stage: 'hp-visit', owner: 'rosa' }, [], 'ines').ref
  const rule = switchOn(workspace, ESCALATE)
  workspace.change(ref, { amount: 900 }, 'ines')
  const [ring] = workspace.store.tasks.ofRecord(ref)
  if (!ring) throw new Error('no task')
  return { workspace, clock, ref, rule, ring }
}

describe('a task that a run waits for', () => {
  it('takes the run on when it is done, and only once', () => {
    const { workspace, ring, ref } = asked()
    expect(titles(workspace)).toEqual(['Ring'])
    const [wait] = workspace.store.waits.of(ref)
    expect(wait?.signals).toEqual([{ signal: 'task', key: String(ring.id) }])
    finishTask(workspace, ring, 'rosa', 'they want two')
    expect(titles(workspace)).toEqual(['Ring', 'Rung'])
    const steps = workspace.store.runs.steps([wait!.runId])
    expect(steps.map(({ stepId, result }) => [stepId, result.state])).toEqual([
      ['s1', 'done'],
      ['s1', 'done'],
      ['s2', 'done'],
    ])
    workspace.store.tasks.reopen(ring.id, 'rosa', workspace.clock.nowMs())
    finishTask(workspace, ring, 'rosa', 'again')
    expect(titles(workspace)).toEqual(['Ring', 'Rung'])
  })

  it('leaves no event where nobody waits for it', () => {
    const { workspace, ring } = asked()
    finishTask(workspace, ring, 'rosa', '')
    const last = workspace.store.events.last()
    const [, rung] = workspace.store.tasks.ofRecord({ object: 'deal', id: ring.recordId })
    finishTask(workspace, rung ?? ring, 'rosa', '')
    expect(workspace.store.events.last()).toBe(last)
  })

  it('is told: in the journal what for and how long, ahead what comes when it is not done', () => {
    const { workspace, ref } = asked()
    const [line] = journalPage(workspace, { limit: 5 }).lines
    expect(line?.outcome).toContain('waiting until it is done, at most until 27 Nov 2026, 9:12')
    const sheet = runPage(workspace, line!.id)
    expect(sheet?.steps.filter(({ id }) => id === 's1').map(({ result }) => result)).toEqual([
      expect.stringContaining('created task for Rosa Amara'),
      'waiting until it is done, at most until 27 Nov 2026, 9:12',
    ])
    const [waits] = aheadOf(workspace, { fromMs: 0, toMs: Number.MAX_SAFE_INTEGER, ref, limit: 5, scope: null }).lines
    expect(waits?.what).toBe('unless it is done before: create task “Nobody rang”')
  })

  it('is seen by who follows it, who hears when somebody else has done it', () => {
    const { workspace } = larkmoor()
    const ref = workspace.create('deal', { name: 'Room', stage: 'hp-visit', owner: 'rosa' }, [], 'ines').ref
    const when = [['fieldChanges', { field: 'amount', how: 'anything', from: null, to: null }]] as const
    switchOn(workspace, document({ when, then: [task('Look', { followers: ['jude', 'rosa'] })] }, 'Followed'))
    workspace.change(ref, { amount: 900 }, 'ines')
    expect(daySheet(workspace, 'jude').followed.map(({ title }) => title)).toEqual(['Look'])
    // Her own task is not followed besides.
    expect(daySheet(workspace, 'rosa').followed).toEqual([])
    const [made] = workspace.store.tasks.ofRecord(ref)
    finishTask(workspace, made!, 'rosa', 'all well')
    expect(workspace.store.notices.of('jude', null, 9)).toMatchObject([
      { subject: 'Rosa Amara completed “Look”', body: 'all well' },
    ])
    expect(workspace.store.notices.of('rosa', null, 9)).toEqual([])
    expect(daySheet(workspace, 'jude').followed).toEqual([])
  })
})
