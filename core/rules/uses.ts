import { placedConditions, type Group, type Placed } from '../conditions/document'
import type { OtherField } from '../conditions/operators/another-field'
import type { ObjectKind } from '../records/kinds'
import type { DecisionTable } from '../tables/table'
import type { RuleDocument } from './document'
import { groupsOf, placedBranches, placedSteps } from './tree'

/** Whether anything in a part of a document is true of `found`. */
function somewhere(part: unknown, found: (part: Readonly<Record<string, unknown>>) => boolean): boolean {
  if (Array.isArray(part)) return part.some((one) => somewhere(one, found))
  if (typeof part !== 'object' || part === null) return false
  return found(part as Readonly<Record<string, unknown>>) || Object.values(part).some((one) => somewhere(one, found))
}

const holds = (part: unknown, text: string): boolean =>
  part === text ||
  (Array.isArray(part)
    ? part.some((one) => holds(one, text))
    : typeof part === 'object' && part !== null && Object.values(part).some((one) => holds(one, text)))

/** Texts name a field by `{{deal.name}}`, whatever blanks stand inside. */
const mergesField = (part: unknown, object: ObjectKind, key: string): boolean =>
  typeof part === 'string'
    ? new RegExp(`\\{\\{\\s*${object}\\.${key}\\s*\\}\\}`).test(part)
    : typeof part === 'object' && part !== null && Object.values(part).some((one) => mergesField(one, object, key))

/** Formulas name a field of their own record by its key, and one of a linked record behind a point. */
const formulaNames = (
  part: Readonly<Record<string, unknown>>,
  of: ObjectKind,
  object: ObjectKind,
  key: string,
): boolean =>
  part.from === 'formula' &&
  typeof part.text === 'string' &&
  new RegExp(of === object ? `(?<![.\\w])${key}(?!\\w)` : `\\.${key}(?!\\w)|\\[[^\\]]*\\b${key}\\b`).test(part.text)

/** Whether a condition compares with the field. */
function comparesWith({ condition, object: of }: Placed, object: ObjectKind, key: string): boolean {
  const { other } = condition.params as { readonly other?: OtherField | null }
  return other?.field === key && (other.via ?? of) === object
}

/** Whether conditions name a field of a kind of record. */
export const groupUsesField = (group: Group, of: ObjectKind, object: ObjectKind, key: string): boolean =>
  placedConditions(group, of).some(
    (placed) => (placed.object === object && placed.condition.field === key) || comparesWith(placed, object, key),
  )

/** Whether conditions name a choice of a field. */
export const groupUsesChoice = (
  group: Group,
  of: ObjectKind,
  object: ObjectKind,
  key: string,
  choice: string,
): boolean =>
  placedConditions(group, of).some(
    (placed) => placed.object === object && placed.condition.field === key && holds(placed.condition.params, choice),
  )

/** Whether conditions name a stage: stage ids are nobody else’s. */
export const groupUsesStage = (group: Group, of: ObjectKind, stage: string): boolean =>
  placedConditions(group, of).some(({ condition }) => holds(condition.params, stage))

/** Whether a decision table tests for a choice of a field. */
const tableHolds = (params: object, of: ObjectKind, object: ObjectKind, key: string, choice: string): boolean =>
  'table' in params &&
  (params as { readonly table: DecisionTable }).table.inputs.some(
    (input, at) =>
      input.field === key &&
      (input.via ?? of) === object &&
      (params as { readonly table: DecisionTable }).table.rows.some((row) => holds(row.when[at], choice)),
  )

const anyGroup = (rule: RuleDocument, uses: (group: Group, of: ObjectKind) => boolean): boolean =>
  groupsOf(rule).some(({ group, object }) => uses(group, object))
/** The params of every step, with the kind of record it works on. */
const anyStep = (rule: RuleDocument, uses: (params: object, of: ObjectKind) => boolean): boolean =>
  placedSteps(rule).some(({ step, object }) => uses(step.params, object))

/** Whether a rule names a field, in a trigger, a condition, a step or a text. */
export const usesField = (rule: RuleDocument, object: ObjectKind, key: string): boolean =>
  (rule.object === object && somewhere(rule.triggers, (part) => part.field === key)) ||
  anyGroup(rule, (group, of) => groupUsesField(group, of, object, key)) ||
  anyStep(
    rule,
    (params, of) =>
      somewhere(
        params,
        (part) =>
          ((part.via ?? of) === object && part.field === key) ||
          (of === object && part.ownField === key) ||
          (part.theirField === key && part.to === object) ||
          formulaNames(part, of, object, key),
      ) || mergesField(params, object, key),
  )

/**
 * Whether a rule names a choice of a field: beside the field, in whatever asks for it or sets it, or as the value of a
 * path.
 */
export const usesChoice = (rule: RuleDocument, object: ObjectKind, key: string, choice: string): boolean =>
  (rule.object === object && somewhere(rule.triggers, (part) => part.field === key && holds(part, choice))) ||
  anyGroup(rule, (group, of) => groupUsesChoice(group, of, object, key, choice)) ||
  anyStep(
    rule,
    (params, of) =>
      (of === object && somewhere(params, (part) => part.field === key && holds(part, choice))) ||
      tableHolds(params, of, object, key, choice),
  ) ||
  // A path without steps says nothing that would be lost with its value.
  placedBranches(rule).some(
    ({ branch, of, outer }) =>
      outer === object &&
      branch.value === choice &&
      branch.steps.length > 0 &&
      (of.params as { readonly field?: unknown }).field === key,
  )

/** Whether a rule names a stage, wherever. */
export const usesStage = (rule: RuleDocument, stage: string): boolean =>
  holds(rule.triggers, stage) ||
  anyGroup(rule, (group, of) => groupUsesStage(group, of, stage)) ||
  anyStep(rule, (params) => holds(params, stage)) ||
  placedBranches(rule).some(({ branch }) => branch.value === stage && branch.steps.length > 0)

const MERGED = /\{\{\s*(deal|contact|company)\.([A-Za-z][A-Za-z\d]*)\s*\}\}/g

/** Every field that a rule names, as "deal.amount", each once: for finding rules by what they touch. */
export function fieldsNamed(rule: RuleDocument): readonly string[] {
  const found = new Set<string>()
  const add = (object: unknown, key: unknown) => {
    if (typeof object === 'string' && typeof key === 'string' && !key.includes('.')) found.add(`${object}.${key}`)
  }
  const look = (part: unknown, of: ObjectKind): void => {
    if (typeof part === 'string') for (const [, object, key] of part.matchAll(MERGED)) add(object, key)
    if (typeof part !== 'object' || part === null) return
    if (!Array.isArray(part)) {
      const named = part as Readonly<Record<string, unknown>>
      add(named.via ?? of, named.field)
      add(of, named.ownField)
      add(named.to, named.theirField)
      if (typeof named.stage === 'string') add('deal', 'stage')
    }
    for (const inside of Object.values(part)) look(inside, of)
  }
  for (const trigger of rule.triggers) look(trigger.params, rule.object)
  for (const { group, object } of groupsOf(rule))
    for (const { condition, object: of } of placedConditions(group, object)) {
      add(of, condition.field)
      look(condition.params, of)
    }
  for (const { step, object } of placedSteps(rule)) {
    look(step.params, object)
    if (step.kind === 'assignOwner') add(object, 'owner')
  }
  return [...found].sort()
}
