import { EMPTY_GROUP, type Group } from '../conditions/document'
import type { ObjectKind } from '../records/kinds'
import type { Goal } from './goal'
import type { BranchOf, StepOf } from './parts'
import type { Repeats } from './repeats'
import type { StepName } from './steps'
import type { TriggerName } from './triggers'

/** Written into every document, so that a later reader knows what it has before it. Permanent. */
export const RULE_FORMAT = 2
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

export type Step = StepOf<StepName>
export type Branch = BranchOf<StepName>

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
  /** What it is for, where that is measured. */
  readonly goal?: Goal | undefined
  /** Where it is found in the list; in none, when left out. */
  readonly folder?: string | undefined
  /** What it is marked with in the list. */
  readonly labels?: readonly string[] | undefined
}

/** Names of a rule's folder and labels, in characters, and how many labels it has at the most. */
export const FOLDER_MOST = 60
export const LABELS_MOST = 12

/**
 * Whether two documents do the same: where a rule is found in the list changes nothing that it does, and needs no new
 * version.
 */
export function doSame(a: RuleDocument, b: RuleDocument): boolean {
  const bare = ({ folder: _f, labels: _l, ...rest }: RuleDocument): string => JSON.stringify(rest)
  return a === b || bare(a) === bare(b)
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
