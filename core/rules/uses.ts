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

/** Whether a rule names a field, in a trigger, a condition, a step or a text. */
export const usesField = (rule: RuleDocument, object: ObjectKind, key: string): boolean =>
  (rule.object === object && somewhere([rule.triggers, rule.conditions, rule.steps], (part) => part.field === key)) || mergesField(rule.steps, object, key)

/** Whether a rule names a choice of a field: beside the field, in whatever asks for it or sets it. */
export const usesChoice = (rule: RuleDocument, object: ObjectKind, key: string, choice: string): boolean =>
  rule.object === object && somewhere([rule.triggers, rule.conditions, rule.steps], (part) => part.field === key && holds(part, choice))
