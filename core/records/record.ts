import type { Value, Values } from '../language/value'
import type { ObjectKind, RecordRef } from './kinds'

/** A record as it is at one moment. `version` counts its committed changes from 1. */
export interface RecordSnapshot extends RecordRef {
  readonly version: number
  readonly values: Values
}

/** What stands for no record: what a rule that is about none runs for. */
export const NO_RECORD: RecordSnapshot = { object: 'none', id: 1, version: 1, values: { name: 'No record' } }

/** One field of one record going from one value to another; the two are never the same. */
export interface FieldChange {
  readonly field: string
  readonly old: Value
  readonly new: Value
}

/** Who or what made a change. */
export type Cause =
  | {
      readonly by: 'person'
      readonly personId: string
      /** The name of the API key by which it was done. */ readonly key?: string
      /** The rule it wants started for the record. */ readonly starts?: Start
      /** The run that this takes back. */ readonly undoes?: number
    }
  | {
      readonly by: 'import'
      readonly importId: number
      readonly personId: string
      /** The name of the API key by which it was begun. */ readonly key?: string
    }
  | { readonly by: 'rule'; readonly ruleId: number; readonly runId: number; readonly stepId: string }
  /** The moment of a trigger that goes by the clock has come. */
  | { readonly by: 'clock'; readonly starts: ClockMoment }
  /** Worked out anew, because of the record that is named, or because the day turned. */
  | { readonly by: 'derived'; readonly of: readonly [object: ObjectKind, id: number] | null }
  /** Something happened around the record. */
  | { readonly by: 'activity'; readonly activityId: number }

/** What the clock starts for a record. */
export interface ClockMoment {
  readonly ruleId: number
  readonly triggerId: string
  /** Names the one moment of the one record, so that it starts the rule once. */
  readonly occurrence: string
  readonly because: string
  readonly dueMs: number
  /** It came while nothing ran, too long ago to be made up for. */
  readonly missed?: boolean
  /** Somebody called it off before it came, in words. */
  readonly calledOff?: string
  /** Somebody put it off to another moment. */
  readonly putOffTo?: number
}

/** A rule that a person starts for a record: by its button, or because the record matched when it was switched on. */
export interface Start {
  readonly ruleId: number
  /** The trigger whose button it was; `null` when it was let through. */
  readonly triggerId: string | null
  /** What was answered, by the keys of the questions. */
  readonly answers: Values
}

/** A change and everything that rules did because of it. `depth` is 0 for the change that began it. */
export interface ChainPlace {
  readonly chainId: string
  readonly depth: number
}

/**
 * What a change did. `merged` is told of the record that went into another one, `restored` of one that came back; of
 * these two no rule hears, and they name no fields: the values are what they were. `started` changes nothing: somebody
 * or the clock wanted the rule run that its cause names. `linked` is told of both ends of a link that came or went
 * where something hangs on it, and `happened` of a record around which something happened: values that are worked out
 * follow. `taskDone` is told of the record of a task that is done while a run waits for that, and `replied` of one for
 * which a service outside was asked.
 */
export const EVENT_KINDS = [
  'created',
  'changed',
  'deleted',
  'merged',
  'restored',
  'started',
  'linked',
  'happened',
  'taskDone',
  'replied',
] as const
export type EventKind = (typeof EVENT_KINDS)[number]

/** What one committed change left behind in the log. `seq` grows with every commit and is never reused. */
export interface ChangeEvent extends ChainPlace {
  readonly seq: number
  readonly atMs: number
  readonly kind: EventKind
  readonly ref: RecordRef
  readonly changes: readonly FieldChange[]
  readonly cause: Cause
  /** True when whoever made the change asked that no rule shall look at it. */
  readonly rulesOff: boolean
}

/** The roles a link can have are free texts; these pairs of objects can be linked, always in this direction. */
export const LINKABLE: readonly { readonly from: ObjectKind; readonly to: ObjectKind }[] = [
  { from: 'deal', to: 'company' },
  { from: 'deal', to: 'contact' },
  { from: 'contact', to: 'company' },
  { from: 'appointment', to: 'contact' },
  { from: 'appointment', to: 'deal' },
  { from: 'appointment', to: 'company' },
]

/** Whether the two kinds can be linked, in whichever direction the link is kept. */
export const isEitherWayLinkable = (a: ObjectKind, b: ObjectKind): boolean =>
  LINKABLE.some((pair) => (pair.from === a && pair.to === b) || (pair.from === b && pair.to === a))

export const isLinkable = (from: RecordRef, to: RecordRef): boolean =>
  LINKABLE.some((pair) => pair.from === from.object && pair.to === to.object)

export interface Link {
  readonly from: RecordRef
  readonly to: RecordRef
  readonly role: string
  /** At most one link from a record to each kind of object is its main one. */
  readonly main: boolean
}
