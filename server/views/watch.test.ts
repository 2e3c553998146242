import Papa from 'papaparse'
import { describe, expect, it } from 'vitest'
import { scopeOf } from '../../core/access/scope'
import type { Person } from '../../core/fields/field'
import type { RecordRef } from '../../core/records/kinds'
import { document, enters, task, type StepLine } from '../../core/testing/rules'
import { countResults, lookAtGoals } from '../engine/results'
import type { Workspace } from '../engine/workspace'
import { lookForProblems } from '../problems'
import { larkmoor, NOW_MS, switchOn } from '../testing/workspace'
import { overview } from './overview'
import { problemPage } from './problems'
import { allResults, ruleResults } from './results'
import { resultsCsv } from './results-csv'
import { team } from './team'

const DAY_MS = 86_400_000
const HOUR_MS = 3_600_000
const CONTROL = { awaited: () => false, nowMs: () => 0, pause: () => Promise.resolve() }

const person = (workspace: Workspace, id: string): Person => {
  const found = workspace.catalogue().person(id)
  if (!found) throw new Error(`${id} is not in Larkmoor`)
  return found
}
const deal = (workspace: Workspace, values: object = {}): RecordRef =>
  workspace.create('deal', { name: 'Two rooms', stage: 'hp-sized', owner: 'rosa', ...values }, [], 'ines').ref
const quote = (workspace: Workspace, ref: RecordRef): void => void workspace.change(ref, { stage: 'hp-quoted' }, 'rosa')
const quoted = (name: string, ...then: StepLine[]) => document({ when: [enters('hp-quoted')], then }, name)
const dueIn = (count: number) => ({ due: { count, unit: 'days' } }) as const
const waits = (count: number): StepLine => [
  'wait',
  { until: { at: 'after', amount: { count, unit: 'days' }, minute: null }, recheck: false },
]

describe('the overview', () => {
  it('says what is ahead today and this week, by rule, and nothing that is further away', () => {
    const { workspace } = larkmoor()
    const soon = switchOn(workspace, quoted('Soon', waits(2), task('Ring')))
    switchOn(workspace, quoted('Later', waits(30), task('Ring')))
    for (const ref of [deal(workspace), deal(workspace)]) quote(workspace, ref)
    const { ahead } = overview(workspace, person(workspace, 'ines'))
    expect(ahead).toMatchObject({ today: 0, week: 2 })
    expect(ahead.rules).toEqual([{ id: soon, name: 'Soon', today: 0, week: 2 }])
  })

  it('counts the tasks of everybody by when they are due', () => {
    const { workspace, clock } = larkmoor()
    switchOn(workspace, quoted('Tasks', task('Ring', { again: true })))
    quote(workspace, deal(workspace))
    const tasks = () => overview(workspace, person(workspace, 'ines')).ahead.tasks
    const first = tasks()
    expect(first.late + first.today + first.week).toBe(1)
    clock.set(NOW_MS + 20 * DAY_MS)
    expect(tasks()).toEqual({ late: 1, today: 0, week: 0 })
  })

  it('counts since somebody was here, and a short absence is none', () => {
    const { workspace, clock } = larkmoor()
    const id = switchOn(workspace, quoted('Counted', task('Ring')))
    quote(workspace, deal(workspace))
    const since = () => overview(workspace, person(workspace, 'ines')).since
    expect(since()).toMatchObject({ beforeMs: null, runs: 1, failed: 0, rules: [{ id, name: 'Counted', runs: 1 }] })
    workspace.store.visits.note('ines', clock.nowMs())
    clock.set(NOW_MS + 10 * 60_000)
    expect(since().beforeMs).toBeNull()
    clock.set(NOW_MS + 5 * DAY_MS)
    expect(since()).toMatchObject({ beforeMs: NOW_MS, fromMs: Math.floor(NOW_MS / DAY_MS) * DAY_MS })
    workspace.store.visits.note('ines', clock.nowMs())
    clock.set(NOW_MS + 5 * DAY_MS + HOUR_MS)
    // An hour later is a new visit: the one before is that of the fifth day, and of what went before nothing is left.
    expect(since()).toMatchObject({ beforeMs: NOW_MS + 5 * DAY_MS, runs: 0 })
    // Others have visits of their own.
    expect(overview(workspace, person(workspace, 'jude')).since.beforeMs).toBeNull()
  })

  it('names rules that did most and least, and drafts for who builds them only', () => {
    const { workspace } = larkmoor()
    const busy = switchOn(workspace, quoted('Busy', task('Ring')))
    const idle = switchOn(workspace, document({ when: [enters('hp-signed')], then: [task('Thank')] }, 'Idle'))
    const draft = workspace.store.rules.create(quoted('Half done', task('Ring')), 'ines', NOW_MS)
    quote(workspace, deal(workspace))
    const seen = overview(workspace, person(workspace, 'ines'))
    expect(seen.on).toBe(2)
    expect(seen.most).toEqual([{ id: busy, name: 'Busy', runs: 1 }])
    expect(seen.least.map(({ id }) => id)).toEqual([idle, busy])
    expect(seen.drafts).toMatchObject([{ id: draft, name: 'Half done', state: 'draft' }])
    workspace.store.rules.saveDraft(busy, quoted('Busy', task('Ring twice')), 1, 'ines', NOW_MS + 1)
    expect(overview(workspace, person(workspace, 'ines')).drafts.map(({ id, state }) => [id, state])).toEqual([
      [busy, 'unpublished'],
      [draft, 'draft'],
    ])
    const viewer = workspace.catalogue().data.people.find(({ role }) => role === 'viewer')
    if (!viewer) throw new Error('Larkmoor has no viewer')
    expect(overview(workspace, viewer)).toMatchObject({ drafts: [], suggestions: 0, most: [{ id: busy }] })
  })

  it('shows problems that are open; one that was accepted comes back when its days are over', () => {
    const { workspace, clock } = larkmoor()
    deal(workspace, { owner: null })
    lookForProblems(workspace, true)
    const open = () => overview(workspace, person(workspace, 'ines')).problems
    const all = open().open
    const [unowned] = problemPage(workspace).kinds.filter(({ kind }) => kind === 'unowned')
    const [problem] = unowned?.problems ?? []
    if (!problem) throw new Error('nobody misses an owner')
    workspace.store.problems.accept(problem.id, NOW_MS + DAY_MS, 'ines')
    expect(open().open).toBe(all - 1)
    expect(open().first.map(({ id }) => id)).not.toContain(problem.id)
    const accepted = problemPage(workspace).kinds.flatMap(({ problems }) => problems)
    expect(accepted.find(({ id }) => id === problem.id)).toMatchObject({
      acceptedUntil: NOW_MS + DAY_MS,
      acceptedBy: 'ines',
    })
    clock.set(NOW_MS + DAY_MS)
    expect(open().open).toBe(all)
  })
})

describe('the team', () => {
  function busy() {
    const { workspace, clock } = larkmoor()
    switchOn(workspace, quoted('Tasks', task('Ring {{deal.name}}', { again: true, ...dueIn(0) })))
    for (const owner of ['rosa', 'rosa', 'jude']) quote(workspace, deal(workspace, { owner, name: `Of ${owner}` }))
    return { workspace, clock }
  }
  const line = (workspace: Workspace, id: string, as: string | null = null) =>
    team(workspace, as === null ? null : scopeOf(person(workspace, as), workspace.catalogue())).people.find(
      (one) => one.id === id,
    )

  it('stands side by side with what each has to do, and late tasks by name', () => {
    const { workspace, clock } = busy()
    expect(line(workspace, 'rosa')?.load).toMatchObject({ late: 0, done: 0 })
    clock.set(NOW_MS + 3 * DAY_MS)
    expect(line(workspace, 'rosa')).toMatchObject({ load: { late: 2, today: 0, soon: 0, done: 0 } })
    expect(
      line(workspace, 'rosa')?.late.map(({ title, recordName, ruleName }) => [title, recordName, ruleName]),
    ).toEqual([
      ['Ring Of rosa', 'Of rosa', 'Tasks'],
      ['Ring Of rosa', 'Of rosa', 'Tasks'],
    ])
    const [first] = line(workspace, 'rosa')?.late ?? []
    if (!first) throw new Error('nothing is late')
    workspace.store.tasks.finish(first.id, 'rosa', '', clock.nowMs())
    expect(line(workspace, 'rosa')?.load).toMatchObject({ late: 1, done: 1 })
  })

  it('leaves out who only looks, who has left, and whom somebody may not see', () => {
    const { workspace } = busy()
    const everybody = team(workspace, null).people
    const { people } = workspace.catalogue().data
    expect(everybody.map(({ id }) => id).sort()).toEqual(
      people
        .filter(({ active, role }) => active && role !== 'viewer')
        .map(({ id }) => id)
        .sort(),
    )
    const rosa = person(workspace, 'rosa')
    const seen = team(workspace, scopeOf(rosa, workspace.catalogue())).people
    expect(seen.length).toBeLessThan(everybody.length)
    expect(seen.every(({ team: of }) => of === rosa.team)).toBe(true)
  })

  it('says who is away until when, on the days of it and on no other', () => {
    const { workspace, clock } = busy()
    workspace.store.people.update('jude', { awayFrom: '2026-11-25', awayTo: '2026-11-26', deputyId: 'rosa' })
    workspace.tellCatalogue()
    const away = (date: string) => {
      clock.set(Date.parse(`${date}T10:00:00Z`))
      return line(workspace, 'jude')?.away
    }
    expect(['2026-11-24', '2026-11-25', '2026-11-26', '2026-11-27'].map(away)).toEqual([
      null,
      { to: '2026-11-26', deputyId: 'rosa' },
      { to: '2026-11-26', deputyId: 'rosa' },
      null,
    ])
  })
})

describe('results as a file', () => {
  async function measured(name = 'Ring them') {
    const { workspace, clock } = larkmoor()
    const ruleId = switchOn(workspace, {
      ...quoted(name, task('Ring {{deal.name}}')),
      goal: {
        conditions: {
          kind: 'group',
          id: 'c9',
          mode: 'all',
          items: [
            {
              kind: 'condition',
              id: 'c8',
              field: 'stage',
              op: 'isAnyOf',
              not: false,
              params: { values: ['hp-signed'] },
            },
          ],
        },
        days: 10,
        alone: 0,
      },
    })
    const refs = ['rosa', 'rosa', 'jude'].map((owner) => deal(workspace, { owner }))
    for (const ref of refs) quote(workspace, ref)
    clock.set(NOW_MS + 2 * DAY_MS)
    for (const ref of refs.slice(0, 2)) workspace.change(ref, { stage: 'hp-signed' }, 'rosa')
    clock.set(NOW_MS + 20 * DAY_MS)
    lookAtGoals(workspace)
    await countResults(workspace, CONTROL)
    const rule = workspace.store.rules.get(ruleId)
    if (!rule) throw new Error('the rule is gone')
    return { workspace, ruleId, results: ruleResults(workspace, rule) }
  }
  const rows = (csv: string) => Papa.parse<string[]>(csv.trim()).data

  it('has every figure of the page, one a line, under one heading', async () => {
    const { results } = await measured()
    const [head, ...lines] = rows(resultsCsv(results))
    expect(head).toEqual(['Rule', 'Section', 'By', 'Value', 'Figure', 'Number'])
    expect(lines.every((line) => line.length === 6 && line[0] === 'Ring them')).toBe(true)
    const figure = (section: string, by: string, value: string, name: string) =>
      lines.find((line) => line[1] === section && line[2] === by && line[3] === value && line[4] === name)?.[5]
    expect(figure('Target', '', '', 'records')).toBe('3')
    expect(figure('Target', '', '', 'reached')).toBe('2')
    expect(figure('Target', '', '', 'share')).toBe('0.6667')
    expect(Number(figure('Target', '', '', 'low'))).toBeLessThan(2 / 3)
    expect(Number(figure('Target', '', '', 'high'))).toBeGreaterThan(2 / 3)
    expect(figure('Target', 'owner', 'Rosa Amara', 'records')).toBe('2')
    expect(figure('Target', 'owner', 'Jude Okell', 'reached')).toBe('0')
    expect(figure('Tasks', '', '', 'made')).toBe('3')
  })
  it('covers a name that a spreadsheet would take for a formula', async () => {
    const { results } = await measured('=2+3')
    const [, first] = rows(resultsCsv(results))
    expect(first?.[0]?.startsWith('=')).toBe(false)
    expect(first?.[0]).toContain('=2+3')
  })
  it('stands in the list of all results with the same figures', async () => {
    const { workspace, ruleId, results } = await measured()
    const listed = allResults(workspace).find(({ id }) => id === ruleId)
    expect(listed?.target?.done).toMatchObject({ of: 3, reached: 2 })
    expect(results.goal?.done).toMatchObject({ of: 3, reached: 2 })
    expect(listed?.story).toContain('2 of 3')
  })
})
