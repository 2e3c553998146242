import { and, asc, eq } from 'drizzle-orm'
import { z } from 'zod'
import { EMPTY_GROUP, zGroup, type Group } from '../../core/conditions/document'
import type { ObjectKind } from '../../core/records/kinds'
import type { Db } from '../db/connect'
import { segments } from '../db/schema/catalogue'

export interface Segment {
  readonly id: number
  readonly object: ObjectKind
  readonly name: string
  readonly filter: Group
  /** Field keys in the order of the table; empty for the usual ones. */
  readonly columns: readonly string[]
  readonly sort: string
  readonly down: boolean
}

const COLUMNS = {
  id: segments.id,
  object: segments.object,
  name: segments.name,
  filter: segments.filter,
  columns: segments.columns,
  sort: segments.sort,
  down: segments.down,
}
const zColumns = z.array(z.string())

/** Matches nothing: stands in for a filter that cannot be read. */
const NOTHING: Group = { kind: 'group', id: 'c0', mode: 'none', items: [EMPTY_GROUP] }

/**
 * Saved filters. Stored groups are read like foreign ones: one that no longer fits is set aside, says so in its name,
 * and matches nothing.
 */
export class SegmentStore {
  constructor(private readonly db: Db) {}

  private parse(row: Segment): Segment {
    const filter = zGroup.safeParse(row.filter)
    const columns = zColumns.safeParse(row.columns).data ?? []
    return filter.success
      ? { ...row, filter: filter.data, columns }
      : { ...row, name: `${row.name} (filter can’t be read)`, filter: NOTHING, columns }
  }

  all(object: ObjectKind | null = null): readonly Segment[] {
    return this.db.orm
      .select(COLUMNS)
      .from(segments)
      .where(object === null ? undefined : eq(segments.object, object))
      .orderBy(asc(segments.name))
      .all()
      .map((row) => this.parse(row))
  }

  get(id: number): Segment | null {
    const row = this.db.orm.select(COLUMNS).from(segments).where(eq(segments.id, id)).get()
    return row ? this.parse(row) : null
  }

  named(object: ObjectKind, name: string): Segment | null {
    const row = this.db.orm
      .select(COLUMNS)
      .from(segments)
      .where(and(eq(segments.object, object), eq(segments.name, name)))
      .get()
    return row ? this.parse(row) : null
  }

  add(given: Omit<Segment, 'id'>, personId: string, nowMs: number): number {
    return this.db.orm
      .insert(segments)
      .values({ ...given, createdBy: personId, createdAt: nowMs, changedAt: nowMs })
      .returning({ id: segments.id })
      .get().id
  }

  change(id: number, change: Partial<Omit<Segment, 'id' | 'object'>>, nowMs: number): void {
    this.db.orm
      .update(segments)
      .set({ ...change, changedAt: nowMs })
      .where(eq(segments.id, id))
      .run()
  }

  remove(id: number): void {
    this.db.orm.delete(segments).where(eq(segments.id, id)).run()
  }
}
