import type { ActivityName } from '../activities'
import { z } from 'zod'
import { idsIn, activityOfGroup, objectOfGroup, type Group, type GroupMode, type Item } from '../conditions/document'
import { addNode, newLinked, newQuestion, removeNode, setConditionWord, setMode } from '../conditions/edit'
import { conditionPart, type ConditionPart } from '../conditions/part'
import type { Catalogue } from '../fields/catalogue'
import type { Names } from '../fields/names'
import type { Value } from '../language/value'
import { type Result, good, bad } from '../language/problems'
import type { Branch, RuleDocument, Step } from './document'
import { GOING_ON_FORM, goingOnOf, withGoingOn } from './going-on'
import { blankGoal, GOAL_FORM, goalParams } from './goal'
import { REPEAT_FORM, repeatParams, repeatsOf, type RepeatParams } from './repeats'
import { renameResults } from './results'
import { STEPS, type StepName } from './steps'
import { changeBranch, changeStep, groupsOf, placedBranches, placedSteps, type PlacedStep } from './tree'
import { TRIGGERS, type TriggerName } from './triggers'
import type { Form, Widget } from '../language/widgets'
import type { ObjectKind } from '../records/kinds'
import { freshId, zRule, zStep } from './schema'

/** Edits of a rule document, as the sheet makes them. Each returns a new document and leaves the old one as it is. */

export type PartKind = 'trigger' | 'condition' | 'step' | 'repeats' | 'goingOn' | 'goal'

export interface PartRef {
  readonly part: PartKind
  readonly id: string
}

/**
 * The group of conditions that holds something of that id, whether it is the rule's own or that of a way; with what
 * puts another one in its place.
 */
function groupWith(
  rule: RuleDocument,
  id: string,
): { readonly group: Group; readonly object: ObjectKind; readonly put: (group: Group) => RuleDocument } | null {
  const found = groupsOf(rule).find(({ group }) => idsIn(group).includes(id))
  if (!found) return null
  const { branch } = found
  return {
    ...found,
    put: (group) =>
      branch
        ? { ...rule, steps: changeBranch(rule.steps, branch.branch.id, (one) => ({ ...one, when: group })) }
        : rule.goal && found.group === rule.goal.conditions
          ? { ...rule, goal: { ...rule.goal, conditions: group } }
          : { ...rule, conditions: group },
  }
}

/** The kind of record that a condition, or what stands in a group of them, is about. */
export function objectAt(rule: RuleDocument, id: string): ObjectKind {
  const at = groupWith(rule, id)
  return (at && objectOfGroup(at.group, at.object, id)) ?? at?.object ?? rule.object
}

/** The activity that a group asks about; `null` where it asks about records. */
export function activityAt(rule: RuleDocument, id: string): ActivityName | null {
  const at = groupWith(rule, id)
  return at && activityOfGroup(at.group, id)
}

export const conditionPartOf = (rule: RuleDocument, id: string): ConditionPart | null => {
  const at = groupWith(rule, id)
  return at && conditionPart(at.group, at.object, id)
}

export const stepOf = (rule: RuleDocument, id: string): PlacedStep | null =>
  placedSteps(rule).find(({ step }) => step.id === id) ?? null

/** A part's params, the form they are edited with and what a new one begins with; `null` when it has gone. */
export function partOf(
  rule: RuleDocument,
  { part, id }: PartRef,
): {
  readonly params: Readonly<Record<string, unknown>>
  readonly form: Form<Record<string, unknown>>
  readonly start: object
} | null {
  if (part === 'condition') return conditionPartOf(rule, id)
  if (part === 'trigger') {
    const trigger = rule.triggers.find((one) => one.id === id)
    return trigger
      ? { params: { ...trigger.params }, form: TRIGGERS[trigger.kind].form, start: TRIGGERS[trigger.kind].start }
      : null
  }
  if (part === 'repeats')
    return { params: { ...repeatParams(rule.repeats) }, form: REPEAT_FORM, start: repeatParams(undefined) }
  if (part === 'goal')
    return rule.goal ? { params: { ...goalParams(rule.goal) }, form: GOAL_FORM, start: goalParams(undefined) } : null
  if (part === 'goingOn') return { params: { ...goingOnOf(rule) }, form: GOING_ON_FORM, start: goingOnOf({}) }
  const step = stepOf(rule, id)?.step
  return step ? { params: { ...step.params }, form: STEPS[step.kind].form, start: STEPS[step.kind].start } : null
}

const dependsOn = (widget: Widget, param: string): boolean =>
  ('of' in widget && widget.of === param) || ('object' in widget && widget.object === param)

/** Sets a param; those whose value hangs on it (a value on its field) begin anew. */
function setParam(
  params: object,
  form: Form<Record<string, unknown>>,
  start: object,
  param: string,
  value: unknown,
): object {
  const begin = start as Readonly<Record<string, unknown>>
  const old = params as Readonly<Record<string, unknown>>
  return Object.fromEntries(
    Object.entries(form).map(([key, widget]) => {
      if (key === param) return [key, value]
      return [key, dependsOn(widget, param) && old[param] !== value ? begin[key] : old[key]]
    }),
  )
}

/** Sets one word of a step by itself. */
export const setStepWord = (step: Step, param: string, value: unknown): Step => ({
  ...step,
  params: setParam(step.params, STEPS[step.kind].form, STEPS[step.kind].start, param, value),
})

export function setWord(
  rule: RuleDocument,
  { part, id }: PartRef,
  param: string,
  value: unknown,
  catalogue: Catalogue,
): RuleDocument {
  if (part === 'condition') {
    const at = groupWith(rule, id)
    return at ? at.put(setConditionWord(at.group, id, param, value, at.object, catalogue)) : rule
  }
  if (part === 'trigger') {
    return {
      ...rule,
      triggers: rule.triggers.map((one) =>
        one.id === id
          ? { ...one, params: setParam(one.params, TRIGGERS[one.kind].form, TRIGGERS[one.kind].start, param, value) }
          : one,
      ),
    }
  }
  if (part === 'goal') return rule.goal ? { ...rule, goal: { ...rule.goal, [param]: value } } : rule
  if (part === 'goingOn') return withGoingOn(rule, { ...goingOnOf(rule), [param]: value })
  if (part === 'repeats') return withRepeats(rule, { ...repeatParams(rule.repeats), [param]: value })
  const placed = stepOf(rule, id)
  if (!placed) return rule
  const { step, object } = placed
  const next = setStepWord(step, param, value)
  const { ways } = STEPS[step.kind]
  // What its ways are made of is another thing now; those that hold something already stay, to be looked through.
  const anew =
    ways?.choose &&
    step.params !== next.params &&
    JSON.stringify(step.params) !== JSON.stringify(next.params) &&
    (step.branches ?? []).every((branch) => branch.steps.length === 0 && !branch.when?.items.length)
  return {
    ...rule,
    steps: changeStep(rule.steps, id, () => [
      anew ? { ...next, branches: ways.begin(next.params, { catalogue, object }, freshFor(rule)) } : next,
    ]),
  }
}

/** Gives it a target, or takes it away. */
export function setMeasured({ goal: _, ...rule }: RuleDocument, measured: boolean): RuleDocument {
  return measured ? { ...rule, goal: blankGoal(freshId('c', rule)) } : rule
}

/** Without a word about it a rule has no such part at all. */
function withRepeats({ repeats: _, ...rule }: RuleDocument, params: RepeatParams): RuleDocument {
  const repeats = repeatsOf(params)
  return repeats ? { ...rule, repeats } : rule
}

/** Makes ids that neither the rule nor what was made before holds. */
function freshFor(rule: RuleDocument): (letter: 's' | 'b' | 'c') => string {
  const made: string[] = []
  return (letter) => {
    const id = freshId(letter, rule, made)
    made.push(id)
    return id
  }
}

export function removePart(rule: RuleDocument, { part, id }: PartRef): RuleDocument {
  if (part === 'condition') {
    const at = groupWith(rule, id)
    return at ? at.put(removeNode(at.group, id)) : rule
  }
  if (part === 'trigger') return { ...rule, triggers: rule.triggers.filter((one) => one.id !== id) }
  return { ...rule, steps: changeStep(rule.steps, id, () => []) }
}

/** What a new part begins with: a field that can be no other one is chosen already. */
function begun(start: object, form: Form<Record<string, unknown>>, { catalogue, object }: Names): object {
  const chosen = Object.entries(form).flatMap(([param, widget]) => {
    if (widget.widget !== 'field' || !widget.types || widget.object !== undefined) return []
    if ((start as Readonly<Record<string, unknown>>)[param] !== null) return []
    const [only, ...others] = catalogue
      .fields(object)
      .filter((one) => widget.types?.includes(one.type) && !(widget.writable && one.keptBy))
    return only && others.length === 0 ? [[param, only.key] as const] : []
  })
  return chosen.length === 0 ? start : { ...start, ...Object.fromEntries(chosen) }
}

export function addTrigger(
  rule: RuleDocument,
  kind: TriggerName,
  catalogue: Catalogue,
): { readonly rule: RuleDocument; readonly id: string } {
  const id = freshId('t', rule)
  const params = begun(TRIGGERS[kind].start, TRIGGERS[kind].form, { catalogue, object: rule.object })
  return { id, rule: { ...rule, triggers: [...rule.triggers, { id, kind, params }] } }
}

function addItem(rule: RuleDocument, groupId: string, make: (object: ObjectKind) => Item): RuleDocument {
  const at = groupWith(rule, groupId)
  return at ? at.put(addNode(at.group, groupId, make(objectOfGroup(at.group, at.object, groupId) ?? at.object))) : rule
}

export function addCondition(
  rule: RuleDocument,
  groupId: string,
  field: string,
  catalogue: Catalogue,
): { readonly rule: RuleDocument; readonly id: string } {
  const id = freshId('c', rule)
  return { id, rule: addItem(rule, groupId, (object) => newQuestion(id, field, object, catalogue)) }
}

export function addGroup(rule: RuleDocument, groupId: string): { readonly rule: RuleDocument; readonly id: string } {
  const id = freshId('c', rule)
  return { id, rule: addItem(rule, groupId, () => ({ kind: 'group', id, mode: 'any', items: [] })) }
}

/** A question about linked records, asking at first only whether there is one. */
export function addLinked(
  rule: RuleDocument,
  groupId: string,
  other: ObjectKind,
): { readonly rule: RuleDocument; readonly id: string } {
  const fresh = freshFor(rule)
  const id = fresh('c')
  return { id, rule: addItem(rule, groupId, () => newLinked(id, fresh('c'), other)) }
}

/** Joins the conditions of a group in another way. */
export function setGroupMode(rule: RuleDocument, groupId: string, mode: GroupMode): RuleDocument {
  const at = groupWith(rule, groupId)
  return at ? at.put(setMode(at.group, groupId, mode)) : rule
}

/** Where steps are put: into a way, or at the top for `null`; `at` counts from 0 and is cut to the list. */
export interface StepPlace {
  readonly branch: string | null
  readonly at: number
}

/** Behind the last step of a way, or of the rule. */
export const atEnd = (branch: string | null): StepPlace => ({ branch, at: Number.MAX_SAFE_INTEGER })

/** The kind of record that steps at a place work on. */
export const objectOfPlace = (rule: RuleDocument, branch: string | null): ObjectKind =>
  placedBranches(rule).find((one) => one.branch.id === branch)?.object ?? rule.object

function insertAt(rule: RuleDocument, { branch, at }: StepPlace, steps: readonly Step[]): RuleDocument {
  const put = (list: readonly Step[]): readonly Step[] => [...list.slice(0, at), ...steps, ...list.slice(at)]
  return branch === null
    ? { ...rule, steps: put(rule.steps) }
    : { ...rule, steps: changeBranch(rule.steps, branch, (one) => ({ ...one, steps: put(one.steps) })) }
}

/** Puts a new step at a place. */
export function addStep(
  rule: RuleDocument,
  kind: StepName,
  place: StepPlace,
  catalogue: Catalogue,
): { readonly rule: RuleDocument; readonly id: string } {
  const fresh = freshFor(rule)
  const id = fresh('s')
  const { form, ways } = STEPS[kind]
  const names = { catalogue, object: objectOfPlace(rule, place.branch) }
  const start = begun(STEPS[kind].start, form, names)
  return {
    id,
    rule: insertAt(rule, place, [
      { id, kind, params: start, ...(ways ? { branches: ways.begin(start, names, fresh) } : {}) },
    ]),
  }
}

/**
 * Moves a step up (-1) or down (1) among its neighbours; at the end of a way it leaves it, to stand before or behind
 * the step that the way belongs to. Does nothing at the ends of the rule, nor where it would work on another kind of
 * record.
 */
export function moveStep(rule: RuleDocument, id: string, by: -1 | 1): RuleDocument {
  const placed = stepOf(rule, id)
  if (!placed) return rule
  const { step, branch, at } = placed
  const siblings = branch ? branch.steps : rule.steps
  const without: RuleDocument = { ...rule, steps: changeStep(rule.steps, id, () => []) }
  const to = at + by
  if (to >= 0 && to < siblings.length) return insertAt(without, { branch: branch?.id ?? null, at: to }, [step])
  const way = branch && placedBranches(rule).find((one) => one.branch.id === branch.id)
  const holder = way ? stepOf(rule, way.of.id) : null
  if (!way || !holder || way.object !== way.outer) return rule
  return insertAt(without, { branch: holder.branch?.id ?? null, at: by < 0 ? holder.at : holder.at + 1 }, [step])
}

/** Adds a way before the last one of a step, for a value where the step has ways by value. */
export function addBranch(
  rule: RuleDocument,
  stepId: string,
  value?: Value,
): { readonly rule: RuleDocument; readonly id: string } {
  const fresh = freshFor(rule)
  const id = fresh('b')
  const branch: Branch =
    value === undefined
      ? { id, when: { kind: 'group', id: fresh('c'), mode: 'all', items: [] }, steps: [] }
      : { id, value, steps: [] }
  return {
    id,
    rule: {
      ...rule,
      steps: changeStep(rule.steps, stepId, (step) => [
        { ...step, branches: [...(step.branches ?? []).slice(0, -1), branch, ...(step.branches ?? []).slice(-1)] },
      ]),
    },
  }
}

export const removeBranch = (rule: RuleDocument, id: string): RuleDocument => ({
  ...rule,
  steps: changeBranch(rule.steps, id, () => null),
})

/** Moves a way before or behind its neighbour; "otherwise" stays the last. */
export function moveBranch(rule: RuleDocument, id: string, by: -1 | 1): RuleDocument {
  const placed = placedBranches(rule).find((one) => one.branch.id === id)
  const branches = placed?.of.branches ?? []
  const from = branches.findIndex((one) => one.id === id)
  const to = from + by
  if (!placed || to < 0 || to >= branches.length - 1 || from === branches.length - 1) return rule
  const rest = branches.filter((one) => one.id !== id)
  return {
    ...rule,
    steps: changeStep(rule.steps, placed.of.id, (step) => [
      { ...step, branches: [...rest.slice(0, to), placed.branch, ...rest.slice(to)] },
    ]),
  }
}

/** Steps as text, for the clipboard. */
export const stepsToText = (steps: readonly Step[]): string => JSON.stringify({ 'sky-lever-steps': steps }, null, 2)

/** The same steps under ids of their own, with everything inside them. */
function renamed(steps: readonly Step[], fresh: (letter: 's' | 'b' | 'c') => string): readonly Step[] {
  const group = (one: Group): Group => ({
    ...one,
    id: fresh('c'),
    items: one.items.map((item) =>
      item.kind === 'group'
        ? group(item)
        : item.kind === 'linked' || item.kind === 'did'
          ? { ...item, id: fresh('c'), group: group(item.group) }
          : { ...item, id: fresh('c') },
    ),
  })
  const ids = new Map<string, string>()
  const anew = (some: readonly Step[]): readonly Step[] =>
    some.map((step) => {
      const id = fresh('s')
      ids.set(step.id, id)
      return {
        ...step,
        id,
        ...(step.branches
          ? {
              branches: step.branches.map((branch) => ({
                ...branch,
                id: fresh('b'),
                ...(branch.when ? { when: group(branch.when) } : {}),
                steps: anew(branch.steps),
              })),
            }
          : {}),
      }
    })
  // Results that steps use of each other are theirs also under the new ids.
  return renameResults(anew(steps), ids)
}

/** Steps from text, put in at a place with fresh ids. Refuses with the reason what is no text of steps. */
export function pasteSteps(
  rule: RuleDocument,
  text: string,
  place: StepPlace,
): Result<{ readonly rule: RuleDocument; readonly ids: readonly string[] }> {
  let given: unknown
  try {
    given = (JSON.parse(text) as Readonly<Record<string, unknown>> | null)?.['sky-lever-steps']
  } catch (error) {
    if (error instanceof SyntaxError) return bad({ code: 'noStepsToPaste' })
    throw error
  }
  if (!Array.isArray(given) || given.length === 0) return bad({ code: 'noStepsToPaste' })
  const read = z.array(zStep).safeParse(given)
  if (!read.success) return bad({ code: 'cannotPaste', said: read.error.issues[0]?.message ?? '' })
  const steps = renamed(read.data, freshFor(rule))
  const next = insertAt(rule, place, steps)
  const whole = zRule.safeParse(next)
  if (!whole.success) return bad({ code: 'cannotPaste', said: whole.error.issues[0]?.message ?? '' })
  const odd = placedSteps(next).find(({ step, object }) => !STEPS[step.kind].objects.includes(object))
  if (odd) return bad({ code: 'stepNotFor', object: odd.object })
  return good({ rule: next, ids: steps.map((step) => step.id) })
}
