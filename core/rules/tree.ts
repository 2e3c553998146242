import type { Group } from '../conditions/document'
import type { ObjectKind } from '../records/kinds'
import type { Branch, RuleDocument, Step } from './document'
import { STEPS } from './steps'

/** Going through the steps of a rule, those inside the ways of other steps included. */

/** A step with where it stands: what it is called on the sheet, and the kind of record it works on. */
export interface PlacedStep {
  readonly step: Step
  /** "3", "3a2", "3·otherwise 1". */
  readonly label: string
  readonly object: ObjectKind
  /** How many steps it stands inside of. */
  readonly depth: number
  /** The way it stands in; `null` at the top. */
  readonly branch: Branch | null
  /** Its place among its neighbours, from 0. */
  readonly at: number
  /** Whether it works on records that are linked to the rule's own, one after the other. */
  readonly linked: boolean
}

/** A way of a step with what is asked on it. */
export interface PlacedBranch {
  readonly branch: Branch
  readonly of: Step
  /** "3a". */
  readonly label: string
  /** The kind of record that its conditions are asked of and its steps work on. */
  readonly object: ObjectKind
  /** The kind of record of the step itself. */
  readonly outer: ObjectKind
  readonly depth: number
}

/** "a" to "z", then "aa". */
const letters = (n: number): string =>
  (n < 26 ? '' : letters(Math.floor(n / 26) - 1)) + String.fromCharCode(97 + (n % 26))

/** What the step at a place (from 0) of a way is called; the way of the rule itself is called nothing. */
export const stepLabel = (prefix: string, at: number): string =>
  `${prefix}${/\d$/.test(prefix) ? '.' : prefix.endsWith('otherwise') ? ' ' : ''}${at + 1}`

/**
 * A label as it stands beneath the heading of its path, which says the rest: "a1" for "1a1a1". Short ones, and those
 * that are not beneath a path, are whole.
 */
export const shortLabel = (label: string): string =>
  label.length <= 3 ? label : (/(?:[a-z]+|otherwise )\d+$/.exec(label)?.[0] ?? label)

/** What a way is called: a letter, or "otherwise" for the last one where there is always such a one. */
export const branchLabel = (step: Step, label: string, index: number): string => {
  const ways = STEPS[step.kind].ways
  const last = index === (step.branches?.length ?? 0) - 1
  return ways?.otherwise && last ? `${label}·otherwise` : ways?.single ? label : `${label}${letters(index)}`
}

export const objectInside = (step: Step, object: ObjectKind): ObjectKind =>
  STEPS[step.kind].ways?.object(step.params, object) ?? object

/** Whether the steps inside work on other records than the step itself. */
const holdsOthers = ({ kind }: Step): boolean => STEPS[kind].ways?.single === true || STEPS[kind].ways?.made === true

interface Visit {
  step(placed: PlacedStep): void
  branch(placed: PlacedBranch): void
}

function walk(
  steps: readonly Step[],
  object: ObjectKind,
  prefix: string,
  depth: number,
  branch: Branch | null,
  visit: Visit,
  linked = false,
): void {
  steps.forEach((step, at) => {
    const label = stepLabel(prefix, at)
    visit.step({ step, label, object, depth, branch, at, linked })
    step.branches?.forEach((one, index) => {
      const inside = objectInside(step, object)
      const name = branchLabel(step, label, index)
      visit.branch({ branch: one, of: step, label: name, object: inside, outer: object, depth: depth + 1 })
      walk(one.steps, inside, name, depth + 1, one, visit, linked || holdsOthers(step))
    })
  })
}

type Steps = Pick<RuleDocument, 'steps' | 'object'>

/** Every step in reading order. */
export function placedSteps(rule: Steps): readonly PlacedStep[] {
  const found: PlacedStep[] = []
  walk(rule.steps, rule.object, '', 0, null, { step: (placed) => found.push(placed), branch: () => {} })
  return found
}

/** Every way of every step in reading order. */
export function placedBranches(rule: Steps): readonly PlacedBranch[] {
  const found: PlacedBranch[] = []
  walk(rule.steps, rule.object, '', 0, null, { step: () => {}, branch: (placed) => found.push(placed) })
  return found
}

/**
 * Every group of conditions of a rule with the kind of record it is asked of: its own, those of its ways, and its
 * target.
 */
export const groupsOf = (
  rule: RuleDocument,
): readonly { readonly group: Group; readonly object: ObjectKind; readonly branch: PlacedBranch | null }[] => [
  { group: rule.conditions, object: rule.object, branch: null },
  ...placedBranches(rule).flatMap((placed) =>
    placed.branch.when ? [{ group: placed.branch.when, object: placed.object, branch: placed }] : [],
  ),
  ...(rule.goal ? [{ group: rule.goal.conditions, object: rule.object, branch: null }] : []),
]

/** Replaces each step of that id by what `change` makes of it, wherever it stands. */
export const changeStep = (
  steps: readonly Step[],
  id: string,
  change: (step: Step) => readonly Step[],
): readonly Step[] =>
  steps.flatMap((step) =>
    step.id === id
      ? change(step)
      : [withBranches(step, (branch) => ({ ...branch, steps: changeStep(branch.steps, id, change) }))],
  )

/** Replaces each way of that id; `null` takes it out. */
export const changeBranch = (
  steps: readonly Step[],
  id: string,
  change: (branch: Branch) => Branch | null,
): readonly Step[] =>
  steps.map((step) =>
    withBranches(step, (branch) =>
      branch.id === id ? change(branch) : { ...branch, steps: changeBranch(branch.steps, id, change) },
    ),
  )

export const withBranches = (step: Step, change: (branch: Branch) => Branch | null): Step =>
  step.branches ? { ...step, branches: step.branches.flatMap((branch) => change(branch) ?? []) } : step

/** A step by its id, wherever it stands; `null` when there is none. */
export function stepById(steps: readonly Step[], id: string): Step | null {
  for (const step of steps) {
    if (step.id === id) return step
    for (const branch of step.branches ?? []) {
      const found = stepById(branch.steps, id)
      if (found) return found
    }
  }
  return null
}

/** How many branching steps stand inside one another at the most; the steps in the innermost do not count. */
export const depthOf = (steps: readonly Step[]): number =>
  Math.max(
    0,
    ...steps.map(({ branches }) =>
      branches ? 1 + Math.max(0, ...branches.map((branch) => depthOf(branch.steps))) : 0,
    ),
  )

/** Ids of steps, ways and everything in the conditions of ways. */
export const idsInSteps = (steps: readonly Step[], idsIn: (group: Group) => readonly string[]): readonly string[] =>
  steps.flatMap((step) => [
    step.id,
    ...(step.branches ?? []).flatMap((branch) => [
      branch.id,
      ...(branch.when ? idsIn(branch.when) : []),
      ...idsInSteps(branch.steps, idsIn),
    ]),
  ])
