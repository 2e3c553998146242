import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { catalogue } from '../testing/setting'
import { randomRule } from '../testing/random-rules'
import { document, enters, set, task } from '../testing/rules'
import { catalogues, namesResults, renameResults, resultKey, withResults } from './results'
import { placedSteps } from './tree'

const waited = [
  'taskAndWait',
  {
    title: 'Ring them',
    notes: '',
    taskKind: 'call',
    due: { count: 0, unit: 'days' },
    priority: 'normal',
    again: false,
    email: false,
    most: { count: 3, unit: 'days' },
    recheck: false,
  },
  [null, ['setField', { field: 'notes', source: { from: 'field', field: 's1.outcome' } }]],
  [null, task('Nobody rang')],
] as const
const rule = document({ when: [enters('hp-quoted')], then: [waited, set('units', 1)] })

describe('results of steps', () => {
  it('are fields for whatever comes behind them, with the step’s number', () => {
    const found = withResults(rule, catalogue).field('deal', resultKey('s1', 'outcome'))
    expect(found).toMatchObject({ label: expect.stringContaining('(step 1)'), keptBy: 'comes from step 1', id: 0 })
    expect(catalogue.field('deal', 's1.outcome')).toBeNull()
  })

  it('are at hand behind their step and below it, and not before', () => {
    const at = catalogues(rule, catalogue)
    const sees = (id: string) => at.get(id)?.field('deal', 's1.outcome') !== null
    const [first, ...later] = placedSteps(rule).map(({ step }) => step.id)
    expect(sees(first ?? '')).toBe(false)
    for (const id of later) expect(sees(id), id).toBe(true)
  })

  it('stand for every step and every way of a rule', () => {
    fc.assert(
      fc.property(randomRule, (one) => {
        const at = catalogues(one, catalogue)
        for (const { step } of placedSteps(one)) {
          expect(at.has(step.id)).toBe(true)
          for (const branch of step.branches ?? []) expect(at.has(branch.id)).toBe(true)
        }
      }),
      { endOnFailure: true, numRuns: 60 },
    )
  })

  it('are looked for where they are named', () => {
    expect(namesResults(rule)).toBe(true)
    expect(namesResults(document({ when: [enters('hp-quoted')], then: [set('units', 1)] }))).toBe(false)
    expect(namesResults(document({ when: [enters('hp-quoted')], then: [task('What {{ t1.reason }} says')] }))).toBe(
      true,
    )
    expect(namesResults(document({ when: [enters('hp-quoted')], then: [task('Version s1. of 2.0')] }))).toBe(false)
  })
})

describe('steps that get other numbers', () => {
  const ids = new Map([
    ['s1', 's9'],
    ['s9', 's1'],
  ])

  it.each([
    ['s1.outcome', 's9.outcome'],
    ['{{s1.outcome}} and {{ s9.date }}', '{{s9.outcome}} and {{s1.date}}'],
    ['{{s2.outcome}}', '{{s2.outcome}}'],
    ['s1. A text', 's1. A text'],
    ['{{deal.name}}', '{{deal.name}}'],
    ['see s1.outcome here', 'see s1.outcome here'],
  ])('%s becomes %s', (before, after) => {
    expect(renameResults({ a: [before] }, ids)).toEqual({ a: [after] })
  })

  it('are renamed in the question since when something was done', () => {
    expect(renameResults({ kind: 'did', step: 's1' }, ids)).toEqual({ kind: 'did', step: 's9' })
    expect(renameResults({ kind: 'other', step: 's1' }, ids)).toEqual({ kind: 'other', step: 's1' })
  })

  it('come back when they are turned back, whatever the rule', () => {
    fc.assert(
      fc.property(randomRule, (one) => {
        const once = renameResults(one.steps, ids)
        expect(renameResults(once, ids)).toEqual(one.steps)
      }),
      { endOnFailure: true, numRuns: 60 },
    )
  })
})
