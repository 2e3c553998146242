import { CALL_OUTCOMES } from '../../core/asks/call'
import type { ObjectKind } from '../../core/records/kinds'
import type { Breakdown } from '../../core/results/figures'
import type { ListedFigure } from '../../core/results/figure-names'
import { addMonths, dateAt, instantOf } from '../../core/time/dates'
import type { Db } from '../db/connect'

/** Which rows are asked for: those that one figure counts. */
export interface FigureRowsAsked {
  readonly ruleId: number
  readonly figure: ListedFigure
  /** For the target: its key, and whether it is about those left alone. */
  readonly key: string
  readonly alone: boolean
  /** The kind of an answer, the outcome of a call. */
  readonly of: string
  /** Only within one value of a breakdown. */
  readonly by: Breakdown | null
  readonly value: string
  readonly nowMs: number
  readonly zone: string
}

/** What stands behind a figure. */
export interface FigureRow {
  readonly id: number
  readonly object: ObjectKind
  readonly recordId: number
  readonly runId: number | null
  readonly atMs: number
  readonly text: string
  readonly reachedAt: number | null
}

interface Source {
  readonly select: string
  readonly table: string
  /** What the figure counts, in SQL over `one`. */
  readonly where: string
  /** When it is counted, and by which columns it is broken down. */
  readonly at: string
  readonly by: Partial<Readonly<Record<Breakdown, string>>>
}

const TASKS = {
  select:
    'one.run_id AS runId, one.created_at AS atMs, one.title AS text, NULL AS reachedAt, one.due, one.done_at AS done',
  table: 'tasks',
  at: 'one.created_at',
  by: { owner: "coalesce(one.assignee_id, '') = @value" },
} as const
const OUT = {
  select: 'one.run_id AS runId, one.at_ms AS atMs, one.subject AS text, NULL AS reachedAt',
  table: 'messages',
  at: 'one.at_ms',
  by: { label: 'one.label = @value', template: 'one.template_id = CAST(@value AS INTEGER)' },
} as const
const MEASURES = {
  select: "one.run_id AS runId, one.at_ms AS atMs, '' AS text, one.reached_at AS reachedAt",
  table: 'measures',
  at: 'one.at_ms',
  by: {
    owner: "coalesce(one.owner_id, '') = @value",
    version: 'one.version_id = CAST(@value AS INTEGER)',
    label: 'EXISTS (SELECT 1 FROM json_each(one.labels) AS l WHERE l.value = @value)',
    branch: `(SELECT w.value ->> '$.branch' FROM run_steps AS s, json_each(s.result, '$.wrote') AS w
      WHERE s.run_id = one.run_id AND w.value ->> '$.what' = 'way' ORDER BY s.position LIMIT 1) = @value`,
  },
} as const
const RUNS = {
  select: "one.id AS runId, one.started_at AS atMs, '' AS text, NULL AS reachedAt",
  table: 'runs',
  at: 'one.started_at',
  by: { version: 'one.version_id = CAST(@value AS INTEGER)' },
} as const

const MEASURED = 'one.undone = 0 AND one.key = @key AND one.alone = @alone'
const OVER = `${MEASURED} AND one.already = 0 AND one.until_ms <= @now`
const tasks = (where: string): Source => ({ ...TASKS, where })
const out = (where: string): Source => ({ ...OUT, where: `one.way = 'out' AND ${where}` })
const measures = (where: string): Source => ({ ...MEASURES, where })

/** As `ResultStore` counts them: each row that a figure counts stands behind it, and no other. */
const SOURCES: Readonly<Record<ListedFigure, Source>> = {
  reached: measures(`${OVER} AND one.reached_at IS NOT NULL`),
  missed: measures(`${OVER} AND one.reached_at IS NULL`),
  through: measures(OVER),
  within: measures(`${MEASURED} AND one.already = 0 AND one.until_ms > @now`),
  already: measures(`${MEASURED} AND one.already = 1`),
  runs: {
    ...RUNS,
    where: "one.undone_at IS NULL AND (one.state <> 'stopped' OR one.stop ->> '$.code' IN ('noLonger', 'ended'))",
  },
  tasksMade: tasks('1'),
  tasksDone: tasks("one.state = 'done' AND one.done_at IS NOT NULL"),
  tasksLate: tasks("one.state = 'done' AND one.done_at IS NOT NULL"),
  tasksPostponed: tasks("EXISTS (SELECT 1 FROM task_acts AS a WHERE a.task_id = one.id AND a.act = 'postponed')"),
  tasksWithdrawn: tasks("one.state = 'withdrawn'"),
  sent: out("one.state IN ('sent', 'bounced')"),
  answered: out('one.answered_at IS NOT NULL'),
  bounced: out("one.state = 'bounced'"),
  failed: out("one.state = 'failed'"),
  optedOut: out('one.opted_out_at IS NOT NULL'),
  answer: { ...OUT, where: "one.way = 'in' AND coalesce(one.kind, 'other') = @of" },
  // The words of an outcome are what a person reads and what is kept; they begin what the task says.
  call: tasks(
    "one.state = 'done' AND one.done_at IS NOT NULL AND one.asks ->> '$.about' = 'call' AND substr(one.outcome, 1, length(@said)) = @said",
  ),
}

/** The rows that figures count, a page at a time. */
export class FigureRowStore {
  constructor(private readonly db: Db) {}

  /**
   * Newest first; behind `before`, the last of the page before.
   *
   * @returns `null` where the figure is not broken down so
   */
  page(asked: FigureRowsAsked, before: number | null, limit: number): readonly FigureRow[] | null {
    const { ruleId, figure, key, alone, of, by, value, nowMs, zone } = asked
    const { select, table, where, at, by: columns } = SOURCES[figure]
    const only = by === null ? '1' : by === 'month' ? `${at} >= @from AND ${at} < @to` : columns[by]
    if (only === undefined) return null
    const [from, to] = by === 'month' ? monthOf(value, zone) : [0, 0]
    const said = CALL_OUTCOMES.find(({ id }) => id === of)?.label ?? null
    const ask = this.db.sqlite.prepare<[object], FigureRow & { readonly due?: string; readonly done?: number }>(
      `SELECT one.id, one.object, one.record_id AS recordId, ${select} FROM ${table} AS one
        WHERE one.rule_id = @rule AND one.id < @before AND (${where}) AND (${only}) ORDER BY one.id DESC LIMIT @limit`,
    )
    const bound = { rule: ruleId, key, alone: alone ? 1 : 0, of, said, value, now: nowMs, from, to }
    const found: FigureRow[] = []
    for (let last = before ?? Number.MAX_SAFE_INTEGER; found.length < limit;) {
      const rows = ask.all({ ...bound, before: last, limit })
      for (const { due, done, ...row } of rows)
        // How late something was is told by the days of a zone, which SQL does not know.
        if (figure !== 'tasksLate' || (done !== undefined && due !== undefined && dateAt(done, zone) > due))
          found.push(row)
      if (rows.length < limit) break
      last = rows.at(-1)?.id ?? 0
    }
    return found.slice(0, limit)
  }
}

/** The instants at which a month begins, and the next one. */
function monthOf(month: string, zone: string): readonly [number, number] {
  const first = `${month}-01`
  return [instantOf(first, 0, 0, zone), instantOf(addMonths(first, 1), 0, 0, zone)]
}
