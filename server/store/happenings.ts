import { and, asc, desc, eq, inArray, lt } from 'drizzle-orm'
import type { Happening } from '../../core/records/happening'
import type { RecordRef } from '../../core/records/kinds'
import type { Db } from '../db/connect'
import { happenings } from '../db/schema/records'

/** What one is told of. */
export interface Told extends Omit<Happening, 'id'> {
  readonly ref: RecordRef
  readonly key: string | null
}

const COLUMNS = { id: happenings.id, kind: happenings.kind, about: happenings.about, atMs: happenings.atMs }

/** What happened around records, as one was told of it. */
export class HappeningStore {
  private readonly ofRecord

  constructor(private readonly db: Db) {
    this.ofRecord = db.sqlite.prepare<[string, number], Happening>(
      'SELECT id, kind, about, at_ms AS atMs FROM happenings WHERE object = ? AND record_id = ? ORDER BY at_ms, id',
    )
  }

  /** Keeps one; `null` when its key is there already. */
  add({ ref, kind, about, atMs, key }: Told, nowMs: number): number | null {
    return (
      this.db.orm
        .insert(happenings)
        .values({ object: ref.object, recordId: ref.id, kind, about, atMs, key, toldAt: nowMs })
        .onConflictDoNothing()
        .returning({ id: happenings.id })
        .get()?.id ?? null
    )
  }

  /** All of a record, the oldest first. */
  of({ object, id }: RecordRef): readonly Happening[] {
    return this.ofRecord.all(object, id)
  }

  /** The newest of a record, newest first. */
  newest({ object, id }: RecordRef, limit: number): readonly Happening[] {
    return this.db.orm
      .select(COLUMNS)
      .from(happenings)
      .where(and(eq(happenings.object, object), eq(happenings.recordId, id)))
      .orderBy(desc(happenings.atMs), desc(happenings.id))
      .limit(limit)
      .all()
  }

  get(id: number): Happening | null {
    return this.db.orm.select(COLUMNS).from(happenings).where(eq(happenings.id, id)).get() ?? null
  }

  /** The newest of all, behind a number where one is given. */
  list(before: number | null, limit: number): readonly (Happening & { readonly ref: RecordRef })[] {
    return this.db.orm
      .select()
      .from(happenings)
      .where(before === null ? undefined : lt(happenings.id, before))
      .orderBy(desc(happenings.id))
      .limit(limit)
      .all()
      .map(({ id, kind, about, atMs, object, recordId }) => ({ id, kind, about, atMs, ref: { object, id: recordId } }))
  }

  /** Gives those of a record to another one. */
  moveTo(from: RecordRef, to: RecordRef): readonly number[] {
    return this.db.orm
      .update(happenings)
      .set({ recordId: to.id })
      .where(and(eq(happenings.object, from.object), eq(happenings.recordId, from.id)))
      .returning({ id: happenings.id })
      .all()
      .map((row) => row.id)
  }

  /** Gives some of a record back to the one they came from. */
  moveBack(from: RecordRef, to: RecordRef, ids: readonly number[]): void {
    if (ids.length > 0)
      this.db.orm
        .update(happenings)
        .set({ recordId: to.id })
        .where(
          and(eq(happenings.object, from.object), eq(happenings.recordId, from.id), inArray(happenings.id, [...ids])),
        )
        .run()
  }

  oldest(): number | null {
    return (
      this.db.orm.select({ atMs: happenings.atMs }).from(happenings).orderBy(asc(happenings.atMs)).limit(1).get()
        ?.atMs ?? null
    )
  }
}
