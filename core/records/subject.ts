import type { AskingRun, LinkedSubject, Subject } from '../conditions/subject'
import type { Values } from '../language/value'
import { activityIn } from '../signals/activity'
import type { Activity } from './activity'
import type { ObjectKind, RecordRef } from './kinds'
import type { ChangeEvent, FieldChange, RecordSnapshot } from './record'

/** A record on the other end of a link. */
export interface LinkedRecord {
  readonly record: RecordSnapshot
  readonly main: boolean
  /** What it is to the other one: free words, often none. */
  readonly role: string
}

/** One end of a link, as it is kept. */
export interface LinkEnd {
  readonly id: number
  readonly main: boolean
  readonly role: string
}

/** Reads what lies around a record: a world’s own way of doing so. */
export interface Around {
  linked(ref: RecordRef, object: ObjectKind): readonly LinkedRecord[]
  activities(ref: RecordRef): readonly Activity[]
}

/** Nothing is linked and nothing was done. */
export const NOTHING_AROUND: Around = { linked: () => [], activities: () => [] }

/** The run that an event started, as conditions ask of it. */
export const askingRun = (
  { atMs, changes }: Pick<ChangeEvent, 'atMs' | 'changes'>,
  done: readonly { readonly stepId: string; readonly atMs: number }[] = [],
): AskingRun & { readonly steps: Map<string, number> } => ({
  startedMs: atMs,
  steps: new Map(done.map((one) => [one.stepId, one.atMs])),
  activity: activityIn(changes),
})

/** A record as conditions are asked of it. What lies around it is read when it is first asked for, and once. */
export function subjectOf(
  record: RecordSnapshot,
  around: Around,
  { before = null, run = null }: Partial<Pick<Subject, 'before' | 'run'>> = {},
): Subject {
  const kept = new Map<ObjectKind, readonly LinkedSubject[]>()
  let done: readonly Activity[] | null = null
  return {
    values: record.values,
    before,
    run,
    linked(object) {
      let found = kept.get(object)
      if (!found)
        kept.set(
          object,
          (found = around
            .linked(record, object)
            .map(({ record: other, main }) => ({ ...subjectOf(other, around, { run }), main }))),
        )
      return found
    },
    done: () => (done ??= around.activities(record)),
  }
}

/** What a record held before some changes of it. */
export const valuesBefore = (values: Values, changes: readonly FieldChange[]): Values => ({
  ...values,
  ...Object.fromEntries(changes.map((change) => [change.field, change.old])),
})
