import type { Group } from '../conditions/document'
import type { Value } from '../language/value'

/**
 * The shapes of steps and branches, without the list of kinds: what one kind of step is made of may say `Branch` and
 * does not come back to the table that it stands in.
 */

/** A step of the kinds `K`; its params belong to its kind. */
export interface StepOf<K extends string> {
  readonly id: string
  readonly kind: K
  readonly params: object
  /** For a step that holds others: its branches, in the order in which they are tried. */
  readonly branches?: readonly BranchOf<K>[] | undefined
}

/**
 * One branch of a step that holds others. What it is taken for is up to the step: conditions, a value, or what is left.
 */
export interface BranchOf<K extends string> {
  readonly id: string
  readonly when?: Group | undefined
  readonly value?: Value | undefined
  readonly steps: readonly StepOf<K>[]
}

/** A branch, whatever kinds of steps stand in it. */
export type AnyBranch = BranchOf<string>
