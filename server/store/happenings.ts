import { and, asc, desc, eq, inArray, lt } from 'drizzle-orm'
import type { Values } from '../../core/language/value'
import type { Happening } from '../../core/records/happening'
import { sameRef, type RecordRef } from '../../core/records/kinds'
import type { Db } from '../db/connect'
import { happenings } from '../db/schema/records'

/** What one is told of. */
export interface Told extends Omit<Happening, 'id' | 'data'> {
  readonly data?: Values
  readonly ref: RecordRef
  readonly key: string | null
}

const COLUMNS = {
  id: happenings.id,
  kind: happenings.kind,
  about: happenings.about,
  data: happenings.data,
  atMs: happenings.atMs,
}

const NO_DATA: Values = {}
/** Most tell nothing beside their text: that is not parsed again for each of very many. */
const dataOf = (text: string): Values => (text === '{}' ? NO_DATA : (JSON.parse(text) as Values))

/** What was read last of a record: a file tells of very many of one, and scores ask for all of them each time. */
class Lately {
  constructor(
    private readonly ref: RecordRef,
    readonly list: readonly Happening[],
    /** Within it nobody else writes. */
    readonly transactionId: number,
  ) {}

  of(ref: RecordRef): boolean {
    return sameRef(this.ref, ref)
  }
}

/** What happened around records, as one was told of it. */
export class HappeningStore {
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
      `INSERT INTO happenings (object, record_id, kind, about, data, at_ms, key, told_at)
       VALUES (?, ?, ?, ?, ?, ?, ?, ?) ON CONFLICT DO NOTHING RETURNING id`,
    )
    this.known = db.sqlite.prepare<[string], { readonly id: number }>('SELECT id FROM happenings WHERE key = ?')
    this.ofKinds = db.sqlite.prepare<[], { readonly kind: string; readonly n: number }>(
      'SELECT kind, count(*) AS n FROM happenings GROUP BY kind',
    )
    this.ofRecord = db.sqlite.prepare<[string, number], Omit<Happening, 'data'> & { readonly data: string }>(
      'SELECT id, kind, about, data, at_ms AS atMs FROM happenings WHERE object = ? AND record_id = ? ORDER BY at_ms, id',
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
    this.lately = isLast ? new Lately(ref, [...lately.list, { id, kind, about, data, atMs }], lately.transactionId) : null
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
  of(ref: RecordRef): readonly Happening[] {
    const transactionId = this.db.transactionId()
    if (transactionId !== null && this.lately?.transactionId === transactionId && this.lately.of(ref)) return this.lately.list
    const list = this.ofRecord.all(ref.object, ref.id).map((row) => ({ ...row, data: dataOf(row.data) }))
    this.lately = transactionId === null ? null : new Lately(ref, list, transactionId)
    return list
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
      .update(happenings)
      .set({ recordId: to.id })
      .where(and(eq(happenings.object, from.object), eq(happenings.recordId, from.id)))
      .returning({ id: happenings.id })
      .all()
      .map((row) => row.id)
  }

  /** Gives some of a record back to the one they came from. */
  moveBack(from: RecordRef, to: RecordRef, ids: readonly number[]): void {
    this.lately = null
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
