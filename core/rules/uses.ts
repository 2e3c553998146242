import { placedConditions, type Group, type Placed } from '../conditions/document'
import type { OtherField } from '../conditions/operators/another-field'
import type { ObjectKind } from '../records/kinds'
import type { RuleDocument } from './document'

/** Whether anything in a part of a document is true of `found`. */
function somewhere(part: unknown, found: (part: Readonly<Record<string, unknown>>) => boolean): boolean {
  if (Array.isArray(part)) return part.some((one) => somewhere(one, found))
  if (typeof part !== 'object' || part === null) return false
  return found(part as Readonly<Record<string, unknown>>) || Object.values(part).some((one) => somewhere(one, found))
}

const holds = (part: unknown, text: string): boolean => part === text || (Array.isArray(part) ? part.some((one) => holds(one, text)) : typeof part === 'object' && part !== null && Object.values(part).some((one) => holds(one, text)))

/** Texts name a field by `{{deal.name}}`, whatever blanks stand inside. */
const mergesField = (part: unknown, object: ObjectKind, key: string): boolean =>
  typeof part === 'string' ? new RegExp(`\\{\\{\\s*${object}\\.${key}\\s*\\}\\}`).test(part)
    : typeof part === 'object' && part !== null && Object.values(part).some((one) => mergesField(one, object, key))

/** Whether a condition compares with the field. */
function comparesWith({ condition, object: of }: Placed, object: ObjectKind, key: string): boolean {
  const { other } = condition.params as { readonly other?: OtherField | null }
  return other?.field === key && (other.via ?? of) === object
}

/** Whether steps of a rule name a field of a kind of record outright: those that link by pairs of fields do. */
const linksBy = (rule: RuleDocument, object: ObjectKind, key: string): boolean =>
  somewhere(rule.steps, (part) => (part.ownField === key && rule.object === object) || (part.theirField === key && part.to === object))

/** Whether conditions name a field of a kind of record. */
export const groupUsesField = (group: Group, of: ObjectKind, object: ObjectKind, key: string): boolean =>
  placedConditions(group, of).some((placed) => (placed.object === object && placed.condition.field === key) || comparesWith(placed, object, key))

/** Whether conditions name a choice of a field. */
export const groupUsesChoice = (group: Group, of: ObjectKind, object: ObjectKind, key: string, choice: string): boolean =>
  placedConditions(group, of).some((placed) => placed.object === object && placed.condition.field === key && holds(placed.condition.params, choice))

/** Whether conditions name a stage: stage ids are nobody else’s. */
export const groupUsesStage = (group: Group, of: ObjectKind, stage: string): boolean => placedConditions(group, of).some(({ condition }) => holds(condition.params, stage))

/** Whether a rule names a field, in a trigger, a condition, a step or a text. */
export const usesField = (rule: RuleDocument, object: ObjectKind, key: string): boolean =>
  (rule.object === object && somewhere([rule.triggers, rule.steps], (part) => part.field === key))
  || groupUsesField(rule.conditions, rule.object, object, key)
  || linksBy(rule, object, key)
  || mergesField(rule.steps, object, key)

/** Whether a rule names a choice of a field: beside the field, in whatever asks for it or sets it. */
export const usesChoice = (rule: RuleDocument, object: ObjectKind, key: string, choice: string): boolean =>
  (rule.object === object && somewhere([rule.triggers, rule.steps], (part) => part.field === key && holds(part, choice)))
  || groupUsesChoice(rule.conditions, rule.object, object, key, choice)

/** Whether a rule names a stage, wherever. */
export const usesStage = (rule: RuleDocument, stage: string): boolean =>
  holds([rule.triggers, rule.steps], stage) || groupUsesStage(rule.conditions, rule.object, stage)
