import { describe, expect, it } from 'vitest'
import { all, condition, document, enters, set, task } from '../../core/testing/rules'
import type { RecordRef } from '../../core/records/kinds'
import { refusal } from '../testing/refusal'
import { larkmoor, switchOn } from '../testing/workspace'
import { runPage } from '../views/journal'
import { goneRecord, goneRecords, previewMerge } from '../views/gone'
import { recordPage } from '../views/record'
import { deleteRecord, mergeRecords, restoreRecord } from './going'
import { removeStage } from './pipelines'
import type { Workspace } from './workspace'

const linkNames = (workspace: Workspace, ref: RecordRef) =>
  workspace.store.links
    .of(ref)
    .map(
      ({ from, to, main, role }) =>
        `${from.object} ${from.id} → ${to.object} ${to.id}${main ? ' main' : ''}${role ? ` ${role}` : ''}`,
    )
    .sort()

/** Two contacts who are one person, with a company each and one in common, deals and a task. */
function doubles() {
  const { workspace } = larkmoor()
  const company = (name: string) => workspace.create('company', { name }, [], 'ines').ref
  const [north, south] = [company('North Cold'), company('South Cold')]
  const kept = workspace.create(
    'contact',
    { name: 'Ada Brook', email: 'ada@north.example', owner: 'rosa' },
    [north],
    'ines',
  ).ref
  const other = workspace.create(
    'contact',
    { name: 'A. Brook', email: 'brook@south.example', phone: '+441632960001', owner: 'jude' },
    [south, north],
    'ines',
  ).ref
  const deal = workspace.create('deal', { name: 'Larder', stage: 'hp-sized' }, [other, kept], 'ines').ref
  const second = workspace.create('deal', { name: 'Cellar', stage: 'hp-sized' }, [other], 'ines').ref
  return { workspace, north, south, kept, other, deal, second }
}

describe('merging two records', () => {
  it('fills what the kept one lacks, takes what is asked for, and brings links and history over', () => {
    const { workspace, kept, other, north, south, deal, second } = doubles()
    const read = (ref: RecordRef) => workspace.store.records.read(ref)!
    expect(previewMerge(workspace, read(kept), read(other))).toMatchObject({
      name: 'A. Brook',
      links: 4,
      tasks: 0,
      fields: expect.arrayContaining([
        expect.objectContaining({ key: 'phone', from: 'other' }),
        expect.objectContaining({
          key: 'email',
          kept: 'ada@north.example',
          other: 'brook@south.example',
          from: 'kept',
        }),
      ]),
    })
    mergeRecords(workspace, kept, other.id, ['email'], 'ines')
    expect(read(kept).values).toMatchObject({
      name: 'Ada Brook',
      email: 'brook@south.example',
      phone: '+441632960001',
      owner: 'rosa',
    })
    expect(workspace.store.records.read(other)).toBeNull()
    expect(linkNames(workspace, kept)).toEqual([
      `contact ${kept.id} → company ${north.id} main`,
      `contact ${kept.id} → company ${south.id}`,
      `deal ${deal.id} → contact ${kept.id} main`,
      `deal ${second.id} → contact ${kept.id} main`,
    ])
    const { timeline } = recordPage(workspace, kept)!
    expect(timeline.find((entry) => entry.what === 'went')).toMatchObject({
      kind: 'merged',
      of: { name: 'A. Brook', canBringBack: true },
    })
    expect(
      timeline
        .filter((entry) => entry.what === 'change' && entry.created)
        .map((entry) => entry.what === 'change' && entry.of),
    ).toEqual(['A. Brook', null])
    expect(goneRecord(workspace, other, null)).toMatchObject({
      how: 'merged',
      into: { name: 'Ada Brook' },
      person: 'Ines Calloway',
    })
  })

  it('is taken back whole: values, links with their main ones, and tasks', () => {
    const { workspace, kept, other } = doubles()
    const refs = [kept, other]
    const before = refs.map((ref) => ({
      values: workspace.store.records.read(ref)?.values,
      links: linkNames(workspace, ref),
    }))
    mergeRecords(workspace, kept, other.id, ['email'], 'ines')
    expect(restoreRecord(workspace, other, 'ines').stayed).toEqual([])
    expect(
      refs.map((ref) => ({ values: workspace.store.records.read(ref)?.values, links: linkNames(workspace, ref) })),
    ).toEqual(before)
    expect(goneRecords(workspace, 'contact', null, null, 10).rows).toEqual([])
  })

  it('leaves alone what somebody wrote on the kept record since, and says so', () => {
    const { workspace, kept, other } = doubles()
    mergeRecords(workspace, kept, other.id, ['email'], 'ines')
    workspace.change(kept, { email: 'new@north.example' }, 'rosa')
    expect(restoreRecord(workspace, other, 'ines').stayed).toEqual(['Email of Ada Brook (changed since)'])
    expect(workspace.store.records.read(kept)?.values).toMatchObject({ email: 'new@north.example', phone: null })
  })

  it('moves tasks along and back, and lets rules see the change of the kept record once', () => {
    const { workspace, kept, other } = doubles()
    switchOn(
      workspace,
      document(
        {
          object: 'contact',
          when: [['fieldChanges', { field: 'phone', how: 'anything', from: null, to: null }]],
          then: [task('Ring up', { again: true })],
        },
        'Ring',
      ),
    )
    workspace.change(other, { phone: '+441632960009' }, 'ines')
    expect(workspace.store.tasks.ofRecord(other)).toHaveLength(1)
    const { reports } = mergeRecords(workspace, kept, other.id, [], 'ines')
    expect(reports.map((report) => report.ref)).toEqual([kept])
    expect(workspace.store.tasks.ofRecord(kept)).toHaveLength(2)
    restoreRecord(workspace, other, 'ines')
    expect([kept, other].map((ref) => workspace.store.tasks.ofRecord(ref).length)).toEqual([1, 1])
  })

  it('goes on through two merges, and comes apart in the other order only', () => {
    const { workspace, kept, other } = doubles()
    const third = workspace.create('contact', { name: 'Ada B.' }, [], 'ines').ref
    mergeRecords(workspace, kept, other.id, [], 'ines')
    mergeRecords(workspace, third, kept.id, [], 'ines')
    expect(
      recordPage(workspace, third)!.timeline.flatMap((entry) => (entry.what === 'went' ? [entry.of?.name] : [])),
    ).toEqual(['Ada Brook', 'A. Brook'])
    expect(goneRecord(workspace, other, null)?.canBringBack).toBe(false)
    expect(refusal(() => restoreRecord(workspace, other, 'ines'))).toBe(
      'id: Ada Brook has been deleted too. Restore it first.',
    )
    restoreRecord(workspace, kept, 'ines')
    restoreRecord(workspace, other, 'ines')
    expect(workspace.store.records.count('contact')).toBe(3)
  })

  it('refuses itself, what is not there, and a field in which they do not differ', () => {
    const { workspace, kept, other } = doubles()
    expect(refusal(() => mergeRecords(workspace, kept, kept.id, [], 'ines'))).toBe(
      'other: A record can’t be merged with itself.',
    )
    expect(refusal(() => mergeRecords(workspace, kept, 999, [], 'ines'))).toBe('other: Contact 999 does not exist.')
    expect(refusal(() => mergeRecords(workspace, kept, other.id, ['notThere'], 'ines'))).toBe(
      'take: “notThere” is the same in both records.',
    )
    expect(workspace.store.records.count('contact')).toBe(2)
  })
})

describe('deleting a record', () => {
  it('takes it and its links away and keeps all it takes to bring it back under its number', () => {
    const { workspace, kept, other, deal } = doubles()
    const before = { record: workspace.store.records.read(other)!.values, links: linkNames(workspace, other) }
    deleteRecord(workspace, other, 'ines')
    expect(workspace.store.records.read(other)).toBeNull()
    // The deal's main contact is the next one now.
    expect(linkNames(workspace, deal)).toEqual([`deal ${deal.id} → contact ${kept.id} main`])
    expect(refusal(() => workspace.change(other, { name: 'X' }, 'ines'))).toMatch(/Contact 2 does not exist/)
    expect(restoreRecord(workspace, other, 'ines').stayed).toEqual([])
    expect({ record: workspace.store.records.read(other)!.values, links: linkNames(workspace, other) }).toEqual(before)
    expect(
      recordPage(workspace, other)!.timeline.flatMap((entry) => (entry.what === 'went' ? [entry.kind] : [])),
    ).toEqual(['restored', 'deleted'])
    expect(refusal(() => restoreRecord(workspace, other, 'ines'))).toBe(
      `id: Contact ${other.id} was not deleted or merged.`,
    )
  })

  it('is one event with all it held, and bringing it back starts no rule', () => {
    const { workspace, deal } = doubles()
    switchOn(workspace, document({ object: 'deal', when: [enters('hp-sized')], then: [task('Look')] }, 'Look'))
    expect(deleteRecord(workspace, deal, 'ines')).toEqual([])
    const [event] = workspace.store.events.ofRecord(deal, 1)
    expect(event).toMatchObject({
      kind: 'deleted',
      cause: { by: 'person', personId: 'ines' },
      changes: expect.arrayContaining([{ field: 'name', old: 'Larder', new: null }]),
    })
    restoreRecord(workspace, deal, 'ines')
    expect(workspace.store.tasks.ofRecord(deal)).toEqual([])
  })

  it('starts rules that wait for it, which see what it held; what would write on it is skipped', () => {
    const { workspace, deal } = doubles()
    const rule = switchOn(
      workspace,
      document(
        {
          object: 'deal',
          when: [['deleted', {}]],
          onlyIf: all(condition('amount', 'moreThan', { value: 100 })),
          then: [
            set('notes', 'gone'),
            ['pathPerValue', { field: 'owner' }, ['jude', task('Why is {{deal.name}} gone?')], [null]],
          ],
        },
        'Gone',
      ),
    )
    workspace.change(deal, { amount: 500, owner: 'jude' }, 'ines')
    const [report] = deleteRecord(workspace, deal, 'ines')
    expect(report).toMatchObject({
      ruleId: rule,
      state: 'done',
      steps: [
        { state: 'skipped', reason: { code: 'recordDeleted' } },
        { state: 'done' },
        { wrote: [{ what: 'task', title: 'Why is Larder gone?', assigneeId: 'jude' }] },
      ],
    })
    expect(runPage(workspace, report!.runId)).toMatchObject({
      recordName: 'Larder',
      because: 'the record was deleted',
      seen: [{ value: '€500', holds: true }],
    })
    // It is brought back with its task, and merging is no deleting.
    restoreRecord(workspace, deal, 'ines')
    expect(workspace.store.tasks.ofRecord(deal)).toHaveLength(1)
    const other = workspace.create('deal', { name: 'Larder again', stage: 'hp-sized', amount: 900 }, [], 'ines').ref
    expect(mergeRecords(workspace, deal, other.id, [], 'ines').reports).toEqual([])
  })

  it('comes back as far as the fields of today can hold it', () => {
    const { workspace, deal } = doubles()
    deleteRecord(workspace, deal, 'ines')
    for (const one of workspace.store.records.matching(
      'deal',
      workspace.store.records.where(all(), 'deal', workspace.catalogue(), workspace.moment()),
      10,
    ))
      workspace.change(one, { stage: 'hp-quoted' }, 'ines')
    removeStage(workspace, workspace.catalogue().stage('hp-sized')!, null, 'ines')
    expect(restoreRecord(workspace, deal, 'ines').stayed).toEqual(['Stage (the old value no longer fits)'])
    expect(workspace.store.records.read(deal)?.values.stage).toBe(
      workspace.catalogue().data.pipelines[0]?.stages[0]?.id,
    )
  })

  it('shows what went to those who saw it', () => {
    const { workspace, kept, other } = doubles()
    deleteRecord(workspace, kept, 'ines')
    deleteRecord(workspace, other, 'ines')
    expect(goneRecords(workspace, 'contact', new Set(['rosa']), null, 10).rows.map((row) => row.name)).toEqual([
      'Ada Brook',
    ])
    const first = goneRecords(workspace, 'contact', null, null, 1)
    expect(first.rows.map((row) => row.name)).toEqual(['A. Brook'])
    expect(goneRecords(workspace, 'contact', null, first.next, 1)).toMatchObject({
      rows: [{ name: 'Ada Brook' }],
      next: null,
    })
  })
})
