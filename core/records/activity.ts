import type { ActivityName } from '../activities'
import type { RecordKind } from './kinds'
import type { Values } from '../language/value'

/** One thing that happened around a record. */
export interface Activity {
  readonly id: number
  readonly kind: ActivityName
  /** The page, the form, the subject; may be empty. */
  readonly about: string
  /** What else was told of it, by the keys of its kind. */
  readonly data: Values
  readonly atMs: number
}

/** What somebody does in a rehearsal; with its moment, where it was really done and is only told again. */
export interface ActivityScript extends Pick<Activity, 'kind' | 'about' | 'data'> {
  /** Whose, where not the record's own: those of this kind that are linked to it. */
  readonly by?: RecordKind
  readonly doneMs?: number
}
