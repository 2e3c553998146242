import { z } from 'zod'
import { EMPTY_GROUP, idsIn, misfit, zGroup, zId, type Group } from '../conditions/document'
import { OBJECTS, type ObjectKind } from '../records/kinds'
import type { Value } from '../fields/value'
import { bad, good, type Problem, type Result } from '../problems'
import { zRepeats, type Repeats } from './repeats'
import { STEPS, STEP_NAMES, type StepName } from './steps'
import { depthOf, groupsOf, idsInSteps, placedBranches, placedSteps } from './tree'
import { zValue } from './values'
import { TRIGGERS, TRIGGER_NAMES, type TriggerName } from './triggers'

/** Written into every document, so that a later reader knows what it has before it. Permanent. */
export const RULE_FORMAT = 1
export const STEPS_MOST = 200
export const TRIGGERS_MOST = 20
export const GRACE_HOURS = 24
export const BRANCHES_MOST = 100
/** Steps inside of steps. */
export const STEP_DEPTH_MOST = 10

export interface Trigger {
  readonly id: string
  readonly kind: TriggerName
  readonly params: object
}

export interface Step {
  readonly id: string
  readonly kind: StepName
  readonly params: object
  /** For a step that holds others: its ways, in the order in which they are tried. */
  readonly branches?: readonly Branch[] | undefined
}

/** One way through a step that holds others. What it is gone for is up to the step: conditions, a value, or what is left. */
export interface Branch {
  readonly id: string
  readonly when?: Group | undefined
  readonly value?: Value | undefined
  readonly steps: readonly Step[]
}

export interface RuleDocument {
  readonly format: typeof RULE_FORMAT
  readonly name: string
  readonly description: string
  readonly object: ObjectKind
  readonly triggers: readonly Trigger[]
  readonly conditions: Group
  /** How often one record may go through it; each time that it starts, when left out. */
  readonly repeats?: Repeats | undefined
  /** Whether conditions are asked again after each wait; they are, when left out. */
  readonly recheck?: boolean | undefined
  /** What fell due while nothing ran is made up for when it is not older than so many hours; 24, when left out. */
  readonly graceHours?: number | undefined
  readonly steps: readonly Step[]
}

type Tuple<T> = [T, ...T[]]
const triggerSchemas = TRIGGER_NAMES.map((name) => TRIGGERS[name].schema) as Tuple<
  (typeof TRIGGERS)[TriggerName]['schema']
>
const zBranch: z.ZodType<Branch> = z.strictObject({
  id: zId,
  when: zGroup.optional(),
  value: zValue.optional(),
  get steps() {
    return zSteps
  },
})
const zBranches = z.array(zBranch).max(BRANCHES_MOST)
const stepSchemas = STEP_NAMES.map((name) =>
  STEPS[name].ways ? STEPS[name].schema.extend({ branches: zBranches }) : STEPS[name].schema,
) as Tuple<(typeof STEPS)[StepName]['schema']>
/** One step with everything inside it. */
export const zStep: z.ZodType<Step> = z.lazy(() => z.discriminatedUnion('kind', stepSchemas))
const zSteps = z.array(zStep).max(STEPS_MOST)

/** The one schema of a rule: at the API, at import and at load. It knows shapes; `checkRule` knows the catalogue. */
export const zRule: z.ZodType<RuleDocument> = z
  .strictObject({
    format: z.literal(RULE_FORMAT),
    name: z.string().trim().min(1).max(200),
    description: z.string().max(4000),
    object: z.enum(OBJECTS),
    triggers: z.array(z.discriminatedUnion('kind', triggerSchemas)).max(TRIGGERS_MOST),
    conditions: zGroup,
    repeats: zRepeats.optional(),
    recheck: z.boolean().optional(),
    graceHours: z.int().min(0).max(8760).optional(),
    steps: zSteps,
  })
  .superRefine((rule, context) => {
    for (const { group, object, branch } of groupsOf(rule)) {
      const wrong = misfit(group, object)
      if (wrong)
        context.addIssue({
          code: 'custom',
          path: branch
            ? ['steps', branch.of.id, branch.branch.id, 'when', ...wrong.path]
            : ['conditions', ...wrong.path],
          message: wrong.text,
        })
    }
    for (const { of, branch, label } of placedBranches(rule)) {
      const wrong = STEPS[of.kind].ways?.misfit(of.branches ?? [], branch) ?? null
      if (wrong) context.addIssue({ code: 'custom', path: ['steps', of.id, branch.id], message: `${label}: ${wrong}` })
    }
    const steps = placedSteps(rule).length
    if (steps > STEPS_MOST)
      context.addIssue({ code: 'custom', path: ['steps'], message: `at most ${STEPS_MOST} steps` })
    if (depthOf(rule.steps) > STEP_DEPTH_MOST)
      context.addIssue({
        code: 'custom',
        path: ['steps'],
        message: `steps stand at most ${STEP_DEPTH_MOST} deep in each other`,
      })
    const ids = idsOf(rule)
    const double = ids.find((id, i) => ids.indexOf(id) !== i)
    if (double !== undefined) context.addIssue({ code: 'custom', path: [], message: `the id “${double}” stands twice` })
  })

/** Reads a stored or sent document; refuses with the path and the reason. */
export function readRule(given: unknown): Result<RuleDocument> {
  const read = zRule.safeParse(given)
  if (read.success) return good(read.data)
  const issue = read.error.issues[0]
  const problem: Problem = {
    code: 'shape',
    detail: `${issue?.path.join('.') || 'rule'}: ${issue?.message ?? 'does not fit'}`,
  }
  return bad(problem)
}

export const blankRule = (object: ObjectKind, name: string): RuleDocument => ({
  format: RULE_FORMAT,
  name,
  description: '',
  object,
  triggers: [],
  conditions: EMPTY_GROUP,
  steps: [],
})

/** Ids of everything in the rule that has one. */
export const idsOf = (rule: Pick<RuleDocument, 'triggers' | 'steps' | 'conditions'>): readonly string[] => [
  ...rule.triggers.map((part) => part.id),
  ...idsInSteps(rule.steps, idsIn),
  ...idsIn(rule.conditions),
]

/** A short id that neither the document nor `also` holds yet: the letter and the next free number. */
export function freshId(letter: 't' | 'c' | 's' | 'b', rule: RuleDocument, also: readonly string[] = []): string {
  const taken = new Set([...idsOf(rule), ...also])
  let n = 1
  while (taken.has(`${letter}${n}`)) n++
  return `${letter}${n}`
}
