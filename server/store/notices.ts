import { and, count, desc, eq, inArray, isNull, lt } from 'drizzle-orm'
import type { Notice } from '../../core/world/ports'
import type { Db } from '../db/connect'
import { notices, turns } from '../db/schema/runs'

export type NoticeRow = typeof notices.$inferSelect

/** What people are told in the app, and whose turn it is. */
export class NoticeStore {
  private readonly taking

  constructor(private readonly db: Db) {
    this.taking = db.sqlite.prepare<[number, string]>(
      'INSERT INTO turns (rule_id, step_id, taken) VALUES (?, ?, 1) ON CONFLICT (rule_id, step_id) DO UPDATE SET taken = taken + 1',
    )
  }

  add(personId: string, { ref, ruleId, runId, subject, body }: Notice, nowMs: number): void {
    this.db.orm
      .insert(notices)
      .values({ personId, object: ref.object, recordId: ref.id, ruleId, runId, subject, body, atMs: nowMs })
      .run()
  }

  /** Newest first. `before` is the id of the last one of the page before. */
  of(personId: string, before: number | null, limit: number): readonly NoticeRow[] {
    return this.db.orm
      .select()
      .from(notices)
      .where(and(eq(notices.personId, personId), before === null ? undefined : lt(notices.id, before)))
      .orderBy(desc(notices.id))
      .limit(limit)
      .all()
  }

  unread(personId: string): number {
    return (
      this.db.orm
        .select({ n: count() })
        .from(notices)
        .where(and(eq(notices.personId, personId), isNull(notices.readAt)))
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
          ids === null ? undefined : inArray(notices.id, [...ids]),
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
