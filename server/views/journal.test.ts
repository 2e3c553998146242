import { tellActivities } from '../engine/activities'
import { describe, expect, it } from 'vitest'
import { all, condition, document, enters, set, task, type StepLine } from '../../core/testing/rules'
import { workClock } from '../engine/clockwork'
import { control } from '../engine/derived.setting'
import { larkmoor, switchOn } from '../testing/workspace'
import { undoOne } from '../engine/undo'
import { journalPage, runPage } from './journal'
import { recordPage } from './record'
import { rulesFor } from './why'

it('says until when a run waits that has done nothing yet', () => {
  const { workspace } = larkmoor()
  const until = { at: 'after', amount: { count: 2, unit: 'days' }, minute: null }
  const rule = document(
    { when: [enters('hp-quoted')], then: [['wait', { until, recheck: true }], task('Later')] },
    'Wait',
  )
  switchOn(workspace, rule)
  const { ref } = workspace.create('deal', { name: 'Room', stage: 'hp-sized', owner: 'rosa' }, [], 'ines')
  workspace.change(ref, { stage: 'hp-quoted' }, 'rosa')
  const [line] = journalPage(workspace, { limit: 5 }).lines
  expect(line).toMatchObject({ state: 'waiting', outcome: 'waiting until 26 Nov 2026, 9:12', category: 'time' })
})

it('marks a run by what it did, whatever the words of it', () => {
  const { workspace } = larkmoor()
  const marked = (name: string, then: readonly StepLine[]) => {
    switchOn(workspace, document({ when: [enters('hp-quoted')], then }, name))
    const { ref } = workspace.create('deal', { name: 'Room', stage: 'hp-sized', owner: 'rosa' }, [], 'ines')
    workspace.change(ref, { stage: 'hp-quoted' }, 'rosa')
    return journalPage(workspace, { limit: 50 }).lines.find((line) => line.ruleName === name)
  }
  expect(marked('Notes', [set('notes', 'a task for nobody')])).toMatchObject({ category: 'data' })
  expect(marked('Both', [set('units', 3), task('Ring')])).toMatchObject({ category: 'people' })
  const nobody = document(
    { when: [enters('hp-quoted')], onlyIf: all(condition('amount', 'moreThan', { value: 1 })), then: [task('x')] },
    'Kept out',
  )
  switchOn(workspace, nobody)
  expect(marked('Other', [set('units', 4)])).toMatchObject({ category: 'data' })
  const kept = journalPage(workspace, { limit: 50 }).lines.find((line) => line.ruleName === 'Kept out')
  expect(kept).toMatchObject({ state: 'stopped', category: null })
})

it('has runs in the order in which they did something last, and pages through them whatever they are', async () => {
  const { workspace, clock } = larkmoor()
  const until = { at: 'after', amount: { count: 2, unit: 'days' }, minute: null }
  switchOn(
    workspace,
    document({ when: [enters('hp-quoted')], then: [['wait', { until, recheck: false }], task('Later')] }, 'Waits'),
  )
  switchOn(workspace, document({ when: [enters('hp-terms')], then: [task('At once')] }, 'Acts'))
  const make = (name: string, stage: string) => {
    const { ref } = workspace.create('deal', { name, stage: 'hp-sized', owner: 'rosa' }, [], 'ines')
    workspace.change(ref, { stage }, 'rosa')
  }
  make('First', 'hp-quoted')
  clock.set(clock.nowMs() + 3_600_000)
  for (const name of ['Second', 'Third', 'Fourth']) make(name, 'hp-terms')
  const order = (pages: number): readonly string[] => {
    const names: string[] = []
    for (let before: { atMs: number; id: number } | null | undefined; before !== null;) {
      const { lines, next } = journalPage(workspace, { limit: pages, ...(before ? { before } : {}) })
      names.push(...lines.map((line) => line.recordName))
      before = next
    }
    return names
  }
  const before = ['Fourth', 'Third', 'Second', 'First']
  for (const limit of [1, 2, 3, 50]) expect(order(limit)).toEqual(before)
  clock.set(clock.nowMs() + 2 * 86_400_000)
  await workClock(workspace, control)
  const after = ['First', 'Fourth', 'Third', 'Second']
  for (const limit of [1, 2, 3, 50]) expect(order(limit)).toEqual(after)
  const [line] = journalPage(workspace, { limit: 1 }).lines
  expect(line).toMatchObject({ state: 'done', lastMs: clock.nowMs() })
  expect(line?.atMs).toBe(clock.nowMs() - 2 * 86_400_000 - 3_600_000)
})

it('says everywhere that a run was taken back: in the journal, on the record’s timeline and beside its rule', () => {
  const { workspace } = larkmoor()
  const id = switchOn(workspace, document({ when: [enters('hp-quoted')], then: [task('Ring them')] }, 'Ring'))
  const { ref } = workspace.create('deal', { name: 'Room', stage: 'hp-sized', owner: 'rosa' }, [], 'ines')
  workspace.change(ref, { stage: 'hp-quoted' }, 'rosa')
  const entry = () => recordPage(workspace, ref)?.timeline.find((one) => one.what === 'task')
  expect(entry()).toMatchObject({ undone: null })
  undoOne(workspace, journalPage(workspace, { limit: 1 }).lines[0]?.id ?? 0, 'ines')
  expect(entry()).toMatchObject({ undone: { person: 'Ines Calloway', atMs: workspace.clock.nowMs() } })
  expect(journalPage(workspace, { limit: 1 }).lines[0]?.outcome).toMatch(/^undone by Ines Calloway: /)
  expect(rulesFor(workspace, ref).find((line) => line.ruleId === id)?.last?.outcome).toMatch(/^undone by Ines Calloway/)
})

describe('the chain of a run', () => {
  it('has behind each run what came of that, however many began with the same change', () => {
    const { workspace } = larkmoor()
    const changes = (field: string) => ['fieldChanges', { field, how: 'anything', from: null, to: null }] as const
    const rule = (name: string, when: string, field: string, value: unknown) =>
      switchOn(workspace, document({ when: [changes(when)], then: [set(field, value)] }, name))
    const first = rule('First', 'amount', 'units', 2)
    rule('Second', 'amount', 'margin', 30)
    rule('After the first', 'units', 'closeDate', '2026-12-24')
    const { ref } = workspace.create('deal', { name: 'Two rooms', stage: 'hp-sized' }, [], 'ines')
    workspace.change(ref, { amount: 20_000 }, 'ines')
    const [run] = workspace.store.runs.list({ ruleId: first, limit: 1 })
    const chain = runPage(workspace, run?.id ?? 0)?.chain ?? []
    const lines = chain.map(({ what, depth, text }) => `${depth} ${what} ${text.split(':')[0]}`)
    const at = (name: string) => lines.findIndex((line) => line.includes(`run ${name}`))
    expect(lines).toHaveLength(7)
    expect(at('First')).toBe(1)
    expect(lines.slice(at('First') + 1).find((line) => line.includes('change'))).toContain('First')
    expect(at('After the first')).toBe(at('First') + 2)
    expect(lines[at('Second') + 1]).toMatch(/^1 change .*Second/)
    expect(lines.filter((line) => line.startsWith('0'))).toHaveLength(3)
  })

  it('says who did what, and with which record another one was linked', () => {
    const { workspace } = larkmoor()
    const make = { make: 'deal', name: 'Enquiry of {{contact.name}}', stage: 'enq-fresh', again: true, beside: 'none' }
    const id = switchOn(
      workspace,
      document(
        {
          object: 'contact',
          when: [['activity', { kind: 'visit', by: 'contact', about: 'price', late: false }]],
          then: [['createRecord', make]],
        },
        'Price page',
      ),
    )
    // Where nobody goes by links, none is told.
    for (const object of ['contact', 'company'] as const)
      switchOn(
        workspace,
        document(
          { object, when: [['linked', { to: 'deal', how: 'removed' }]], then: [task('Why?')] },
          `No more, ${object}`,
        ),
      )
    const { ref: firm } = workspace.create('company', { name: 'Lind Bakery' }, [], 'ines')
    const { ref: ada } = workspace.create('contact', { name: 'Ada Lind', owner: 'rosa' }, [firm], 'ines')
    tellActivities(workspace, [
      { record: ada, kind: 'visit', about: '/prices', atMs: workspace.clock.nowMs(), key: null },
    ])
    const [run] = workspace.store.runs.list({ ruleId: id, limit: 1 })
    const lines = runPage(workspace, run?.id ?? 0)?.chain.map(({ text, recordName }) => `${text} · ${recordName}`) ?? []
    expect(lines).toEqual([
      'Ada Lind visited a page: /prices · ',
      'Price page: done · ',
      'Price page: created · Enquiry of Ada Lind',
      'Price page: linked to Enquiry of Ada Lind · ',
      'Price page: linked to Enquiry of Ada Lind · Lind Bakery',
    ])
  })
})
