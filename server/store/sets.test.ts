import { describe, expect, it } from 'vitest'
import { compileGroup } from '../../core/conditions/compile'
import type { Group, Item } from '../../core/conditions/document'
import { all, condition } from '../../core/testing/rules'
import { larkmoor } from '../testing/workspace'
import type { Workspace } from '../engine/workspace'

function deals(count: number): Workspace {
  const { workspace } = larkmoor()
  workspace.db.atomically(() => {
    for (let i = 0; i < count; i++)
      workspace.createBy(
        'deal',
        { name: `Deal ${i}`, stage: 'hp-sized', amount: i, units: i % 7 },
        [],
        { by: 'person', personId: 'ines' },
        true,
      )
  })
  return workspace
}
const survey = (workspace: Workspace, group: Group, limit = 40) =>
  workspace.store.records.survey(
    'deal',
    workspace.store.records.where(group, 'deal', workspace.catalogue(), workspace.moment()),
    limit,
  )

describe('what a group comes to on all records', () => {
  it('an empty group lets everything through and misses nothing', () => {
    expect(survey(deals(5), all(), 3)).toEqual({
      total: 5,
      matched: 5,
      near: 0,
      alone: new Map(),
      matching: [1, 2, 3],
      nearest: [],
    })
    expect(survey(deals(0), all(condition('units', 'is', { value: 1 })))).toMatchObject({
      total: 0,
      matched: 0,
      near: 0,
      matching: [],
      nearest: [],
    })
  })

  it('lists the nearest first, whichever of the conditions they fail, and no more than wanted', () => {
    const workspace = deals(20)
    const group = all(
      condition('amount', 'moreThan', { value: 15 }, false, 'a'),
      condition('units', 'is', { value: 2 }, false, 'u'),
    )
    const { nearest, near, matching } = survey(workspace, group, 4)
    // 16 holds both. 9 and 2 have the units and are 6 and 13 short; the others above 15 have other units, which cannot
    // be measured.
    expect([matching, near]).toEqual([[17], 5])
    expect(nearest).toEqual([
      { id: 10, missId: 'a' },
      { id: 3, missId: 'a' },
      { id: 18, missId: 'u' },
      { id: 19, missId: 'u' },
    ])
  })

  it('near misses belong to “all” groups', () => {
    const workspace = deals(9)
    for (const mode of ['any', 'none'] as const)
      expect(
        survey(workspace, {
          ...all(condition('units', 'is', { value: 2 }), condition('units', 'is', { value: 99 })),
          mode,
        }),
      ).toMatchObject({ near: 0, nearest: [] })
  })

  it('counts more conditions than a number has bits, and still says what each lets through', () => {
    const workspace = deals(40)
    const group = all(
      ...Array.from({ length: 34 }, (_, i): Item => condition('amount', 'moreThan', { value: i }, false, `c${i}`)),
    )
    const plain = compileGroup(group, 'deal', workspace.catalogue())
    const records = [...workspace.store.records.scan('deal', ['amount'])]
    const found = survey(workspace, group)
    expect([found.total, found.matched, found.matching.length]).toEqual([40, 6, 6])
    expect(found.matched).toBe(
      records.filter((record) => plain.test(workspace.subject(record), workspace.moment())).length,
    )
    for (let i = 0; i < 34; i++) expect(found.alone.get(`c${i}`)).toBe(39 - i)
  })

  it('with thirty conditions the bits and the ids stay apart', () => {
    const workspace = deals(35)
    const group = all(
      ...Array.from({ length: 30 }, (_, i): Item => condition('amount', 'moreThan', { value: i }, false, `c${i}`)),
    )
    const found = survey(workspace, group, 100)
    expect(found.matching).toEqual([31, 32, 33, 34, 35])
    for (let i = 0; i < 30; i++) expect(found.alone.get(`c${i}`)).toBe(34 - i)
    expect(found.nearest).toEqual([{ id: 30, missId: 'c29' }])
  })
})

describe('taking stock', () => {
  it('leaves every answer as it was, and may be asked for again and again', () => {
    const workspace = deals(50)
    const group = all(condition('units', 'is', { value: 3 }), {
      kind: 'linked',
      id: 'l1',
      object: 'company',
      how: 'none',
      count: 1,
      group: { ...all(), id: 'g1' },
    })
    const before = survey(workspace, group)
    for (let i = 0; i < 3; i++) workspace.db.analyze()
    expect(survey(workspace, group)).toEqual(before)
  })

  it('is known to others on the file, at the next time that they can', () => {
    const { workspace, reopen } = larkmoor()
    const other = reopen()
    other.keepUp()
    workspace.analyze()
    // Somebody else writes just now: it is put off, and nothing else is held up.
    other.db.sqlite.pragma('busy_timeout = 1')
    workspace.db.atomically(() => {
      workspace.store.revisions.bump('rules')
      expect(() => other.keepUp()).not.toThrow()
    })
    other.keepUp()
    expect(other.create('deal', { name: 'Room', stage: 'hp-sized' }, [], 'ines').ref.object).toBe('deal')
  })
})

describe('what was done with links', () => {
  it('is told from both ends, newest first; linking again is nothing new', () => {
    const { workspace } = larkmoor()
    const deal = workspace.create('deal', { name: 'Room', stage: 'hp-sized' }, [], 'ines').ref
    const lund = workspace.create('company', { name: 'Lund' }, [], 'ines').ref
    workspace.link(deal, lund, 'pays', false, 'ines')
    workspace.link(deal, lund, 'uses it', false, 'jude')
    workspace.unlink(deal, lund, 'rosa')
    const acts = (ref: typeof deal) =>
      workspace.store.links
        .acts(ref, 10)
        .map((act) => [act.act, act.other.object, 'personId' in act.cause ? act.cause.personId : ''])
    expect(acts(deal)).toEqual([
      ['unlinked', 'company', 'rosa'],
      ['linked', 'company', 'ines'],
    ])
    expect(acts(lund)).toEqual([
      ['unlinked', 'deal', 'rosa'],
      ['linked', 'deal', 'ines'],
    ])
    expect(workspace.unlink(deal, lund, 'rosa')).toBe(false)
  })

  it('reads the linked ones of a kind from either end, the main one first where there is one', () => {
    const { workspace } = larkmoor()
    const [one, two] = ['One', 'Two'].map((name) => workspace.create('company', { name }, [], 'ines').ref)
    const deal = workspace.create('deal', { name: 'Room', stage: 'hp-sized' }, [one!, two!], 'ines').ref
    workspace.link(deal, two!, '', true, 'ines')
    expect(workspace.store.links.linked(deal, 'company')).toEqual([
      { id: two!.id, main: true, role: '' },
      { id: one!.id, main: false, role: '' },
    ])
    expect(workspace.store.links.linked(two!, 'deal')).toEqual([{ id: deal.id, main: false, role: '' }])
    expect(workspace.store.links.linked(deal, 'contact')).toEqual([])
  })
})
