import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import { RETENTION_KINDS, sayBytes, sayKeeping } from '../../core/records/retention'
import { all, condition, document, enters, set, task } from '../../core/testing/rules'
import { refusal } from '../testing/refusal'
import { larkmoor, NOW_MS, switchOn } from '../testing/workspace'
import { runPage } from '../views/journal'
import { recordPage } from '../views/record'
import { fieldPast } from '../views/why'
import { refuseTooFarBack, setRetention, workRetention } from './retention'
import { undoPlan } from './undo'

const DAY_MS = 86_400_000
const control = { awaited: () => false, nowMs: () => 0, pause: () => Promise.resolve() }
const rows = (workspace: ReturnType<typeof larkmoor>['workspace'], table: string): number =>
  (workspace.db.sqlite.prepare(`SELECT count(*) AS n FROM ${table}`).get() as { n: number }).n

describe('what is kept for some time', () => {
  it('lets go of runs that conditions stopped, and of nothing that did something', async () => {
    const { workspace, clock } = larkmoor()
    const rule = document(
      {
        when: [enters('hp-quoted')],
        onlyIf: all(condition('amount', 'moreThan', { value: 100 })),
        then: [task('Ring')],
      },
      'Large',
    )
    switchOn(workspace, rule)
    for (const amount of [50, 500]) {
      const { ref } = workspace.create(
        'deal',
        { name: `Of ${amount}`, stage: 'hp-visit', owner: 'rosa', amount },
        [],
        'ines',
      )
      workspace.change(ref, { stage: 'hp-quoted' }, 'ines')
    }
    expect(workspace.store.runs.list({ limit: 10 }).map((run) => run.state)).toEqual(['done', 'stopped'])
    clock.set(NOW_MS + 89 * DAY_MS)
    await workRetention(workspace, control)
    expect(workspace.store.runs.list({ limit: 10 })).toHaveLength(2)
    clock.set(NOW_MS + 91 * DAY_MS)
    await workRetention(workspace, control)
    expect(workspace.store.runs.list({ limit: 10 }).map((run) => run.state)).toEqual(['done'])
    expect(workspace.store.retention.count('keptOutRuns')).toBe(1)
  })

  it('keeps who set what a record holds now, and says what it cannot say any more', async () => {
    const { workspace, clock } = larkmoor()
    const { ref } = workspace.create('deal', { name: 'Room', stage: 'hp-visit', owner: 'rosa', amount: 1 }, [], 'ines')
    for (const amount of [2, 3, 4]) workspace.change(ref, { amount }, 'ines')
    setRetention(workspace, 'history', 90, 'ines')
    setRetention(workspace, 'events', 90, 'ines')
    expect(fieldPast(workspace, ref, 'amount')?.changes).toHaveLength(4)
    clock.set(NOW_MS + 100 * DAY_MS)
    await workRetention(workspace, control)
    const past = fieldPast(workspace, ref, 'amount')
    expect(past?.changes.map((change) => [change.old, change.new, change.doer.name])).toEqual([
      ['€3', '€4', 'Ines Calloway'],
    ])
    expect(past?.note).toBe('Values from before 4 Dec 2026 are not stored any more, except the last one.')
    const page = recordPage(workspace, ref)
    expect(Object.keys(page?.writers ?? {})).toContain('amount')
    expect(page?.note).toContain('Changes from before 4 Dec 2026 are not stored any more')
    expect(refusal(() => refuseTooFarBack(workspace, 120))).toContain('Replay at most 90 days.')
    expect(() => refuseTooFarBack(workspace, 60)).not.toThrow()
  })

  it('takes back a run from long ago exactly as it would have been', async () => {
    const { workspace, clock } = larkmoor()
    switchOn(workspace, document({ when: [enters('hp-quoted')], then: [set('units', 7)] }, 'Sevens'))
    const { ref } = workspace.create('deal', { name: 'Room', stage: 'hp-visit', owner: 'rosa', units: 3 }, [], 'ines')
    const [report] = workspace.change(ref, { stage: 'hp-quoted' }, 'ines').reports
    const runId = report?.runId ?? 0
    const before = undoPlan(workspace, runId)
    expect(before?.writes).toHaveLength(1)
    for (const kind of ['history', 'events'] as const) setRetention(workspace, kind, 90, 'ines')
    clock.set(NOW_MS + 400 * DAY_MS)
    await workRetention(workspace, control)
    expect(undoPlan(workspace, runId)).toEqual(before)
    expect(runPage(workspace, runId)?.doer?.name).toBe('Ines Calloway')
  })

  it('gives whoever comes later the same answers, whatever was changed, taken back and deleted', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(
          fc.record({
            deal: fc.integer({ min: 0, max: 2 }),
            act: fc.constantFrom('amount', 'units', 'quoted', 'undo'),
            value: fc.integer({ min: 1, max: 5 }),
            days: fc.integer({ min: 0, max: 60 }),
          }),
          { maxLength: 14 },
        ),
        async (acts) => {
          const { workspace, clock } = larkmoor()
          switchOn(workspace, document({ when: [enters('hp-quoted')], then: [set('units', 7)] }, 'Sevens'))
          const refs = [0, 1, 2].map(
            (n) => workspace.create('deal', { name: `D${n}`, stage: 'hp-visit', owner: 'rosa' }, [], 'ines').ref,
          )
          const { undoOne } = await import('./undo')
          for (const { deal, act, value, days } of acts) {
            clock.set(workspace.clock.nowMs() + days * DAY_MS)
            const ref = refs[deal]
            if (!ref) continue
            if (act === 'undo') {
              const run = workspace.store.runs.list({ limit: 1, object: 'deal', recordId: ref.id })[0]
              if (run) undoOne(workspace, run.id, 'ines')
            } else if (act === 'quoted') {
              const stage = workspace.store.records.read(ref)?.values.stage === 'hp-quoted' ? 'hp-visit' : 'hp-quoted'
              workspace.change(ref, { stage }, 'ines')
            } else workspace.change(ref, { [act]: value }, 'ines')
          }
          const asked = () => ({
            undo: workspace.store.runs.list({ limit: 50 }).map((run) => undoPlan(workspace, run.id)),
            writers: refs.map((ref) => recordPage(workspace, ref)?.writers),
          })
          const before = asked()
          for (const kind of ['history', 'events'] as const) setRetention(workspace, kind, 90, 'ines')
          clock.set(workspace.clock.nowMs() + 30 * DAY_MS)
          await workRetention(workspace, control)
          expect(asked()).toEqual(before)
        },
      ),
      { numRuns: 25 },
    )
  })

  it('is said once, counted before, and gone through again at once', async () => {
    const { workspace, clock } = larkmoor()
    const { ref } = workspace.create('deal', { name: 'Room', stage: 'hp-visit', owner: 'rosa', amount: 1 }, [], 'ines')
    for (let amount = 2; amount < 1200; amount++) workspace.change(ref, { amount }, 'ines')
    clock.set(NOW_MS + 200 * DAY_MS)
    await workRetention(workspace, control)
    const { retention } = workspace.store
    expect(retention.older('history', NOW_MS + 100 * DAY_MS)).toBe(1198)
    expect(rows(workspace, 'history')).toBeGreaterThan(1198)
    setRetention(workspace, 'history', 90, 'ines')
    await workRetention(workspace, control)
    expect(retention.older('history', NOW_MS + 100 * DAY_MS)).toBe(0)
    expect(retention.all().get('history')?.cutMs).toBe(NOW_MS + 110 * DAY_MS)
    setRetention(workspace, 'events', 90, 'ines')
    await workRetention(workspace, control)
    expect(fieldPast(workspace, ref, 'amount')?.changes).toHaveLength(1)
    // What is there from now on is read as before.
    workspace.change(ref, { amount: 9 }, 'ines')
    expect(fieldPast(workspace, ref, 'amount')?.changes).toHaveLength(2)
  })

  it('keeps for ever what it is told to, and files of imports that are not done', async () => {
    const { workspace, clock } = larkmoor()
    const { imports, activities, notices } = workspace.store
    const made = {
      fileName: 'a.csv',
      content: 'Name\nA',
      mapping: { object: 'deal', knownBy: null, columns: [] },
      personId: 'ines',
    }
    const [done, ready] = [0, 1].map(() => imports.create(made as never, NOW_MS)) as [number, number]
    imports.end(done, NOW_MS)
    const { ref } = workspace.create('deal', { name: 'Room', stage: 'hp-visit', owner: 'rosa' }, [], 'ines')
    activities.add({ ref, kind: 'visit', about: '', atMs: NOW_MS, key: null }, NOW_MS)
    switchOn(workspace, document({ when: [enters('hp-quoted')], then: [task('Ring')] }, 'Told'))
    const [report] = workspace.change(ref, { stage: 'hp-quoted' }, 'ines').reports
    notices.add('rosa', { ref, ruleId: 1, runId: report?.runId ?? 0, stepId: 's1', subject: 'A', body: '' }, NOW_MS)
    setRetention(workspace, 'notices', null, 'ines')
    clock.set(NOW_MS + 900 * DAY_MS)
    await workRetention(workspace, control)
    expect(imports.get(done)).toMatchObject({ hasFile: false, content: '', state: 'done' })
    expect(imports.get(ready)).toMatchObject({ hasFile: true })
    expect(notices.of('rosa', null, 5)).toHaveLength(1)
    expect(activities.of(ref)).toHaveLength(1)
    setRetention(workspace, 'activities', 365, 'ines')
    await workRetention(workspace, control)
    expect(activities.of(ref)).toHaveLength(0)
  })

  it('tells the room that each kind takes', () => {
    const { workspace } = larkmoor()
    const sizes = workspace.store.retention.sizes()
    for (const kind of RETENTION_KINDS) expect(sizes.kinds[kind]).toBeGreaterThan(0)
    expect(sizes.file).toBeGreaterThan(Object.values(sizes.kinds).reduce((a, b) => a + b, 0))
  })

  it.each([
    [90, '90 days'],
    [365, '1 year'],
    [730, '2 years'],
    [null, 'always'],
  ])('says %s as “%s”', (days, said) => {
    expect(sayKeeping(days)).toBe(said)
  })

  it.each([
    [0, '0 kB'],
    [4096, '4 kB'],
    [1_540_000, '1.5 MB'],
    [2_400_000_000, '2.4 GB'],
  ])('says %s bytes as “%s”', (bytes, said) => {
    expect(sayBytes(bytes)).toBe(said)
  })
})
