import { and, count, desc, eq, inArray, isNull, lt, or } from 'drizzle-orm'
import type { Notice } from '../../core/world/ports'
import type { Db } from '../db/connect'
import { notices, turns } from '../db/schema/runs'

/** So long after the first of them another one of the same rule joins it. */
const BUNDLED_MS = 600_000

export type NoticeRow = typeof notices.$inferSelect

/** What people are told in the app, and whose turn it is. */
export class NoticeStore {
  private readonly taking
  private readonly head

  constructor(private readonly db: Db) {
    this.taking = db.sqlite.prepare<[number, string]>(
      'INSERT INTO turns (rule_id, step_id, taken) VALUES (?, ?, 1) ON CONFLICT (rule_id, step_id) DO UPDATE SET taken = taken + 1',
    )
    this.head = db.sqlite.prepare<[string, number, number], { readonly id: number }>(
      `SELECT id FROM notices WHERE person_id = ? AND rule_id = ? AND bundle IS NULL AND at_ms >= ?
        AND read_at IS NULL ORDER BY at_ms LIMIT 1`,
    )
  }

  /** Several of one rule to one person within ten minutes are one line, until it is read. */
  add(personId: string, { ref, ruleId, runId, subject, body }: Notice, nowMs: number): void {
    const bundle = this.head.get(personId, ruleId, nowMs - BUNDLED_MS)?.id ?? null
    const at = { object: ref.object, recordId: ref.id, ruleId, runId, atMs: nowMs }
    this.db.orm
      .insert(notices)
      .values({ personId, subject, body, bundle, ...at })
      .run()
  }

  /** The lines that stand for themselves and others, newest first; behind `before`, the last one of the page before. */
  of(personId: string, before: number | null, limit: number): readonly NoticeRow[] {
    return this.db.orm
      .select()
      .from(notices)
      .where(
        and(
          eq(notices.personId, personId),
          isNull(notices.bundle),
          before === null ? undefined : lt(notices.id, before),
        ),
      )
      .orderBy(desc(notices.id))
      .limit(limit)
      .all()
  }

  /** Those that a line stands for beside itself: how many, and the first of them. */
  bundledWith(id: number, limit: number): { readonly count: number; readonly rows: readonly NoticeRow[] } {
    const of = eq(notices.bundle, id)
    const n = this.db.orm.select({ n: count() }).from(notices).where(of).get()?.n ?? 0
    const rows = n === 0 ? [] : this.db.orm.select().from(notices).where(of).orderBy(notices.id).limit(limit).all()
    return { count: n, rows }
  }

  unread(personId: string): number {
    return (
      this.db.orm
        .select({ n: count() })
        .from(notices)
        .where(and(eq(notices.personId, personId), isNull(notices.readAt), isNull(notices.bundle)))
        .get()?.n ?? 0
    )
  }

  /** Marks those of a person as read: some of them, or all. */
  read(personId: string, ids: readonly number[] | null, nowMs: number): number {
    return this.db.orm
      .update(notices)
      .set({ readAt: nowMs })
      .where(
        and(
          eq(notices.personId, personId),
          isNull(notices.readAt),
          ids === null ? undefined : or(inArray(notices.id, [...ids]), inArray(notices.bundle, [...ids])),
        ),
      )
      .run().changes
  }

  turn(ruleId: number, stepId: string): number {
    return (
      this.db.orm
        .select({ taken: turns.taken })
        .from(turns)
        .where(and(eq(turns.ruleId, ruleId), eq(turns.stepId, stepId)))
        .get()?.taken ?? 0
    )
  }

  takeTurn(ruleId: number, stepId: string): void {
    this.taking.run(ruleId, stepId)
  }
}
