import type { Values } from '../language/value'
import type { Activity } from '../records/activity'
import type { ObjectKind } from '../records/kinds'

/** The run that asks: when it began, and what somebody did that started it. */
export interface AskingRun {
  readonly startedMs: number
  /** When its steps were done so far, by their ids; the last time of each. */
  readonly steps: ReadonlyMap<string, number>
  readonly activity: (Pick<Activity, 'kind' | 'about' | 'data' | 'atMs'> & { readonly by: ObjectKind }) | null
}

/** What conditions are asked of: a record with what can be reached from it. */
export interface Subject {
  readonly values: Values
  /** The values before the change that is looked at; `null` when none is, and then those of now stand for them. */
  readonly before: Values | null
  /** `null` where no run asks: in a list, a count, a segment. */
  readonly run: AskingRun | null
  /** The records linked to it, of a kind; read only when a condition asks. */
  linked(object: ObjectKind): readonly LinkedSubject[]
  /** What was done around it, the oldest first; read only when a condition asks. */
  done(): readonly Activity[]
}

export interface LinkedSubject extends Subject {
  /** Whether this is the main link of the record that one came from. */
  readonly main: boolean
}

const none: readonly LinkedSubject[] = []
const nothing: readonly Activity[] = []

/** A record by itself, with nothing linked to it and nothing done. */
export const alone = (values: Values): Subject => ({
  values,
  before: null,
  run: null,
  linked: () => none,
  done: () => nothing,
})
