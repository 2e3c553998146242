import { describe, expect, it } from 'vitest'
import { all, condition, document, enters, given, set } from '../testing/rules'
import { diffRules, sayChange, sayChanges } from './diff'
import { addBranch, addCondition, moveStep, removePart, setGroupMode, setWord } from './edit'
import type { RuleDocument } from './document'
import { catalogue } from '../testing/setting'

const rule = document(
  {
    when: [enters('hp-quoted')],
    onlyIf: all(condition('amount', 'moreThan', { value: 1000 }, false, 'c1')),
    then: [
      set('units', 1),
      set('notes', 'x'),
      [
        'choosePath',
        {},
        [given('c10', condition('kind', 'is', { value: 'hire' }, false, 'c11')), set('units', 3)],
        [null],
      ],
    ],
  },
  'Quoted',
)
const said = (after: RuleDocument) => diffRules(rule, after, catalogue).map(sayChange)

describe('changes that are heard', () => {
  const heard = (after: RuleDocument) => sayChanges(diffRules(rule, after, catalogue))

  it('are three of them, and how many more', () => {
    expect(heard(rule)).toBe('')
    const renamed = { ...rule, name: 'Offered' }
    expect(heard(renamed)).toBe('Name: Quoted → Offered')
    expect(heard(removePart(renamed, { part: 'step', id: rule.steps[0]?.id ?? '' }))).toMatch(
      /^Name: .*\. Step 1 removed: .*units to 1$/,
    )
    const empty = rule.steps.reduce((left, { id }) => removePart(left, { part: 'step', id }), renamed)
    expect(heard(empty)).toMatch(/^Name: .*removed: .*removed: .*\. [2-9] changes more$/)
  })
})

describe('what differs between two versions', () => {
  it('is nothing for the same', () => {
    expect(said(JSON.parse(JSON.stringify(rule)) as RuleDocument)).toEqual([])
  })

  it('is told for each part in its own words', () => {
    expect(said({ ...rule, name: 'Offered', description: 'New.' })).toEqual([
      'Name: Quoted → Offered',
      'Description: empty → New.',
    ])
    expect(said(setWord(rule, { part: 'trigger', id: 't1' }, 'stage', 'hp-terms', catalogue))).toEqual([
      'When: a deal enters Quoted (Hire & purchase) → a deal enters Terms (Hire & purchase)',
    ])
    expect(said(setWord(rule, { part: 'condition', id: 'c1' }, 'value', 5, catalogue))).toEqual([
      'Only if: its amount is more than €1,000 → its amount is more than €5',
    ])
    expect(said(setWord(rule, { part: 'step', id: 's4' }, 'field', 'amount', catalogue))).toEqual([
      'Step 3a1: set the units to 3 → set the amount to …',
    ])
    expect(said(removePart(rule, { part: 'condition', id: 'c11' }))).toEqual(['Path 3a removed: its kind is Hire'])
    expect(said(setGroupMode(addCondition(rule, 'c0', 'units', catalogue).rule, 'c0', 'any'))).toEqual([
      'Only if added: any of these is true',
      'Only if added: its units is …',
    ])
  })

  it('tells a step that moved from those that made room for it', () => {
    expect(said(removePart(rule, { part: 'step', id: 's1' }))).toEqual(['Step 1 removed: set the units to 1'])
    expect(said(moveStep(rule, 's1', 1))).toEqual([
      'Step 1 moved (was step 2): set the notes to “x”',
      'Step 2 moved (was step 1): set the units to 1',
    ])
    expect(said(moveStep(rule, 's4', -1))).toEqual(
      [
        'Step 3 moved (was step 3a1): set the units to 3',
        'Step 4 moved (was step 3): take the first path whose conditions are true',
      ].slice(0, 2),
    )
    expect(said(addBranch(rule, 's3').rule)).toEqual([])
  })
})
