import { describe, expect, it } from 'vitest'
import { all, condition } from '../../core/testing/rules'
import type { Value } from '../../core/language/value'
import { blank, larkmoor } from '../testing/workspace'
import { refusal } from '../testing/refusal'
import { synonymSheet } from '../views/synonym-sheet'
import { setUpWorkspace } from './set-up'
import { changeSynonymSet, compareBy, makeSynonymSet, removeSynonymSet } from './synonyms'
import type { Workspace } from './workspace'

const field = (workspace: Workspace, key: string) => workspace.catalogue().field('company', key)!
const company = (workspace: Workspace, name: string, values: Readonly<Record<string, Value>>) =>
  workspace.create('company', { name, ...values }, [], 'ines').ref.id
const where = (workspace: Workspace, key: string, op: 'is' | 'isAnyOf' | 'contains', params: object) => {
  const group = all(condition(key, op, params))
  return workspace.store.records
    .matching(
      'company',
      workspace.store.records.where(group, 'company', workspace.catalogue(), workspace.moment()),
      100,
    )
    .map((record) => record.values.name)
}

describe('synonym sets', () => {
  it('ship with a workspace: countries are compared by theirs, in whatever spelling', () => {
    const workspace = blank()
    setUpWorkspace(workspace, {
      name: 'Lund',
      zone: 'Europe/Lisbon',
      currency: 'EUR',
      specialist: { name: 'Ada Lund', email: 'ada@lund.example', passwordHash: 'x' },
    })
    for (const [name, country] of [
      ['A', 'UK'],
      ['B', 'great britain'],
      ['C', 'Éire'],
      ['D', 'Portugal'],
      ['E', null],
    ] as const)
      workspace.create('company', { name, country }, [], 'ada-lund')
    expect(where(workspace, 'country', 'isAnyOf', { values: ['United Kingdom', 'Ireland'] })).toEqual(['A', 'B', 'C'])
    // The record keeps what was written.
    expect(workspace.store.records.read({ object: 'company', id: 2 })?.values.country).toBe('great britain')
  })

  it('can be given to a text that has values already, changed and taken from it: what matches follows at once, in every thread', () => {
    const { workspace, reopen } = larkmoor()
    const other = reopen()
    for (const [name, region] of [
      ['A', 'Lisbon'],
      ['B', 'LISBOA'],
      ['C', 'Oporto'],
      ['D', 'Lx'],
    ] as const)
      company(workspace, name, { region })
    expect(where(workspace, 'region', 'is', { value: 'lisbon' })).toEqual(['A'])
    const id = makeSynonymSet(workspace, 'Regions', [['Lisbon', 'Lisboa']])
    compareBy(workspace, field(workspace, 'region'), id)
    expect(where(workspace, 'region', 'is', { value: 'lisbon' })).toEqual(['A', 'B'])
    changeSynonymSet(workspace, id, {
      groups: [
        ['Lisbon', 'Lisboa', 'LX'],
        ['Porto', 'Oporto'],
      ],
    })
    other.keepUp()
    for (const one of [workspace, other]) {
      expect(where(one, 'region', 'is', { value: 'Lx' })).toEqual(['A', 'B', 'D'])
      expect(where(one, 'region', 'isAnyOf', { values: ['PORTO', 'nowhere'] })).toEqual(['C'])
      expect(where(one, 'region', 'contains', { value: 'lis' })).toEqual(['A', 'B'])
    }
    company(workspace, 'E', { region: 'lisboa' })
    expect(where(workspace, 'region', 'is', { value: 'Lisbon' })).toEqual(['A', 'B', 'D', 'E'])
    compareBy(workspace, field(workspace, 'region'), null)
    expect(where(workspace, 'region', 'is', { value: 'lisbon' })).toEqual(['A'])
    removeSynonymSet(workspace, id)
    expect(workspace.catalogue().synonymSet(id)).toBeNull()
  })

  it('show what is written in records beside what it counts as', () => {
    const { workspace } = larkmoor()
    for (const [name, country] of [
      ['A', 'UK'],
      ['B', 'UK'],
      ['C', 'Ruritania'],
    ] as const)
      company(workspace, name, { country })
    const set = workspace.catalogue().synonymSet(field(workspace, 'country').synonyms)!
    expect(synonymSheet(workspace, set)).toMatchObject({
      fields: [{ object: 'company', label: 'Country' }],
      seen: [
        { spelling: 'UK', countsAs: 'United Kingdom', known: true, count: 2 },
        { spelling: 'Ruritania', countsAs: 'Ruritania', known: false, count: 1 },
      ],
    })
  })

  it('stay as they are when nothing is to be changed', () => {
    const { workspace } = larkmoor()
    const before = workspace.catalogue().data.synonyms
    changeSynonymSet(workspace, before![0]!.id, {})
    expect(workspace.catalogue().data.synonyms).toEqual(before)
  })

  it('are refused when a spelling would count as two things, when one is called that, and while fields need them', () => {
    const { workspace } = larkmoor()
    expect(refusal(() => makeSynonymSet(workspace, 'COUNTRIES', []))).toBe(
      'name: A synonym set named “Countries” already exists.',
    )
    expect(
      refusal(() =>
        makeSynonymSet(workspace, 'Regions', [
          ['Lisbon', 'LX'],
          ['Luxembourg', 'lx'],
        ]),
      ),
    ).toBe('groups: “lx” is listed under “Lisbon” and under “Luxembourg”. Remove one.')
    expect(refusal(() => removeSynonymSet(workspace, field(workspace, 'country').synonyms!))).toBe(
      ': This synonym set can’t be deleted: it is used by Country (companies).',
    )
    expect(refusal(() => compareBy(workspace, field(workspace, 'fitTier'), null))).toBe(
      'synonyms: “Fit tier” is not a text field.',
    )
    expect(refusal(() => compareBy(workspace, field(workspace, 'name'), 1))).toBe('synonyms: Names can’t use synonyms.')
    expect(refusal(() => compareBy(workspace, field(workspace, 'region'), 99))).toBe(
      'synonyms: This synonym set does not exist.',
    )
  })
})
