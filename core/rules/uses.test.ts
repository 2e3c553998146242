import { describe, expect, it } from 'vitest'
import { all, condition, document, enters, set, task } from '../testing/rules'
import { usesChoice, usesField } from './uses'

const rule = document({
  when: [enters('hp-quoted'), ['fieldChanges', { field: 'closeDate', how: 'any', from: null, to: null }]],
  onlyIf: all(condition('kind', 'isAnyOf', { values: ['hire', 'service'] }, false, 'c1'), {
    kind: 'group',
    id: 'g',
    mode: 'any',
    items: [condition('amount', 'moreThan', { value: 1 }, true, 'c2')],
  }),
  then: [set('lostReason', 'timing'), task('Ring {{ contact.name }} about {{deal.units}}')],
})

describe('what a rule names', () => {
  it.each(['closeDate', 'kind', 'amount', 'lostReason', 'units'])('%s, wherever it stands', (key) =>
    expect(usesField(rule, 'deal', key)).toBe(true),
  )

  it('not what merely looks alike: another kind of record, a value, a part of a word', () => {
    expect(['hire', 'name', 'unit', 'notes'].map((key) => usesField(rule, 'deal', key))).toEqual([
      false,
      false,
      false,
      false,
    ])
    expect([
      usesField(rule, 'contact', 'name'),
      usesField(rule, 'contact', 'kind'),
      usesField(rule, 'company', 'name'),
    ]).toEqual([true, false, false])
  })

  it('choices beside their field', () => {
    expect([usesChoice(rule, 'deal', 'kind', 'hire'), usesChoice(rule, 'deal', 'lostReason', 'timing')]).toEqual([
      true,
      true,
    ])
    expect([
      usesChoice(rule, 'deal', 'kind', 'purchase'),
      usesChoice(rule, 'deal', 'lostReason', 'hire'),
      usesChoice(rule, 'contact', 'kind', 'hire'),
    ]).toEqual([false, false, false])
  })
})
