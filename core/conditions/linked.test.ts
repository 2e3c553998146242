import { describe, expect, it } from 'vitest'
import type { Values } from '../language/value'
import { all, condition } from '../testing/rules'
import { compileGroup, sayItem } from './compile'
import { linkedDepth, type Linked, type LinkedHow } from './document'
import { addNode, newCondition, newLinked, removeNode, setConditionWord, setMode } from './edit'
import { howsFor, linkedKinds } from './linked'
import { alone, type LinkedSubject, type Subject } from './subject'
import { misfit } from './misfit'
import { catalogue, moment } from '../testing/setting'

const linked = (object: Linked['object'], how: LinkedHow, group = all(), count = 2, id = 'l1'): Linked => ({
  kind: 'linked',
  id,
  object,
  how,
  count,
  group,
})
const other = (
  values: Values,
  main = false,
  further: Readonly<Record<string, readonly LinkedSubject[]>> = {},
): LinkedSubject => ({ ...alone(values), main, linked: (object) => further[object] ?? [] })
const withDeals = (...deals: readonly LinkedSubject[]): Subject => ({
  ...alone({ name: 'Lund' }),
  linked: (object) => (object === 'deal' ? deals : []),
})
const open = all(condition('stage', 'standing', { outcome: 'open' }))
const ask = (item: Linked, subject: Subject) => compileGroup(all(item), 'company', catalogue).test(subject, moment)
const [quoted, sized, lost] = [other({ stage: 'hp-quoted' }), other({ stage: 'hp-sized' }), other({ stage: 'hp-lost' })]

describe('Linked records', () => {
  it.each<[LinkedHow, readonly boolean[]]>([
    // nothing linked · one open · one lost · two open and one lost
    ['any', [false, true, false, true]],
    ['none', [true, false, true, false]],
    ['every', [false, true, false, false]],
    ['atLeast', [false, false, false, true]],
  ])('%s', (how, expected) => {
    expect(
      [withDeals(), withDeals(quoted), withDeals(lost), withDeals(quoted, lost, sized)].map((subject) =>
        ask(linked('deal', how, open), subject),
      ),
    ).toEqual(expected)
  })

  it('an empty question asks only whether they are there', () => {
    expect([withDeals(), withDeals(lost)].map((subject) => ask(linked('deal', 'any'), subject))).toEqual([false, true])
    expect(
      [withDeals(), withDeals(lost), withDeals(lost, lost)].map((subject) => ask(linked('deal', 'atLeast'), subject)),
    ).toEqual([false, false, true])
  })

  it('the main one is the one that the record itself points to first', () => {
    const item = linked('company', 'main', all(condition('fitTier', 'is', { value: 'a' })))
    const deal = (...companies: readonly LinkedSubject[]): Subject => ({ ...alone({}), linked: () => companies })
    const test = (subject: Subject) => compileGroup(all(item), 'deal', catalogue).test(subject, moment)
    expect([
      test(deal(other({ fitTier: 'a' }, true), other({ fitTier: 'b' }))),
      test(deal(other({ fitTier: 'b' }, true), other({ fitTier: 'a' }))),
    ]).toEqual([true, false])
    // A company has no main deal; a document that asks for one holds for nothing.
    expect(ask(linked('deal', 'main'), withDeals(quoted))).toBe(false)
    expect([howsFor('deal', 'company').includes('main'), howsFor('company', 'deal').includes('main')]).toEqual([
      true,
      false,
    ])
  })

  it('goes two steps: a contact whose company has an open deal', () => {
    const item = linked('company', 'any', all(linked('deal', 'any', open, 2, 'l2')))
    const contact = (...deals: readonly LinkedSubject[]): Subject => ({
      ...alone({}),
      linked: () => [other({}, true, { deal: deals })],
    })
    const test = (subject: Subject) => compileGroup(all(item), 'contact', catalogue).test(subject, moment)
    expect([test(contact(quoted)), test(contact(lost)), test(contact())]).toEqual([true, false, false])
  })

  it('says what it saw', () => {
    const see = (subject: Subject) =>
      compileGroup(all(linked('deal', 'any', open)), 'company', catalogue).explain(subject, moment)[0]?.value
    expect([see(withDeals()), see(withDeals(lost)), see(withDeals(quoted, lost, sized))]).toEqual([
      'no deals',
      'its only deal doesn’t match',
      '2 of 3 deals match',
    ])
    expect(sayItem(linked('deal', 'none', open), 'company', catalogue)).toBe(
      'has no deals where the stage is an open stage',
    )
    expect(sayItem(linked('deal', 'atLeast', open, 3), 'company', catalogue)).toBe(
      'has at least 3 deals where the stage is an open stage',
    )
  })

  it('is refused where kinds are not linked, too far away, or named twice', () => {
    const deep = all(
      linked('company', 'any', all(linked('deal', 'any', all(linked('contact', 'any', all(), 2, 'l3')), 2, 'l2'))),
    )
    expect([linkedDepth(deep), misfit(deep, 'contact')?.text]).toEqual([
      3,
      'Linked records can be followed 2 levels at most.',
    ])
    expect(misfit(all(linked('company', 'any')), 'company')).toEqual({
      path: ['l1', 'object'],
      text: 'Companies can’t be linked to companies.',
    })
    expect(misfit(all(linked('deal', 'any'), linked('deal', 'any')), 'company')?.text).toBe('ID “c0” is used twice.')
    expect(misfit(all(linked('deal', 'any', { ...open, id: 'g1' })), 'company')).toBeNull()
    expect(linkedKinds('company')).toEqual(['deal', 'contact', 'appointment'])
  })

  it('is edited word by word, what is asked of the linked ones too', () => {
    let group = addNode(all(), 'c0', newLinked('c1', 'c2', 'deal'))
    group = addNode(group, 'c2', newCondition('c3', 'amount', 'deal', catalogue))
    group = setConditionWord(group, 'c3', 'op', 'moreThan', 'company', catalogue)
    group = setConditionWord(group, 'c3', 'value', 5, 'company', catalogue)
    group = setMode(
      setConditionWord(
        setConditionWord(group, 'c1', 'how', 'atLeast', 'company', catalogue),
        'c1',
        'count',
        3,
        'company',
        catalogue,
      ),
      'c2',
      'any',
    )
    expect(group.items[0]).toMatchObject({
      how: 'atLeast',
      count: 3,
      group: { mode: 'any', items: [{ field: 'amount', op: 'moreThan', params: { value: 5 } }] },
    })
    // Another kind of record has other fields: the questions go, the rest stays.
    expect(setConditionWord(group, 'c1', 'object', 'contact', 'company', catalogue).items[0]).toMatchObject({
      object: 'contact',
      how: 'atLeast',
      group: { items: [] },
    })
    expect(removeNode(group, 'c3').items[0]).toMatchObject({ kind: 'linked', group: { items: [] } })
  })
})

describe('Add column', () => {
  const holds = (
    op: 'sameAs' | 'aboveField' | 'belowField' | 'laterThan' | 'earlierThan',
    field: string,
    otherField: string,
    values: Values,
    not = false,
  ) =>
    compileGroup(all(condition(field, op, { other: { via: null, field: otherField } }, not)), 'deal', catalogue).test(
      alone(values),
      moment,
    )

  it('compares by value, numbers of all kinds with one another', () => {
    expect([
      holds('aboveField', 'amount', 'margin', { amount: 5, margin: 4 }),
      holds('aboveField', 'amount', 'margin', { amount: 4, margin: 4 }),
      holds('aboveField', 'amount', 'units', { amount: 5, units: 4 }),
    ]).toEqual([true, false, true])
    expect([
      holds('belowField', 'margin', 'amount', { amount: 5, margin: 4 }),
      holds('sameAs', 'amount', 'margin', { amount: 4, margin: 4 }),
    ]).toEqual([true, true])
    expect([
      holds('laterThan', 'closeDate', 'siteVisit', { closeDate: '2026-12-01', siteVisit: '2026-11-30' }),
      holds('earlierThan', 'closeDate', 'siteVisit', { closeDate: '2026-12-01', siteVisit: '2026-11-30' }),
    ]).toEqual([true, false])
  })

  it('with nothing on either side answers no, and its negation yes', () => {
    for (const values of [{ amount: 4 }, { margin: 4 }, {}] as readonly Values[])
      expect([holds('sameAs', 'amount', 'margin', values), holds('sameAs', 'amount', 'margin', values, true)]).toEqual([
        false,
        true,
      ])
  })

  it('does not compare a date with an instant, nor the choices of two fields', () => {
    expect([
      holds('laterThan', 'closeDate', 'createdAt', { closeDate: '2026-12-01', createdAt: 0 }),
      holds('sameAs', 'kind', 'customer', { kind: 'new', customer: 'new' }),
    ]).toEqual([false, false])
  })

  it('reads the main linked record’s', () => {
    const group = all(condition('owner', 'sameAs', { other: { via: 'company', field: 'owner' } }))
    const deal = (owner: string, ...companies: readonly LinkedSubject[]): Subject => ({
      ...alone({ owner }),
      linked: () => companies,
    })
    const test = (subject: Subject) => compileGroup(group, 'deal', catalogue).test(subject, moment)
    expect([
      test(deal('rosa', other({ owner: 'jude' }), other({ owner: 'rosa' }, true))),
      test(deal('rosa', other({ owner: 'rosa' }), other({ owner: 'jude' }, true))),
      test(deal('rosa')),
    ]).toEqual([true, false, false])
    expect(sayItem(group.items[0]!, 'deal', catalogue)).toBe('its owner is the same as the company’s owner')
  })
})

describe('the value before the change', () => {
  const before = all({ ...condition('amount', 'moreThan', { value: 100 }), at: 'before' as const })
  const test = (subject: Subject) => compileGroup(before, 'deal', catalogue).test(subject, moment)

  it('is asked of the value that stood there, and of the one of now where there is no change', () => {
    expect([
      test({ ...alone({ amount: 50 }), before: { amount: 200 } }),
      test({ ...alone({ amount: 200 }), before: { amount: 50 } }),
      test(alone({ amount: 200 })),
    ]).toEqual([true, false, true])
    expect(sayItem(before.items[0]!, 'deal', catalogue)).toBe('its previous amount is more than €100')
  })

  it('is switched on and off without losing the question', () => {
    const on = setConditionWord(
      all(condition('amount', 'moreThan', { value: 100 }, false, 'c1')),
      'c1',
      'at',
      'before',
      'deal',
      catalogue,
    )
    expect(on.items[0]).toMatchObject({ at: 'before', params: { value: 100 } })
    expect(setConditionWord(on, 'c1', 'at', 'now', 'deal', catalogue).items[0]).not.toHaveProperty('at')
  })
})
