import Papa from 'papaparse'
import { describe, expect, it } from 'vitest'
import { EMPTY_GROUP } from '../../core/conditions/document'
import { all, condition, document, set, task } from '../../core/testing/rules'
import { larkmoor, switchOn } from '../testing/workspace'
import { refusal } from '../testing/refusal'
import { journalPage } from '../views/journal'
import { segmentCounts } from '../views/segments'
import { makeBulk, previewBulk, type BulkEdit } from './bulk-edit'
import { exportSeen } from './export'
import { changeField, fieldOf } from './fields'
import { changeSegment, makeSegment, removeSegment } from './segments'
import type { Workspace } from './workspace'

const large = all(condition('amount', 'moreThan', { value: 100 }))
const segment = {
  object: 'deal',
  name: 'Large ones',
  filter: large,
  columns: ['name', 'amount'],
  sort: 'amount',
  down: true,
} as const

describe('entering a segment', () => {
  const both = (workspace: Workspace, repeats?: { readonly how: 'again' }) => {
    const id = makeSegment(workspace, segment, 'ines')
    const rule = document(
      {
        when: [
          ['fieldChanges', { field: 'amount', how: 'past', from: null, to: 50 }],
          ['segmentEntered', { segment: id }],
        ],
        then: [task('Look', { again: true })],
      },
      'Both',
    )
    return switchOn(workspace, repeats ? { ...rule, repeats } : rule)
  }
  const titles = (workspace: Workspace) =>
    workspace.store.tasks.list({ people: null, before: null, limit: 10 }).map((one) => one.title)

  it('belongs to the change that led to it: a rule that listens to both runs once for it', () => {
    const { workspace } = larkmoor()
    const rule = both(workspace)
    const { ref } = workspace.create('deal', { name: 'Room', stage: 'hp-sized', owner: 'rosa', amount: 10 }, [], 'ines')
    const { reports } = workspace.change(ref, { amount: 500 }, 'rosa')
    expect(titles(workspace)).toEqual(['Look'])
    expect(reports.map(({ state, stop }) => [state, stop?.code])).toEqual([
      ['done', undefined],
      ['stopped', 'sameChange'],
    ])
    expect(journalPage(workspace, { ruleId: rule, actedOnly: true, limit: 10 }).lines).toHaveLength(1)
    // Another change is another one.
    workspace.change(ref, { amount: 10 }, 'rosa')
    workspace.change(ref, { amount: 600 }, 'rosa')
    expect(titles(workspace)).toEqual(['Look', 'Look'])
  })

  it('runs it again where that is meant', () => {
    const { workspace } = larkmoor()
    both(workspace, { how: 'again' })
    const { ref } = workspace.create('deal', { name: 'Room', stage: 'hp-sized', owner: 'rosa', amount: 10 }, [], 'ines')
    workspace.change(ref, { amount: 500 }, 'rosa')
    expect(titles(workspace)).toEqual(['Look', 'Look'])
  })
})

function deals(): Workspace {
  const { workspace } = larkmoor()
  for (let i = 0; i < 12; i++)
    workspace.create(
      'deal',
      {
        name: `Deal ${i}`,
        stage: 'hp-sized',
        amount: i * 20,
        owner: i % 2 ? 'rosa' : 'jude',
        ...(i === 8 ? { units: 5 } : {}),
      },
      [],
      'ines',
    )
  return workspace
}

describe('segments', () => {
  it('count what is in them now, for whoever looks', () => {
    const workspace = deals()
    const id = makeSegment(workspace, segment, 'ines')
    expect(segmentCounts(workspace, 'deal', null)).toMatchObject([
      { id, name: 'Large ones', count: 6, columns: ['name', 'amount'] },
    ])
    expect(segmentCounts(workspace, 'deal', new Set(['rosa']))).toMatchObject([{ count: 3 }])
    workspace.change({ object: 'deal', id: 1 }, { amount: 5000 }, 'ines')
    expect(segmentCounts(workspace, 'deal', null)[0]?.count).toBe(7)
    expect(segmentCounts(workspace, 'contact', null)).toEqual([])
    changeSegment(
      workspace,
      workspace.store.segments.get(id)!,
      {
        name: 'Very large ones',
        filter: all(condition('amount', 'moreThan', { value: 1000 })),
      },
      'ines',
    )
    expect(segmentCounts(workspace, 'deal', null)).toMatchObject([
      { name: 'Very large ones', count: 1, sort: 'amount' },
    ])
    removeSegment(workspace, id)
    expect(workspace.store.segments.all()).toEqual([])
  })

  it('refuse a name that is taken and a field that is not there; a field they name cannot be put away', () => {
    const workspace = deals()
    const id = makeSegment(workspace, segment, 'ines')
    expect(refusal(() => makeSegment(workspace, { ...segment, name: ' large ONES' }, 'ines'))).toBe(
      'name: A segment named “Large ones” already exists.',
    )
    expect(refusal(() => makeSegment(workspace, { ...segment, name: 'X', columns: ['gone'] }, 'ines'))).toBe(
      'columns: Field “gone” does not exist.',
    )
    expect(
      refusal(() =>
        makeSegment(workspace, { ...segment, name: 'X', filter: all(condition('gone', 'isEmpty', {})) }, 'ines'),
      ),
    ).toBe('filter.c-gone-isEmpty: Field “gone” does not exist.')
    const amount = workspace.catalogue().field('deal', 'amount')!
    expect(refusal(() => changeField(workspace, amount, { archived: true }))).toBe(
      'archived: “Amount” can’t be archived: it is used by segment “Large ones”. Remove it there first.',
    )
    removeSegment(workspace, id)
    changeField(workspace, fieldOf(workspace, amount.id)!, { archived: true })
    expect(workspace.catalogue().field('deal', 'amount')).toBeNull()
  })
})

describe('changing all that fit', () => {
  const edit: BulkEdit = { object: 'deal', scope: null, filter: large, words: '', field: 'units', value: 5 }

  it('is shown in numbers first and writes nothing then; rules run for each, and a second time nothing is left', () => {
    const workspace = deals()
    switchOn(
      workspace,
      document(
        { when: [['fieldChanges', { field: 'units', how: 'to', from: null, to: 5 }]], then: [set('notes', 'counted')] },
        'Count',
      ),
    )
    switchOn(
      workspace,
      document(
        { when: [['fieldChanges', { field: 'units', how: 'to', from: null, to: 9 }]], then: [set('notes', 'nine')] },
        'Nine',
      ),
    )
    const plan = previewBulk(workspace, edit)
    expect(plan).toMatchObject({
      matched: 6,
      changed: 5,
      same: 1,
      tooMany: false,
      refused: [],
      rules: [{ name: 'Count' }],
    })
    expect(plan.sample[0]).toEqual({ id: 7, name: 'Deal 6', old: 'empty', new: '5' })
    expect(workspace.store.records.read({ object: 'deal', id: 7 })?.values.units).toBeNull()
    expect(makeBulk(workspace, { edit, personId: 'jude' })).toEqual({ changed: 5, runs: 5 })
    expect(workspace.store.records.read({ object: 'deal', id: 7 })?.values).toMatchObject({
      units: 5,
      notes: 'counted',
    })
    expect(workspace.store.events.ofRecord({ object: 'deal', id: 7 }, 5).at(-2)).toMatchObject({
      cause: { by: 'person', personId: 'jude' },
    })
    expect(makeBulk(workspace, { edit, personId: 'jude' })).toEqual({ changed: 0, runs: 0 })
  })

  it('touches only what the person may see, and goes by the words too', () => {
    const workspace = deals()
    expect(
      makeBulk(workspace, { edit: { ...edit, scope: new Set(['rosa']), words: 'deal 1' }, personId: 'rosa' }),
    ).toEqual({ changed: 1, runs: 0 })
    expect(workspace.store.records.read({ object: 'deal', id: 12 })?.values.units).toBe(5)
  })

  it('says which records cannot take the value', () => {
    const workspace = deals()
    expect(previewBulk(workspace, { ...edit, field: 'kind', value: 'nonsense' })).toMatchObject({
      changed: 0,
      refused: expect.arrayContaining([
        { id: 7, name: 'Deal 6', why: expect.stringContaining('nonsense') as string },
      ]) as unknown,
    })
  })
})

describe('a file of what is seen', () => {
  it('has the rows of the filter in their order with the columns in theirs, and the id first', () => {
    const workspace = deals()
    const text = exportSeen(workspace, {
      object: 'deal',
      scope: new Set(['rosa']),
      filter: large,
      words: '',
      sort: 'amount',
      down: true,
      columns: ['amount', 'name', 'createdAt', 'gone'],
    })
    const { data } = Papa.parse<string[]>(text.replace(/^\ufeff/, ''), { skipEmptyLines: true })
    expect(data.map((row) => row.slice(0, 3))).toEqual([
      ['Sky Lever ID', 'Amount', 'Name'],
      ['12', '220', 'Deal 11'],
      ['10', '180', 'Deal 9'],
      ['8', '140', 'Deal 7'],
    ])
    expect(data[0]?.[3]).toBe('Creation date')
    expect(
      exportSeen(workspace, {
        object: 'deal',
        scope: null,
        filter: EMPTY_GROUP,
        words: 'nothing',
        sort: 'name',
        down: false,
        columns: ['name'],
      })
        .split('\r\n')
        .filter(Boolean),
    ).toHaveLength(1)
  })
})
