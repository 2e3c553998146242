import { describe, expect, it } from 'vitest'
import { resultOf } from '../../core/rehearsal/result'
import { forecastOf } from '../../core/rehearsal/forecast'
import { checkRule } from '../../core/rules/check'
import { sayRule } from '../../core/rules/describe'
import type { Person } from '../../core/fields/field'
import type { RuleDocument } from '../../core/rules/document'
import { document, task, type StepLine } from '../../core/testing/rules'
import { larkmoor, switchOn } from '../testing/workspace'
import { daySheet } from '../views/day-sheet'
import { journalPage } from '../views/journal'
import { at, control } from './derived.setting'
import { planClock, workClock } from './clockwork'
import { setUpRehearsal } from './rehearsal'
import { finishTask } from './finish-task'
import { undoOne } from './undo'
import type { Workspace } from './workspace'

const TUESDAYS = [
  'recurring',
  { rule: { rule: 'FREQ=WEEKLY;BYDAY=TU', from: '2026-11-01' }, minute: 960, offDays: 'keep' },
] as const
const meeting = (who: object = { by: 'everyone', team: 'Hire' }): StepLine =>
  task('Team meeting', { who, again: true, due: { count: 0, unit: 'days' } })
const rule = (...then: readonly StepLine[]): RuleDocument =>
  document({ object: 'none', when: [TUESDAYS], then }, 'Team meeting')
/** The team of those who are all there. */
function members(workspace: Workspace): readonly Person[] {
  const hire = workspace.catalogue().people.filter((one) => one.active && one.team === 'Hire')
  for (const { id } of hire) workspace.store.people.update(id, { awayFrom: null, awayTo: null, deputyId: null })
  workspace.catalogueChanged()
  return hire
}

describe('a rule about no record', () => {
  it('leaves out only those who still have the last task open', async () => {
    const { workspace, clock } = larkmoor()
    const [first, ...others] = members(workspace)
    const who = { by: 'everyone', team: 'Hire' }
    switchOn(workspace, rule(task('Report', { who, again: false })))
    planClock(workspace)
    clock.set(at('2026-11-24', 16))
    await workClock(workspace, control)
    const open = (id: string | undefined) => workspace.store.tasks.openFor(id ?? '', '9999-12-31').length
    const [own] = workspace.store.tasks.openFor(first?.id ?? '', '9999-12-31')
    if (own) finishTask(workspace, own, first?.id ?? '', 'sent')
    clock.set(at('2026-12-01', 16))
    await workClock(workspace, control)
    expect([open(first?.id), ...others.map(({ id }) => open(id))]).toEqual([1, ...others.map(() => 1)])
    const given = workspace.store.tasks.list({ people: null, before: null, limit: 50 })
    expect(given).toHaveLength(others.length + 2)
    clock.set(at('2026-12-08', 16))
    await workClock(workspace, control)
    expect(workspace.store.tasks.list({ people: null, before: null, limit: 50 })).toHaveLength(given.length)
    expect(journalPage(workspace, { limit: 1 }).lines[0]?.outcome).toMatch(/still open/)
  })

  it('runs once at each moment, and gives everybody of a team a task of their own', async () => {
    const { workspace, clock } = larkmoor()
    const id = switchOn(workspace, rule(meeting()))
    planClock(workspace)
    const hire = members(workspace).map((one) => one.id)
    expect(hire.length).toBeGreaterThan(1)
    for (const day of ['2026-11-24', '2026-12-01']) {
      clock.set(at(day, 16))
      await workClock(workspace, control)
    }
    const runs = workspace.store.runs.list({ ruleId: id, limit: 10 })
    expect(runs.map((run) => [run.object, run.recordId, run.state])).toEqual([
      ['none', 1, 'done'],
      ['none', 1, 'done'],
    ])
    const tasks = workspace.store.tasks.list({ people: null, before: null, limit: 50 })
    expect(tasks.map((one) => one.assigneeId).toSorted()).toEqual([...hire, ...hire].toSorted())
    expect(new Set(tasks.map((one) => one.title))).toEqual(new Set(['Team meeting']))
    expect(journalPage(workspace, { limit: 1 }).lines[0]).toMatchObject({
      recordName: 'No record',
      because: 'it runs every Tuesday at 16:00',
    })
    const sheet = daySheet(workspace, hire[0] ?? '', null)
    expect(sheet.open).toMatchObject([
      { title: 'Team meeting', recordName: 'No record', beside: [] },
      { title: 'Team meeting' },
    ])
    undoOne(workspace, runs[0]?.id ?? 0, 'ines')
    expect(workspace.store.tasks.openFor(hire[0] ?? '', '9999-12-31')).toHaveLength(1)
  })

  it('leaves out who is away, and says so when everybody is', async () => {
    const { workspace, clock } = larkmoor()
    const [first, ...others] = members(workspace)
    const away = (id: string) =>
      workspace.store.people.update(id, { awayFrom: '2026-11-30', awayTo: '2026-12-02', deputyId: null })
    if (first) away(first.id)
    workspace.catalogueChanged()
    const id = switchOn(workspace, rule(meeting()))
    planClock(workspace)
    clock.set(at('2026-12-01', 16))
    await workClock(workspace, control)
    const given = () => workspace.store.tasks.list({ people: null, before: null, limit: 50 })
    expect(
      given()
        .map((one) => one.assigneeId)
        .toSorted(),
    ).toEqual(others.map((one) => one.id).toSorted())
    for (const one of others) workspace.store.people.update(one.id, { awayFrom: '2026-12-07', awayTo: '2026-12-09' })
    if (first) workspace.store.people.update(first.id, { awayFrom: '2026-12-07', awayTo: '2026-12-09' })
    workspace.catalogueChanged()
    clock.set(at('2026-12-08', 16))
    await workClock(workspace, control)
    expect(given()).toHaveLength(others.length)
    expect(journalPage(workspace, { ruleId: id, limit: 1 }).lines[0]?.outcome).toMatch(/away/)
  })

  it('is foretold and rehearsed as it then comes', async () => {
    const { workspace, clock } = larkmoor()
    const hire = members(workspace).length
    const given = rule(meeting(), [
      'notify',
      { who: { by: 'everyone', team: 'Hire' }, subject: 'Now', body: '', email: true },
    ])
    const id = switchOn(workspace, given)
    const rehearsal = setUpRehearsal(workspace, {
      rules: [{ ruleId: id, document: given }],
      object: 'none',
      ids: null,
      filter: null,
      days: 15,
      back: false,
      script: [],
    })
    rehearsal.goOn(() => false)
    const told = forecastOf(rehearsal, 'none', 1)
    const { runs, tasks } = resultOf(rehearsal, rehearsal.startMs)
    expect(told).toMatchObject({ starts: 3, tasks: 3 * hire, notices: 3 * hire, emails: 3 * hire })
    expect(runs.map((run) => run.recordName)).toEqual(['No record', 'No record', 'No record'])
    planClock(workspace)
    for (const day of ['2026-11-24', '2026-12-01', '2026-12-08']) {
      clock.set(at(day, 16))
      await workClock(workspace, control)
    }
    expect(workspace.store.tasks.list({ people: null, before: null, limit: 50 })).toHaveLength(tasks.length)
  })

  it('is said without records, and refuses what it has none for', () => {
    const { workspace } = larkmoor()
    const catalogue = workspace.catalogue()
    expect(sayRule(rule(meeting()), catalogue)).toMatchObject({
      when: 'every Tuesday at 16:00 (Lisbon)',
    })
    const codes = (given: RuleDocument) => checkRule(given, catalogue).map(({ problem }) => problem.code)
    expect(codes(rule(meeting()))).toEqual([])
    expect(codes(rule(meeting({ by: 'owner' })))).toEqual(['noOwner'])
    expect(codes(rule(meeting({ by: 'territory' })))).toEqual(['noOwner'])
    expect(codes(rule(['setField', { field: 'amount', source: { from: 'value', value: 1 } }]))).toContain('notFor')
    expect(codes(document({ object: 'none', when: [['created', {}]], then: [meeting()] }))).toEqual(['notFor'])
    expect(
      codes(
        document({
          object: 'deal',
          when: [TUESDAYS],
          then: [['taskAndWait', { ...(meeting()[1] as object), most: { count: 1, unit: 'days' }, recheck: true }]],
        }),
      ),
    ).toContain('onePerson')
  })
})
