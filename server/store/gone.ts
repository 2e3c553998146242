import { and, desc, eq, inArray, lt } from 'drizzle-orm'
import type { ObjectKind, RecordRef } from '../../core/records/kinds'
import type { Db } from '../db/connect'
import { goneRecords } from '../db/schema/records'

export type GoneRow = typeof goneRecords.$inferSelect

/** Records that were deleted or went into another one. */
export class GoneStore {
  constructor(private readonly db: Db) {}

  add(row: GoneRow): void {
    this.db.orm.insert(goneRecords).values(row).run()
  }

  get({ object, id }: RecordRef): GoneRow | null {
    return (
      this.db.orm
        .select()
        .from(goneRecords)
        .where(and(eq(goneRecords.object, object), eq(goneRecords.id, id)))
        .get() ?? null
    )
  }

  remove({ object, id }: RecordRef): void {
    this.db.orm
      .delete(goneRecords)
      .where(and(eq(goneRecords.object, object), eq(goneRecords.id, id)))
      .run()
  }

  /** The newest first; `before` is the event of the last of the page before. */
  list(object: ObjectKind, before: number | null, limit: number): readonly GoneRow[] {
    return this.db.orm
      .select()
      .from(goneRecords)
      .where(and(eq(goneRecords.object, object), before === null ? undefined : lt(goneRecords.seq, before)))
      .orderBy(desc(goneRecords.seq))
      .limit(limit)
      .all()
  }

  /** The records that went into one, and into those, the newest first. */
  wentInto({ object, id }: RecordRef): readonly GoneRow[] {
    const found: GoneRow[] = []
    for (let ids = [id]; ids.length > 0;) {
      const rows = this.db.orm
        .select()
        .from(goneRecords)
        .where(and(eq(goneRecords.object, object), inArray(goneRecords.intoId, ids)))
        .all()
      found.push(...rows)
      ids = rows.map((row) => row.id)
    }
    return found.sort((a, b) => b.seq - a.seq)
  }
}
