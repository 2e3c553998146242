import type { LinkedSubject, Subject } from '../conditions/subject'
import type { Values } from '../language/value'
import type { ObjectKind, RecordRef } from './kinds'
import type { FieldChange, RecordSnapshot } from './record'

/** A record on the other end of a link. */
export interface LinkedRecord {
  readonly record: RecordSnapshot
  readonly main: boolean
}

/** Reads the records linked to one, of a kind; a world's own way of doing so. */
export type ReadLinked = (ref: RecordRef, object: ObjectKind) => readonly LinkedRecord[]

/** A record as conditions are asked of it. What is linked is read when it is first asked for, and once. */
export function subjectOf(record: RecordSnapshot, read: ReadLinked, before: Values | null = null): Subject {
  const kept = new Map<ObjectKind, readonly LinkedSubject[]>()
  return {
    values: record.values,
    before,
    linked(object) {
      let found = kept.get(object)
      if (!found)
        kept.set(
          object,
          (found = read(record, object).map(({ record: other, main }) => ({ ...subjectOf(other, read), main }))),
        )
      return found
    },
  }
}

/** What a record held before some changes of it. */
export const valuesBefore = (values: Values, changes: readonly FieldChange[]): Values => ({
  ...values,
  ...Object.fromEntries(changes.map((change) => [change.field, change.old])),
})
