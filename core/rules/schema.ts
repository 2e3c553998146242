import '../language/issues'
import { upgradeRule } from './upgrade'
import { z } from 'zod'
import { idsIn, zGroup, zId } from '../conditions/document'
import { RULE_OBJECTS } from '../records/kinds'
import { zValue } from '../language/value'
import { bad, good, type Problem, type Result } from '../language/problems'
import { zGoal } from './goal'
import { zRepeats } from './repeats'
import { STEPS, STEP_NAMES, type StepName } from './steps'
import { depthOf, groupsOf, idsInSteps, placedBranches, placedSteps } from './tree'
import { TRIGGERS, TRIGGER_NAMES, type TriggerName } from './triggers'
import { misfit } from '../conditions/misfit'
import {
  RULE_FORMAT,
  STEPS_MOST,
  TRIGGERS_MOST,
  BRANCHES_MOST,
  STEP_DEPTH_MOST,
  FOLDER_MOST,
  LABELS_MOST,
  type Step,
  type Branch,
  type RuleDocument,
} from './document'
type Tuple<T> = [T, ...T[]]

const triggerSchemas = TRIGGER_NAMES.map((name) => TRIGGERS[name].schema) as Tuple<
  (typeof TRIGGERS)[TriggerName]['schema']
>

export const zBranch: z.ZodType<Branch> = z.strictObject({
  id: zId,
  when: zGroup.optional(),
  value: zValue.optional(),
  get steps() {
    return zSteps
  },
})

const zBranches = z.array(zBranch).max(BRANCHES_MOST)

const stepSchemas = STEP_NAMES.map((name) => {
  const { ways, schema } = STEPS[name]
  // A wait may do without its two ends; what has nothing but its paths may not.
  return ways ? schema.extend({ branches: ways.choose ? zBranches : zBranches.optional() }) : schema
}) as Tuple<(typeof STEPS)[StepName]['schema']>

/** One step with everything inside it. */
export const zStep: z.ZodType<Step> = z.lazy(() => z.discriminatedUnion('kind', stepSchemas))

export const zSteps = z.array(zStep).max(STEPS_MOST)

/** The one schema of a rule: at the API, at import and at load. It knows shapes; `checkRule` knows the catalogue. */
export const zRule: z.ZodType<RuleDocument> = z
  .strictObject({
    format: z.literal(RULE_FORMAT),
    name: z.string().trim().min(1).max(200),
    description: z.string().max(4000),
    object: z.enum(RULE_OBJECTS),
    triggers: z.array(z.discriminatedUnion('kind', triggerSchemas)).max(TRIGGERS_MOST),
    conditions: zGroup,
    repeats: zRepeats.optional(),
    recheck: z.boolean().optional(),
    graceHours: z.int().min(0).max(8760).optional(),
    steps: zSteps,
    goal: zGoal.optional(),
    folder: z.string().trim().min(1).max(FOLDER_MOST).optional(),
    labels: z.array(z.string().trim().min(1).max(FOLDER_MOST)).max(LABELS_MOST).optional(),
  })
  .superRefine((rule, context) => {
    for (const { group, object, branch } of groupsOf(rule)) {
      const wrong = misfit(group, object)
      if (wrong)
        context.addIssue({
          code: 'custom',
          path: branch
            ? ['steps', branch.of.id, branch.branch.id, 'when', ...wrong.path]
            : [...(group === rule.goal?.conditions ? ['goal'] : []), 'conditions', ...wrong.path],
          message: wrong.text,
        })
    }
    for (const { of, branch, label } of placedBranches(rule)) {
      const wrong = STEPS[of.kind].ways?.misfit(of.branches ?? [], branch) ?? null
      if (wrong) context.addIssue({ code: 'custom', path: ['steps', of.id, branch.id], message: `${label}: ${wrong}` })
    }
    const steps = placedSteps(rule).length
    if (steps > STEPS_MOST)
      context.addIssue({ code: 'custom', path: ['steps'], message: `A rule can have at most ${STEPS_MOST} steps.` })
    if (depthOf(rule.steps) > STEP_DEPTH_MOST)
      context.addIssue({
        code: 'custom',
        path: ['steps'],
        message: `Paths can be nested ${STEP_DEPTH_MOST} levels deep at most.`,
      })
    const ids = idsOf(rule)
    const double = ids.find((id, i) => ids.indexOf(id) !== i)
    if (double !== undefined) context.addIssue({ code: 'custom', path: [], message: `ID “${double}” is used twice.` })
  })

/** Reads a stored or sent document; refuses with the path and the reason. */
export function readRule(given: unknown): Result<RuleDocument> {
  const read = zRule.safeParse(upgradeRule(given))
  if (read.success) return good(read.data)
  const issue = read.error.issues[0]
  const problem: Problem = {
    code: 'shape',
    at: issue?.path.join('.') || 'rule',
    said: issue?.message ?? 'is not valid',
  }
  return bad(problem)
}

/** Ids of everything in the rule that has one. */
export const idsOf = (rule: Pick<RuleDocument, 'triggers' | 'steps' | 'conditions' | 'goal'>): readonly string[] => [
  ...rule.triggers.map((part) => part.id),
  ...idsInSteps(rule.steps, idsIn),
  ...idsIn(rule.conditions),
  ...(rule.goal ? idsIn(rule.goal.conditions) : []),
]

/** A short id that neither the document nor `also` holds yet: the letter and the next free number. */
export function freshId(letter: 't' | 'c' | 's' | 'b', rule: RuleDocument, also: readonly string[] = []): string {
  const taken = new Set([...idsOf(rule), ...also])
  let n = 1
  while (taken.has(`${letter}${n}`)) n++
  return `${letter}${n}`
}
