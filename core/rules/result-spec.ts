import type { Choice } from '../fields/field'
import type { FieldTypeName } from '../language/field-types'

/**
 * What a step found or made can be used by the steps further down. There it looks like a field of the record that
 * nobody may write: its key is the id of the step and the name of the result, "s3.thanks", which no field's key can be.
 */

/** One result that a kind of step gives. */
export interface ResultSpec {
  /** Permanent within the kind of step, or made by whoever writes the rule. Letters and digits. */
  readonly key: string
  readonly label: string
  readonly type: FieldTypeName
  readonly choices?: readonly Choice[]
  /** What it is called beside its label; an answer, when left out. */
  readonly from?: 'activity'
}
