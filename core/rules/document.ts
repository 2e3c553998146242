import { z } from 'zod'
import { EMPTY_GROUP, idsIn, misfit, zGroup, type Group } from '../conditions/document'
import { OBJECTS, type ObjectKind } from '../records/kinds'
import { bad, good, type Problem, type Result } from '../problems'
import { STEPS, STEP_NAMES, type StepName } from './steps'
import { TRIGGERS, TRIGGER_NAMES, type TriggerName } from './triggers'

/** Written into every document, so that a later reader knows what it has before it. Permanent. */
export const RULE_FORMAT = 1
export const STEPS_MOST = 200
export const TRIGGERS_MOST = 20

export interface Trigger {
  readonly id: string
  readonly kind: TriggerName
  readonly params: object
}

export interface Step {
  readonly id: string
  readonly kind: StepName
  readonly params: object
}

export interface RuleDocument {
  readonly format: typeof RULE_FORMAT
  readonly name: string
  readonly description: string
  readonly object: ObjectKind
  readonly triggers: readonly Trigger[]
  readonly conditions: Group
  readonly steps: readonly Step[]
}

type Tuple<T> = [T, ...T[]]
const triggerSchemas = TRIGGER_NAMES.map((name) => TRIGGERS[name].schema) as Tuple<(typeof TRIGGERS)[TriggerName]['schema']>
const stepSchemas = STEP_NAMES.map((name) => STEPS[name].schema) as Tuple<(typeof STEPS)[StepName]['schema']>

/** The one schema of a rule: at the API, at import and at load. It knows shapes; `checkRule` knows the catalogue. */
export const zRule: z.ZodType<RuleDocument> = z.strictObject({
  format: z.literal(RULE_FORMAT),
  name: z.string().trim().min(1).max(200),
  description: z.string().max(4000),
  object: z.enum(OBJECTS),
  triggers: z.array(z.discriminatedUnion('kind', triggerSchemas)).max(TRIGGERS_MOST),
  conditions: zGroup,
  steps: z.array(z.discriminatedUnion('kind', stepSchemas)).max(STEPS_MOST),
}).superRefine((rule, context) => {
  const wrong = misfit(rule.conditions, rule.object)
  if (wrong) context.addIssue({ code: 'custom', path: ['conditions', ...wrong.path], message: wrong.text })
  const ids = [...[...rule.triggers, ...rule.steps].map((part) => part.id), ...idsIn(rule.conditions)]
  const double = ids.find((id, i) => ids.indexOf(id) !== i)
  if (double !== undefined) context.addIssue({ code: 'custom', path: [], message: `the id “${double}” stands twice` })
})

/** Reads a stored or sent document; refuses with the path and the reason. */
export function readRule(given: unknown): Result<RuleDocument> {
  const read = zRule.safeParse(given)
  if (read.success) return good(read.data)
  const issue = read.error.issues[0]
  const problem: Problem = { code: 'shape', detail: `${issue?.path.join('.') || 'rule'}: ${issue?.message ?? 'does not fit'}` }
  return bad(problem)
}

export const blankRule = (object: ObjectKind, name: string): RuleDocument => ({
  format: RULE_FORMAT, name, description: '', object, triggers: [], conditions: EMPTY_GROUP, steps: [],
})

/** A short id that the document does not hold yet: the letter and the next free number. */
export function freshId(letter: 't' | 'c' | 's', rule: RuleDocument): string {
  const taken = new Set([...[...rule.triggers, ...rule.steps].map((part) => part.id), ...idsIn(rule.conditions)])
  let n = 1
  while (taken.has(`${letter}${n}`)) n++
  return `${letter}${n}`
}
