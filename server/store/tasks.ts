import { and, asc, desc, eq, gt, inArray, isNotNull, isNull, lt, lte, sql } from 'drizzle-orm'
import type { TaskAsks } from '../../core/asks'
import type { NewTask } from '../../core/records/task'
import type { Reminder } from '../../core/engine/clockwork'
import type { RecordRef } from '../../core/records/kinds'
import type { Db } from '../db/connect'
import { prepareInsert } from '../db/prepared'
import { taskActs, taskFollowers, tasks } from '../db/schema/runs'

export type TaskRow = typeof tasks.$inferSelect
export type TaskActRow = typeof taskActs.$inferSelect

/** Follow-up tasks and what people did with them. */
export class TaskStore {
  private readonly insert
  private readonly open
  private readonly following
  private readonly withdrawing
  private readonly noting
  private readonly looking
  private readonly reminding
  private readonly counting

  constructor(private readonly db: Db) {
    this.insert = prepareInsert(db.sqlite, tasks, [
      'object',
      'recordId',
      'title',
      'notes',
      'taskKind',
      'priority',
      'due',
      'assigneeId',
      'queue',
      'remindAt',
      'state',
      'outcome',
      'asks',
      'because',
      'ruleId',
      'runId',
      'stepId',
      'createdAt',
    ])
    this.withdrawing = db.sqlite.prepare<[number]>("UPDATE tasks SET state = 'withdrawn' WHERE id = ?")
    this.noting = prepareInsert(db.sqlite, taskActs, ['taskId', 'atMs', 'personId', 'act', 'detail'])
    this.reminding = db.sqlite.prepare<[number], { taskId: number; dueMs: number }>(
      'SELECT id AS taskId, remind_at AS dueMs FROM tasks WHERE remind_at <= ? ORDER BY remind_at LIMIT 1',
    )
    this.looking = db.sqlite.prepare<[number], { state: string; acts: number }>(
      'SELECT state, (SELECT count(*) FROM task_acts AS a WHERE a.task_id = t.id) AS acts FROM tasks AS t WHERE id = ?',
    )
    this.counting = db.sqlite.prepare<[string], { n: number }>(
      "SELECT count(*) AS n FROM tasks WHERE assignee_id = ? AND state = 'open'",
    )
    this.following = db.sqlite.prepare<[number, string]>(
      'INSERT INTO task_followers (task_id, person_id) VALUES (?, ?)',
    )
    this.open = db.sqlite.prepare<[string, number, number, string, string | null], { title: string }>(
      "SELECT title FROM tasks WHERE object = ? AND record_id = ? AND state = 'open' AND rule_id = ? AND step_id = ? AND assignee_id IS coalesce(?, assignee_id) LIMIT 1",
    )
  }

  create(task: NewTask, nowMs: number): number {
    // Key by key: spreading one object into another costs more than SQLite does.
    const id = Number(
      this.insert({
        object: task.ref.object,
        recordId: task.ref.id,
        title: task.title,
        notes: task.notes,
        taskKind: task.taskKind,
        priority: task.priority,
        due: task.due,
        assigneeId: task.assigneeId,
        queue: task.queue,
        remindAt: task.remindAt,
        because: task.because,
        ruleId: task.ruleId,
        runId: task.runId,
        stepId: task.stepId,
        state: 'open',
        outcome: '',
        asks: task.asks ?? null,
        createdAt: nowMs,
      }).lastInsertRowid,
    )
    for (const personId of new Set(task.followers)) this.following.run(id, personId)
    return id
  }

  /** Who follows a task. */
  followers(id: number): readonly string[] {
    return this.db.orm
      .select({ id: taskFollowers.personId })
      .from(taskFollowers)
      .where(eq(taskFollowers.taskId, id))
      .all()
      .map((row) => row.id)
  }

  /** Open tasks that a person follows and somebody else has, earlier due first. */
  followedBy(personId: string): readonly TaskRow[] {
    return this.db.orm
      .select({ task: tasks })
      .from(taskFollowers)
      .innerJoin(tasks, eq(tasks.id, taskFollowers.taskId))
      .where(
        and(eq(taskFollowers.personId, personId), eq(tasks.state, 'open'), sql`${tasks.assigneeId} IS NOT ${personId}`),
      )
      .orderBy(asc(tasks.due), asc(tasks.id))
      .limit(100)
      .all()
      .map((row) => row.task)
  }

  /** The title of a task that this step of the rule made for the record and that is still open. */
  openOf(ruleId: number, stepId: string, { object, id }: RecordRef, personId?: string): string | null {
    return this.open.get(object, id, ruleId, stepId, personId ?? null)?.title ?? null
  }

  get(id: number): TaskRow | null {
    return this.db.orm.select().from(tasks).where(eq(tasks.id, id)).get() ?? null
  }

  /** Open tasks that ask a person something, earlier due first, and no more than so many. */
  askedOf(personId: string, most: number): readonly (TaskRow & { readonly asks: TaskAsks })[] {
    return this.db.orm
      .select()
      .from(tasks)
      .where(and(eq(tasks.assigneeId, personId), eq(tasks.state, 'open'), isNotNull(tasks.asks)))
      .orderBy(asc(tasks.due), asc(tasks.id))
      .limit(most)
      .all()
      .flatMap((task) => (task.asks ? [{ ...task, asks: task.asks }] : []))
  }

  /** Open tasks of a person in the order of the day: earlier due first, then by priority, then as they came. */
  openFor(personId: string, until: string): readonly TaskRow[] {
    const weight = sql`case ${tasks.priority} when 'high' then 0 when 'normal' then 1 else 2 end`
    return this.db.orm
      .select()
      .from(tasks)
      .where(and(eq(tasks.assigneeId, personId), eq(tasks.state, 'open'), lte(tasks.due, until)))
      .orderBy(asc(tasks.due), asc(weight), asc(tasks.id))
      .limit(500)
      .all()
  }

  /** How many open tasks people have by the day they are due, within some days. */
  openByDay(
    from: string,
    to: string,
  ): readonly { readonly personId: string; readonly due: string; readonly n: number }[] {
    return this.db.orm
      .select({ personId: tasks.assigneeId, due: tasks.due, n: sql<number>`count(*)` })
      .from(tasks)
      .where(and(eq(tasks.state, 'open'), sql`${tasks.due} between ${from} and ${to}`))
      .groupBy(tasks.assigneeId, tasks.due)
      .all()
      .flatMap(({ personId, due, n }) => (personId === null ? [] : [{ personId, due, n }]))
  }

  /** Open tasks in the queue of a team that nobody has taken yet, in the same order. */
  queued(team: string): readonly TaskRow[] {
    const weight = sql`case ${tasks.priority} when 'high' then 0 when 'normal' then 1 else 2 end`
    return this.db.orm
      .select()
      .from(tasks)
      .where(and(eq(tasks.queue, team), eq(tasks.state, 'open'), isNull(tasks.assigneeId)))
      .orderBy(asc(tasks.due), asc(weight), asc(tasks.id))
      .limit(200)
      .all()
  }

  /** Takes a task out of its queue; answers whether it was still there to be taken. */
  pull(id: number, personId: string, nowMs: number): boolean {
    const taken =
      this.db.orm
        .update(tasks)
        .set({ assigneeId: personId })
        .where(and(eq(tasks.id, id), isNull(tasks.assigneeId), eq(tasks.state, 'open')))
        .run().changes > 0
    if (taken) this.note(id, personId, 'pulled', '', nowMs)
    return taken
  }

  /** Puts a task that somebody took back into its queue. */
  putBack(id: number, personId: string, nowMs: number): void {
    this.db.orm.update(tasks).set({ assigneeId: null }).where(eq(tasks.id, id)).run()
    this.note(id, personId, 'returned', '', nowMs)
  }

  /** The earliest reminder that is due by an instant. */
  firstReminder(untilMs: number): { readonly taskId: number; readonly dueMs: number } | null {
    return this.reminding.get(untilMs) ?? null
  }

  /** Reminders that are still to come. */
  reminders(afterMs: number): readonly (Reminder & { readonly ref: RecordRef })[] {
    return this.db.orm
      .select({ taskId: tasks.id, dueMs: sql<number>`${tasks.remindAt}`, object: tasks.object, id: tasks.recordId })
      .from(tasks)
      .where(and(gt(tasks.remindAt, afterMs), eq(tasks.state, 'open')))
      .all()
      .map(({ object, id, ...reminder }) => ({ ...reminder, ref: { object, id } }))
  }

  remindAt(id: number, atMs: number): void {
    this.db.orm.update(tasks).set({ remindAt: atMs }).where(eq(tasks.id, id)).run()
  }

  /** It has been reminded of, or nobody needs to be any more. */
  reminded(id: number): void {
    this.db.orm.update(tasks).set({ remindAt: null }).where(eq(tasks.id, id)).run()
  }

  doneBy(personId: string, sinceMs: number): readonly TaskRow[] {
    return this.db.orm
      .select()
      .from(tasks)
      .where(and(eq(tasks.doneBy, personId), eq(tasks.state, 'done'), sql`${tasks.doneAt} >= ${sinceMs}`))
      .orderBy(desc(tasks.doneAt))
      .limit(100)
      .all()
  }

  /** Newest first. `before` is the id of the last task of the page before; `people` the assignees that may be seen. */
  list(filter: {
    readonly people: readonly string[] | null
    /** Only those that lie in the queue of a team. */ readonly queue?: string | undefined
    readonly state?: TaskRow['state'] | undefined
    readonly ruleId?: number | undefined
    readonly before: number | null
    readonly limit: number
  }): readonly TaskRow[] {
    return this.db.orm
      .select()
      .from(tasks)
      .where(
        and(
          filter.queue !== undefined
            ? and(eq(tasks.queue, filter.queue), isNull(tasks.assigneeId))
            : filter.people === null
              ? undefined
              : inArray(tasks.assigneeId, [...filter.people]),
          filter.state === undefined ? undefined : eq(tasks.state, filter.state),
          filter.ruleId === undefined ? undefined : eq(tasks.ruleId, filter.ruleId),
          filter.before === null ? undefined : lt(tasks.id, filter.before),
        ),
      )
      .orderBy(desc(tasks.id))
      .limit(filter.limit)
      .all()
  }

  /** How many tasks of a person are open. */
  openCount(personId: string): number {
    return this.counting.get(personId)?.n ?? 0
  }

  openCounts(): ReadonlyMap<string, number> {
    const rows = this.db.orm
      .select({ id: tasks.assigneeId, n: sql<number>`count(*)` })
      .from(tasks)
      .where(eq(tasks.state, 'open'))
      .groupBy(tasks.assigneeId)
      .all()
    return new Map(rows.flatMap((row) => (row.id === null ? [] : [[row.id, row.n] as const])))
  }

  ofRecord({ object, id }: RecordRef): readonly TaskRow[] {
    return this.db.orm
      .select()
      .from(tasks)
      .where(and(eq(tasks.object, object), eq(tasks.recordId, id)))
      .orderBy(desc(tasks.id))
      .limit(200)
      .all()
  }

  /** Gives all tasks of a record, or those of some numbers among them, to another record; answers their numbers. */
  moveTo(from: RecordRef, to: RecordRef, ids: readonly number[] | null = null): readonly number[] {
    return this.db.orm
      .update(tasks)
      .set({ recordId: to.id })
      .where(
        and(
          eq(tasks.object, from.object),
          eq(tasks.recordId, from.id),
          ids === null ? undefined : inArray(tasks.id, [...ids]),
        ),
      )
      .returning({ id: tasks.id })
      .all()
      .map((row) => row.id)
  }

  ofRun(runId: number): readonly TaskRow[] {
    return this.db.orm.select().from(tasks).where(eq(tasks.runId, runId)).all()
  }

  finish(id: number, personId: string, outcome: string, nowMs: number): void {
    this.db.orm
      .update(tasks)
      .set({ state: 'done', outcome, doneAt: nowMs, doneBy: personId })
      .where(eq(tasks.id, id))
      .run()
    this.note(id, personId, 'done', outcome, nowMs)
  }

  /** Something outside has done it, and no person. */
  finishAlone(id: number, outcome: string, nowMs: number): void {
    this.db.orm.update(tasks).set({ state: 'done', outcome, doneAt: nowMs }).where(eq(tasks.id, id)).run()
  }

  /** Withdraws an open task that asks something; answers what it asked. */
  callOff(id: number): TaskAsks | null {
    const [row] = this.db.orm
      .update(tasks)
      .set({ state: 'withdrawn', remindAt: null })
      .where(and(eq(tasks.id, id), eq(tasks.state, 'open'), isNotNull(tasks.asks)))
      .returning({ asks: tasks.asks })
      .all()
    return row?.asks ?? null
  }

  /** It has to be tried again: from when on, and what is asked then. */
  tryAgain(
    id: number,
    personId: string | null,
    asks: TaskAsks,
    due: string,
    remindAt: number | null,
    said: string,
    nowMs: number,
  ): void {
    this.db.orm.update(tasks).set({ asks, due, remindAt }).where(eq(tasks.id, id)).run()
    if (personId !== null) this.note(id, personId, 'tried', said, nowMs)
  }

  /** The newest open task that a step of a run gave somebody. */
  openOfStep(runId: number, stepId: string, personId: string): TaskRow | null {
    return (
      this.db.orm
        .select()
        .from(tasks)
        .where(
          and(
            eq(tasks.runId, runId),
            eq(tasks.stepId, stepId),
            eq(tasks.assigneeId, personId),
            eq(tasks.state, 'open'),
          ),
        )
        .orderBy(desc(tasks.id))
        .limit(1)
        .get() ?? null
    )
  }

  /** The run that made it was taken back. */
  withdraw(id: number, personId: string, nowMs: number): void {
    this.withdrawing.run(id)
    this.noting({ taskId: id, atMs: nowMs, personId, act: 'withdrawn', detail: '' })
  }

  /** Whether a task is open, and whether anybody has worked with it; `null` when there is none such. */
  standing(id: number): { readonly open: boolean; readonly touched: boolean } | null {
    const row = this.looking.get(id)
    return row ? { open: row.state === 'open', touched: row.acts > 0 } : null
  }

  reopen(id: number, personId: string, nowMs: number): void {
    this.db.orm
      .update(tasks)
      .set({ state: 'open', outcome: '', doneAt: null, doneBy: null })
      .where(eq(tasks.id, id))
      .run()
    this.note(id, personId, 'reopened', '', nowMs)
  }

  postpone(id: number, personId: string, due: string, nowMs: number): void {
    this.db.orm.update(tasks).set({ due }).where(eq(tasks.id, id)).run()
    this.note(id, personId, 'postponed', due, nowMs)
  }

  handOver(id: number, personId: string, assigneeId: string, nowMs: number): void {
    this.db.orm.update(tasks).set({ assigneeId }).where(eq(tasks.id, id)).run()
    this.note(id, personId, 'handedOver', assigneeId, nowMs)
  }

  acts(taskId: number): readonly TaskActRow[] {
    return this.db.orm.select().from(taskActs).where(eq(taskActs.taskId, taskId)).orderBy(asc(taskActs.id)).all()
  }

  /** What people did with some tasks, in order, by the task. */
  actsOf(taskIds: readonly number[]): ReadonlyMap<number, readonly TaskActRow[]> {
    const found = new Map<number, TaskActRow[]>()
    if (taskIds.length === 0) return found
    const rows = this.db.orm
      .select()
      .from(taskActs)
      .where(sql`${taskActs.taskId} in (select value from json_each(${JSON.stringify(taskIds)}))`)
      .orderBy(asc(taskActs.id))
      .all()
    for (const row of rows) {
      const known = found.get(row.taskId)
      if (known) known.push(row)
      else found.set(row.taskId, [row])
    }
    return found
  }

  private note(taskId: number, personId: string, act: TaskActRow['act'], detail: string, atMs: number): void {
    this.db.orm.insert(taskActs).values({ taskId, atMs, personId, act, detail }).run()
  }
}
