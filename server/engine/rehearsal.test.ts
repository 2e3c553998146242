import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  all,
  condition,
  daysBefore,
  document,
  enters,
  given,
  move,
  set,
  task,
  type StepLine,
} from '../../core/testing/rules'
import type { RuleDocument } from '../../core/rules/document'
import type { Value } from '../../core/language/value'
import type { Rehearsal } from '../../core/rehearsal/rehearse'
import { resultOf, type RehearsalResult } from '../../core/rehearsal/result'
import { compareResults } from '../../core/rehearsal/compare'
import { addDays } from '../../core/time/dates'
import { instantAt } from '../../core/time/moments'
import { larkmoor, NOW_MS, switchOn } from '../testing/workspace'
import { planClock, workClock } from './clockwork'
import { tellActivities } from './activities'
import { setUpRehearsal, type Wanted } from './rehearsal'
import type { SetClock } from './clock'
import type { Workspace } from './workspace'

const TODAY = '2026-11-24'
const ZONE = 'Europe/Lisbon'
const control = { awaited: () => false, nowMs: () => 0, pause: () => Promise.resolve() }
const near = (days: number, more: object = {}) => {
  const [kind, params] = daysBefore(days)
  return [kind, { ...params, ...more }] as const
}
const wait = (count: number, unit = 'days'): StepLine => [
  'wait',
  { until: { at: 'after', amount: { count, unit }, minute: null }, recheck: true },
]
const wanted = (rules: readonly { ruleId: number; document: RuleDocument }[], more: Partial<Wanted> = {}): Wanted => ({
  rules,
  object: 'deal',
  ids: null,
  filter: null,
  days: 90,
  back: false,
  script: [],
  ...more,
})
function rehearse(workspace: Workspace, order: Wanted): RehearsalResult {
  const rehearsal = setUpRehearsal(workspace, order)
  rehearsal.goOn(() => false)
  return resultOf(rehearsal, rehearsal.startMs)
}
const deal = (workspace: Workspace, values: object = {}) =>
  workspace.create('deal', { name: 'Room', stage: 'hp-sized', owner: 'rosa', ...values }, [], 'ines').ref

describe('a rehearsal', () => {
  it('shows every step with its moment and every text as it would read, and writes nothing', () => {
    const { workspace } = larkmoor()
    deal(workspace, { name: 'One', closeDate: '2026-12-10', stage: 'hp-terms' })
    deal(workspace, { name: 'Two', closeDate: '2026-12-10' })
    const rule = {
      ruleId: 7,
      document: document(
        {
          when: [near(3)],
          onlyIf: all(condition('stage', 'is', { value: 'hp-terms' })),
          then: [task('Ring about {{deal.name}}'), wait(2), move('hp-signed')],
        },
        'Near',
      ),
    }
    const events = workspace.store.events.last()
    const result = rehearse(workspace, wanted([rule]))
    expect(result.tasks).toMatchObject([
      { title: 'Ring about One', assigneeId: 'rosa', atMs: instantAt('2026-12-07', 510, ZONE) },
    ])
    expect(result.runs).toMatchObject([
      {
        recordName: 'One',
        state: 'done',
        steps: [
          { label: '1' },
          { label: '2', say: 'waited until 9 Dec 2026, 8:30' },
          { label: '3', say: 'stage: Terms → Signed' },
        ],
      },
    ])
    expect(result).toMatchObject({
      keptOut: 1,
      byOwner: [['rosa', 1]],
      byDay: [
        ['2026-12-07', 1],
        ['2026-12-09', 1],
      ],
      warnings: [],
    })
    expect([
      workspace.store.events.last(),
      workspace.store.runs.list({ limit: 5 }),
      workspace.store.tasks.ofRecord({ object: 'deal', id: 1 }),
    ]).toEqual([events, [], []])
  })

  it('takes runs on that wait now, by the version they began with', () => {
    const { workspace } = larkmoor()
    const waiting = document(
      {
        when: [enters('hp-quoted')],
        then: [wait(4), task('Ring {{deal.name}}'), wait(3), task('Visit {{deal.name}}')],
      },
      'Quoted',
    )
    const ruleId = switchOn(workspace, waiting)
    const [ref, other] = [deal(workspace, { name: 'One' }), deal(workspace, { name: 'Two' })]
    workspace.change(ref, { stage: 'hp-quoted' }, 'rosa')
    workspace.change(other, { stage: 'hp-quoted' }, 'rosa')
    const draft = { ruleId, document: document({ when: [enters('hp-quoted')], then: [task('At once')] }, 'Quoted') }
    const result = rehearse(workspace, wanted([draft], { ids: [ref.id], days: 5 }))
    expect(result.tasks).toMatchObject([{ title: 'Ring One', atMs: NOW_MS + 4 * 86_400_000 }])
    expect(result.runs).toMatchObject([
      { recordName: 'One', state: 'waiting', atMs: NOW_MS, steps: [{ label: '1' }, { label: '2' }] },
    ])
    expect(rehearse(workspace, wanted([draft], { days: 30 })).tasks.map((one) => one.title)).toEqual([
      'Ring One',
      'Ring Two',
      'Visit One',
      'Visit Two',
    ])
    expect(rehearse(workspace, wanted([draft], { days: 2 })).runs).toEqual([])
    expect(workspace.store.waits.countOf(ruleId)).toBe(2)
  })

  it('goes by what is assumed to happen, for one or for each', () => {
    const { workspace } = larkmoor()
    const [a, b] = [deal(workspace, { name: 'A' }), deal(workspace, { name: 'B' })]
    const rule = {
      ruleId: 7,
      document: document(
        {
          when: [enters('hp-quoted')],
          then: [
            [
              'waitFor',
              { field: 'stage', how: 'changes', to: null, most: { count: 2, unit: 'workdays' }, recheck: false },
            ],
            task('Ring {{deal.name}}'),
          ],
        },
        'Quoted',
      ),
    }
    const onDay = (day: number, id: number | null, values: Readonly<Record<string, Value>>) => ({
      day,
      minute: 600,
      id,
      values,
    })
    const each = rehearse(
      workspace,
      wanted([rule], { ids: [a.id, b.id], script: [onDay(3, null, { stage: 'hp-quoted' })] }),
    )
    expect(each.tasks.map((one) => one.title)).toEqual(['Ring A', 'Ring B'])
    const one = rehearse(
      workspace,
      wanted([rule], {
        ids: [a.id, b.id],
        script: [
          onDay(3, null, { stage: 'hp-quoted' }),
          onDay(3, b.id, { units: 3 }),
          onDay(4, b.id, { stage: 'hp-terms' }),
        ],
      }),
    )
    expect(one.tasks.map(({ title, atMs }) => [title, atMs])).toEqual([
      ['Ring B', instantAt('2026-11-28', 600, ZONE)],
      ['Ring A', instantAt('2026-12-01', 600, ZONE)],
    ])
    expect(
      rehearse(workspace, wanted([rule], { ids: [a.id], script: [onDay(1, null, { stage: 'nowhere' })] })).warnings,
    ).toMatchObject([
      { kind: 'never' },
      {
        kind: 'script',
        text: 'Assumption 1 could not be applied: “nowhere” is not a stage. Stages: Fresh, Talking, Gone quiet, Site visit, Sized, Quoted, Terms, Signed, Lost, Due, Offered, Renewed and 1 more.',
      },
    ])
  })

  it('finds the task that comes again and again, where one was meant', () => {
    const { workspace } = larkmoor()
    deal(workspace, { closeDate: '2026-12-10', stage: 'hp-terms' })
    const naive = {
      ruleId: 8,
      document: document(
        {
          when: [['recurring', { rule: { rule: 'FREQ=DAILY', from: '2026-01-01' }, minute: 510, offDays: 'keep' }]],
          onlyIf: all(
            condition('closeDate', 'inNext', { amount: { count: 3, unit: 'days' } }),
            condition('stage', 'is', { value: 'hp-terms' }, false, 'c2'),
          ),
          then: [task('Closes soon', { again: true })],
        },
        'Naive',
      ),
    }
    const once = {
      ruleId: 9,
      document: document(
        {
          when: [near(3)],
          onlyIf: all(condition('stage', 'is', { value: 'hp-terms' })),
          then: [task('Closes soon', { again: true })],
        },
        'Once',
      ),
    }
    const result = rehearse(workspace, wanted([naive, once]))
    expect(result.warnings).toEqual([
      {
        kind: 'again',
        ruleId: 8,
        ref: { object: 'deal', id: 1 },
        text: '“Naive” creates the same task more than once for 1 record: “Closes soon” 4 times',
      },
    ])
    expect(result.tasks.filter((one) => one.ruleId === 9)).toHaveLength(1)
  })

  it('goes through what really happened again', async () => {
    const { workspace, clock } = larkmoor()
    const ref = deal(workspace, { amount: 500 })
    clock.set(NOW_MS + 5 * 86_400_000)
    workspace.change(ref, { stage: 'hp-quoted' }, 'rosa')
    const later = deal(workspace, { name: 'Later', amount: 900 })
    clock.set(NOW_MS + 8 * 86_400_000)
    workspace.change(later, { stage: 'hp-quoted' }, 'rosa')
    workspace.change(ref, { amount: 5, stage: 'hp-lost' }, 'rosa')
    clock.set(NOW_MS + 20 * 86_400_000)
    const rule = {
      ruleId: 7,
      document: document(
        {
          when: [enters('hp-quoted')],
          onlyIf: all(
            condition('amount', 'moreThan', { value: 100 }),
            condition('stage', 'is', { value: 'hp-quoted' }, false, 'c2'),
          ),
          then: [wait(4), task('Ring {{deal.name}}')],
        },
        'Quoted',
      ),
    }
    const result = rehearse(workspace, wanted([rule], { days: 17, back: true }))
    expect(result.runs.map((run) => [run.recordName, run.state, run.stop])).toEqual([
      ['Room', 'stopped', 'conditions were no longer true'],
      ['Later', 'done', null],
    ])
    expect(result.tasks).toMatchObject([{ title: 'Ring Later', atMs: NOW_MS + 12 * 86_400_000 }])
    await Promise.resolve()
  })

  it('goes through what people really did again, also where only what they are linked to takes part', () => {
    const { workspace, clock } = larkmoor()
    const contact = workspace.create('contact', { name: 'Ada Lind', owner: 'rosa' }, [], 'ines').ref
    const { ref } = workspace.create('deal', { name: 'Room', stage: 'hp-sized', owner: 'rosa' }, [contact], 'ines')
    const { ref: other } = workspace.create(
      'deal',
      { name: 'Hall', stage: 'hp-sized', owner: 'rosa' },
      [contact],
      'ines',
    )
    clock.set(NOW_MS + 2 * 86_400_000)
    tellActivities(workspace, [{ record: contact, kind: 'visit', about: '/prices', atMs: null, key: null }])
    tellActivities(workspace, [
      { record: contact, kind: 'visit', about: '/prices', atMs: NOW_MS + 86_400_000, key: null },
    ])
    clock.set(NOW_MS + 5 * 86_400_000)
    const visits = { kind: 'visit', by: 'contact', about: 'price', late: false }
    const rule = { ruleId: 7, document: document({ when: [['activity', visits]], then: [task('Ring')] }, 'Visited') }
    const result = rehearse(workspace, wanted([rule], { days: 4, back: true, ids: [ref.id] }))
    expect(result.tasks).toMatchObject([{ title: 'Ring', atMs: NOW_MS + 2 * 86_400_000, ref }])
    const all_ = rehearse(workspace, wanted([rule], { days: 4, back: true }))
    expect(all_.tasks.map((one) => one.ref.id).toSorted((a, b) => a - b)).toEqual([ref.id, other.id])
  })

  it('compares two versions on the same records', () => {
    const { workspace } = larkmoor()
    for (const [name, closeDate, amount] of [
      ['A', '2026-12-10', 5],
      ['B', '2026-12-11', 500],
      ['C', '2026-12-12', 900],
    ] as const)
      deal(workspace, { name, closeDate, amount })
    const version = (least: number, title: (amount: string) => string) => ({
      ruleId: 7,
      document: document(
        {
          when: [near(3)],
          onlyIf: all(condition('amount', 'moreThan', { value: least })),
          then: [
            [
              'choosePath',
              {},
              [given('g', condition('amount', 'moreThan', { value: 800 }, false, 'c9')), task(title('large'))],
              [null, task('Ring')],
            ],
          ],
        },
        'V',
      ),
    })
    const [left, right] = [version(1, () => 'Visit'), version(100, () => 'Invite')].map((rule) =>
      rehearse(workspace, wanted([rule])),
    )
    if (!left || !right) throw new Error('two results')
    const compared = compareResults(left, right, ZONE)
    expect(compared).toMatchObject({
      same: 1,
      onlyLeft: 1,
      onlyRight: 0,
      different: 1,
      records: [
        { recordName: 'A', how: 'left' },
        { recordName: 'C', how: 'different' },
      ],
    })
  })

  it('is cut when it comes to more than anybody reads, and can be taken in pieces', () => {
    const { workspace } = larkmoor()
    for (let i = 0; i < 30; i++) deal(workspace, { closeDate: addDays(TODAY, i + 5) })
    const rehearsal: Rehearsal = setUpRehearsal(
      workspace,
      wanted([{ ruleId: 7, document: document({ when: [near(3)], then: [task('x')] }) }]),
    )
    let pieces = 1
    while (!rehearsal.goOn(() => true)) pieces++
    expect(pieces).toBeGreaterThan(20)
    expect([rehearsal.progress(), rehearsal.world.tasks.length]).toEqual([1, 30])
  })
})

describe('the live world and a rehearsal', () => {
  /** Rules of every sort that time plays a part in, and what people do on the way. */
  const steps: readonly StepLine[] = [
    task('Task of {{deal.name}}', { again: true }),
    set('units', 3),
    wait(2),
    wait(1, 'workdays'),
    move('hp-terms'),
    move('hp-lost'),
    task('Later', { again: true, later: { at: 'after', amount: { count: 5, unit: 'days' }, minute: 600 } }),
    ['waitFor', { field: 'stage', how: 'changes', to: null, most: { count: 3, unit: 'days' }, recheck: true }],
  ]
  const triggers = [
    enters('hp-quoted'),
    enters('hp-terms'),
    near(2),
    near(5, { side: 'after' }),
    near(1, { every: 'month' }),
    ['recurring', { rule: { rule: 'FREQ=WEEKLY;BYDAY=TH', from: '2026-01-01' }, minute: 930, offDays: 'next' }],
    ['fieldChanges', { field: 'units', how: 'anything', from: null, to: null }],
  ] as const
  const conditions = [
    all(),
    all(condition('stage', 'standing', { outcome: 'open' })),
    all(condition('amount', 'moreThan', { value: 300 })),
    all(condition('closeDate', 'inNext', { amount: { count: 10, unit: 'days' } })),
  ]
  const aRule = fc.record({
    when: fc.constantFrom(...triggers),
    onlyIf: fc.constantFrom(...conditions),
    then: fc.array(fc.constantFrom(...steps), { minLength: 1, maxLength: 4 }),
  })
  const aLine = fc.record({
    day: fc.integer({ min: 1, max: 30 }),
    minute: fc.integer({ min: 0, max: 1439 }),
    id: fc.integer({ min: 1, max: 4 }),
    values: fc.constantFrom<Readonly<Record<string, Value>>>(
      { stage: 'hp-quoted' },
      { stage: 'hp-terms' },
      { stage: 'hp-sized' },
      { closeDate: '2026-12-08' },
      { closeDate: '2026-12-20' },
      { closeDate: null },
      { amount: 900 },
      { amount: 10 },
      { units: 7 },
    ),
  })

  async function live(
    workspace: Workspace,
    clock: SetClock,
    script: readonly { readonly atMs: number; readonly id: number; readonly values: Readonly<Record<string, Value>> }[],
    toMs: number,
  ): Promise<void> {
    planClock(workspace)
    const pass = async (untilMs: number): Promise<void> => {
      for (;;) {
        const due = [
          workspace.store.waits.firstTimer(untilMs)?.dueMs,
          workspace.store.waits.firstDue(untilMs)?.dueMs,
        ].flatMap((at) => at ?? [])
        if (due.length === 0) break
        clock.set(Math.max(workspace.clock.nowMs(), Math.min(...due)))
        await workClock(workspace, control)
      }
      clock.set(Math.max(workspace.clock.nowMs(), untilMs))
    }
    for (const { atMs, id, values } of script) {
      // What a person does at a moment comes before what falls due at it, as in a rehearsal.
      await pass(atMs - 1)
      clock.set(atMs)
      workspace.change({ object: 'deal', id }, values, 'rosa')
    }
    await pass(toMs)
  }

  it('come to the same by the same rules, records and script', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(aRule, { minLength: 1, maxLength: 3 }),
        fc.array(aLine, { maxLength: 8 }),
        async (rules, lines) => {
          const { workspace, clock } = larkmoor()
          for (const [i, closeDate] of ['2026-12-01', '2026-12-08', '2026-12-20', null].entries())
            deal(workspace, { name: `D${i}`, closeDate, amount: 100 + i * 200 })
          const documents = rules.map((rule, i) => document({ ...rule, when: [rule.when] }, `R${i + 1}`))
          const script = lines
            .map((line) => ({ ...line, atMs: instantAt(addDays(TODAY, line.day), line.minute, ZONE) }))
            .sort(
              (a, b) =>
                a.atMs - b.atMs ||
                lines.findIndex((one) => one.day === a.day) - lines.findIndex((one) => one.day === b.day),
            )
          const rehearsed = rehearse(
            workspace,
            wanted(
              documents.map((one, i) => ({ ruleId: i + 1, document: one })),
              { days: 40, script: script.map(({ day, minute, id, values }) => ({ day, minute, id, values })) },
            ),
          )
          for (const one of documents) switchOn(workspace, one)
          await live(workspace, clock, script, NOW_MS + 40 * 86_400_000)
          const { tasks, runs } = workspace.store
          expect(
            tasks
              .list({ people: null, before: null, limit: 200 })
              .map(({ title, createdAt, recordId, due, assigneeId }) => ({
                title,
                atMs: createdAt,
                id: recordId,
                due,
                assigneeId,
              }))
              .reverse(),
          ).toEqual(
            rehearsed.tasks.map(({ title, atMs, ref, due, assigneeId }) => ({
              title,
              atMs,
              id: ref.id,
              due,
              assigneeId,
            })),
          )
          expect(
            runs
              .list({ limit: 500 })
              .filter((run) => run.stop?.code !== 'conditions')
              .toSorted((a, b) => a.id - b.id)
              .map((run) => `${run.ruleId} ${run.recordId} ${run.startedAt} ${run.state} ${run.stop?.code ?? ''}`),
          ).toEqual(
            rehearsed.runs.map(
              (run) =>
                `${run.ruleId} ${run.ref.id} ${run.atMs} ${run.state} ${run.stop === null ? '' : run.stop.startsWith('cut: the rule ran') ? 'circle' : run.stop.startsWith('cut') ? 'tooDeep' : run.stop.startsWith('ended') ? 'ended' : 'noLonger'}`,
            ),
          )
        },
      ),
      { numRuns: Number(process.env.SKY_LEVER_CASES ?? 25), seed: 6 },
    )
  }, 300_000)
})
