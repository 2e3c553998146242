import { and, asc, count, desc, eq, gte, inArray, isNull, lt, ne, or, sql } from 'drizzle-orm'
import { readWrote } from '../../core/effects/wrote'
import type { NewRun, RunEnd, RunState, StepRecord } from '../../core/engine/world'
import type { ObjectKind, RecordRef } from '../../core/records/kinds'
import type { Db } from '../db/connect'
import { prepareInsert } from '../db/prepared'
import { runs, runSteps } from '../db/schema/runs'

export type RunRow = typeof runs.$inferSelect
export type RunStepRow = typeof runSteps.$inferSelect

/** Where a run stands in the journal: when it did something last, and its id among those of that moment. */
export interface RunPlace {
  readonly atMs: number
  readonly id: number
}

export interface RunFilter {
  /** Those for which one run stands, with it. */
  readonly bundle?: number | undefined
  readonly ruleId?: number | undefined
  readonly state?: RunState | undefined
  /** Leaves out runs that ended because a condition did not hold. */
  readonly actedOnly?: boolean | undefined
  readonly object?: ObjectKind | undefined
  readonly recordId?: number | undefined
  /** Where the last run of the page before stands. */
  readonly before?: RunPlace | undefined
  readonly limit: number
}

/** What happened to a rule in the last 30 days, for its line in the list. */
export interface RulePulse {
  readonly runs: number
  readonly failed: number
  readonly lastAt: number
  /** Runs that got to their steps, by day, oldest first, as (day number since 1970, count). */
  readonly days: readonly (readonly [day: number, count: number])[]
}

interface DayRow {
  readonly ruleId: number
  readonly day: number
  readonly runs: number
  readonly failed: number
  readonly lastAt: number
}

/** Runs that got past their conditions, however they ended. */
const GOT_TO_STEPS = "(state <> 'stopped' OR json_extract(stop, '$.code') IN ('noLonger', 'ended'))"

/** What came of a step as it is kept, with each thing it left read by its own kind. */
const readResult = (stored: StepRecord): StepRecord =>
  stored.state === 'done' ? { ...stored, wrote: stored.wrote.map(readWrote) } : stored

/** Runs and their steps. */
export class RunStore {
  private readonly insertRun
  private readonly insertStep
  private readonly updateRun
  private readonly earlier
  private readonly identity
  private readonly last

  private readonly undone
  private readonly light
  private readonly results
  private readonly readDays

  constructor(private readonly db: Db) {
    this.undone = db.sqlite.prepare<[string, number, number]>(
      'UPDATE runs SET undone_by = ?, undone_at = ? WHERE id = ?',
    )
    this.light = db.sqlite.prepare<[number], { object: ObjectKind; record_id: number; undone_at: number | null }>(
      'SELECT object, record_id, undone_at FROM runs WHERE id = ?',
    )
    this.results = db.sqlite.prepare<[number], { result: string }>(
      'SELECT result FROM run_steps WHERE run_id = ? ORDER BY position',
    )
    this.readDays = db.sqlite.prepare<[number], DayRow>(
      'SELECT rule_id AS ruleId, day, runs, failed, last_at AS lastAt FROM rule_days WHERE day >= ? ORDER BY rule_id, day',
    )
    this.insertRun = prepareInsert(
      db.sqlite,
      runs,
      [
        'ruleId',
        'versionId',
        'object',
        'recordId',
        'occurrence',
        'eventSeq',
        'chainId',
        'depth',
        'state',
        'because',
        'seen',
        'startedAt',
        'lastAt',
      ],
      'nothing',
    )
    this.insertStep = prepareInsert(db.sqlite, runSteps, ['runId', 'position', 'stepId', 'kind', 'result', 'atMs'])
    this.identity = db.sqlite.prepare<[number, string, number, string], { id: number }>(
      'SELECT id FROM runs WHERE rule_id = ? AND object = ? AND record_id = ? AND occurrence = ?',
    )
    this.updateRun = db.sqlite.prepare<[RunState, string | null, string, number, number, number]>(
      'UPDATE runs SET state = ?, stop = ?, seen = ?, ended_at = ?, last_at = ? WHERE id = ?',
    )
    // Named, because before SQLite has looked how values are spread it takes the index that gives the order for free.
    this.last = db.sqlite.prepare<[number, string, number, number], { at: number }>(
      `SELECT started_at AS at FROM runs INDEXED BY runs_record WHERE rule_id = ? AND object = ? AND record_id = ? AND id < ? AND ${GOT_TO_STEPS} ORDER BY id DESC LIMIT 1`,
    )
    this.earlier = db.sqlite.prepare<[string, number, string, number], { id: number }>(
      `SELECT id FROM runs INDEXED BY runs_chain WHERE chain_id = ? AND rule_id = ? AND object = ? AND record_id = ? AND ${GOT_TO_STEPS} ORDER BY id LIMIT 1`,
    )
  }

  /**
   * The records of a kind for which a rule did something that nobody took back; of some, or of all with `null`.
   */
  wentThrough(ruleId: number, object: ObjectKind, ids: readonly number[] | null): ReadonlySet<number> {
    const some = ids === null ? '' : ' AND record_id IN (SELECT value FROM json_each(?))'
    const rows = this.db.sqlite
      .prepare<unknown[], { id: number }>(
        `SELECT DISTINCT record_id AS id FROM runs INDEXED BY runs_identity
        WHERE rule_id = ? AND object = ? AND undone_at IS NULL AND ${GOT_TO_STEPS}${some}`,
      )
      .all(ruleId, object, ...(ids === null ? [] : [JSON.stringify(ids)]))
    return new Set(rows.map((row) => row.id))
  }

  lastAt(ruleId: number, { object, id }: RecordRef, beforeRunId: number): number | null {
    return this.last.get(ruleId, object, id, beforeRunId)?.at ?? null
  }

  open(run: NewRun, nowMs: number): number | null {
    const { changes, lastInsertRowid } = this.insertRun({
      ruleId: run.ruleId,
      versionId: run.versionId,
      object: run.ref.object,
      recordId: run.ref.id,
      occurrence: run.occurrence,
      eventSeq: run.eventSeq,
      chainId: run.chainId,
      depth: run.depth,
      because: run.because,
      state: 'running',
      seen: [],
      startedAt: nowMs,
      lastAt: nowMs,
    })
    return changes === 0 ? null : Number(lastInsertRowid)
  }

  close(runId: number, end: RunEnd, nowMs: number): void {
    this.updateRun.run(
      end.state,
      end.stop ? JSON.stringify(end.stop) : null,
      JSON.stringify(end.seen),
      nowMs,
      nowMs,
      runId,
    )
  }

  /** Puts a run behind the one that stands for it in the journal. */
  bundle(runId: number, behind: number): void {
    this.db.orm.update(runs).set({ bundle: behind }).where(eq(runs.id, runId)).run()
  }

  /** How many runs stand behind each of some. */
  bundled(runIds: readonly number[]): ReadonlyMap<number, number> {
    const rows = this.db.orm
      .select({ id: runs.bundle, n: count() })
      .from(runs)
      .where(and(sql`${runs.bundle} is not null`, inArray(runs.bundle, [...runIds])))
      .groupBy(runs.bundle)
      .all()
    return new Map(rows.flatMap(({ id, n }) => (id === null ? [] : [[id, n] as const])))
  }

  recordStep(runId: number, position: number, stepId: string, kind: string, result: StepRecord, atMs: number): void {
    this.insertStep({ runId, position, stepId, kind, result, atMs })
  }

  inChain(chainId: string, ruleId: number, { object, id }: RecordRef): number | null {
    return this.earlier.get(chainId, ruleId, object, id)?.id ?? null
  }

  /** Whether a run with this identity is there. */
  has(ruleId: number, { object, id }: RecordRef, occurrence: string): boolean {
    return this.identity.get(ruleId, object, id, occurrence) !== undefined
  }

  get(id: number): RunRow | null {
    return this.db.orm.select().from(runs).where(eq(runs.id, id)).get() ?? null
  }

  steps(runIds: readonly number[]): readonly RunStepRow[] {
    return runIds.length === 0
      ? []
      : this.db.orm
          .select()
          .from(runSteps)
          .where(inArray(runSteps.runId, [...runIds]))
          .orderBy(asc(runSteps.runId), asc(runSteps.position))
          .all()
          .map((row) => ({ ...row, result: readResult(row.result) }))
  }

  /**
   * Runs of a rule in a period that got to their steps and were not taken back, newest first; behind an id, counting
   * down.
   */
  undoable(
    ruleId: number,
    fromMs: number,
    toMs: number,
    before: number,
    limit: number,
  ): readonly Pick<RunRow, 'id' | 'object' | 'recordId'>[] {
    return this.db.orm
      .select({ id: runs.id, object: runs.object, recordId: runs.recordId })
      .from(runs)
      .where(this.inPeriod(ruleId, fromMs, toMs, before))
      .orderBy(desc(runs.id))
      .limit(limit)
      .all()
  }

  undoableCount(ruleId: number, fromMs: number, toMs: number): number {
    return (
      this.db.orm
        .select({ n: count() })
        .from(runs)
        .where(this.inPeriod(ruleId, fromMs, toMs, Number.MAX_SAFE_INTEGER))
        .get()?.n ?? 0
    )
  }

  private inPeriod(ruleId: number, fromMs: number, toMs: number, before: number) {
    return and(
      eq(runs.ruleId, ruleId),
      gte(runs.startedAt, fromMs),
      lt(runs.startedAt, toMs),
      lt(runs.id, before),
      sql.raw(GOT_TO_STEPS),
      ne(runs.state, 'running'),
      isNull(runs.undoneAt),
    )
  }

  setUndone(id: number, personId: string, nowMs: number): void {
    this.undone.run(personId, nowMs, id)
  }

  /** What a run did, in order, and whether it was taken back; `null` when there is no such run. */
  deeds(id: number): {
    readonly object: ObjectKind
    readonly recordId: number
    readonly undone: boolean
    readonly results: readonly StepRecord[]
  } | null {
    const run = this.light.get(id)
    return run
      ? {
          object: run.object,
          recordId: run.record_id,
          undone: run.undone_at !== null,
          results: this.results.all(id).map(({ result }) => readResult(JSON.parse(result) as StepRecord)),
        }
      : null
  }

  /** Those that did something last come first. */
  list(filter: RunFilter): readonly RunRow[] {
    return this.db.orm
      .select()
      .from(runs)
      .where(
        and(
          filter.ruleId === undefined ? undefined : eq(runs.ruleId, filter.ruleId),
          // Said outright, so that SQLite sees that the indexes of failed and waiting runs hold all of them.
          filter.state === undefined ? undefined : sql`${runs.state} = ${sql.raw(`'${filter.state}'`)}`,
          filter.actedOnly
            ? sql`(${runs.stop} is null or json_extract(${runs.stop}, '$.code') not in ('conditions', 'repeats', 'sameChange'))`
            : undefined,
          filter.object === undefined ? undefined : eq(runs.object, filter.object),
          filter.recordId === undefined ? undefined : eq(runs.recordId, filter.recordId),
          // Of a record all are told; of everything one stands for those that were missed alike.
          filter.recordId === undefined && filter.bundle === undefined ? isNull(runs.bundle) : undefined,
          filter.bundle === undefined ? undefined : or(eq(runs.bundle, filter.bundle), eq(runs.id, filter.bundle)),
          filter.before === undefined
            ? undefined
            : sql`(${runs.lastAt}, ${runs.id}) < (${filter.before.atMs}, ${filter.before.id})`,
        ),
      )
      .orderBy(desc(runs.lastAt), desc(runs.id))
      .limit(filter.limit)
      .all()
  }

  ofChain(chainId: string): readonly RunRow[] {
    return this.db.orm.select().from(runs).where(eq(runs.chainId, chainId)).orderBy(asc(runs.id)).all()
  }

  /** How the rules did on each day from one on, counted from 1970 (UTC). */
  pulses(fromDay: number): ReadonlyMap<number, RulePulse> {
    const byRule = new Map<
      number,
      { runs: number; failed: number; lastAt: number; days: (readonly [number, number])[] }
    >()
    for (const { ruleId, day, runs: n, failed, lastAt } of this.readDays.all(fromDay)) {
      const known = byRule.get(ruleId)
      if (!known) byRule.set(ruleId, { runs: n, failed, lastAt, days: [[day, n]] })
      else {
        known.runs += n
        known.failed += failed
        known.lastAt = Math.max(known.lastAt, lastAt)
        known.days.push([day, n])
      }
    }
    return byRule
  }
}
