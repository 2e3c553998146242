import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { idsIn } from '../conditions/document'
import { randomRule } from '../testing/random-rules'
import { document, given, task } from '../testing/rules'
import {
  branchLabel,
  changeBranch,
  changeStep,
  depthOf,
  groupsOf,
  idsInSteps,
  objectInside,
  placedBranches,
  placedSteps,
  stepById,
  shortLabel,
  stepLabel,
} from './tree'

// A smaller rule that fails the same way takes minutes to find: the seed says which one it was.
const RUNS = { numRuns: 100, endOnFailure: true }
const rule = document({
  when: [['created', {}]],
  then: [
    task('First'),
    [
      'choosePath',
      { first: true },
      [given('c1'), task('Large'), ['choosePath', { first: true }, [given('c2'), task('Deep')], [null]]],
      [null, task('Small')],
    ],
    task('Last'),
  ],
})

describe('the steps of a rule', () => {
  it('are called by their place, path within path', () => {
    expect(placedSteps(rule).map(({ label, depth, at }) => [label, depth, at])).toEqual([
      ['1', 0, 0],
      ['2', 0, 1],
      ['2a1', 1, 0],
      ['2a2', 1, 1],
      ['2a2a1', 2, 0],
      ['2·otherwise 1', 1, 0],
      ['3', 0, 2],
    ])
    expect(placedBranches(rule).map(({ label, depth, of }) => [label, depth, of.id])).toEqual([
      ['2a', 1, 's2'],
      ['2a2a', 2, 's4'],
      ['2a2·otherwise', 2, 's4'],
      ['2·otherwise', 1, 's2'],
    ])
    expect(depthOf(rule.steps)).toBe(2)
    expect(depthOf([])).toBe(0)
  })

  it.each([
    ['', 0, '1'],
    ['2a', 0, '2a1'],
    ['2', 1, '2.2'],
    ['2·otherwise', 0, '2·otherwise 1'],
  ])('in “%s” the one at %i is %s', (prefix, at, label) => expect(stepLabel(prefix, at)).toBe(label))

  it.each([
    ['1', '1'],
    ['12', '12'],
    ['2a1', '2a1'],
    ['2.2', '2.2'],
    ['1a1a1a1', 'a1'],
    ['1a12aa3', 'aa3'],
    ['2·otherwise 1', 'otherwise 1'],
    ['1a1·otherwise 12', 'otherwise 12'],
    ['1234', '1234'],
  ])('%s is %s beneath the heading of its path', (label, short) => expect(shortLabel(label)).toBe(short))

  it('has letters for as many paths as there are, and “otherwise” for the last', () => {
    const many = document({
      when: [],
      then: [
        ['choosePath', { first: true }, ...Array.from({ length: 30 }, (_, i) => [given(`c${i + 1}`)] as const), [null]],
      ],
    }).steps[0]
    const label = (index: number) => many && branchLabel(many, '1', index)
    expect([0, 25, 26, 27, 30].map(label)).toEqual(['1a', '1z', '1aa', '1ab', '1·otherwise'])
  })

  it('are found by their ids, wherever they stand, and each once', () => {
    fc.assert(
      fc.property(randomRule, (any) => {
        const placed = placedSteps(any)
        for (const { step } of placed) expect(stepById(any.steps, step.id)).toBe(step)
        expect(stepById(any.steps, 'gone')).toBeNull()
        expect(new Set(placed.map(({ label }) => label)).size).toBe(placed.length)
        const named = [...placed.map(({ step }) => step.id), ...placedBranches(any).map(({ branch }) => branch.id)]
        const groups = placedBranches(any).flatMap(({ branch }) => (branch.when ? idsIn(branch.when) : []))
        expect([...idsInSteps(any.steps, idsIn)].sort()).toEqual([...named, ...groups].sort())
      }),
      RUNS,
    )
  })

  it('are changed where they stand, and nothing else is', () => {
    fc.assert(
      fc.property(randomRule, fc.nat(100), (any, n) => {
        const placed = placedSteps(any)
        const target = placed[n % Math.max(1, placed.length)]
        if (!target) return
        expect(changeStep(any.steps, target.step.id, (step) => [step])).toEqual(any.steps)
        expect(changeStep(any.steps, 'gone', () => [])).toEqual(any.steps)
        const within = new Set(placedSteps({ ...any, steps: [target.step] }).map(({ step }) => step.id))
        const left = placedSteps({ ...any, steps: changeStep(any.steps, target.step.id, () => []) })
        expect(left.map(({ step }) => step.id)).toEqual(
          placed.map(({ step }) => step.id).filter((id) => !within.has(id)),
        )
      }),
      RUNS,
    )
  })

  it('work on the records of their path', () => {
    fc.assert(
      fc.property(randomRule, (any) => {
        for (const { branch, of, object, outer } of placedBranches(any)) {
          expect(objectInside(of, outer)).toBe(object)
          for (const step of branch.steps)
            expect(placedSteps(any).find((one) => one.step.id === step.id)?.object).toBe(object)
          expect(changeBranch(any.steps, branch.id, (one) => one)).toEqual(any.steps)
        }
        // Its own group, then those of paths, each with what it is asked of.
        const [own, ...others] = groupsOf(any)
        expect([own?.group, own?.object]).toEqual([any.conditions, any.object])
        for (const { group, branch } of others) expect(branch?.branch.when ?? any.goal?.conditions).toBe(group)
      }),
      RUNS,
    )
  })
})
