import { asc, eq, isNull } from 'drizzle-orm'
import type { DayTurn } from '../../core/engine/derive'
import type { RecordRef } from '../../core/records/kinds'
import type { Db } from '../db/connect'
import { dayTurn, deriveJobs } from '../db/schema/records'

export interface DeriveJob {
  readonly id: number
  readonly fieldIds: readonly number[]
  readonly at: number
  readonly afterId: number
  readonly done: number
  readonly total: number
}

/** How far values that are worked out have come: for the day it is, and after somebody said anew how. */
export class DeriveStore {
  private readonly readTurn
  private readonly note
  private readonly noted
  private readonly done

  constructor(private readonly db: Db) {
    this.readTurn = db.sqlite.prepare<[], DayTurn>(
      'SELECT through, turning, object, after_id AS afterId FROM day_turn WHERE id = 1',
    )
    this.note = db.sqlite.prepare('INSERT OR IGNORE INTO put_off (object, record_id) VALUES (?, ?)')
    this.noted = db.sqlite.prepare<[number], RecordRef>('SELECT object, record_id AS id FROM put_off LIMIT ?')
    this.done = db.sqlite.prepare('DELETE FROM put_off WHERE object = ? AND record_id = ?')
  }

  /** Notes that what hangs on others is to be worked out for a record, later. */
  putOff({ object, id }: RecordRef): void {
    this.note.run(object, id)
  }

  /** Records for which something was put off. */
  putOffFor(limit: number): readonly RecordRef[] {
    return this.noted.all(limit)
  }

  caughtUp({ object, id }: RecordRef): void {
    this.done.run(object, id)
  }

  turn(): DayTurn | null {
    return this.readTurn.get() ?? null
  }

  setTurn(turn: DayTurn): void {
    this.db.orm
      .insert(dayTurn)
      .values({ id: 1, ...turn })
      .onConflictDoUpdate({ target: dayTurn.id, set: turn })
      .run()
  }

  addJob(fieldIds: readonly number[], total: number, personId: string, nowMs: number): number {
    return this.db.orm
      .insert(deriveJobs)
      .values({ fieldIds, at: 0, afterId: 0, done: 0, total, personId, createdAt: nowMs })
      .returning({ id: deriveJobs.id })
      .get().id
  }

  /** The oldest job that is not at its end. */
  open(): DeriveJob | null {
    return (
      this.db.orm
        .select()
        .from(deriveJobs)
        .where(isNull(deriveJobs.endedAt))
        .orderBy(asc(deriveJobs.id))
        .limit(1)
        .get() ?? null
    )
  }

  move(id: number, change: Partial<Pick<DeriveJob, 'at' | 'afterId' | 'done'>> & { readonly endedAt?: number }): void {
    this.db.orm.update(deriveJobs).set(change).where(eq(deriveJobs.id, id)).run()
  }

  /** Jobs that are under way, with the fields they are about. */
  openJobs(): readonly DeriveJob[] {
    return this.db.orm.select().from(deriveJobs).where(isNull(deriveJobs.endedAt)).orderBy(asc(deriveJobs.id)).all()
  }
}
