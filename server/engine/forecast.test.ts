import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { RuleDocument } from '../../core/rules/document'
import { forecastOf, sayLimit, type Forecast } from '../../core/rehearsal/forecast'
import { all, condition, daysBefore, document, enters, set, task, type StepLine } from '../../core/testing/rules'
import { addDays } from '../../core/time/dates'
import { larkmoor, switchOn } from '../testing/workspace'
import { control, deal, titles } from './derived.setting'
import { planClock, workClock } from './clockwork'
import type { SetClock } from './clock'
import { setUpRehearsal } from './rehearsal'
import { addJob, workJob } from './rule-jobs'
import { standingSize, backfillOrder } from './standing'
import { undoOne } from './undo'
import type { Workspace } from './workspace'

const DAYS = 30
const DAY_MS = 86_400_000
const ONCE = { passedDays: 30, again: false }
const daily = ['recurring', { rule: { rule: 'FREQ=DAILY', from: '2026-11-24' }, minute: 510, offDays: 'keep' }] as const
const anew = (title: string, more: object = {}) => task(title, { again: true, ...more })

function foretell(workspace: Workspace, ruleId: number, rule: RuleDocument, backfill = false): Forecast {
  const rehearsal = setUpRehearsal(workspace, {
    rules: [{ ruleId, document: rule }],
    object: rule.object,
    ids: null,
    filter: null,
    days: DAYS,
    back: false,
    script: [],
    forecast: { backfill: backfill ? backfillOrder(workspace, rule, ONCE) : null },
  })
  rehearsal.goOn(() => false)
  return forecastOf(rehearsal, rule.object, workspace.store.records.count(rule.object))
}

async function let30DaysPass(workspace: Workspace, clock: SetClock): Promise<void> {
  const toMs = clock.nowMs() + DAYS * DAY_MS
  planClock(workspace)
  for (;;) {
    const { waits, tasks } = workspace.store
    const due = [waits.firstTimer(toMs), waits.firstDue(toMs), tasks.firstReminder(toMs)].flatMap(
      (one) => one?.dueMs ?? [],
    )
    if (due.length === 0) break
    clock.set(Math.max(clock.nowMs(), Math.min(...due)))
    await workClock(workspace, control)
  }
  clock.set(toMs)
}
async function goThrough(workspace: Workspace, ruleId: number, rule: RuleDocument): Promise<number> {
  const order = backfillOrder(workspace, rule, ONCE)
  if (!order) return 0
  await workJob(workspace, addJob(workspace, ruleId, order, 'ines'), control)
  return workspace.store.runs.list({ ruleId, limit: 500 }).length
}

describe('running a rule for what stands there', () => {
  it('takes the members of a segment, not all that meet the conditions', async () => {
    const { workspace } = larkmoor()
    const filter = all(condition('amount', 'moreThan', { value: 500 }))
    const segment = workspace.store.segments.add(
      { object: 'deal', name: 'Large', filter, columns: [], sort: '', down: false },
      'ines',
      workspace.clock.nowMs(),
    )
    workspace.catalogueChanged()
    for (const amount of [100, 400, 600, 900]) deal(workspace, { amount })
    const rule = document({ when: [['segmentEntered', { segment }]], then: [anew('Large')] })
    const id = switchOn(workspace, rule)
    expect(standingSize(workspace, id, rule, 30)).toMatchObject({
      says: ['in the segment “Large”'],
      standing: 2,
      matching: 2,
      already: 0,
    })
    expect(await goThrough(workspace, id, rule)).toBe(2)
    expect(standingSize(workspace, id, rule, 30).already).toBe(2)
  })

  it('takes those whose date passed in the span, and none without a date', async () => {
    const { workspace } = larkmoor()
    const today = workspace.today()
    // Three days before: of the first the moment was two days ago, of the second 40, of the third it comes.
    for (const days of [1, -37, 20]) deal(workspace, { closeDate: addDays(today, days) })
    deal(workspace)
    const rule = document({ when: [daysBefore(3)], then: [anew('Soon')] })
    const id = switchOn(workspace, rule)
    expect(standingSize(workspace, id, rule, 30)).toMatchObject({ passed: true, standing: 1, matching: 1 })
    expect(standingSize(workspace, id, rule, 60).matching).toBe(2)
    expect(await goThrough(workspace, id, rule)).toBe(1)
  })

  it('takes those in a stage that meet the conditions, and has nothing for what only happens', async () => {
    const { workspace } = larkmoor()
    deal(workspace, { stage: 'hp-quoted', amount: 900 })
    deal(workspace, { stage: 'hp-quoted', amount: 100 })
    deal(workspace, { stage: 'hp-sized', amount: 900 })
    const onlyIf = all(condition('amount', 'moreThan', { value: 500 }))
    const rule = document({ when: [enters('hp-quoted')], onlyIf, then: [anew('Ring')] })
    const id = switchOn(workspace, rule)
    expect(standingSize(workspace, id, rule, 30)).toMatchObject({ standing: 2, matching: 1 })
    expect(await goThrough(workspace, id, rule)).toBe(1)
    for (const when of [['created', {}], daily] as const)
      expect(backfillOrder(workspace, document({ when: [when], then: [anew('x')] }), ONCE)).toBeNull()
  })

  it('is taken back with the tasks that are still to appear', async () => {
    const { workspace, clock } = larkmoor()
    deal(workspace, { stage: 'hp-quoted' })
    const later = { at: 'after', amount: { count: 5, unit: 'days' }, minute: 540 }
    const rule = document({ when: [enters('hp-quoted')], then: [anew('Now'), anew('Later', { later })] })
    const id = switchOn(workspace, rule)
    await goThrough(workspace, id, rule)
    const [run] = workspace.store.runs.list({ ruleId: id, limit: 1 })
    undoOne(workspace, run?.id ?? 0, 'ines')
    await let30DaysPass(workspace, clock)
    expect(titles(workspace)).toEqual(['Now'])
  })
})

describe('a forecast', () => {
  it('says how much comes, on which day, to whom, and what is too much', () => {
    const { workspace } = larkmoor()
    for (let i = 0; i < 24; i++) deal(workspace, { name: `Deal ${i}` })
    const id = workspace.store.rules.create(document({ when: [daily], then: [] }), 'ines', 0)
    const told = foretell(workspace, id, document({ when: [daily], then: [anew('Every day')] }))
    expect(told).toMatchObject({ starts: 24 * 30, records: 24, tasks: 24 * 30, emails: 0, cut: null })
    expect(told.byDay[0]).toEqual(['2026-11-25', 24])
    expect(told.people).toEqual([{ id: 'rosa', tasks: 720, notices: 0 }])
    expect(told.most).toHaveLength(10)
    const said = told.limits.map((limit) => sayLimit(limit, 'deal', workspace.catalogue()))
    expect(said).toContain('On 25 Nov 2026, and on 29 days more, it runs for up to 24 of 24 deals.')
    expect(said.some((text) => text.startsWith('Rosa Amara gets 24 tasks and notifications within an hour'))).toBe(true)
    // The same text, once a deal.
    const same = foretell(workspace, id, document({ when: [daily], then: [anew('Same', { email: true })] }))
    expect(same.limits.map(({ code }) => code)).toContain('sameText')
  })

  it('has nothing to say against a rule that does little', () => {
    const { workspace } = larkmoor()
    for (let i = 0; i < 24; i++) deal(workspace, { name: `Deal ${i}`, closeDate: addDays(workspace.today(), i) })
    const rule = document({ when: [daysBefore(3)], then: [anew('Ring {{deal.name}}')] })
    const told = foretell(workspace, workspace.store.rules.create(rule, 'ines', 0), rule)
    expect(told).toMatchObject({ starts: 20, tasks: 20, limits: [] })
  })

  it('is what then happens, whatever the rule', async () => {
    const wait = (count: number): StepLine => [
      'wait',
      { until: { at: 'after', amount: { count, unit: 'days' }, minute: null }, recheck: true },
    ]
    const anyTrigger = fc.constantFrom(
      enters('hp-quoted'),
      daysBefore(3),
      daysBefore(10),
      daily,
      [
        'recurring',
        { rule: { rule: 'FREQ=WEEKLY;BYDAY=MO', from: '2026-11-01' }, minute: 600, offDays: 'next' },
      ] as const,
      ['fieldChanges', { field: 'amount', how: 'past', from: null, to: 400 }] as const,
    )
    const anyStep = fc.constantFrom<StepLine>(
      anew('Ring {{deal.name}}'),
      task('Once'),
      anew('Later', { later: { at: 'after', amount: { count: 4, unit: 'days' }, minute: 540 } }),
      wait(2),
      wait(9),
      set('units', 3),
      set('amount', 100),
    )
    const anyRule = fc.record({
      when: fc.uniqueArray(anyTrigger, { minLength: 1, maxLength: 2 }),
      then: fc.array(anyStep, { minLength: 1, maxLength: 4 }),
      onlyIf: fc.constantFrom(all(), all(condition('amount', 'moreThan', { value: 300 }))),
      backfill: fc.boolean(),
    })
    await fc.assert(
      fc.asyncProperty(anyRule, async ({ backfill, ...parts }) => {
        const { workspace, clock } = larkmoor()
        for (let i = 0; i < 12; i++)
          deal(workspace, {
            name: `Deal ${i}`,
            stage: i % 3 ? 'hp-sized' : 'hp-quoted',
            amount: i * 60,
            closeDate: i % 4 ? addDays(workspace.today(), i * 3 - 12) : null,
          })
        const rule = document(parts)
        const id = switchOn(workspace, rule)
        const told = foretell(workspace, id, rule, backfill)
        if (backfill) await goThrough(workspace, id, rule)
        await let30DaysPass(workspace, clock)
        const runs = workspace.store.runs.list({ ruleId: id, limit: 2000, actedOnly: true })
        expect(workspace.store.tasks.list({ people: null, before: null, limit: 2000 })).toHaveLength(told.tasks)
        expect(runs).toHaveLength(told.starts)
      }),
      { numRuns: 20 },
    )
  })
})
