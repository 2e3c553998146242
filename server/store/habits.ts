import { and, desc, eq, isNull, sql } from 'drizzle-orm'
import type { Habit, HabitPast } from '../../core/habits/habit'
import type { RecordKind } from '../../core/records/kinds'
import type { Cause, FieldChange } from '../../core/records/record'
import type { Db } from '../db/connect'
import { habitSearches, habits } from '../db/schema/watch'

export type HabitRow = typeof habits.$inferSelect
export type HabitSearchRow = typeof habitSearches.$inferSelect

const ONE = 1

export interface LogRow {
  readonly seq: number
  readonly recordId: number
  readonly atMs: number
  readonly kind: 'created' | 'changed' | 'happened'
  readonly changes: readonly FieldChange[]
  readonly cause: Cause
}

/** What people do again and again, and the search for it. */
export class HabitStore {
  private readonly page

  constructor(private readonly db: Db) {
    this.page = db.sqlite.prepare<
      [string, number, number, number, number],
      Omit<LogRow, 'changes' | 'cause'> & { readonly changes: string; readonly cause: string }
    >(
      `SELECT seq, record_id AS recordId, at_ms AS atMs, kind, changes, cause FROM events INDEXED BY events_record
        WHERE object = ? AND (record_id, seq) > (?, ?) AND at_ms >= ? AND kind IN ('created', 'changed', 'happened')
        ORDER BY record_id, seq LIMIT ?`,
    )
  }

  /** What happened to records of a kind since an instant, record by record, behind a place in that order. */
  log(
    object: RecordKind,
    after: { readonly recordId: number; readonly seq: number },
    sinceMs: number,
    limit: number,
  ): readonly LogRow[] {
    return this.page.all(object, after.recordId, after.seq, sinceMs, limit).map(({ changes, cause, ...row }) => ({
      ...row,
      changes: JSON.parse(changes) as readonly FieldChange[],
      cause: JSON.parse(cause) as Cause,
    }))
  }

  countLog(sinceMs: number): number {
    return (
      this.db.sqlite.prepare<[number], { n: number }>('SELECT count(*) AS n FROM events WHERE at_ms >= ?').get(sinceMs)
        ?.n ?? 0
    )
  }

  search(): HabitSearchRow | null {
    return this.db.orm.select().from(habitSearches).where(eq(habitSearches.id, ONE)).get() ?? null
  }

  begin(nowMs: number, total: number): void {
    const row = { state: 'running' as const, begunAt: nowMs, endedAt: null, looked: 0, total, asked: null }
    this.db.orm
      .insert(habitSearches)
      .values({ id: ONE, ...row })
      .onConflictDoUpdate({ target: habitSearches.id, set: row })
      .run()
  }

  ask(asked: 'begin' | 'stop', nowMs: number): void {
    this.db.orm
      .insert(habitSearches)
      .values({ id: ONE, state: 'stopped', begunAt: nowMs, looked: 0, total: 0, asked })
      .onConflictDoUpdate({ target: habitSearches.id, set: { asked } })
      .run()
  }

  progress(looked: number): void {
    this.db.orm.update(habitSearches).set({ looked }).where(eq(habitSearches.id, ONE)).run()
  }

  end(state: 'done' | 'stopped', nowMs: number): void {
    this.db.orm.update(habitSearches).set({ state, endedAt: nowMs, asked: null }).where(eq(habitSearches.id, ONE)).run()
  }

  /** Puts what was found for a kind of records in the place of what was found before; what was put aside stays so. */
  put(
    object: RecordKind,
    found: readonly { readonly name: string; readonly habit: Habit; readonly past: HabitPast }[],
    nowMs: number,
  ): void {
    this.db.orm
      .delete(habits)
      .where(
        and(
          eq(habits.object, object),
          isNull(habits.dismissedBy),
          isNull(habits.ruleId),
          sql`${habits.name} NOT IN (SELECT value FROM json_each(${JSON.stringify(found.map(({ name }) => name))}))`,
        ),
      )
      .run()
    for (const { name, habit, past } of found)
      this.db.orm
        .insert(habits)
        .values({ object, name, habit, past, foundAt: nowMs })
        .onConflictDoUpdate({ target: [habits.object, habits.name], set: { habit, past } })
        .run()
  }

  /** Those that nobody put aside and of which no rule was made. */
  open(): readonly HabitRow[] {
    return this.db.orm
      .select()
      .from(habits)
      .where(and(isNull(habits.dismissedBy), isNull(habits.ruleId)))
      .orderBy(desc(sql`${habits.habit} ->> '$.followed'`))
      .all()
  }

  get(id: number): HabitRow | null {
    return this.db.orm.select().from(habits).where(eq(habits.id, id)).get() ?? null
  }

  dismiss(id: number, personId: string): void {
    this.db.orm.update(habits).set({ dismissedBy: personId }).where(eq(habits.id, id)).run()
  }

  made(id: number, ruleId: number): void {
    this.db.orm.update(habits).set({ ruleId }).where(eq(habits.id, id)).run()
  }
}
