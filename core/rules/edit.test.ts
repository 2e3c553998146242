import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { idsIn } from '../conditions/document'
import { OBJECTS } from '../records/kinds'
import { randomRule } from '../testing/random-rules'
import { all, condition, document, given, task } from '../testing/rules'
import { catalogue } from '../testing/setting'
import type { RuleDocument } from './document'
import {
  addBranch,
  addCondition,
  addGroup,
  addLinked,
  addStep,
  addTrigger,
  atEnd,
  conditionPartOf,
  moveBranch,
  moveStep,
  objectAt,
  objectOfPlace,
  partOf,
  pasteSteps,
  removeBranch,
  removePart,
  setGroupMode,
  setMeasured,
  setStepWord,
  setWord,
  stepOf,
  stepsToText,
} from './edit'
import { readRule } from './schema'
import { STEP_NAMES, STEPS } from './steps'
import { TRIGGER_NAMES, TRIGGERS } from './triggers'
import { groupsOf, idsInSteps, placedBranches, placedSteps } from './tree'

// A smaller rule that fails the same way takes minutes to find: the seed says which one it was.
const RUNS = { numRuns: 100, endOnFailure: true }
const every = (rule: RuleDocument): readonly string[] => [
  ...rule.triggers.map(({ id }) => id),
  ...idsIn(rule.conditions),
  ...(rule.goal ? idsIn(rule.goal.conditions) : []),
  ...idsInSteps(rule.steps, idsIn),
]
/** Each id stands once, and the document can be read again. */
function expectSound(rule: RuleDocument): void {
  const ids = every(rule)
  expect(new Set(ids).size).toBe(ids.length)
  const read = readRule(rule)
  expect(read.ok ? '' : read.problem).toBe('')
}
const labels = (rule: RuleDocument): readonly string[] =>
  placedSteps(rule).map(({ step, label }) => `${label} ${step.id}`)
const kindsOf = (rule: RuleDocument): readonly string[] =>
  placedSteps(rule)
    .map(({ step }) => step.kind)
    .sort()
/** One of several things by a number that was drawn, or `null` where there is nothing. */
const oneOf = <T>(many: readonly T[], n: number): T | null => many[n % Math.max(1, many.length)] ?? null
const anyRule = (check: (rule: RuleDocument, n: number) => void): void =>
  fc.assert(fc.property(randomRule, fc.nat(1000), check), RUNS)

describe('an edit of a rule', () => {
  it('leaves the rule it was made on as it is', () => {
    anyRule((rule, n) => {
      const before = JSON.stringify(rule)
      const step = oneOf(placedSteps(rule), n)
      const place = atEnd(oneOf([null, ...placedBranches(rule).map(({ branch }) => branch.id)], n))
      const group = oneOf(groupsOf(rule), n)?.group.id ?? 'c0'
      addTrigger(rule, 'created', catalogue)
      addStep(rule, 'createTask', place, catalogue)
      addGroup(rule, group)
      setGroupMode(rule, group, 'none')
      setMeasured(rule, rule.goal === undefined)
      if (step) {
        moveStep(rule, step.step.id, 1)
        removePart(rule, { part: 'step', id: step.step.id })
        pasteSteps(rule, stepsToText([step.step]), place)
      }
      expect(JSON.stringify(rule)).toBe(before)
    })
  })

  it('takes back what it put in, wherever that was', () => {
    anyRule((rule, n) => {
      const place = atEnd(oneOf([null, ...placedBranches(rule).map(({ branch }) => branch.id)], n))
      const group = oneOf(groupsOf(rule), n)?.group.id ?? 'c0'
      const step = addStep(rule, 'setField', place, catalogue)
      expect(stepOf(step.rule, step.id)?.branch?.id ?? null).toBe(place.branch)
      expect(removePart(step.rule, { part: 'step', id: step.id })).toEqual(rule)
      const trigger = addTrigger(rule, 'created', catalogue)
      expect(removePart(trigger.rule, { part: 'trigger', id: trigger.id })).toEqual(rule)
      for (const added of [
        addGroup(rule, group),
        addCondition(rule, group, 'name', catalogue),
        addLinked(rule, group, OBJECTS[0]),
      ]) {
        expect(every(added.rule)).toContain(added.id)
        expect(removePart(added.rule, { part: 'condition', id: added.id })).toEqual(rule)
      }
    })
  })

  it('gives what is new an id of its own', () => {
    anyRule((rule, n) => {
      const known = every(rule)
      const kind = oneOf(STEP_NAMES, n) ?? 'setField'
      const step = addStep(rule, kind, atEnd(null), catalogue)
      const more = every(step.rule).filter((id) => !known.includes(id))
      expect(more).toContain(step.id)
      expect(new Set(every(step.rule)).size).toBe(known.length + more.length)
      const trigger = addTrigger(rule, oneOf(TRIGGER_NAMES, n) ?? 'created', catalogue)
      expect(known).not.toContain(trigger.id)
    })
  })

  it('moves a step without losing or doubling any, and back again', () => {
    anyRule((rule, n) => {
      const step = oneOf(placedSteps(rule), n)?.step
      if (!step) return
      for (const by of [-1, 1] as const) {
        const moved = moveStep(rule, step.id, by)
        expectSound(moved)
        expect(kindsOf(moved)).toEqual(kindsOf(rule))
        // Inside one way, up and down undo each other; out of a way it goes and does not come in again by itself.
        const stays = stepOf(moved, step.id)?.branch?.id === stepOf(rule, step.id)?.branch?.id
        if (moved !== rule && stays) expect(labels(moveStep(moved, step.id, by === 1 ? -1 : 1))).toEqual(labels(rule))
      }
    })
  })

  it('pastes copies: the same steps under ids of their own, behind what stands there', () => {
    anyRule((rule, n) => {
      const step = oneOf(placedSteps(rule), n)?.step
      if (!step) return
      const pasted = pasteSteps(rule, stepsToText([step]), atEnd(null))
      // Too many, too deep, or of another kind of record: then the reason is told and nothing happens.
      if (!pasted.ok) return
      expectSound(pasted.value.rule)
      const copy = pasted.value.rule.steps.at(-1)
      expect([copy?.kind, copy?.params]).toEqual([step.kind, step.params])
      expect(pasted.value.ids).toEqual([copy?.id])
      expect(kindsOf({ ...rule, steps: copy ? [copy] : [] })).toEqual(kindsOf({ ...rule, steps: [step] }))
    })
  })

  it.each(['', 'no JSON', '{}', 'null', '[]', '{"sky-lever-steps":[]}', '{"sky-lever-steps":"s1"}'])(
    'refuses %j as steps, and says so',
    (text) => {
      const rule = document({ when: [['created', {}]], then: [task('One')] })
      const pasted = pasteSteps(rule, text, atEnd(null))
      expect(pasted.ok ? '' : pasted.problem.code).toBe('noStepsToPaste')
    },
  )

  it('refuses steps that are none, with the reason', () => {
    const rule = document({ when: [['created', {}]], then: [task('One')] })
    for (const step of [{ id: 's1', kind: 'fly', params: {} }, { id: 's1' }, 7]) {
      const pasted = pasteSteps(rule, JSON.stringify({ 'sky-lever-steps': [step] }), atEnd(null))
      expect(pasted.ok ? '' : pasted.problem.code).toBe('cannotPaste')
    }
  })

  it('refuses a step that does not go with the kind of record', () => {
    const company = document({ object: 'company', when: [['created', {}]], then: [] })
    const move = { id: 's1', kind: 'moveStage', params: STEPS.moveStage.start }
    const pasted = pasteSteps(company, JSON.stringify({ 'sky-lever-steps': [move] }), atEnd(null))
    expect(pasted.ok ? '' : pasted.problem).toEqual({ code: 'stepNotFor', object: 'company' })
  })
})

describe('a path', () => {
  const rule = document({
    when: [['created', {}]],
    then: [
      [
        'choosePath',
        { first: true },
        [given('c1', condition('amount', 'moreThan', { value: 5 })), task('Large')],
        [given('c2'), task('Small')],
        [null, task('Neither')],
      ],
    ],
  })
  const paths = (of: RuleDocument): readonly string[] => placedBranches(of).map(({ branch }) => branch.id)

  it('is added before the last one, and removed again', () => {
    const { rule: more, id } = addBranch(rule, 's1')
    expect(paths(more)).toEqual(['b1', 'b2', id, 'b3'])
    expect(removeBranch(more, id)).toEqual(rule)
  })
  it('is for a value where the step has paths by value', () => {
    const { rule: more, id } = addBranch(rule, 's1', 'hire')
    expect(placedBranches(more).find(({ branch }) => branch.id === id)?.branch).toEqual({
      id,
      value: 'hire',
      steps: [],
    })
  })
  it('moves among the others, and never behind “otherwise”', () => {
    expect(paths(moveBranch(rule, 'b1', 1))).toEqual(['b2', 'b1', 'b3'])
    expect(paths(moveBranch(rule, 'b2', -1))).toEqual(['b2', 'b1', 'b3'])
    for (const [id, by] of [
      ['b1', -1],
      ['b2', 1],
      ['b3', -1],
      ['b9', 1],
    ] as const)
      expect(moveBranch(rule, id, by)).toBe(rule)
  })
  it('holds steps about the record of its step, or about those it goes through', () => {
    expect(objectOfPlace(rule, 'b1')).toBe('deal')
    expect(objectOfPlace(rule, null)).toBe('deal')
    anyRule((any) => {
      for (const { branch, object } of placedBranches(any)) expect(objectOfPlace(any, branch.id)).toBe(object)
    })
  })
})

describe('a word of a rule', () => {
  it('is set by itself, and what depends on it begins anew', () => {
    const source = { from: 'value', value: 4 }
    const rule = document({
      when: [['created', {}]],
      then: [['setField', { ...STEPS.setField.start, field: 'units', source }]],
    })
    const at = { part: 'step', id: 's1' } as const
    const other = setWord(rule, at, 'field', 'margin', catalogue)
    expect(partOf(other, at)?.params).toEqual({ ...STEPS.setField.start, field: 'margin' })
    // The same word again changes nothing of the rest.
    expect(partOf(setWord(rule, at, 'field', 'units', catalogue), at)?.params).toEqual(partOf(rule, at)?.params)
    const step = rule.steps[0]
    expect(step && setStepWord(step, 'field', 'margin').params).toEqual(partOf(other, at)?.params)
  })
  it('stands in every part of every rule with a form that has it', () => {
    anyRule((rule) => {
      for (const { step } of placedSteps(rule)) {
        const part = partOf(rule, { part: 'step', id: step.id })
        // What a document of before leaves out has a word all the same.
        expect(Object.keys(part?.form ?? {})).toEqual(expect.arrayContaining(Object.keys(part?.params ?? {})))
        expect(part?.start).toBe(STEPS[step.kind].start)
      }
      for (const trigger of rule.triggers)
        expect(partOf(rule, { part: 'trigger', id: trigger.id })?.start).toBe(TRIGGERS[trigger.kind].start)
      expect(partOf(rule, { part: 'step', id: 'gone' })).toBeNull()
      expect(partOf(rule, { part: 'condition', id: 'gone' })).toBeNull()
      expect(partOf(rule, { part: 'goal', id: '' }) === null).toBe(rule.goal === undefined)
    })
  })
  it('of a condition is about the record that its group asks of', () => {
    const rule = document({ when: [['created', {}]], onlyIf: all(condition('amount', 'isEmpty', {})), then: [] })
    const { rule: more, id } = addLinked(rule, 'c0', 'company')
    const inside = groupsOf(more)[0]?.group.items.flatMap((item) =>
      item.kind === 'linked' && item.id === id ? [item.group.id] : [],
    )
    expect(objectAt(more, inside?.[0] ?? '')).toBe('company')
    expect(objectAt(more, 'c-amount-isEmpty')).toBe('deal')
    expect(conditionPartOf(more, 'gone')).toBeNull()
  })
})

describe('a target', () => {
  it('is given, and taken away without a trace', () => {
    anyRule((rule) => {
      const measured = setMeasured(rule, true)
      expectSound(measured)
      expect(measured.goal).toBeDefined()
      const { goal: _, ...without } = rule
      expect(setMeasured(measured, false)).toEqual(without)
    })
  })
})
