import type { Value } from '../language/value'
import type { ObjectKind } from '../records/kinds'

/** What a step may write, found by reading it. */
export interface Touch {
  readonly object: ObjectKind
  readonly field: string
  /** The value, where it is known before the rule runs. */
  readonly value?: Value
  /** Where only a part of the value comes or goes: what goes of it, and what comes. */
  readonly moves?: { readonly old: Value; readonly new: Value }
}
