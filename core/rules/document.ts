import { EMPTY_GROUP, type Group } from '../conditions/document'
import type { ObjectKind } from '../records/kinds'
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
