import { and, asc, desc, eq, gt, inArray, isNull, lt, lte, or, sql } from 'drizzle-orm'
import type { FailReason, StopReason } from '../../core/language/reasons'
import type { ObjectKind } from '../../core/records/kinds'
import type { Db } from '../db/connect'
import { leftOut, problems } from '../db/schema/watch'
import { columnOf } from './record-columns'

export type ProblemRow = typeof problems.$inferSelect
export type LeftOutRow = typeof leftOut.$inferSelect

/** What a problem is, without how long and who. */
export type NewProblem = Pick<ProblemRow, 'kind' | 'key' | 'says' | 'count' | 'ruleId' | 'object' | 'recordId' | 'path'>

export interface FailedRun {
  readonly id: number
  readonly ruleId: number
  readonly object: ObjectKind
  readonly recordId: number
  readonly atMs: number
  readonly stop: StopReason | null
  readonly stepId: string | null
  readonly reason: FailReason | null
}

export interface GivenUp {
  readonly id: number
  readonly key: string
  readonly channel: string
  readonly recipient: string
  readonly error: string
  readonly runState: string | null
  readonly runId: number | null
}

/** What needs somebody, and what it is found from. */
export class ProblemStore {
  constructor(private readonly db: Db) {}

  all(): readonly ProblemRow[] {
    return this.db.orm.select().from(problems).orderBy(asc(problems.sinceMs), asc(problems.id)).all()
  }

  get(id: number): ProblemRow | null {
    return this.db.orm.select().from(problems).where(eq(problems.id, id)).get() ?? null
  }

  /** Of those that nobody accepted, how many there are. */
  open(nowMs: number): number {
    const { n } = this.db.orm
      .select({ n: sql<number>`count(*)` })
      .from(problems)
      .where(or(isNull(problems.acceptedUntil), lte(problems.acceptedUntil, nowMs)))
      .get() ?? { n: 0 }
    return n
  }

  /** Notes a cause; answers whether it is new. */
  note(given: NewProblem, nowMs: number, sinceMs = nowMs): boolean {
    const { kind, key, says, count, path, ruleId, object, recordId } = given
    const is = and(eq(problems.kind, kind), eq(problems.key, key))
    const there = this.db.orm.select({ id: problems.id }).from(problems).where(is).get()
    if (there) {
      this.db.orm
        .update(problems)
        .set({ says, count, path, ruleId, object, recordId, seenMs: nowMs })
        .where(eq(problems.id, there.id))
        .run()
      return false
    }
    this.db.orm
      .insert(problems)
      .values({ ...given, sinceMs, foundMs: nowMs, seenMs: nowMs })
      .run()
    return true
  }

  /** Forgets the causes of a kind that are no more; answers how many there were. */
  forget(kind: string, keys: readonly string[]): number {
    return this.db.orm
      .delete(problems)
      .where(
        and(
          eq(problems.kind, kind),
          sql`${problems.key} NOT IN (SELECT value FROM json_each(${JSON.stringify(keys)}))`,
        ),
      )
      .run().changes
  }

  assign(id: number, personId: string | null): void {
    this.db.orm.update(problems).set({ personId }).where(eq(problems.id, id)).run()
  }

  accept(id: number, untilMs: number | null, personId: string): void {
    this.db.orm
      .update(problems)
      .set({ acceptedUntil: untilMs, acceptedBy: untilMs === null ? null : personId })
      .where(eq(problems.id, id))
      .run()
  }

  /** Runs that failed since an instant and that nobody took back, newest first, with the step at which they did. */
  failedRuns(sinceMs: number, limit: number): readonly FailedRun[] {
    return this.db.sqlite
      .prepare<
        [number, number],
        Omit<FailedRun, 'stop' | 'reason'> & { readonly stop: string | null; readonly reason: string | null }
      >(
        `SELECT r.id, r.rule_id AS ruleId, r.object, r.record_id AS recordId, r.last_at AS atMs, r.stop,
            s.step_id AS stepId, s.result ->> '$.reason' AS reason
           FROM runs AS r INDEXED BY runs_failed LEFT JOIN run_steps AS s ON s.run_id = r.id AND s.position =
            (SELECT max(position) FROM run_steps WHERE run_id = r.id AND result ->> '$.state' = 'failed')
          WHERE r.state = 'failed' AND r.last_at >= ? AND r.undone_at IS NULL ORDER BY r.last_at DESC, r.id DESC LIMIT ?`,
      )
      .all(sinceMs, limit)
      .map(({ stop, reason, ...row }) => ({
        ...row,
        stop: stop === null ? null : (JSON.parse(stop) as StopReason),
        reason: reason === null ? null : (JSON.parse(reason) as FailReason),
      }))
  }

  /** What could not be delivered, with what became of its run. */
  givenUp(limit: number): readonly GivenUp[] {
    return this.db.sqlite
      .prepare<[number], GivenUp>(
        `SELECT o.id, o.key, o.channel, o.recipient, coalesce(o.last_error, '') AS error, o.run_id AS runId,
            r.state AS runState
           FROM outbox AS o INDEXED BY outbox_given_up LEFT JOIN runs AS r ON r.id = o.run_id
          WHERE o.state = 'givenUp' ORDER BY o.id DESC LIMIT ?`,
      )
      .all(limit)
  }

  leftOut(row: LeftOutRow): void {
    this.db.orm.insert(leftOut).values(row).onConflictDoNothing().run()
  }

  allLeftOut(limit: number): readonly LeftOutRow[] {
    return this.db.orm.select().from(leftOut).orderBy(desc(leftOut.atMs)).limit(limit).all()
  }

  /** Forgets what was left out before an instant, and of the rest what is mended. */
  forgetLeftOut(beforeMs: number, mended: readonly LeftOutRow[]): void {
    this.db.orm.delete(leftOut).where(lt(leftOut.atMs, beforeMs)).run()
    for (const { runId, stepId, object, recordId } of mended)
      this.db.orm
        .delete(leftOut)
        .where(
          and(
            eq(leftOut.runId, runId),
            eq(leftOut.stepId, stepId),
            eq(leftOut.object, object),
            eq(leftOut.recordId, recordId),
          ),
        )
        .run()
  }

  /** How many runs each rule had in a span of days, counted from 1970, the last one left out. */
  runsBetween(fromDay: number, toDay: number): ReadonlyMap<number, number> {
    return new Map(
      this.db.sqlite
        .prepare<[number, number], { id: number; n: number }>(
          'SELECT rule_id AS id, sum(runs) AS n FROM rule_days WHERE day >= ? AND day < ? GROUP BY rule_id',
        )
        .all(fromDay, toDay)
        .map(({ id, n }) => [id, n]),
    )
  }

  /** Addresses to which messages came back, and that a contact still has. */
  bounced(sinceMs: number, email: number, phoneId: number | null): readonly { readonly address: string }[] {
    const phone = phoneId === null ? '' : ` OR lower(c.${columnOf(phoneId)}) = s.address`
    return this.db.sqlite
      .prepare<[number], { address: string }>(
        `SELECT s.address FROM stopped_addresses AS s WHERE s.because = 'bounced' AND s.at_ms >= ?
          AND EXISTS (SELECT 1 FROM contacts AS c WHERE lower(c.${columnOf(email)}) = s.address${phone})`,
      )
      .all(sinceMs)
  }

  /** Those that are told of by a digest: what began behind an instant and is accepted by nobody. */
  since(sinceMs: number, nowMs: number, muted: readonly string[]): readonly ProblemRow[] {
    return this.db.orm
      .select()
      .from(problems)
      .where(
        and(
          gt(problems.foundMs, sinceMs),
          or(isNull(problems.acceptedUntil), lte(problems.acceptedUntil, nowMs)),
          muted.length === 0 ? undefined : sql`NOT ${inArray(problems.kind, [...muted])}`,
        ),
      )
      .orderBy(asc(problems.id))
      .all()
  }
}
