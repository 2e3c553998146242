import { stringify } from 'yaml'
import { describe, expect, it } from 'vitest'
import { all, condition, daysBefore, document, enters, set, task, type StepLine } from '../../core/testing/rules'
import { runCase, withCatalogue } from '../../core/rehearsal/case'
import { readCase } from '../../core/rehearsal/case-file'
import { larkmoor, switchOn } from '../testing/workspace'
import { acceptCase, caseFile, keepCase, outcomeOf, rewriteCase, runCases } from './cases'
import type { Workspace } from './workspace'

const wait: StepLine = [
  'wait',
  { until: { at: 'after', amount: { count: 2, unit: 'days' }, minute: null }, recheck: true },
]
const closing = (days: number, least = 100) =>
  document(
    {
      when: [daysBefore(days)],
      onlyIf: all(condition('amount', 'moreThan', { value: least })),
      then: [task('Ring about {{deal.name}}'), wait, task('Visit {{company.name}}')],
    },
    'Near',
  )

function setting(): { workspace: Workspace; ruleId: number; ids: readonly number[] } {
  const { workspace } = larkmoor()
  const ruleId = switchOn(workspace, closing(3))
  const company = workspace.create('company', { name: 'Brine & Batch' }, [], 'ines').ref
  const ids = [500, 900, 50].map(
    (amount, i) =>
      workspace.create(
        'deal',
        { name: `Room ${i + 1}`, stage: 'hp-terms', owner: 'rosa', amount, closeDate: '2026-12-10' },
        [company],
        'ines',
      ).ref.id,
  )
  return { workspace, ruleId, ids }
}
const keep = (
  { workspace, ruleId, ids }: ReturnType<typeof setting>,
  more: Partial<Parameters<typeof keepCase>[1]> = {},
) => {
  const rule = workspace.store.rules.get(ruleId)
  if (!rule) throw new Error('no rule')
  return keepCase(
    workspace,
    { name: 'Near: three rooms', rules: [{ ruleId, document: rule.draft }], ids, days: 60, script: [], ...more },
    'ines',
  )
}

describe('a case', () => {
  it('keeps the records as they were, with what is linked, and what came', () => {
    const all_ = setting()
    const { workspace } = all_
    const id = keep(all_)
    const kept = workspace.store.cases.get(id)
    expect(kept?.document).toMatchObject({
      start: '2026-11-24T09:12',
      expect: {
        starts: [{ record: 'deal 1', at: '2026-12-07T08:30' }, { record: 'deal 2' }],
        states: ['done', 'done'],
        tasks: [
          { title: 'Ring about Room 1', who: 'rosa' },
          { title: 'Ring about Room 2' },
          { title: 'Visit Brine & Batch' },
          { title: 'Visit Brine & Batch' },
        ],
      },
    })
    expect(kept?.document.records.map((one) => one.record).sort()).toEqual(['company 1', 'deal 1', 'deal 2', 'deal 3'])
    // What becomes of the records themselves is no matter.
    workspace.change({ object: 'deal', id: all_.ids[0] ?? 0 }, { amount: 1, name: 'Other' }, 'rosa')
    expect(runCases(workspace, { ruleId: all_.ruleId, document: null })).toEqual([
      { id, name: 'Near: three rooms', wrong: [], starts: 2, tasks: 4 },
    ])
  })

  it('lets somebody do something, and goes on with what waits for that', () => {
    const all_ = setting()
    const { workspace } = all_
    const kept = workspace.store.cases.get(keep(all_))
    const answered = document(
      {
        when: [['activity', { kind: 'visit', by: 'company', about: 'price', late: false }]],
        then: [
          [
            'waitForActivity',
            { kind: 'form', by: 'company', about: '', most: { count: 2, unit: 'days' }, recheck: false },
            [null, task('Thank {{company.name}}')],
            [null, task('Ring {{company.name}}')],
          ],
        ],
      },
      'Looked',
    )
    const { expect: _expect, ...given } = kept?.document ?? {}
    const acts = (at: string, does: string, about = '') => ({ at, record: 'company 1', does, about })
    const run = (...script: readonly object[]) => {
      const read = readCase(stringify({ ...given, rules: [answered], only: ['deal 1'], script }))
      if (!read.ok) throw new Error(JSON.stringify(read.problem))
      const ran = runCase(withCatalogue(read.value, workspace.catalogue()))
      if (!ran.ok) throw new Error(JSON.stringify(ran.problem))
      return ran.value.result.tasks.map((one) => [one.title, one.ref.id])
    }
    const visit = acts('2026-11-25T10:00', 'visit', '/prices')
    expect(run(visit)).toEqual([['Ring Brine & Batch', 1]])
    expect(run(visit, acts('2026-11-26T10:00', 'form', 'Quote'))).toEqual([['Thank Brine & Batch', 1]])
    expect(run(acts('2026-11-25T10:00', 'visit', '/about'))).toEqual([])
  })

  it('says what comes otherwise by an edit, and takes it as right when somebody says so', () => {
    const all_ = setting()
    const { workspace, ruleId } = all_
    const id = keep(all_)
    const [found] = runCases(workspace, { ruleId, document: closing(5, 800) })
    expect(found?.wrong[0]).toBe('start 1: expected deal 1 at 2026-12-07T08:30, got deal 2 at 2026-12-05T08:30')
    const { store } = workspace
    expect(
      store.rules.saveDraft(
        ruleId,
        closing(5, 800),
        store.rules.get(ruleId)?.draftRev ?? 0,
        'ines',
        workspace.clock.nowMs(),
      ),
    ).toBeTruthy()
    const kept = store.cases.get(id)
    if (!kept) throw new Error('no case')
    acceptCase(workspace, kept, 'rosa')
    expect(runCases(workspace, { ruleId: null, document: null })).toMatchObject([{ wrong: [], starts: 1, tasks: 2 }])
    expect(store.cases.get(id)?.changedBy).toBe('rosa')
  })

  it('goes by what is assumed, and runs by itself as a file', () => {
    const all_ = setting()
    const { workspace, ids } = all_
    const id = keep(all_, {
      ids: ids.slice(0, 1),
      script: [{ day: 2, minute: 600, id: null, values: { closeDate: '2026-12-20' } }],
    })
    const kept = workspace.store.cases.get(id)
    if (!kept) throw new Error('no case')
    expect(kept.document.expect?.starts).toEqual([{ record: 'deal 1', at: '2026-12-17T08:30' }])
    const file = readCase(stringify(caseFile(workspace, kept)))
    if (!file.ok) throw new Error(JSON.stringify(file.problem))
    expect(runCase(file.value)).toMatchObject({ ok: true, value: { wrong: [] } })
  })

  it('is edited as text; what cannot be run is refused with its place, and nothing is lost', () => {
    const all_ = setting()
    const { workspace } = all_
    const kept = workspace.store.cases.get(keep(all_))
    if (!kept) throw new Error('no case')
    const { rules: _r, expect: _e, ...rest } = kept.document
    rewriteCase(workspace, kept, stringify({ ...rest, name: 'Renamed', expect: { starts: [] } }), 'ines')
    expect(workspace.store.cases.get(kept.id)).toMatchObject({ name: 'Renamed', document: { expect: { starts: [] } } })
    expect(runCases(workspace, { ruleId: null, document: null })[0]?.wrong).toHaveLength(2)
    expect(() => rewriteCase(workspace, kept, 'name: x\n  broken', 'ines')).toThrow()
    expect(() =>
      rewriteCase(
        workspace,
        kept,
        stringify({ ...rest, records: [{ record: 'deal 1', values: { amount: 'much' } }] }),
        'ines',
      ),
    ).toThrow()
    expect(workspace.store.cases.get(kept.id)?.name).toBe('Renamed')
  })

  it('says so when it cannot be run any more, and refuses records that are not there', () => {
    const all_ = setting()
    const { workspace, ruleId } = all_
    const kept = workspace.store.cases.get(keep(all_))
    if (!kept) throw new Error('no case')
    expect(
      outcomeOf(
        workspace,
        kept,
        new Map([[ruleId, document({ when: [enters('hp-quoted')], then: [set('nowhere', 1)] }, 'Near')]]),
      ),
    ).toContain('nowhere')
    expect(() => keep(all_, { ids: [99] })).toThrow()
  })
})
