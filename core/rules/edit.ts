import { LINKED_COUNT_MOST, objectOfGroup, placedConditions, placedLinked, type Condition, type Group } from '../conditions/document'
import { addNode, newCondition, newLinked, removeNode, setConditionWord } from '../conditions/edit'
import { howsFor, linkedKinds, LINKED_HOW_WORDS } from '../conditions/linked'
import { OPERATORS } from '../conditions/operators'
import type { Catalogue } from '../fields/catalogue'
import { sayProblem, type Result, good, bad } from '../problems'
import { freshId, zRule, type RuleDocument, type Step } from './document'
import { STEPS, type StepName } from './steps'
import { TRIGGERS, type TriggerName } from './triggers'
import type { Form, Widget } from './widgets'
import { OBJECT_WORDS, type ObjectKind } from '../records/kinds'

/** Edits of a rule document, as the sheet makes them. Each returns a new document and leaves the old one as it is. */

export type PartKind = 'trigger' | 'condition' | 'step'

export interface PartRef {
  readonly part: PartKind
  readonly id: string
}

/** The words that a question about linked records is made of. */
function linkedForm(object: ObjectKind, other: ObjectKind): Form<Record<string, unknown>> {
  return {
    how: { widget: 'pick', options: howsFor(object, other).map((value) => ({ value, label: LINKED_HOW_WORDS[value] })) },
    count: { widget: 'count', min: 1, max: LINKED_COUNT_MOST },
    object: { widget: 'pick', options: linkedKinds(object).map((value) => ({ value, label: OBJECT_WORDS[value].one })) },
  }
}

export interface ConditionPart {
  readonly params: Readonly<Record<string, unknown>>
  readonly form: Form<Record<string, unknown>>
  readonly start: object
  /** The kind of record it is asked of. */
  readonly object: ObjectKind
  readonly condition: Condition | null
}

/** What one condition, or question about linked records, is edited with; `null` when it has gone. */
export function conditionPart(group: Group, of: ObjectKind, id: string): ConditionPart | null {
  const placed = placedConditions(group, of).find(({ condition }) => condition.id === id)
  if (placed) {
    const { condition, object } = placed
    const { form, start } = OPERATORS[condition.op]
    return { params: { ...condition.params, field: condition.field }, form: { ...form, at: AT }, start, object, condition }
  }
  const found = placedLinked(group, of).find(({ linked }) => linked.id === id)
  if (!found) return null
  const { linked: { how, count, object: other }, object } = found
  return { params: { how, count, object: other }, form: linkedForm(object, other), start: {}, object, condition: null }
}

const AT: Widget = { widget: 'pick', options: [{ value: 'before', label: 'before the change that started the rule', hint: 'in lists and counts, the value of now' }, { value: 'now', label: 'now' }] }

/** A part's params, the form they are edited with and what a new one begins with; `null` when it has gone. */
export function partOf(rule: RuleDocument, { part, id }: PartRef): { readonly params: Readonly<Record<string, unknown>>; readonly form: Form<Record<string, unknown>>; readonly start: object } | null {
  if (part === 'condition') return conditionPart(rule.conditions, rule.object, id)
  if (part === 'trigger') {
    const trigger = rule.triggers.find((one) => one.id === id)
    return trigger ? { params: { ...trigger.params }, form: TRIGGERS[trigger.kind].form, start: TRIGGERS[trigger.kind].start } : null
  }
  const step = rule.steps.find((one) => one.id === id)
  return step ? { params: { ...step.params }, form: STEPS[step.kind].form, start: STEPS[step.kind].start } : null
}

const dependsOn = (widget: Widget, param: string): boolean => ('of' in widget && widget.of === param) || ('object' in widget && widget.object === param)

/** Sets a param; those whose value hangs on it (a value on its field) begin anew. */
function setParam(params: object, form: Form<Record<string, unknown>>, start: object, param: string, value: unknown): object {
  const begin = start as Readonly<Record<string, unknown>>
  const old = params as Readonly<Record<string, unknown>>
  return Object.fromEntries(Object.entries(form).map(([key, widget]) => {
    if (key === param) return [key, value]
    return [key, dependsOn(widget, param) && old[param] !== value ? begin[key] : old[key]]
  }))
}

/** Sets one word of a step by itself. */
export const setStepWord = (step: Step, param: string, value: unknown): Step => ({ ...step, params: setParam(step.params, STEPS[step.kind].form, STEPS[step.kind].start, param, value) })

export function setWord(rule: RuleDocument, { part, id }: PartRef, param: string, value: unknown, catalogue: Catalogue): RuleDocument {
  if (part === 'condition') return { ...rule, conditions: setConditionWord(rule.conditions, id, param, value, rule.object, catalogue) }
  if (part === 'trigger') {
    return {
      ...rule,
      triggers: rule.triggers.map((one) => (one.id === id ? { ...one, params: setParam(one.params, TRIGGERS[one.kind].form, TRIGGERS[one.kind].start, param, value) } : one)),
    }
  }
  return { ...rule, steps: rule.steps.map((one) => (one.id === id ? setStepWord(one, param, value) : one)) }
}

export function removePart(rule: RuleDocument, { part, id }: PartRef): RuleDocument {
  if (part === 'condition') return { ...rule, conditions: removeNode(rule.conditions, id) }
  if (part === 'trigger') return { ...rule, triggers: rule.triggers.filter((one) => one.id !== id) }
  return { ...rule, steps: rule.steps.filter((one) => one.id !== id) }
}

export function addTrigger(rule: RuleDocument, kind: TriggerName): { readonly rule: RuleDocument; readonly id: string } {
  const id = freshId('t', rule)
  return { id, rule: { ...rule, triggers: [...rule.triggers, { id, kind, params: TRIGGERS[kind].start }] } }
}

export function addCondition(rule: RuleDocument, groupId: string, field: string, catalogue: Catalogue): { readonly rule: RuleDocument; readonly id: string } {
  const id = freshId('c', rule)
  return { id, rule: { ...rule, conditions: addNode(rule.conditions, groupId, newCondition(id, field, objectOfGroup(rule.conditions, rule.object, groupId) ?? rule.object, catalogue)) } }
}

export function addGroup(rule: RuleDocument, groupId: string): { readonly rule: RuleDocument; readonly id: string } {
  const id = freshId('c', rule)
  return { id, rule: { ...rule, conditions: addNode(rule.conditions, groupId, { kind: 'group', id, mode: 'any', items: [] }) } }
}

/** A question about linked records, asking at first only whether there is one. . */
export function addLinked(rule: RuleDocument, groupId: string, other: ObjectKind): { readonly rule: RuleDocument; readonly id: string } {
  const id = freshId('c', rule)
  const own = freshId('c', { ...rule, conditions: addNode(rule.conditions, groupId, newLinked(id, '-', other)) })
  return { id, rule: { ...rule, conditions: addNode(rule.conditions, groupId, newLinked(id, own, other)) } }
}

/** Puts a new step at a place; `at` counts from 0 and is cut to the list. */
export function addStep(rule: RuleDocument, kind: StepName, at: number): { readonly rule: RuleDocument; readonly id: string } {
  const id = freshId('s', rule)
  return { id, rule: insertAt(rule, at, [{ id, kind, params: STEPS[kind].start }]) }
}

function insertAt(rule: RuleDocument, at: number, steps: readonly Step[]): RuleDocument {
  return { ...rule, steps: [...rule.steps.slice(0, at), ...steps, ...rule.steps.slice(at)] }
}

/** Moves a step up (-1) or down (1); does nothing at the ends. */
export function moveStep(rule: RuleDocument, id: string, by: -1 | 1): RuleDocument {
  const from = rule.steps.findIndex((one) => one.id === id)
  const to = from + by
  const step = rule.steps[from]
  if (!step || to < 0 || to >= rule.steps.length) return rule
  return insertAt({ ...rule, steps: rule.steps.filter((one) => one.id !== id) }, to, [step])
}

/** Steps as text, for the clipboard. */
export const stepsToText = (steps: readonly Step[]): string => JSON.stringify({ 'sky-lever-steps': steps }, null, 2)

/** Steps from text, put in at a place with fresh ids. Refuses with the reason what is no text of steps. */
export function pasteSteps(rule: RuleDocument, text: string, at: number): Result<{ readonly rule: RuleDocument; readonly ids: readonly string[] }> {
  let given: unknown
  try {
    given = (JSON.parse(text) as Readonly<Record<string, unknown>> | null)?.['sky-lever-steps']
  } catch (error) {
    if (error instanceof SyntaxError) return bad({ code: 'shape', detail: 'the clipboard does not hold steps' })
    throw error
  }
  if (!Array.isArray(given) || given.length === 0) return bad({ code: 'shape', detail: 'the clipboard does not hold steps' })
  let next = rule
  const ids: string[] = []
  for (const [i, step] of (given as Step[]).entries()) {
    const id = freshId('s', next)
    ids.push(id)
    next = insertAt(next, at + i, [{ ...step, id }])
  }
  const read = zRule.safeParse(next)
  if (!read.success) return bad({ code: 'shape', detail: `the steps cannot be read: ${read.error.issues[0]?.message ?? ''}` })
  if (next.steps.some((step) => !STEPS[step.kind].objects.includes(rule.object))) return bad({ code: 'shape', detail: sayProblem({ code: 'shape', detail: `one of the steps is not for a ${rule.object}` }) })
  return good({ rule: next, ids })
}
