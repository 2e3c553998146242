import { describe, expect, it } from 'vitest'
import { all, condition, document, enters, given, set } from '../testing/rules'
import { diffRules, sayChange } from './diff'
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

describe('what differs between two versions', () => {
  it('is nothing for the same', () => {
    expect(said(JSON.parse(JSON.stringify(rule)) as RuleDocument)).toEqual([])
  })

  it('is told for each part in its own words', () => {
    expect(said({ ...rule, name: 'Offered', description: 'New.' })).toEqual([
      'name: Quoted → Offered',
      'description: nothing → New.',
    ])
    expect(said(setWord(rule, { part: 'trigger', id: 't1' }, 'stage', 'hp-terms', catalogue))).toEqual([
      'when: a deal enters Quoted in Hire & purchase → a deal enters Terms in Hire & purchase',
    ])
    expect(said(setWord(rule, { part: 'condition', id: 'c1' }, 'value', 5, catalogue))).toEqual([
      'only if: its amount is more than €1,000 → its amount is more than €5',
    ])
    expect(said(setWord(rule, { part: 'step', id: 's4' }, 'field', 'amount', catalogue))).toEqual([
      'step 3a1: set units to 3 → set amount to …',
    ])
    expect(said(removePart(rule, { part: 'condition', id: 'c11' }))).toEqual(['path 3a taken out: its kind is Hire'])
    expect(said(setGroupMode(addCondition(rule, 'c0', 'units', catalogue).rule, 'c0', 'any'))).toEqual([
      'only if added: any of these holds',
      'only if added: its units is …',
    ])
  })

  it('tells a step that moved from those that made room for it', () => {
    expect(said(removePart(rule, { part: 'step', id: 's1' }))).toEqual(['step 1 taken out: set units to 1'])
    expect(said(moveStep(rule, 's1', 1))).toEqual([
      'step 1, step 2 before: set notes to “x”',
      'step 2, step 1 before: set units to 1',
    ])
    expect(said(moveStep(rule, 's4', -1))).toEqual(
      ['step 3, step 3a1 before: set units to 3', 'step 4, step 3 before: choose the first path that fits'].slice(0, 2),
    )
    expect(said(addBranch(rule, 's3').rule)).toEqual([])
  })
})
