import { describe, expect, it } from 'vitest'
import { instantOf, localMinute } from '../../core/time/dates'
import { all, condition, daysBefore, document, enters, task } from '../../core/testing/rules'
import type { StepLine } from '../../core/testing/rules'
import { refusal } from '../testing/refusal'
import { larkmoor, MIGRATIONS, switchOn } from '../testing/workspace'
import { aheadGrid, aheadOf, type AheadQuery } from '../views/ahead'
import { daySheet } from '../views/day-sheet'
import { runPage } from '../views/journal'
import { recordPage } from '../views/record'
import { evidenceFor } from '../views/evidence'
import { actAhead, type AheadItem } from './ahead'
import type { SetClock } from './clock'
import { planClock, turnClock, workClock } from './clockwork'
import { deleteRecord, mergeRecords } from './going'
import { setHours, setTerritories } from './hours'
import { undoOne } from './undo'
import { Workspace } from './workspace'

const control = { awaited: () => false, nowMs: () => 0, pause: () => Promise.resolve() }
const at = (date: string, hour = 9, minute = 0) => instantOf(date, hour, minute, 'Europe/Lisbon')
const near = (field = 'closeDate', days = 3) => daysBefore(days, field)
const wait = (count: number): StepLine => [
  'wait',
  { until: { at: 'after', amount: { count, unit: 'days' }, minute: null }, recheck: true },
]
const deal = (workspace: Workspace, values: object = {}) =>
  workspace.create('deal', { name: 'Room', stage: 'hp-sized', owner: 'rosa', ...values }, [], 'ines').ref
const titles = (workspace: Workspace) =>
  workspace.store.tasks
    .list({ people: null, before: null, limit: 200 })
    .map((one) => one.title)
    .reverse()
const query = (more: Partial<AheadQuery> = {}): AheadQuery => ({
  fromMs: at('2026-11-24', 0),
  toMs: at('2027-06-01'),
  limit: 100,
  scope: null,
  ...more,
})
/** Lets the clock come to an instant, moment by moment as a second after a second would. */
async function until(workspace: Workspace, clock: SetClock, atMs: number): Promise<void> {
  planClock(workspace)
  for (;;) {
    const due = [
      workspace.store.waits.firstTimer(atMs)?.dueMs,
      workspace.store.waits.firstDue(atMs)?.dueMs,
      workspace.store.tasks.firstReminder(atMs)?.dueMs,
    ].flatMap((one) => one ?? [])
    if (due.length === 0) break
    clock.set(Math.max(workspace.clock.nowMs(), Math.min(...due)))
    await workClock(workspace, control)
  }
  clock.set(atMs)
}

describe('the clock at work', () => {
  it('starts what a date brings, by an index it has made itself', async () => {
    const { workspace, clock } = larkmoor()
    const rule = switchOn(
      workspace,
      document({ when: [near('siteVisit')], then: [task('Prepare {{deal.name}}')] }, 'Visit near'),
    )
    for (const [name, siteVisit] of [
      ['A', '2026-12-10'],
      ['B', '2026-12-03'],
      ['C', null],
    ] as const)
      deal(workspace, { name, siteVisit })
    await until(workspace, clock, at('2026-12-31'))
    expect(titles(workspace)).toEqual(['Prepare B', 'Prepare A'])
    const field = workspace.catalogue().field('deal', 'siteVisit')
    expect(workspace.store.catalogue.indexedFields().find((one) => one.id === field?.id)?.indexed).toBe(true)
    const [run] = workspace.store.runs.list({ ruleId: rule, limit: 10 })
    expect(run && runPage(workspace, run.id)).toMatchObject({
      because: 'its site-visit date was 3 days away, 10 Dec 2026',
      doer: { by: 'clock' },
      chain: [{ text: 'schedule: scheduled time' }, {}],
    })
  })

  it('of ten thousand at once starts each once, in small commits, whoever else is at work', async () => {
    const { workspace, clock, reopen } = larkmoor()
    switchOn(workspace, document({ when: [near()], then: [task('x', { again: true })] }, 'Near'))
    workspace.db.atomically(() => {
      for (let i = 0; i < 450; i++) deal(workspace, { name: `D${i}`, closeDate: '2026-12-10' })
    })
    planClock(workspace)
    clock.set(at('2026-12-07', 8, 30))
    const other = reopen()
    await Promise.all([workClock(workspace, control), workClock(other, control)])
    expect(workspace.store.tasks.openCount('rosa')).toBe(450)
    expect(workspace.store.waits.timers()).toEqual([])
  })

  it('goes on behind a crash in the middle of many, and does nothing twice', async () => {
    const { workspace, clock, reopen } = larkmoor()
    switchOn(workspace, document({ when: [near()], then: [wait(1), task('x', { again: true })] }, 'Near'))
    workspace.db.atomically(() => {
      for (let i = 0; i < 450; i++) deal(workspace, { name: `D${i}`, closeDate: '2026-12-10' })
    })
    planClock(workspace)
    clock.set(at('2026-12-07', 8, 30))
    let commits = 0
    await expect(
      workClock(workspace, {
        ...control,
        awaited: () => true,
        pause: () => (++commits === 2 ? Promise.reject(new Error('killed')) : Promise.resolve()),
      }),
    ).rejects.toThrow('killed')
    const again = reopen()
    expect(again.store.waits.timers()[0]?.position).toBeGreaterThan(0)
    await until(again, clock, at('2026-12-09'))
    expect(again.store.tasks.openCount('rosa')).toBe(450)
  })

  it('keeps what waits through a restart, with the version it began with', async () => {
    const { workspace, clock, reopen } = larkmoor()
    const rule = switchOn(
      workspace,
      document({ when: [enters('hp-quoted')], then: [wait(2), task('Old words')] }, 'Wait'),
    )
    workspace.change(deal(workspace), { stage: 'hp-quoted' }, 'rosa')
    workspace.store.rules.publish(
      rule,
      document({ when: [enters('hp-quoted')], then: [task('New words')] }, 'Wait'),
      'ines',
      workspace.clock.nowMs(),
    )
    workspace.rulesChanged()
    const again = reopen()
    await until(again, clock, at('2026-11-27'))
    expect(titles(again)).toEqual(['Old words'])
  })

  it('goes on by another version when it is moved there, and stays with its own where the step is gone', async () => {
    const { workspace, clock } = larkmoor()
    const rule = switchOn(
      workspace,
      document({ when: [enters('hp-quoted')], then: [wait(2), task('Old words')] }, 'Wait'),
    )
    workspace.change(deal(workspace), { stage: 'hp-quoted' }, 'rosa')
    const publish = (then: readonly StepLine[]): number => {
      workspace.store.rules.publish(
        rule,
        document({ when: [enters('hp-quoted')], then }, 'Wait'),
        'ines',
        workspace.clock.nowMs(),
      )
      workspace.rulesChanged()
      return workspace.store.rules.get(rule)?.version?.id ?? 0
    }
    const { waits } = workspace.store
    expect(waits.moveAllOf(rule, publish([task('x')]), ['s9'])).toBe(0)
    expect(waits.moveAllOf(rule, publish([wait(2), task('New words')]), ['s1', 's2'])).toBe(1)
    await until(workspace, clock, at('2026-11-27'))
    expect(titles(workspace)).toEqual(['New words'])
  })

  it('reminds whoever has a task, in the app', async () => {
    const { workspace, clock } = larkmoor()
    switchOn(workspace, document({ when: [enters('hp-quoted')], then: [task('Ring', { remind: 'onDay' })] }, 'Ring'))
    workspace.change(deal(workspace), { stage: 'hp-quoted' }, 'rosa')
    await until(workspace, clock, at('2026-11-27'))
    expect(workspace.store.notices.of('rosa', null, 10)).toMatchObject([
      { subject: 'Reminder: Ring', body: 'Due 26 Nov 2026', atMs: at('2026-11-26') },
    ])
  })

  it('of a demo is turned by way of every moment, and of a real workspace it is not', async () => {
    const { workspace, dbFile } = larkmoor()
    switchOn(workspace, document({ when: [enters('hp-quoted')], then: [wait(2), task('Two days on')] }, 'Wait'))
    const turned = new Workspace({ dbFile, migrationsFolder: MIGRATIONS })
    turned.change(deal(turned), { stage: 'hp-quoted' }, 'rosa')
    const before = turned.clock.nowMs()
    await turnClock(turned, before + 10 * 86_400_000, control)
    expect(turned.clock.nowMs()).toBeGreaterThanOrEqual(before + 10 * 86_400_000)
    expect(turned.store.tasks.list({ people: null, before: null, limit: 5 })[0]).toMatchObject({ title: 'Two days on' })
    expect(Math.abs((turned.store.tasks.get(1)?.createdAt ?? 0) - before - 2 * 86_400_000)).toBeLessThan(120_000)
    // Whoever opens the file finds the clock where it was turned to.
    const again = new Workspace({ dbFile, migrationsFolder: MIGRATIONS })
    expect(again.clock.nowMs()).toBeGreaterThanOrEqual(before + 10 * 86_400_000)
    again.close()
    turned.close()
  })
})

describe('what is ahead', () => {
  it('is told over all rules in the order of the moments, for records whose conditions hold now', () => {
    const { workspace } = larkmoor()
    switchOn(
      workspace,
      document({ when: [enters('hp-quoted')], then: [wait(2), task('Ask about {{deal.name}}')] }, 'Wait'),
    )
    const dates = switchOn(
      workspace,
      document(
        { when: [near()], onlyIf: all(condition('amount', 'moreThan', { value: 100 })), then: [task('Ring')] },
        'Near',
      ),
    )
    switchOn(
      workspace,
      document(
        {
          when: [
            ['recurring', { rule: { rule: 'FREQ=WEEKLY;BYDAY=TH', from: '2026-01-01' }, minute: 930, offDays: 'keep' }],
          ],
          then: [task('Tidy')],
        },
        'Thursdays',
      ),
    )
    const one = deal(workspace, { name: 'One', closeDate: '2026-11-30', amount: 500 })
    deal(workspace, { name: 'Two', closeDate: '2026-11-30', amount: 5 })
    workspace.change(one, { stage: 'hp-quoted' }, 'rosa')
    planClock(workspace)
    const { lines, total } = aheadOf(workspace, query({ toMs: at('2026-12-01') }))
    expect(
      lines.map(({ kind, recordName, what, dueMs, count }) => [
        kind,
        recordName,
        what,
        localMinute(dueMs ?? 0, 'Europe/Lisbon'),
        count,
      ]),
    ).toEqual([
      ['wait', 'One', 'create task “Ask about One”', '2026-11-26T09:12', null],
      [
        'again',
        'every Thursday at 15:30 (Lisbon), for all deals that meet the conditions',
        'create task “Tidy”',
        '2026-11-26T15:30',
        2,
      ],
      [
        'start',
        'One',
        'create task “Ring” (its expected close is then 3 days away, 30 Nov 2026)',
        '2026-11-27T08:30',
        null,
      ],
    ])
    expect(total).toBe(3)
    expect(aheadOf(workspace, query({ ruleId: dates })).lines).toHaveLength(1)
    expect(aheadOf(workspace, query({ ownerId: 'jude' })).lines).toHaveLength(0)
    expect(aheadOf(workspace, query({ scope: new Set(['jude']) })).lines.filter((line) => line.ref)).toHaveLength(0)
    const grid = aheadGrid(workspace, lines, at('2026-11-24'), 7, null)
    expect(grid.owners).toEqual([
      { id: 'rosa', counts: [0, 0, 1, 1, 0, 0, 0] },
      { id: null, counts: [0, 0, 2, 0, 0, 0, 0] },
    ])
    expect(recordPage(workspace, one)?.waiting.map((line) => line.kind)).toEqual(['wait', 'again', 'start'])
  })

  function three() {
    const made = larkmoor()
    const { workspace } = made
    const rule = switchOn(workspace, document({ when: [enters('hp-quoted')], then: [wait(2), task('Waited')] }, 'Wait'))
    switchOn(workspace, document({ when: [near()], then: [task('Near')] }, 'Near'))
    const ref = deal(workspace, { closeDate: '2026-12-10' })
    workspace.change(ref, { stage: 'hp-quoted' }, 'rosa')
    planClock(workspace)
    const items = aheadOf(workspace, query()).lines.flatMap((line): AheadItem[] => (line.item ? [line.item] : []))
    return { ...made, rule, ref, items }
  }

  it('is ended for one or many, with who and why, and the same moment does not come again', async () => {
    const { workspace, clock, ref, items } = three()
    expect(actAhead(workspace, items, { act: 'end' }, 'they rang', 'ines')).toEqual({ done: 2, gone: 0 })
    expect(actAhead(workspace, items, { act: 'end' }, '', 'ines')).toEqual({ done: 0, gone: 2 })
    workspace.change(ref, { closeDate: '2026-12-20' }, 'rosa')
    workspace.change(ref, { closeDate: '2026-12-10' }, 'rosa')
    await until(workspace, clock, at('2027-01-31'))
    expect(titles(workspace)).toEqual([])
    expect(workspace.store.runs.list({ limit: 9 }).map((run) => run.stop)).toEqual([
      { code: 'calledOff', say: 'ended by Ines Calloway: they rang' },
      { code: 'ended', say: 'ended by Ines Calloway: they rang' },
    ])
  })

  it('is put off, and done now', async () => {
    const { workspace, clock, items } = three()
    expect(actAhead(workspace, items, { act: 'postpone', toMs: at('2026-12-15') }, 'fair', 'ines')).toEqual({
      done: 2,
      gone: 0,
    })
    const put = aheadOf(workspace, query()).lines
    expect(put.map((line) => [line.dueMs, line.what])).toEqual([
      [at('2026-12-15'), 'create task “Waited”'],
      [at('2026-12-15'), 'create task “Near”'],
    ])
    expect(put[0]?.moved).toBe('postponed by Ines Calloway: fair')
    await until(workspace, clock, at('2026-12-14'))
    expect(titles(workspace)).toEqual([])
    await until(workspace, clock, at('2026-12-16'))
    expect(titles(workspace)).toEqual(['Waited', 'Near'])
    const now = three()
    actAhead(now.workspace, now.items, { act: 'now' }, '', 'ines')
    expect(titles(now.workspace)).toEqual(['Waited', 'Near'])
    await until(now.workspace, now.clock, at('2027-01-31'))
    expect(titles(now.workspace)).toEqual(['Waited', 'Near'])
  })

  it('ends with its record, its rule or its run, and never holds anything up', async () => {
    const deleted = three()
    deleteRecord(deleted.workspace, deleted.ref, 'rosa')
    expect(deleted.workspace.store.runs.list({ limit: 1 })[0]?.stop).toEqual({ code: 'recordGone' })
    const merged = three()
    mergeRecords(merged.workspace, deal(merged.workspace, { name: 'Other' }), merged.ref.id, [], 'ines')
    expect(merged.workspace.store.runs.list({ limit: 1 })[0]?.stop).toEqual({
      code: 'ended',
      say: 'the record was merged into another',
    })
    const off = three()
    expect(off.workspace.store.waits.endAllOf(off.rule, { code: 'ended', say: 'off' }, 0)).toBe(1)
    const undone = three()
    const run = undone.workspace.store.runs.list({ limit: 1 })[0]?.id ?? 0
    undoOne(undone.workspace, run, 'ines')
    for (const { workspace, clock } of [off, undone]) {
      await until(workspace, clock, at('2026-11-30'))
      expect(titles(workspace)).toEqual([])
    }
    expect(runPage(undone.workspace, run)).toMatchObject({
      state: 'stopped',
      stop: 'Ines Calloway undid it',
    })
  })

  it('is shown beside the trigger while it is written, with those whose moment has passed', () => {
    const { workspace } = larkmoor()
    for (const closeDate of ['2026-12-10', '2026-11-25', null]) deal(workspace, { closeDate })
    const { clocks } = evidenceFor(workspace, document({ when: [near()], then: [task('x')] }))
    expect(clocks.t1).toMatchObject({
      moments: [{ atMs: at('2026-12-07', 8, 30), id: 1 }],
      looked: 3,
      coming: 1,
      passed: 1,
      empty: 1,
    })
  })
})

describe('hours, territories and queues', () => {
  it('moves what goes by working days when the week changes', () => {
    const { workspace } = larkmoor()
    const [trigger, params] = near()
    switchOn(
      workspace,
      document({ when: [[trigger, { ...params, amount: { count: 2, unit: 'workdays' } }]], then: [task('x')] }),
    )
    deal(workspace, { closeDate: '2026-12-14' })
    planClock(workspace)
    expect(workspace.store.waits.timers()[0]?.dueMs).toBe(at('2026-12-10', 8, 30))
    const { zone, holidays } = workspace.catalogue().workspace
    setHours(workspace, { zone, workdays: [1, 2, 3, 4, 5, 6], opensAt: 480, closesAt: 1080, holidays })
    planClock(workspace)
    expect(workspace.store.waits.timers()[0]?.dueMs).toBe(at('2026-12-11', 8, 30))
    expect(refusal(() => setHours(workspace, { zone, workdays: [1], opensAt: 600, closesAt: 540, holidays }))).toBe(
      'closesAt: The closing time must be after the opening time.',
    )
  })

  it('brings a moment by the contact’s clock forward when another contact becomes the main one', () => {
    const { workspace } = larkmoor()
    const [trigger, params] = near()
    switchOn(workspace, document({ when: [[trigger, { ...params, zone: 'contact' }]], then: [task('x')] }))
    const [here, there] = [null, 'Pacific/Auckland'].map(
      (zone) => workspace.create('contact', { name: 'A', zone }, [], 'ines').ref,
    )
    const ref = workspace.create(
      'deal',
      { name: 'Room', stage: 'hp-sized', closeDate: '2026-12-14' },
      here ? [here] : [],
      'ines',
    ).ref
    planClock(workspace)
    expect(workspace.store.waits.timers()[0]?.dueMs).toBe(at('2026-12-11', 8, 30))
    if (there) workspace.link(ref, there, '', true, 'ines')
    expect(workspace.store.waits.timers()[0]?.dueMs).toBe(instantOf('2026-12-11', 8, 30, 'Pacific/Auckland'))
    expect(workspace.store.events.ofRecord(ref, 9).map((event) => event.kind)).toContain('linked')
  })

  it('counts working days by the hours of the team whose record it is', () => {
    const { workspace } = larkmoor()
    const { zone, workdays, opensAt, closesAt, holidays } = workspace.catalogue().workspace
    const firm = { zone, workdays, opensAt, closesAt, holidays }
    const own = {
      workdays: [1, 2],
      opensAt: 420,
      closesAt: 900,
      holidays: [{ date: '2026-12-01', name: 'Stocktaking' }],
    }
    setHours(workspace, { ...firm, teams: [{ team: 'Hire', ...own }] })
    switchOn(
      workspace,
      document({
        when: [enters('hp-quoted')],
        then: [task('Ring', { due: { count: 2, unit: 'workdays' }, remind: 'onDay' })],
      }),
    )
    // Rosa is of Hire, Jude of Purchase.
    for (const owner of ['rosa', 'jude']) workspace.change(deal(workspace, { owner }), { stage: 'hp-quoted' }, 'ines')
    expect(
      workspace.store.tasks
        .list({ people: null, before: null, limit: 2 })
        .map((one) => [one.assigneeId, one.due, one.remindAt]),
    ).toEqual([
      ['jude', '2026-11-26', at('2026-11-26', opensAt / 60)],
      ['rosa', '2026-12-07', at('2026-12-07', 7)],
    ])
    expect(refusal(() => setHours(workspace, { ...firm, teams: [{ team: 'Nobody', ...own }] }))).toBe(
      'teams.0.team: Team “Nobody” does not exist.',
    )
    expect(refusal(() => setHours(workspace, { ...firm, teams: [{ team: 'Hire', ...own, opensAt: 960 }] }))).toBe(
      'teams.0.closesAt: The closing time must be after the opening time.',
    )
  })

  it('gives what nobody has to whoever covers the territory', () => {
    const { workspace } = larkmoor()
    setTerritories(workspace, [
      { name: 'Clinics', personId: 'anouk', filter: all(condition('sector', 'is', { value: 'clinic' })) },
      { name: 'All', personId: 'piet', filter: all() },
    ])
    switchOn(
      workspace,
      document({
        when: [enters('hp-quoted')],
        then: [['assignOwner', { person: null, replace: true, who: { by: 'territory' } }]],
      }),
    )
    const [clinic, other] = ['clinic', 'bakery'].map(
      (sector) => workspace.create('company', { name: sector, sector }, [], 'ines').ref,
    )
    const [a, b, c] = [clinic, other, null].map(
      (company) => workspace.create('deal', { name: 'x', stage: 'hp-sized' }, company ? [company] : [], 'ines').ref,
    )
    for (const ref of [a, b, c]) if (ref) workspace.change(ref, { stage: 'hp-quoted' }, 'ines')
    // Piet is away, and Rosa steps in.
    expect([a, b, c].map((ref) => ref && workspace.store.records.read(ref)?.values.owner)).toEqual([
      'anouk',
      'rosa',
      null,
    ])
    expect(
      refusal(() =>
        setTerritories(workspace, [
          { name: 'A', personId: 'anouk', filter: all() },
          { name: 'a', personId: 'anouk', filter: all() },
        ]),
      ),
    ).toBe('territories.1.name: Two territories are named “a”.')
    expect(refusal(() => setTerritories(workspace, [{ name: 'A', personId: 'nobody', filter: all() }]))).toContain(
      'territories.0.personId: “nobody” can’t cover A. Choose an active person.',
    )
  })

  it('puts a task into a queue, from which one of the team takes it, once', () => {
    const { workspace } = larkmoor()
    switchOn(
      workspace,
      document({ when: [enters('hp-quoted')], then: [task('Whoever', { who: { by: 'queue', team: 'Hire' } })] }),
    )
    workspace.change(deal(workspace), { stage: 'hp-quoted' }, 'ines')
    const { tasks } = workspace.store
    expect(daySheet(workspace, 'brisa')).toMatchObject({
      open: [],
      queue: { team: 'Hire', tasks: [{ title: 'Whoever', assigneeId: null }] },
    })
    expect(daySheet(workspace, 'jude').queue?.tasks).toEqual([])
    expect([tasks.pull(1, 'brisa', 1), tasks.pull(1, 'rosa', 2)]).toEqual([true, false])
    expect(daySheet(workspace, 'brisa')).toMatchObject({
      open: [{ title: 'Whoever', acts: [{ text: 'Taken from the queue by Brisa Teixeira' }] }],
      queue: { tasks: [] },
    })
    tasks.putBack(1, 'brisa', 3)
    expect(daySheet(workspace, 'rosa').queue?.tasks).toHaveLength(1)
  })
})
