import { describe, expect, it } from 'vitest'
import { all, condition, document, enters, set, task } from '../../core/testing/rules'
import type { RuleDocument } from '../../core/rules/document'
import { larkmoor, switchOn } from '../testing/workspace'
import { runPage } from '../views/journal'
import { sayUndo } from '../views/undo'
import { startByHand, answersTo, buttonOf } from './start-by-hand'
import { planClock, workClock } from './clockwork'
import { addJob, sizeOf, workJob } from './rule-jobs'
import { surveyUndo, undoOne } from './undo'
import { RefusedError, Workspace } from './workspace'

const deal = (workspace: Workspace, values: object = {}) =>
  workspace.create('deal', { name: 'Room', stage: 'hp-sized', owner: 'rosa', ...values }, [], 'ines').ref
const control = { awaited: () => false, nowMs: () => 0, pause: () => Promise.resolve() }
const open = (workspace: Workspace) =>
  workspace.store.tasks.list({ people: null, state: 'open', before: null, limit: 200 }).map((one) => one.title)
const large = document(
  {
    when: [enters('hp-quoted')],
    onlyIf: all(condition('amount', 'moreThan', { value: 100 }, false, 'c1')),
    then: [set('units', 3), task('Ring {{deal.name}}')],
  },
  'Large',
)
const backfill = (workspace: Workspace, ruleId: number, rule: RuleDocument) =>
  addJob(workspace, ruleId, { what: 'backfill', object: rule.object, filter: rule.conditions }, 'ines')

describe('letting records through that match already', () => {
  it('takes nobody through twice, unless told so, and those that were taken back once more', async () => {
    const { workspace } = larkmoor()
    const id = switchOn(workspace, large)
    const refs = [200_000, 300_000].map(
      (amount) =>
        workspace.create('deal', { name: `Of ${amount}`, stage: 'hp-visit', owner: 'rosa', amount }, [], 'ines').ref,
    )
    const order = { what: 'backfill', object: large.object, filter: large.conditions } as const
    const runs = () => workspace.store.runs.list({ ruleId: id, limit: 50 }).length
    await workJob(workspace, addJob(workspace, id, order, 'ines'), control)
    const first = runs()
    expect(first).toBeGreaterThanOrEqual(refs.length)
    expect(sizeOf(workspace, id, { ...order, again: true })).toBe(refs.length)
    expect(sizeOf(workspace, id, order)).toBe(0)
    const second = addJob(workspace, id, order, 'ines')
    expect(workspace.store.ruleJobs.get(second)?.total).toBe(0)
    await workJob(workspace, second, control)
    expect(runs()).toBe(first)
    const [newest] = workspace.store.runs.list({ ruleId: id, limit: 1 })
    undoOne(workspace, newest?.id ?? 0, 'ines')
    await workJob(workspace, addJob(workspace, id, order, 'ines'), control)
    expect(runs()).toBe(first + 1)
    await workJob(workspace, addJob(workspace, id, { ...order, again: true }, 'ines'), control)
    expect(runs()).toBe(first + 1 + refs.length)
  })

  it('takes each of them through once, stops, and goes on behind what was done', async () => {
    const { workspace } = larkmoor()
    for (let i = 0; i < 7; i++) deal(workspace, { name: `Deal ${i}`, amount: i * 50 })
    const id = switchOn(workspace, large)
    const job = backfill(workspace, id, large)
    expect(workspace.store.ruleJobs.get(job)).toMatchObject({ state: 'running', total: 4, done: 0 })
    // One record a commit; somebody stops it after the second.
    let commits = 0
    await workJob(workspace, job, {
      ...control,
      awaited: () => true,
      pause: () => {
        if (++commits === 2) workspace.store.ruleJobs.setState(job, 'stopped', null)
        return Promise.resolve()
      },
    })
    expect(open(workspace)).toEqual(['Ring Deal 4', 'Ring Deal 3'])
    workspace.store.ruleJobs.setState(job, 'running', null)
    await workJob(workspace, job, control)
    expect(workspace.store.ruleJobs.get(job)).toMatchObject({ state: 'done', total: 4, done: 4 })
    expect(open(workspace)).toEqual(['Ring Deal 6', 'Ring Deal 5', 'Ring Deal 4', 'Ring Deal 3'])
    const run = workspace.store.runs.list({ limit: 1 })[0]
    expect(run?.because).toBe('it matched when Ines Calloway switched the rule on')
  })

  it('asks conditions again when a record’s turn comes', async () => {
    const { workspace } = larkmoor()
    const [a, b] = [deal(workspace, { name: 'A', amount: 500 }), deal(workspace, { name: 'B', amount: 500 })]
    const id = switchOn(workspace, large)
    const job = backfill(workspace, id, large)
    workspace.change(b, { amount: 5 }, 'rosa')
    await workJob(workspace, job, control)
    expect(open(workspace)).toEqual(['Ring A'])
    expect(workspace.store.records.read(a)?.values.units).toBe(3)
  })
})

describe('taking back', () => {
  it('puts values back and withdraws tasks, as a change that no rule looks at', () => {
    const { workspace } = larkmoor()
    switchOn(workspace, large)
    switchOn(
      workspace,
      document(
        { when: [['fieldChanges', { field: 'units', how: 'emptied', from: null, to: null }]], then: [task('Never')] },
        'Units gone',
      ),
    )
    const ref = deal(workspace, { amount: 500 })
    const [report] = workspace.change(ref, { stage: 'hp-quoted' }, 'rosa').reports
    const run = report!.runId
    expect(sayUndo(workspace, run)).toEqual({
      undone: ['units back to empty', 'task “Ring Room” withdrawn'],
      left: [],
      already: null,
    })
    undoOne(workspace, run, 'ines')
    expect(workspace.store.records.read(ref)?.values).toMatchObject({ units: null, stage: 'hp-quoted' })
    expect(open(workspace)).toEqual([])
    const event = workspace.store.events.ofRecord(ref, 1)[0]
    expect(event).toMatchObject({ cause: { by: 'person', personId: 'ines', undoes: run }, rulesOff: true, depth: 0 })
    // A second time it does nothing more.
    expect(undoOne(workspace, run, 'ines')).toBeNull()
    expect(sayUndo(workspace, run)).toMatchObject({ undone: [], already: { person: 'Ines Calloway' } })
    expect(runPage(workspace, run)?.undone).toMatchObject({ person: 'Ines Calloway' })
  })

  it('takes back only the labels that the run added and removed', () => {
    const { workspace } = larkmoor()
    const labels = (how: string, some: readonly string[]) =>
      ['changeLabels', { how, labels: some, field: 'labels' }] as const
    switchOn(
      workspace,
      document({ when: [enters('hp-quoted')], then: [labels('add', ['urgent']), labels('remove', ['press'])] }),
    )
    const ref = deal(workspace, { labels: ['press'] })
    const run = workspace.change(ref, { stage: 'hp-quoted' }, 'rosa').reports[0]!.runId
    expect(workspace.store.records.read(ref)?.values.labels).toEqual(['urgent'])
    workspace.change(ref, { labels: ['urgent', 'reference-customer'] }, 'rosa')
    expect(sayUndo(workspace, run)?.undone).toEqual(['labels back to Reference customer, Press'])
    undoOne(workspace, run, 'ines')
    expect(workspace.store.records.read(ref)?.values.labels).toEqual(['press', 'reference-customer'])
  })

  it('leaves what somebody changed since, and names it', () => {
    const { workspace, clock } = larkmoor()
    const rule = document(
      {
        when: [enters('hp-quoted')],
        then: [set('units', 3), set('notes', 'quoted'), task('Ring', { email: true }), task('Write', { again: true })],
      },
      'Several',
    )
    const id = switchOn(workspace, rule)
    const ref = deal(workspace)
    const [report] = workspace.change(ref, { stage: 'hp-quoted' }, 'rosa').reports
    clock.set(clock.nowMs() + 60_000)
    workspace.change(ref, { units: 7 }, 'rosa')
    const [ring] = workspace.store.tasks.ofRun(report!.runId)
    workspace.store.tasks.finish(ring!.id, 'rosa', 'reached', clock.nowMs())
    expect(sayUndo(workspace, report!.runId)).toMatchObject({
      undone: ['notes back to empty', 'task “Write” withdrawn'],
      left: [
        'task “Ring” is no longer open',
        'the email to rosa@larkmoor.example was sent',
        'units has a newer value, 7',
      ],
    })
    expect(surveyUndo(workspace, id, 0, clock.nowMs())).toMatchObject({
      runs: 1,
      undone: 1,
      fields: 1,
      tasks: 1,
      leftCount: 3,
      left: [{ name: 'Room' }, {}, {}],
    })
    undoOne(workspace, report!.runId, 'ines')
    expect(workspace.store.records.read(ref)?.values).toMatchObject({ units: 7, notes: null })
  })

  it('puts back what stood before the run, when it wrote a field twice', () => {
    const { workspace } = larkmoor()
    switchOn(workspace, document({ when: [enters('hp-quoted')], then: [set('units', 3), set('units', 4)] }, 'Twice'))
    const ref = deal(workspace, { units: 1 })
    const [report] = workspace.change(ref, { stage: 'hp-quoted' }, 'rosa').reports
    undoOne(workspace, report!.runId, 'ines')
    expect(workspace.store.records.read(ref)?.values.units).toBe(1)
  })

  it('takes back all runs of a rule in a period, the newest first, and keeps what stays', async () => {
    const { workspace, clock } = larkmoor()
    const id = switchOn(
      workspace,
      document(
        {
          when: [['fieldChanges', { field: 'amount', how: 'anything', from: null, to: null }]],
          then: [
            ['setField', { field: 'notes', source: { from: 'value', value: 'x' } }],
            ['setField', { field: 'units', source: { from: 'field', field: 'amount' } }],
          ],
        },
        'Copies',
      ),
    )
    const refs = [deal(workspace, { units: 0 }), deal(workspace, { units: 0, name: 'Kept' })]
    workspace.change(refs[0]!, { amount: 1 }, 'rosa')
    clock.set(clock.nowMs() + 1000)
    const from = clock.nowMs()
    for (const amount of [5, 6, 7]) for (const ref of refs) workspace.change(ref, { amount }, 'rosa')
    workspace.change(refs[1]!, { units: 99 }, 'rosa')
    const job = addJob(workspace, id, { what: 'undo', fromMs: from, toMs: from + 1 }, 'ines')
    expect(workspace.store.ruleJobs.get(job)?.total).toBe(6)
    await workJob(workspace, job, { ...control, awaited: () => true })
    expect(workspace.store.ruleJobs.get(job)).toMatchObject({ state: 'done', done: 6 })
    expect(refs.map((ref) => workspace.store.records.read(ref)?.values.units)).toEqual([1, 99])
    expect(workspace.store.ruleJobs.get(job)?.left).toEqual([
      'Kept: units has a newer value, 99',
      'Kept: units has a newer value, 99',
      'Kept: units has a newer value, 99',
    ])
  })
})

describe('by hand', () => {
  const handOver = document(
    {
      when: [
        [
          'byHand',
          {
            button: 'Hand over',
            facts: ['amount'],
            questions: [
              { key: 'why', label: 'Why?', type: 'choice', choices: ['Ill', 'Full'], required: true },
              { key: 'from', label: 'From when?', type: 'date', choices: [], required: false },
            ],
          },
        ],
      ],
      then: [
        set('units', 1),
        [
          'pathPerValue',
          { field: 't1.why' },
          ['Ill', task('Stand in for {{deal.name}} from {{t1.from}}')],
          [null, task('Share out {{deal.name}}')],
        ],
      ],
    },
    'Hand over',
  )

  it('starts for the record, and steps use what was answered', () => {
    const { workspace } = larkmoor()
    const ruleId = switchOn(workspace, handOver)
    const ref = deal(workspace)
    const button = buttonOf(workspace, ruleId, 't1', 'deal')
    const answers = answersTo(workspace, button!, { why: 'Ill', from: '2026-12-01' }, 'deal')
    const { report, text } = startByHand(workspace, ref, { ruleId, triggerId: 't1', answers }, 'rosa')
    expect(report).toMatchObject({ state: 'done' })
    expect(text).toContain('task for Rosa Amara')
    expect(open(workspace)).toEqual(['Stand in for Room from 1 Dec 2026'])
    expect(workspace.store.runs.get(report!.runId)?.because).toBe('“Hand over” was pressed by Rosa Amara')
    expect(
      startByHand(workspace, ref, { ruleId, triggerId: 't1', answers: { why: 'Full' } }, 'rosa').report?.state,
    ).toBe('done')
    expect(open(workspace)).toContain('Share out Room')
  })

  it('refuses answers that are missing, unknown or do not fit', () => {
    const { workspace } = larkmoor()
    const button = buttonOf(workspace, switchOn(workspace, handOver), 't1', 'deal')!
    const problems = (given: object) => {
      try {
        answersTo(workspace, button, { ...given }, 'deal')
      } catch (error) {
        if (error instanceof RefusedError) return error.problems.map(({ path, problem }) => `${path}: ${problem.code}`)
        throw error
      }
      return []
    }
    expect(problems({})).toEqual(['why: required'])
    expect(problems({ why: 'Bored', from: 'soon', more: 1 })).toEqual([
      'more: noSuchQuestion',
      'why: notAChoice',
      'from: notADate',
    ])
  })

  it('never starts a rule by itself, nor one that is off', () => {
    const { workspace } = larkmoor()
    const ruleId = switchOn(workspace, handOver)
    const ref = deal(workspace)
    workspace.change(ref, { amount: 5 }, 'rosa')
    expect(workspace.store.runs.list({ limit: 9 })).toEqual([])
    workspace.store.rules.setState(ruleId, 'off', 'ines', 0)
    workspace.rulesChanged()
    expect(buttonOf(workspace, ruleId, 't1', 'deal')).toBeNull()
    expect(startByHand(workspace, ref, { ruleId, triggerId: 't1', answers: {} }, 'rosa').report).toBeNull()
  })
})

describe('a rule that runs far more than usual', () => {
  const quick = document(
    {
      when: [['fieldChanges', { field: 'amount', how: 'anything', from: null, to: null }]],
      then: [['setField', { field: 'units', source: { from: 'field', field: 'amount' } }]],
    },
    'Quick',
  )

  it('pauses, keeps what would have started it, and goes on when told to', async () => {
    const { workspace: first, dbFile, clock } = larkmoor()
    first.close()
    const workspace = new Workspace({ dbFile, migrationsFolder: 'server/db/migrations', clock, floodFrom: 3 })
    const id = switchOn(workspace, quick)
    const ref = deal(workspace)
    for (let amount = 1; amount <= 6; amount++) workspace.change(ref, { amount }, 'rosa')
    expect(workspace.store.rules.get(id)?.paused).toMatchObject({ starts: 4, usual: 0 })
    expect(workspace.store.records.read(ref)?.values.units).toBe(4)
    expect(workspace.store.ruleJobs.heldCount(id)).toBe(2)
    workspace.goOn(id)
    const job = addJob(workspace, id, { what: 'held' }, 'ines')
    await workJob(workspace, job, control)
    expect(workspace.store.ruleJobs.get(job)).toMatchObject({ state: 'done', done: 2 })
    expect(workspace.store.ruleJobs.heldCount(id)).toBe(0)
    expect(workspace.store.runs.list({ limit: 9 })).toHaveLength(6)
    workspace.close()
  })

  it('is paused as well when the clock starts it, and not for what somebody asked for with the number in sight', async () => {
    const { workspace: first, dbFile, clock } = larkmoor()
    first.close()
    const workspace = new Workspace({ dbFile, migrationsFolder: 'server/db/migrations', clock, floodFrom: 100 })
    workspace.db.atomically(() => {
      for (let i = 0; i < 260; i++) deal(workspace, { name: `Deal ${i}` })
    })
    const daily = document(
      {
        when: [['recurring', { rule: { rule: 'FREQ=DAILY', from: '2026-01-01' }, minute: 600, offDays: 'keep' }]],
        then: [task('Look', { again: true })],
      },
      'Daily',
    )
    const id = switchOn(workspace, daily)
    planClock(workspace)
    clock.set(clock.nowMs() + 2 * 3_600_000)
    await workClock(workspace, control)
    // A piece of the day's records is done before anybody counts; the others are kept until somebody says so.
    expect(workspace.store.runs.list({ ruleId: id, limit: 500 })).toHaveLength(200)
    expect(workspace.store.rules.get(id)?.paused).toMatchObject({ starts: 200 })
    expect(workspace.store.ruleJobs.heldCount(id)).toBe(60)
    workspace.goOn(id)
    const job = addJob(workspace, id, { what: 'held' }, 'ines')
    await workJob(workspace, job, control)
    expect(workspace.store.runs.list({ ruleId: id, limit: 500 })).toHaveLength(260)
    const asked = switchOn(workspace, large)
    for (let i = 1; i <= 260; i++)
      workspace.store.records.update({ object: 'deal', id: i }, [{ field: 'amount', old: null, new: 500 }], 1)
    await workJob(workspace, backfill(workspace, asked, large), control)
    expect(workspace.store.rules.get(asked)?.paused).toBeNull()
    workspace.close()
  })

  it('leaves a rule alone that is always so busy', () => {
    const { workspace: first, dbFile, clock } = larkmoor()
    first.close()
    const workspace = new Workspace({ dbFile, migrationsFolder: 'server/db/migrations', clock, floodFrom: 3 })
    const id = switchOn(workspace, quick)
    const hour = Math.floor(clock.nowMs() / 3_600_000)
    workspace.store.ruleJobs.count(id, hour - 1, 1)
    const ref = deal(workspace)
    for (let amount = 1; amount <= 6; amount++) workspace.change(ref, { amount }, 'rosa')
    expect(workspace.store.rules.get(id)?.paused).toBeNull()
    for (let amount = 7; amount <= 12; amount++) workspace.change(ref, { amount }, 'rosa')
    expect(workspace.store.rules.get(id)?.paused).toMatchObject({ starts: 11, usual: 1 })
    workspace.close()
  })
})
