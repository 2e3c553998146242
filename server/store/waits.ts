import { and, asc, eq, gt, inArray, isNotNull, isNull, lt, notInArray, or, sql, count } from 'drizzle-orm'
import type { Timer } from '../../core/engine/clockwork'
import { BEFORE_ALL, type NewWait, type Wait, type WaitMoved } from '../../core/engine/world'
import type { StopReason } from '../../core/language/reasons'
import type { RecordRef } from '../../core/records/kinds'
import type { Db } from '../db/connect'
import { runs, timers, waits } from '../db/schema/runs'

export type WaitRow = typeof waits.$inferSelect
const toWait = ({ object, recordId, moved: _m, ...row }: WaitRow): Wait => ({ ...row, ref: { object, id: recordId } })

export interface WaitFilter {
  readonly ruleId?: number | undefined
  readonly ref?: RecordRef | undefined
  readonly fromMs?: number | undefined
  readonly toMs?: number | undefined
  readonly limit: number
}

/** What runs wait for, and the next moments of triggers that go by the clock. */
export class WaitStore {
  private readonly first
  private readonly firstTimerOf
  private readonly ofRecord
  private readonly anyThere

  constructor(private readonly db: Db) {
    this.first = db.orm
      .select()
      .from(waits)
      .where(and(isNotNull(waits.dueMs), sql`${waits.dueMs} <= ${sql.placeholder('until')}`))
      .orderBy(asc(waits.dueMs), asc(waits.id))
      .limit(1)
      .prepare()
    this.firstTimerOf = db.orm
      .select()
      .from(timers)
      .where(sql`${timers.dueMs} <= ${sql.placeholder('until')}`)
      .orderBy(asc(timers.dueMs), asc(timers.ruleId))
      .limit(1)
      .prepare()
    this.ofRecord = db.orm
      .select()
      .from(waits)
      .where(and(eq(waits.object, sql.placeholder('object')), eq(waits.recordId, sql.placeholder('id'))))
      .orderBy(asc(waits.id))
      .prepare()
    this.anyThere = db.sqlite.prepare<[], { there: number }>('SELECT EXISTS (SELECT 1 FROM waits) AS there')
  }

  /** Whether anything waits at all. */
  any(): boolean {
    return this.anyThere.get()?.there === 1
  }

  add({ ref, ...wait }: NewWait, sinceMs: number, sinceSeq: number): void {
    this.db.orm
      .insert(waits)
      .values({ ...wait, object: ref.object, recordId: ref.id, sinceMs, sinceSeq })
      .run()
  }

  get(id: number): WaitRow | null {
    return this.db.orm.select().from(waits).where(eq(waits.id, id)).get() ?? null
  }

  wait(id: number): Wait | null {
    const row = this.get(id)
    return row && toWait(row)
  }

  of({ object, id }: RecordRef): readonly Wait[] {
    return this.ofRecord.all({ object, id }).map(toWait)
  }

  /** Everything that waits in a rule. */
  allOf(ruleId: number): readonly Wait[] {
    return this.db.orm.select().from(waits).where(eq(waits.ruleId, ruleId)).orderBy(asc(waits.id)).all().map(toWait)
  }

  ofRun(runId: number): readonly WaitRow[] {
    return this.db.orm.select().from(waits).where(eq(waits.runId, runId)).orderBy(asc(waits.id)).all()
  }

  /** By rule: how much is due before an instant, and before a later one. */
  dueByRule(untilMs: number, thenMs: number): readonly { ruleId: number; first: number; all: number }[] {
    return this.db.orm
      .select({
        ruleId: waits.ruleId,
        first: sql<number>`sum(${waits.dueMs} < ${untilMs})`,
        all: sql<number>`count(*)`,
      })
      .from(waits)
      .where(and(isNotNull(waits.dueMs), sql`${waits.dueMs} < ${thenMs}`))
      .groupBy(waits.ruleId)
      .all()
  }

  /** How many wait at each step of a rule. */
  bySteps(ruleId: number): readonly { readonly stepId: string; readonly count: number }[] {
    return this.db.orm
      .select({ stepId: waits.stepId, count: count() })
      .from(waits)
      .where(eq(waits.ruleId, ruleId))
      .groupBy(waits.stepId)
      .all()
  }

  /** Those at a step of a rule, whoever goes on next before the others. */
  atStep(ruleId: number, stepId: string, limit: number): readonly WaitRow[] {
    return this.db.orm
      .select()
      .from(waits)
      .where(and(eq(waits.ruleId, ruleId), eq(waits.stepId, stepId)))
      .orderBy(sql`${waits.dueMs} is null`, asc(waits.dueMs), asc(waits.id))
      .limit(limit)
      .all()
  }

  /** How many records wait in a rule: in steps, not in runs. */
  countOf(ruleId: number): number {
    return this.db.orm.select({ n: count() }).from(waits).where(eq(waits.ruleId, ruleId)).get()?.n ?? 0
  }

  counts(): ReadonlyMap<number, number> {
    return new Map(
      this.db.orm
        .select({ id: waits.ruleId, n: count() })
        .from(waits)
        .groupBy(waits.ruleId)
        .all()
        .map((row) => [row.id, row.n]),
    )
  }

  firstDue(untilMs: number): Wait | null {
    const row = this.first.get({ until: Number.isFinite(untilMs) ? untilMs : Number.MAX_SAFE_INTEGER })
    return row ? toWait(row) : null
  }

  setDue(id: number, dueMs: number, moved: WaitMoved | null = null): void {
    this.db.orm
      .update(waits)
      .set({ dueMs, ...(moved ? { moved } : {}) })
      .where(eq(waits.id, id))
      .run()
  }

  /** Steps of a rule that were held back are tried once more now. */
  wakeHeld(ruleId: number, nowMs: number): void {
    this.db.orm
      .update(waits)
      .set({ dueMs: nowMs })
      .where(and(eq(waits.ruleId, ruleId), eq(waits.then, 'again')))
      .run()
  }

  remove(id: number): void {
    this.db.orm.delete(waits).where(eq(waits.id, id)).run()
  }

  /** In the order of their moments; those that wait for something to happen, however long, come last. */
  list({ ruleId, ref, fromMs, toMs, limit }: WaitFilter): readonly WaitRow[] {
    return this.db.orm
      .select()
      .from(waits)
      .where(
        and(
          ruleId === undefined ? undefined : eq(waits.ruleId, ruleId),
          ref === undefined ? undefined : and(eq(waits.object, ref.object), eq(waits.recordId, ref.id)),
          fromMs === undefined ? undefined : or(gt(waits.dueMs, fromMs - 1), sql`${waits.dueMs} is null`),
          toMs === undefined ? undefined : lt(waits.dueMs, toMs),
        ),
      )
      .orderBy(sql`${waits.dueMs} is null`, asc(waits.dueMs), asc(waits.id))
      .limit(limit)
      .all()
  }

  /** Those that wait for a moment that nobody chose by hand, behind a number, in the order in which they began. */
  behind(afterId: number, limit: number): readonly Wait[] {
    return this.db.orm
      .select()
      .from(waits)
      .where(and(gt(waits.id, afterId), isNotNull(waits.dueMs), isNull(waits.moved)))
      .orderBy(asc(waits.id))
      .limit(limit)
      .all()
      .map(toWait)
  }

  /** The versions by which runs wait, with how many do. */
  versions(): readonly { readonly ruleId: number; readonly versionId: number; readonly runs: number }[] {
    return this.db.orm
      .select({
        ruleId: runs.ruleId,
        versionId: runs.versionId,
        runs: sql<number>`count(distinct ${runs.id})`,
      })
      .from(waits)
      .innerJoin(runs, eq(runs.id, waits.runId))
      .groupBy(runs.versionId)
      .orderBy(asc(runs.versionId))
      .all()
  }

  /** Ends everything that waits in a rule, in one go; answers how many runs that ends. */
  endAllOf(ruleId: number, stop: StopReason, nowMs: number): number {
    const waiting = this.db.orm.select({ id: waits.runId }).from(waits).where(eq(waits.ruleId, ruleId))
    const ended = this.db.orm
      .update(runs)
      .set({ state: 'stopped', stop, endedAt: nowMs })
      .where(and(inArray(runs.id, waiting), eq(runs.state, 'waiting')))
      .run().changes
    this.db.orm.delete(waits).where(eq(waits.ruleId, ruleId)).run()
    return ended
  }

  /** Takes runs that wait over to another version, those whose steps it still has; the others stay with theirs. */
  moveAllOf(ruleId: number, versionId: number, stepIds: readonly string[]): number {
    const there = sql`(select value from json_each(${JSON.stringify([...stepIds, BEFORE_ALL])}))`
    const lost = this.db.orm
      .select({ id: waits.runId })
      .from(waits)
      .where(and(eq(waits.ruleId, ruleId), sql`${waits.stepId} not in ${there}`))
    const waiting = this.db.orm.select({ id: waits.runId }).from(waits).where(eq(waits.ruleId, ruleId))
    return this.db.orm
      .update(runs)
      .set({ versionId })
      .where(and(eq(runs.state, 'waiting'), inArray(runs.id, waiting), notInArray(runs.id, lost)))
      .run().changes
  }

  firstTimer(untilMs: number): Timer | null {
    return this.firstTimerOf.get({ until: Number.isFinite(untilMs) ? untilMs : Number.MAX_SAFE_INTEGER }) ?? null
  }

  timer(ruleId: number, triggerId: string): Timer | null {
    return (
      this.db.orm
        .select()
        .from(timers)
        .where(and(eq(timers.ruleId, ruleId), eq(timers.triggerId, triggerId)))
        .get() ?? null
    )
  }

  timers(): readonly Timer[] {
    return this.db.orm.select().from(timers).orderBy(asc(timers.dueMs)).all()
  }

  setTimer(timer: Timer): void {
    this.db.orm
      .insert(timers)
      .values(timer)
      .onConflictDoUpdate({
        target: [timers.ruleId, timers.triggerId],
        set: { dueMs: timer.dueMs, position: timer.position },
      })
      .run()
  }

  dropTimer(ruleId: number, triggerId: string): void {
    this.db.orm
      .delete(timers)
      .where(and(eq(timers.ruleId, ruleId), eq(timers.triggerId, triggerId)))
      .run()
  }

  /** Takes away the timers of rules that do not run. */
  keepTimersOf(ruleIds: readonly number[]): void {
    this.db.orm
      .delete(timers)
      .where(ruleIds.length === 0 ? undefined : sql`${timers.ruleId} not in ${[...ruleIds]}`)
      .run()
  }
}
