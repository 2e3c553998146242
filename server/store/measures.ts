import { and, asc, eq, isNull, sql } from 'drizzle-orm'
import type { Measure, NewMeasure } from '../../core/engine/world'
import type { RecordRef } from '../../core/records/kinds'
import type { Db } from '../db/connect'
import { prepareInsert } from '../db/prepared'
import { measures } from '../db/schema/watch'

export type MeasureRow = typeof measures.$inferSelect

/** Which records a list of them holds. */
export interface MeasureFilter {
  readonly ruleId: number
  readonly key: string
  readonly alone: boolean
  /** Those whose time is not over are only `within` it, as they are counted. */
  readonly which: 'reached' | 'within' | 'missed' | 'already'
  readonly ownerId?: string | null | undefined
}

const asMeasure = ({ id, runId, object, recordId, key, atMs, byDay }: MeasureRow): Measure => ({
  id,
  runId,
  ref: { object, id: recordId },
  key,
  atMs,
  byDay,
})

/** Records that are measured by the target of a rule. */
export class MeasureStore {
  private readonly insert
  private readonly any
  private readonly reach

  constructor(private readonly db: Db) {
    this.insert = prepareInsert(
      db.sqlite,
      measures,
      [
        'ruleId',
        'versionId',
        'runId',
        'object',
        'recordId',
        'key',
        'atMs',
        'untilMs',
        'alone',
        'already',
        'ownerId',
        'labels',
        'byDay',
      ],
      'nothing',
    )
    this.any = db.sqlite
      .prepare<[string, number], number>(
        'SELECT 1 FROM measures WHERE object = ? AND record_id = ? AND reached_at IS NULL AND already = 0 LIMIT 1',
      )
      .pluck()
    this.reach = db.sqlite.prepare<[number, number]>(
      'UPDATE measures SET reached_at = ? WHERE id = ? AND reached_at IS NULL',
    )
  }

  /** One that is there already stays as it is: the first run counts. */
  add({ ref, ...measure }: NewMeasure, nowMs: number): void {
    this.insert({ ...measure, object: ref.object, recordId: ref.id, atMs: nowMs })
  }

  openAt(ref: RecordRef, nowMs: number): readonly Measure[] {
    // Nearly always there is none, and every change asks.
    if (this.any.get(ref.object, ref.id) === undefined) return []
    return this.db.orm
      .select()
      .from(measures)
      .where(
        and(
          eq(measures.object, ref.object),
          eq(measures.recordId, ref.id),
          isNull(measures.reachedAt),
          eq(measures.already, false),
          sql`${measures.untilMs} > ${nowMs}`,
        ),
      )
      .orderBy(asc(measures.id))
      .all()
      .map(asMeasure)
  }

  /** Those that the day may bring to their target, behind one of them. */
  openByDay(nowMs: number, afterId: number, limit: number): readonly Measure[] {
    return this.db.orm
      .select()
      .from(measures)
      .where(
        and(
          sql`reached_at IS NULL AND already = 0 AND by_day = 1`,
          sql`${measures.id} > ${afterId}`,
          sql`${measures.untilMs} > ${nowMs}`,
        ),
      )
      .orderBy(asc(measures.id))
      .limit(limit)
      .all()
      .map(asMeasure)
  }

  reached(id: number, atMs: number): void {
    this.reach.run(atMs, id)
  }

  /** Records behind a figure, newest first; behind `before`, the last of the page before. */
  list({ ruleId, key, alone, which, ownerId }: MeasureFilter, nowMs: number, before: number | null, limit: number) {
    const of = {
      already: sql`already = 1`,
      reached: sql`already = 0 AND reached_at IS NOT NULL AND until_ms <= ${nowMs}`,
      within: sql`already = 0 AND until_ms > ${nowMs}`,
      missed: sql`already = 0 AND reached_at IS NULL AND until_ms <= ${nowMs}`,
    }[which]
    return this.db.orm
      .select()
      .from(measures)
      .where(
        and(
          eq(measures.ruleId, ruleId),
          eq(measures.key, key),
          eq(measures.alone, alone),
          eq(measures.undone, false),
          of,
          ownerId === undefined
            ? undefined
            : ownerId === null
              ? isNull(measures.ownerId)
              : eq(measures.ownerId, ownerId),
          before === null ? undefined : sql`${measures.id} < ${before}`,
        ),
      )
      .orderBy(sql`${measures.id} DESC`)
      .limit(limit)
      .all()
  }
}
