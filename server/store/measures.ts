import { and, asc, eq, isNull, sql } from 'drizzle-orm'
import type { Measure, NewMeasure } from '../../core/engine/world'
import type { RecordRef } from '../../core/records/kinds'
import type { Db } from '../db/connect'
import { prepareInsert } from '../db/prepared'
import { measures } from '../db/schema/watch'

export type MeasureRow = typeof measures.$inferSelect

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
}
