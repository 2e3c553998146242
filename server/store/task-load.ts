import { and, asc, eq, lt } from 'drizzle-orm'
import type { Db } from '../db/connect'
import { tasks } from '../db/schema/runs'
import type { TaskRow } from './tasks'

/** How much somebody has to do. */
export interface TaskLoad {
  readonly late: number
  readonly today: number
  /** In the days behind today, so far as was asked. */
  readonly soon: number
  readonly done: number
}

/** Who has how much to do. */
export class TaskLoadStore {
  constructor(private readonly db: Db) {}

  /** Open tasks of a person by when they are due, and what they did since an instant. */
  of(personId: string, today: string, until: string, sinceMs: number): TaskLoad {
    return (
      this.db.sqlite
        .prepare<[object], TaskLoad>(
          `SELECT
            (SELECT count(*) FROM tasks WHERE assignee_id = @person AND state = 'open' AND due < @today) AS late,
            (SELECT count(*) FROM tasks WHERE assignee_id = @person AND state = 'open' AND due = @today) AS today,
            (SELECT count(*) FROM tasks WHERE assignee_id = @person AND state = 'open' AND due > @today AND due <= @until) AS soon,
            (SELECT count(*) FROM tasks WHERE done_by = @person AND done_at >= @since) AS done`,
        )
        .get({ person: personId, today, until, since: sinceMs }) ?? { late: 0, today: 0, soon: 0, done: 0 }
    )
  }

  /** Open tasks of a person that were due before a day, the longest late first; some of them. */
  late(personId: string, today: string, limit: number): readonly TaskRow[] {
    return this.db.orm
      .select()
      .from(tasks)
      .where(and(eq(tasks.assigneeId, personId), eq(tasks.state, 'open'), lt(tasks.due, today)))
      .orderBy(asc(tasks.due), asc(tasks.id))
      .limit(limit)
      .all()
  }
}
