import { and, asc, desc, eq, inArray, lt } from 'drizzle-orm'
import type { Values } from '../../core/language/value'
import type { Activity } from '../../core/records/activity'
import { sameRef, type RecordRef } from '../../core/records/kinds'
import type { Db } from '../db/connect'
import { activities } from '../db/schema/records'

/** What one is told of. */
export interface Told extends Omit<Activity, 'id' | 'data'> {
  readonly data?: Values
  readonly ref: RecordRef
  readonly key: string | null
}

const COLUMNS = {
  id: activities.id,
  kind: activities.kind,
  about: activities.about,
  data: activities.data,
  atMs: activities.atMs,
}

const NO_DATA: Values = {}
/** Most tell nothing beside their text: that is not parsed again for each of very many. */
const dataOf = (text: string): Values => (text === '{}' ? NO_DATA : (JSON.parse(text) as Values))

/** What was read last of a record: a file tells of very many of one, and scores ask for all of them each time. */
class Lately {
  constructor(
    private readonly ref: RecordRef,
    readonly list: readonly Activity[],
    /** Within it nobody else writes. */
    readonly transactionId: number,
  ) {}

  of(ref: RecordRef): boolean {
    return sameRef(this.ref, ref)
  }
}

/** What happened around records, as one was told of it. */
export class ActivityStore {
  private lately: Lately | null = null
  private readonly ofRecord
  private readonly insert
  private readonly known
  private readonly ofKinds

  constructor(private readonly db: Db) {
    this.insert = db.sqlite.prepare<
      [string, number, string, string, string, number, string | null, number],
      { readonly id: number }
    >(
      `INSERT INTO activities (object, record_id, kind, about, data, at_ms, key, told_at)
       VALUES (?, ?, ?, ?, ?, ?, ?, ?) ON CONFLICT DO NOTHING RETURNING id`,
    )
    this.known = db.sqlite.prepare<[string], { readonly id: number }>('SELECT id FROM activities WHERE key = ?')
    this.ofKinds = db.sqlite.prepare<[], { readonly kind: string; readonly n: number }>(
      'SELECT kind, count(*) AS n FROM activities GROUP BY kind',
    )
    this.ofRecord = db.sqlite.prepare<[string, number], Omit<Activity, 'data'> & { readonly data: string }>(
      'SELECT id, kind, about, data, at_ms AS atMs FROM activities WHERE object = ? AND record_id = ? ORDER BY at_ms, id',
    )
  }

  /** Keeps one; `null` when its key is there already. */
  add({ ref, kind, about, data = {}, atMs, key }: Told, nowMs: number): number | null {
    const id = this.insert.get(ref.object, ref.id, kind, about, JSON.stringify(data), atMs, key, nowMs)?.id ?? null
    const { lately } = this
    if (id === null || !lately?.of(ref)) return id
    if (lately.transactionId !== this.db.transactionId()) this.lately = null
    if (this.lately === null) return id
    // Told of in the order in which they were done, the list only grows.
    const isLast = (lately.list.at(-1)?.atMs ?? 0) <= atMs
    this.lately = isLast
      ? new Lately(ref, [...lately.list, { id, kind, about, data, atMs }], lately.transactionId)
      : null
    return id
  }

  /** How many are kept of each kind. */
  counts(): ReadonlyMap<string, number> {
    return new Map(this.ofKinds.all().map(({ kind, n }) => [kind, n]))
  }

  hasKey(key: string): boolean {
    return this.known.get(key) !== undefined
  }

  /** All of a record, the oldest first. */
  of(ref: RecordRef): readonly Activity[] {
    const transactionId = this.db.transactionId()
    if (transactionId !== null && this.lately?.transactionId === transactionId && this.lately.of(ref))
      return this.lately.list
    const list = this.ofRecord.all(ref.object, ref.id).map((row) => ({ ...row, data: dataOf(row.data) }))
    this.lately = transactionId === null ? null : new Lately(ref, list, transactionId)
    return list
  }

  /** The newest of a record, newest first. */
  newest({ object, id }: RecordRef, limit: number): readonly Activity[] {
    return this.db.orm
      .select(COLUMNS)
      .from(activities)
      .where(and(eq(activities.object, object), eq(activities.recordId, id)))
      .orderBy(desc(activities.atMs), desc(activities.id))
      .limit(limit)
      .all()
  }

  get(id: number): Activity | null {
    return this.db.orm.select(COLUMNS).from(activities).where(eq(activities.id, id)).get() ?? null
  }

  /** The newest of all, behind a number where one is given. */
  list(before: number | null, limit: number): readonly (Activity & { readonly ref: RecordRef })[] {
    return this.db.orm
      .select()
      .from(activities)
      .where(before === null ? undefined : lt(activities.id, before))
      .orderBy(desc(activities.id))
      .limit(limit)
      .all()
      .map(({ id, kind, about, data, atMs, object, recordId }) => ({
        id,
        kind,
        about,
        data,
        atMs,
        ref: { object, id: recordId },
      }))
  }

  /** Gives those of a record to another one. */
  moveTo(from: RecordRef, to: RecordRef): readonly number[] {
    this.lately = null
    return this.db.orm
      .update(activities)
      .set({ recordId: to.id })
      .where(and(eq(activities.object, from.object), eq(activities.recordId, from.id)))
      .returning({ id: activities.id })
      .all()
      .map((row) => row.id)
  }

  /** Gives some of a record back to the one they came from. */
  moveBack(from: RecordRef, to: RecordRef, ids: readonly number[]): void {
    this.lately = null
    if (ids.length > 0)
      this.db.orm
        .update(activities)
        .set({ recordId: to.id })
        .where(
          and(eq(activities.object, from.object), eq(activities.recordId, from.id), inArray(activities.id, [...ids])),
        )
        .run()
  }

  oldest(): number | null {
    return (
      this.db.orm.select({ atMs: activities.atMs }).from(activities).orderBy(asc(activities.atMs)).limit(1).get()
        ?.atMs ?? null
    )
  }
}
