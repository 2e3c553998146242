import { and, asc, desc, eq, gt, inArray, lt, sql } from 'drizzle-orm'
import type { Db } from '../db/connect'
import { heldStarts, ruleHours, ruleJobs, rules, type Pause, type RuleJobOrder } from '../db/schema/rules'

export type RuleJobRow = typeof ruleJobs.$inferSelect
export type { Pause, RuleJobOrder }

const LEFT_MOST = 1000
const USUAL_HOURS = 28 * 24

/** Work of rules over many records, and rules that wait because they ran far more often than usual. */
export class RuleJobStore {
  private readonly counting

  constructor(private readonly db: Db) {
    this.counting = db.sqlite.prepare<[number, number, number], { starts: number }>(
      'INSERT INTO rule_hours (rule_id, hour, starts) VALUES (?, ?, ?) ON CONFLICT (rule_id, hour) DO UPDATE SET starts = starts + excluded.starts RETURNING starts',
    )
  }

  add(
    given: Pick<RuleJobRow, 'ruleId' | 'order' | 'total' | 'personId' | 'createdAt'> & { readonly position?: number },
  ): number {
    return this.db.orm
      .insert(ruleJobs)
      .values({ position: 0, ...given, state: 'running', done: 0, left: [] })
      .returning({ id: ruleJobs.id })
      .get().id
  }

  get(id: number): RuleJobRow | null {
    return this.db.orm.select().from(ruleJobs).where(eq(ruleJobs.id, id)).get() ?? null
  }

  /** The newest jobs of a rule. */
  ofRule(ruleId: number): readonly RuleJobRow[] {
    return this.db.orm
      .select()
      .from(ruleJobs)
      .where(eq(ruleJobs.ruleId, ruleId))
      .orderBy(desc(ruleJobs.id))
      .limit(20)
      .all()
  }

  running(): readonly number[] {
    return this.db.orm
      .select({ id: ruleJobs.id })
      .from(ruleJobs)
      .where(eq(ruleJobs.state, 'running'))
      .orderBy(asc(ruleJobs.id))
      .all()
      .map((row) => row.id)
  }

  stateOf(id: number): RuleJobRow['state'] | null {
    return this.db.orm.select({ state: ruleJobs.state }).from(ruleJobs).where(eq(ruleJobs.id, id)).get()?.state ?? null
  }

  setState(id: number, state: RuleJobRow['state'], endedAt: number | null): void {
    this.db.orm.update(ruleJobs).set({ state, endedAt }).where(eq(ruleJobs.id, id)).run()
  }

  /** So far it has come; belongs into the transaction that did the work. */
  advance(id: number, position: number, more: number, left: readonly string[]): void {
    const row = left.length > 0 ? this.get(id) : null
    this.db.orm
      .update(ruleJobs)
      .set({
        position,
        done: sql`${ruleJobs.done} + ${more}`,
        ...(row ? { left: [...row.left, ...left].slice(0, LEFT_MOST) } : {}),
      })
      .where(eq(ruleJobs.id, id))
      .run()
  }

  /** Counts starts of a rule in an hour of the clock (hours since 1970, UTC); answers how many that makes. */
  count(ruleId: number, hour: number, starts: number): number {
    return this.counting.get(ruleId, hour, starts)?.starts ?? 0
  }

  /**
   * How often it was started in an hour on the average of the last four weeks before this one, or of as many as there
   * are.
   */
  usual(ruleId: number, hour: number): number {
    const row = this.db.orm
      .select({
        total: sql<number>`coalesce(sum(${ruleHours.starts}), 0)`,
        first: sql<number>`coalesce(min(${ruleHours.hour}), ${hour})`,
      })
      .from(ruleHours)
      .where(and(eq(ruleHours.ruleId, ruleId), gt(ruleHours.hour, hour - USUAL_HOURS), lt(ruleHours.hour, hour)))
      .get()
    return row ? row.total / Math.max(1, hour - row.first) : 0
  }

  /** Counts an hour anew. */
  forget(ruleId: number, hour: number): void {
    this.db.orm
      .delete(ruleHours)
      .where(and(eq(ruleHours.ruleId, ruleId), eq(ruleHours.hour, hour)))
      .run()
  }

  pauses(): ReadonlyMap<number, Pause> {
    return new Map(
      this.db.orm
        .select({ id: rules.id, paused: rules.paused })
        .from(rules)
        .where(sql`${rules.paused} is not null`)
        .all()
        .flatMap((row) => (row.paused ? [[row.id, row.paused] as const] : [])),
    )
  }

  pause(ruleId: number, paused: Pause): void {
    this.db.orm.update(rules).set({ paused }).where(eq(rules.id, ruleId)).run()
  }

  resume(ruleId: number, atMs: number): void {
    this.db.orm.update(rules).set({ paused: null, resumedAt: atMs }).where(eq(rules.id, ruleId)).run()
  }

  hold(ruleId: number, eventSeq: number): void {
    this.db.orm.insert(heldStarts).values({ ruleId, eventSeq }).onConflictDoNothing().run()
  }

  /** Events that would have started the rule behind a number, oldest first. */
  held(ruleId: number, after: number, limit: number): readonly number[] {
    return this.db.orm
      .select({ seq: heldStarts.eventSeq })
      .from(heldStarts)
      .where(and(eq(heldStarts.ruleId, ruleId), gt(heldStarts.eventSeq, after)))
      .orderBy(asc(heldStarts.eventSeq))
      .limit(limit)
      .all()
      .map((row) => row.seq)
  }

  heldCount(ruleId: number): number {
    return (
      this.db.orm
        .select({ n: sql<number>`count(*)` })
        .from(heldStarts)
        .where(eq(heldStarts.ruleId, ruleId))
        .get()?.n ?? 0
    )
  }

  drop(ruleId: number, seqs: readonly number[] | null): void {
    this.db.orm
      .delete(heldStarts)
      .where(and(eq(heldStarts.ruleId, ruleId), seqs === null ? undefined : inArray(heldStarts.eventSeq, [...seqs])))
      .run()
  }
}
