import { describe, expect, it } from 'vitest'
import { all, condition, document, enters, set } from '../../core/testing/rules'
import type { Value } from '../../core/language/value'
import { larkmoor, switchOn } from '../testing/workspace'
import { refusal } from '../testing/refusal'
import { recordPage } from '../views/record'
import { makeField } from './fields'
import { planRetype, retype } from './retype'
import type { Workspace } from './workspace'
import type { FieldTypeName } from '../../core/language/field-types'

const field = (workspace: Workspace, key: string) => workspace.catalogue().field('deal', key)!
const values = (workspace: Workspace, key: string): readonly Value[] =>
  [...workspace.store.records.scan('deal', [key])].map((record) => record.values[key] ?? null)

function withField(
  type: FieldTypeName,
  held: readonly Value[],
  choices: readonly string[] = [],
): { readonly workspace: Workspace; readonly other: Workspace } {
  const { workspace, reopen } = larkmoor()
  const other = reopen()
  makeField(workspace, { object: 'deal', label: 'Probe', type, description: '', choices })
  for (const [i, probe] of held.entries())
    workspace.create('deal', { name: `Deal ${i}`, stage: 'hp-sized', probe }, [], 'ines')
  return { workspace, other }
}

describe('giving a field another type', () => {
  it.each<[FieldTypeName, readonly Value[], FieldTypeName, readonly Value[]]>([
    ['text', ['12', '1,234.5', null], 'number', [12, 1234.5, null]],
    ['number', [12, 0.5, null], 'text', ['12', '0.5', null]],
    ['number', [12, 1234], 'currency', [12, 1234]],
    ['currency', [12, 1234.5], 'number', [12, 1234.5]],
    ['text', ['Concrete', ' concrete', 'Tiles', null], 'choice', ['concrete', 'concrete', 'tiles', null]],
    ['choice', ['concrete', null], 'text', ['Concrete', null]],
    ['text', ['2026-11-24', '24.11.2026'], 'date', ['2026-11-24', '2026-11-24']],
    ['date', ['2026-11-24', null], 'text', ['24 Nov 2026', null]],
    ['yesNo', [true, false], 'text', ['yes', 'no']],
    ['text', ['yes', 'Nein'], 'yesNo', [true, false]],
    ['text', ['Ana@Lund.example'], 'email', ['ana@lund.example']],
    ['choice', ['concrete'], 'choices', [['concrete']]],
  ])('%s %j becomes %s %j', (from, held, to, expected) => {
    const { workspace, other } = withField(from, held, from === 'choice' ? ['Concrete', 'Tiles'] : [])
    retype(workspace, field(workspace, 'probe'), to)
    expect(values(workspace, 'probe')).toEqual(expected)
    // Another thread reads the same, it can be asked by query and by predicate, and written.
    other.keepUp()
    expect(values(other, 'probe')).toEqual(expected)
    const filled = all(condition('probe', 'isEmpty', {}, true))
    expect(
      other.store.records.matching(
        'deal',
        other.store.records.where(filled, 'deal', other.catalogue(), other.moment()),
        10,
      ),
    ).toHaveLength(expected.filter((one) => one !== null).length)
    workspace.change({ object: 'deal', id: 1 }, { probe: null }, 'ines')
    expect(values(other, 'probe')[0]).toBeNull()
    expect(recordPage(workspace, { object: 'deal', id: 1 })?.timeline.length).toBeGreaterThan(1)
  })

  it('tells what does not fit and changes nothing then', () => {
    const { workspace } = withField('text', ['12', 'a dozen', 'a dozen', null])
    expect(planRetype(workspace, field(workspace, 'probe'), 'number')).toMatchObject({
      fit: 1,
      wrongRecords: 2,
      wrong: [{ text: 'a dozen', count: 2, why: expect.stringContaining('a dozen') as string }],
    })
    expect(refusal(() => retype(workspace, field(workspace, 'probe'), 'number'))).toMatch(
      /^type: 2 records have values that can’t be converted, for example “a dozen”: /,
    )
    expect([field(workspace, 'probe').type, values(workspace, 'probe')]).toEqual([
      'text',
      ['12', 'a dozen', 'a dozen', null],
    ])
    expect(planRetype(workspace, field(workspace, 'probe'), 'choice').choices).toEqual(['a dozen', '12'])
  })

  it('is refused for what the system, a rule or nobody needs changed', () => {
    const { workspace } = withField('text', [])
    switchOn(
      workspace,
      document(
        { when: [enters('hp-terms')], onlyIf: all(condition('probe', 'isEmpty', {})), then: [set('units', 9)] },
        'Names it',
      ),
    )
    expect(refusal(() => retype(workspace, field(workspace, 'probe'), 'number'))).toBe(
      'type: “Probe” can’t be changed: it is used by rule “Names it”. Remove it there first.',
    )
    expect(refusal(() => retype(workspace, field(workspace, 'name'), 'number'))).toBe(
      'type: “Name” is a system field and can’t change its type.',
    )
    expect(refusal(() => retype(workspace, field(workspace, 'notes'), 'longText'))).toBe(
      'type: “Notes” already has this type.',
    )
    expect(refusal(() => retype(workspace, field(workspace, 'notes'), 'stage'))).toBe(
      'type: This type is only for the stage of deals.',
    )
  })
})
