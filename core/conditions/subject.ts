import type { Values } from '../language/value'
import type { ObjectKind } from '../records/kinds'

/** What conditions are asked of: a record with what can be reached from it. */
export interface Subject {
  readonly values: Values
  /** The values before the change that is looked at; `null` when none is, and then those of now stand for them. */
  readonly before: Values | null
  /** The records linked to it, of a kind; read only when a condition asks. */
  linked(object: ObjectKind): readonly LinkedSubject[]
}

export interface LinkedSubject extends Subject {
  /** Whether this is the main link of the record that one came from. */
  readonly main: boolean
}

const none: readonly LinkedSubject[] = []

/** A record by itself, with nothing linked to it. */
export const alone = (values: Values): Subject => ({ values, before: null, linked: () => none })
