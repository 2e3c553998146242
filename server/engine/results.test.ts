import { describe, expect, it } from 'vitest'
import { numbers } from '../../core/testing/numbers'
import { newcombe } from '../../core/results/intervals'
import { addUp, BREAKDOWNS, type Figures } from '../../core/results/figures'
import { LISTED_FIGURES } from '../../core/results/figure-names'
import { isLeftAlone } from '../../core/results/left-alone'
import { document, enters, task, type StepLine } from '../../core/testing/rules'
import { goalKey, type Goal } from '../../core/rules/goal'
import type { RuleDocument } from '../../core/rules/document'
import type { RecordRef } from '../../core/records/kinds'
import { addDays, dateAt, startOfDate } from '../../core/time/dates'
import type { FigureRowsAsked } from '../store/figure-rows'
import { larkmoor, switchOn } from '../testing/workspace'
import { ruleResults } from '../views/results'
import { optOut } from './messages'
import { workRetention } from './retention'
import { countResults, lookAtGoals } from './results'
import { undoOne } from './undo'
import type { Workspace } from './workspace'

const NO_CONTROL = { awaited: () => false, nowMs: () => 0, pause: () => Promise.resolve() }
const SIGNED: Goal = {
  conditions: {
    kind: 'group',
    id: 'c9',
    mode: 'all',
    items: [
      { kind: 'condition', id: 'c8', field: 'stage', op: 'isAnyOf', not: false, params: { values: ['hp-signed'] } },
    ],
  },
  days: 10,
  alone: 0,
}
const withGoal = (goal: Goal, then: StepLine[] = [task('Ring {{deal.name}}')]): RuleDocument => ({
  ...document({ when: [enters('hp-quoted')], then }),
  goal,
})
function deal(workspace: Workspace, name = 'Two rooms', owner = 'rosa'): RecordRef {
  return workspace.create('deal', { name, stage: 'hp-sized', owner }, [], 'ines').ref
}
const to = (workspace: Workspace, ref: RecordRef, stage: string): void => void workspace.change(ref, { stage }, 'rosa')
async function figures(workspace: Workspace, ruleId: number): Promise<Figures> {
  lookAtGoals(workspace)
  await countResults(workspace, NO_CONTROL)
  return workspace.store.results.of(ruleId)
}

describe('the target of a rule', () => {
  it('is reached by a record that meets it in time, and by no other', async () => {
    const { workspace, clock } = larkmoor()
    const ruleId = switchOn(workspace, withGoal(SIGNED))
    const key = goalKey(SIGNED)
    const [soon, late, never] = [deal(workspace), deal(workspace), deal(workspace)]
    for (const ref of [soon, late, never]) to(workspace, ref, 'hp-quoted')
    clock.set(clock.nowMs() + 2 * 86_400_000)
    to(workspace, soon, 'hp-signed')
    expect(await figures(workspace, ruleId)).toMatchObject({ [`${key} within`]: 3, [`${key} withinReached`]: 1 })
    clock.set(clock.nowMs() + 20 * 86_400_000)
    to(workspace, late, 'hp-signed')
    expect(await figures(workspace, ruleId)).toMatchObject({
      runs: 3,
      tasksMade: 3,
      [`${key} through`]: 3,
      [`${key} reached`]: 1,
      [`${key} reached|days|2`]: 1,
      [`${key} reached|owner|rosa`]: 1,
    })
  })

  it('is not for whoever met it before', async () => {
    const { workspace } = larkmoor()
    const goal: Goal = {
      ...SIGNED,
      conditions: {
        kind: 'group',
        id: 'c9',
        mode: 'all',
        items: [{ kind: 'condition', id: 'c8', field: 'name', op: 'isEmpty', not: true, params: {} }],
      },
    }
    const ruleId = switchOn(workspace, withGoal(goal))
    to(workspace, deal(workspace), 'hp-quoted')
    const found = await figures(workspace, ruleId)
    expect(found).toMatchObject({ [`${goalKey(goal)} already`]: 1 })
    expect(found[`${goalKey(goal)} through`]).toBeUndefined()
  })

  it('is counted once a record, and no more once its run was taken back', async () => {
    const { workspace } = larkmoor()
    const ruleId = switchOn(workspace, withGoal(SIGNED))
    const key = goalKey(SIGNED)
    const ref = deal(workspace)
    to(workspace, ref, 'hp-quoted')
    to(workspace, ref, 'hp-sized')
    to(workspace, ref, 'hp-quoted')
    expect(await figures(workspace, ruleId)).toMatchObject({ runs: 2, [`${key} within`]: 1 })
    const first = workspace.store.runs.list({ ruleId, limit: 9 }).at(-1)
    undoOne(workspace, first?.id ?? 0, 'ines')
    const found = await figures(workspace, ruleId)
    expect(found).toMatchObject({ runs: 1, undone: 1 })
    expect(found[`${key} within`]).toBeUndefined()
  })

  it('leaves a share alone, whose runs say so, and which are measured beside the others', async () => {
    const { workspace } = larkmoor()
    const goal: Goal = { ...SIGNED, alone: 50 }
    const ruleId = switchOn(workspace, withGoal(goal))
    const key = goalKey(goal)
    const all = Array.from({ length: 30 }, (_, i) => deal(workspace, `Deal ${i}`))
    for (const ref of all) to(workspace, ref, 'hp-quoted')
    const alone = all.filter((ref) => isLeftAlone(ruleId, ref, 50))
    expect(alone.length).toBeGreaterThan(5)
    expect(alone.length).toBeLessThan(25)
    const runs = workspace.store.runs.list({ ruleId, limit: 99 })
    expect(
      runs
        .filter(({ stop }) => stop?.code === 'leftAlone')
        .map(({ recordId }) => recordId)
        .sort(),
    ).toEqual(alone.map(({ id }) => id).sort())
    const found = await figures(workspace, ruleId)
    expect(found).toMatchObject({
      leftAlone: alone.length,
      tasksMade: 30 - alone.length,
      [`${key} within`]: 30 - alone.length,
      [`${key} alone within`]: alone.length,
    })
    const { low, high } = newcombe({ reached: 0, of: 30 - alone.length }, { reached: 0, of: alone.length })
    expect(low).toBeLessThan(0)
    expect(high).toBeGreaterThan(0)
  })

  it('may be met by a linked record, or by the day', async () => {
    const { workspace, clock } = larkmoor()
    const nearby: Goal = {
      ...SIGNED,
      conditions: {
        kind: 'group',
        id: 'c9',
        mode: 'all',
        items: [
          {
            kind: 'linked',
            id: 'c8',
            object: 'company',
            how: 'any',
            count: 1,
            group: {
              kind: 'group',
              id: 'c7',
              mode: 'all',
              items: [{ kind: 'condition', id: 'c6', field: 'domain', op: 'isEmpty', not: true, params: {} }],
            },
          },
        ],
      },
    }
    const passed: Goal = {
      ...SIGNED,
      conditions: {
        kind: 'group',
        id: 'c9',
        mode: 'all',
        items: [
          {
            kind: 'condition',
            id: 'c8',
            field: 'closeDate',
            op: 'inLast',
            not: false,
            params: { amount: { count: 5, unit: 'days' } },
          },
        ],
      },
    }
    const far = switchOn(workspace, withGoal(nearby))
    const company = workspace.create('company', { name: 'Bakery', owner: 'rosa' }, [], 'ines').ref
    const { ref } = workspace.create('deal', { name: 'Oven', stage: 'hp-sized', owner: 'rosa' }, [company], 'ines')
    to(workspace, ref, 'hp-quoted')
    expect((await figures(workspace, far))[`${goalKey(nearby)} withinReached`]).toBeUndefined()
    workspace.change(company, { domain: 'bakery.example' }, 'rosa')
    expect(await figures(workspace, far)).toMatchObject({ [`${goalKey(nearby)} withinReached`]: 1 })
    const dated = switchOn(workspace, withGoal(passed))
    const closing = deal(workspace)
    workspace.change(closing, { closeDate: '2026-11-27' }, 'rosa')
    to(workspace, closing, 'hp-quoted')
    lookAtGoals(workspace)
    expect((await figures(workspace, dated))[`${goalKey(passed)} withinReached`]).toBeUndefined()
    clock.set(clock.nowMs() + 4 * 86_400_000)
    lookAtGoals(workspace)
    expect(await figures(workspace, dated)).toMatchObject({ [`${goalKey(passed)} withinReached`]: 1 })
  })
})

/** The rows behind a figure; fails where it is not broken down so. */
function behind(
  workspace: Workspace,
  ruleId: number,
  asked: Partial<FigureRowsAsked> & Pick<FigureRowsAsked, 'figure'>,
) {
  const rows = workspace.store.figureRows.page(
    {
      ruleId,
      key: goalKey(SIGNED),
      alone: false,
      of: '',
      by: null,
      value: '',
      nowMs: workspace.clock.nowMs(),
      zone: workspace.catalogue().workspace.zone,
      ...asked,
    },
    null,
    100,
  )
  if (!rows) throw new Error(`${asked.figure} is not counted by ${asked.by}`)
  return rows
}

describe('figures of messages', () => {
  it('are not those of runs: a run that failed is no message that was not sent', async () => {
    const { workspace } = larkmoor()
    const ruleId = switchOn(workspace, withGoal(SIGNED))
    to(workspace, deal(workspace), 'hp-quoted')
    workspace.db.sqlite.prepare("UPDATE runs SET state = 'failed' WHERE rule_id = ?").run(ruleId)
    expect(await figures(workspace, ruleId)).toMatchObject({ runs: 1, runsFailed: 1 })
    const rule = workspace.store.rules.get(ruleId)
    if (!rule) throw new Error('no rule')
    const told = ruleResults(workspace, rule)
    expect(told.runs.failed).toBe(1)
    expect(told.messages.failed).toBe(0)
  })

  it('are not broken down by what they do not have', () => {
    const { workspace } = larkmoor()
    expect(() => behind(workspace, 1, { figure: 'sent', by: 'branch' })).toThrow('sent is not counted by branch')
    expect(() => behind(workspace, 1, { figure: 'runs', by: 'owner' })).toThrow()
    expect(behind(workspace, 1, { figure: 'runs', by: 'month', value: '2026-02' })).toEqual([])
  })

  it('stay when the messages are deleted with their age, and those behind them still count', async () => {
    const { workspace, clock } = larkmoor()
    const ruleId = switchOn(workspace, withGoal(SIGNED))
    const contact = workspace.create('contact', { name: 'Mila', owner: 'rosa' }, [], 'ines').ref
    const add = (n: number): void => {
      workspace.store.messages.add({
        key: `out ${n}`,
        channel: 'mail',
        way: 'out',
        contactId: contact.id,
        object: 'contact',
        recordId: contact.id,
        ruleId,
        runId: null,
        stepId: 's1',
        personId: 'rosa',
        fromName: '',
        fromAddress: '',
        name: '',
        address: 'mila@bakery.example',
        subject: 'Hello',
        text: 'Hello',
        label: 'welcome',
        templateId: null,
        messageId: `${n}@larkmoor.example`,
        inReplyTo: null,
        state: 'sent',
        atMs: clock.nowMs(),
        kind: null,
        phrase: null,
      })
    }
    for (let i = 0; i < 5; i++) add(i)
    optOut(workspace, 'mail', 'mila@bakery.example', 'by link')
    const before = await figures(workspace, ruleId)
    expect(before).toMatchObject({ sent: 5, 'sent|label|welcome': 5, optedOut: 1 })
    expect(behind(workspace, ruleId, { figure: 'sent', by: 'label', value: 'welcome' })).toHaveLength(5)
    expect(behind(workspace, ruleId, { figure: 'sent', by: 'label', value: 'other' })).toHaveLength(0)
    expect(behind(workspace, ruleId, { figure: 'optedOut' })).toHaveLength(1)
    clock.set(clock.nowMs() + 2000 * 86_400_000)
    await workRetention(workspace, NO_CONTROL)
    expect(workspace.store.retention.count('conversations')).toBe(0)
    expect(await figures(workspace, ruleId)).toEqual(before)
    add(9)
    expect(await figures(workspace, ruleId)).toMatchObject({ sent: 6, 'sent|label|welcome': 6, optedOut: 1 })
  })
})

describe('figures after very many operations', () => {
  it('are those that come of going through the journal from the beginning', async () => {
    const { workspace, clock } = larkmoor()
    const goals: readonly Goal[] = [
      { ...SIGNED, alone: 20 },
      { ...SIGNED, days: 3 },
    ]
    const ruleIds = goals.map((goal) => switchOn(workspace, withGoal(goal)))
    const next = numbers(41)
    const pick = <T>(all: readonly T[]): T => all[Math.floor(next() * all.length)] as T
    const refs = Array.from({ length: 60 }, (_, i) => deal(workspace, `Deal ${i}`, pick(['rosa', 'jude'])))
    const { zone } = workspace.catalogue().workspace
    const operations = Number(process.env.SKY_LEVER_OPERATIONS ?? 1000)
    for (let i = 0; i < operations; i++) {
      const roll = next()
      const ref = pick(refs)
      if (roll < 0.62) to(workspace, ref, pick(['hp-sized', 'hp-quoted', 'hp-signed', 'hp-terms']))
      else if (roll < 0.7) workspace.change(ref, { owner: pick(['rosa', 'jude']) }, 'ines')
      else if (roll < 0.8) clock.set(clock.nowMs() + Math.floor(next() * 2 * 86_400_000))
      else if (roll < 0.9) {
        const open = workspace.store.tasks.openFor(pick(['rosa', 'jude']), '9999-12-31')
        const one = open.length > 0 ? pick(open) : null
        if (one && next() < 0.5) workspace.store.tasks.finish(one.id, 'rosa', 'done', clock.nowMs())
        else if (one) workspace.store.tasks.postpone(one.id, 'rosa', addDays(one.due, 3), clock.nowMs())
      } else if (roll < 0.93) {
        const run = pick(workspace.store.runs.list({ ruleId: pick(ruleIds), limit: 40 }))
        if (run?.state === 'done' && run.undoneAt === null) undoOne(workspace, run.id, 'ines')
      } else if (roll < 0.97) await countResults(workspace, NO_CONTROL)
      else if (refs.length < 400) refs.push(deal(workspace, `More ${i}`))
    }
    for (const [i, ruleId] of ruleIds.entries()) {
      const goal = goals[i]
      if (!goal) throw new Error('no goal')
      const found = await figures(workspace, ruleId)
      expect(found).toEqual(fromTheJournal(workspace, ruleId, goal, zone))
      expect(found[`${goalKey(goal)} reached`] ?? 0).toBeGreaterThan(5)
      expectRowsBehind(workspace, ruleId, found, goalKey(goal))
    }
  })
})

/** Behind each figure, and behind each within a value of something, stand as many rows as it says. */
function expectRowsBehind(workspace: Workspace, ruleId: number, figures: Figures, key: string): void {
  const { zone } = workspace.catalogue().workspace
  const asked = { ruleId, key, of: '', nowMs: workspace.clock.nowMs(), zone }
  let looked = 0
  for (const [name, n] of Object.entries(figures)) {
    const [what = '', by = null, value = ''] = name.split('|')
    const [, call, answer] = /^(?:call (\w+)|answer (\w+))$/.exec(what) ?? []
    const bare = what.replace(/^.* (?=\w+$)/, '')
    const figure = call ? 'call' : answer ? 'answer' : LISTED_FIGURES.find((one) => one === bare)
    if (!figure || by === 'days') continue
    const rows = workspace.store.figureRows.page(
      {
        ...asked,
        figure,
        alone: what.includes(' alone '),
        of: call ?? answer ?? '',
        by: BREAKDOWNS.find((one) => one === by) ?? null,
        value,
      },
      null,
      100_000,
    )
    expect(rows, name).not.toBe(null)
    expect(new Set(rows?.map(({ id }) => id)).size, name).toBe(n)
    looked++
  }
  expect(looked).toBeGreaterThan(10)
}

/** The same figures by another way: every run, task and change of the stage, one after the other, in plain code. */
function fromTheJournal(workspace: Workspace, ruleId: number, goal: Goal, zone: string): Figures {
  const all: Figures[] = []
  const count = (name: string, n = 1): void => void all.push({ [name]: n })
  const key = goalKey(goal)
  const runs = workspace.db.sqlite
    .prepare<
      [number],
      {
        id: number
        state: string
        stop: string | null
        version_id: number
        started_at: number
        undone_at: number | null
        record_id: number
        event_seq: number
      }
    >(
      'SELECT id, state, stop, version_id, started_at, undone_at, record_id, event_seq FROM runs WHERE rule_id = ? ORDER BY id',
    )
    .all(ruleId)
  const measured = new Set<number>()
  for (const run of runs) {
    const stop = run.stop === null ? null : (JSON.parse(run.stop) as { code: string }).code
    const through = run.state !== 'stopped' || stop === 'noLonger' || stop === 'ended'
    const month = dateAt(run.started_at, zone).slice(0, 7)
    if (stop === 'leftAlone') count('leftAlone')
    else if (through && run.undone_at !== null) count('undone')
    else if (through) for (const name of ['runs', `runs|version|${run.version_id}`, `runs|month|${month}`]) count(name)
    if (!through && stop !== 'leftAlone') continue
    if (measured.has(run.record_id)) continue
    measured.add(run.record_id)
    if (run.undone_at !== null) continue
    const changes = workspace.db.sqlite
      .prepare<[number, number], { at_ms: number; new: string; old: string }>(
        `SELECT e.at_ms, c.value ->> '$.new' AS new, c.value ->> '$.old' AS old FROM events AS e, json_each(e.changes) AS c
          WHERE e.object = 'deal' AND e.record_id = ? AND e.seq > ? AND c.value ->> '$.field' = 'stage' ORDER BY e.seq`,
      )
      .all(run.record_id, run.event_seq)
    const until = startOfDate(addDays(dateAt(run.started_at, zone), goal.days + 1), zone)
    const at = changes.find((one) => one.at_ms < until && one.new === 'hp-signed')
    const owner = workspace.db.sqlite
      .prepare<[number], { owner_id: string | null }>('SELECT owner_id FROM measures WHERE run_id = ?')
      .get(run.id)?.owner_id
    const what = `${key} ${stop === 'leftAlone' ? 'alone ' : ''}`
    if (until > workspace.clock.nowMs()) {
      count(`${what}within`)
      if (at) count(`${what}withinReached`)
      continue
    }
    for (const name of at ? ['through', 'reached'] : ['through'])
      for (const by of ['', `|month|${month}`, `|owner|${owner ?? ''}`, `|version|${run.version_id}`])
        count(`${what}${name}${by}`)
    if (at) count(`${what}reached|days|${Math.floor((at.at_ms - run.started_at) / 86_400_000)}`)
  }
  const tasks = workspace.db.sqlite
    .prepare<
      [number],
      { id: number; state: string; assignee_id: string; due: string; created_at: number; done_at: number | null }
    >('SELECT id, state, assignee_id, due, created_at, done_at FROM tasks WHERE rule_id = ?')
    .all(ruleId)
  for (const one of tasks) {
    const acts = workspace.db.sqlite
      .prepare<[number], string>('SELECT act FROM task_acts WHERE task_id = ?')
      .pluck()
      .all(one.id)
    const done = one.state === 'done' && one.done_at !== null
    const names = [
      'tasksMade',
      ...(done ? ['tasksDone'] : []),
      ...(done && dateAt(one.done_at ?? 0, zone) > one.due ? ['tasksLate'] : []),
      ...(one.state === 'withdrawn' ? ['tasksWithdrawn'] : []),
      ...(acts.includes('postponed') ? ['tasksPostponed'] : []),
    ]
    for (const name of names)
      for (const by of ['', `|owner|${one.assignee_id}`, `|month|${dateAt(one.created_at, zone).slice(0, 7)}`])
        count(`${name}${by}`)
    if (done && one.done_at !== one.created_at)
      for (const by of ['', `|owner|${one.assignee_id}`]) count(`tasksMs${by}`, (one.done_at ?? 0) - one.created_at)
  }
  return addUp(all)
}
