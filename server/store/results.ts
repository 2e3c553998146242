import { and, eq, sql } from 'drizzle-orm'
import { CALL_OUTCOMES } from '../../core/asks/call'
import { addUp, Tally, type Figures, type PartKind } from '../../core/results/figures'
import { dateAt } from '../../core/time/dates'
import type { Db } from '../db/connect'
import { resultParts, resultTotals } from '../db/schema/watch'

/** So many rows, by their numbers, are counted together. */
const PART = 4096
const DAY_MS = 86_400_000

interface PartRef {
  readonly ruleId: number
  readonly kind: PartKind
  readonly part: number
}

/** When something is counted, and by which zone's months and days. */
interface Now {
  readonly nowMs: number
  readonly zone: string
}

/** Rows of a part; further conditions over the table, called `one`. */
type Counter = (db: Db, ref: PartRef, now: Now, only?: string, bound?: object) => Figures

/** Months of instants, remembered: very many rows ask for few of them. */
function monthsIn(zone: string): (atMs: number) => string {
  const known = new Map<number, string>()
  return (atMs) => {
    const hour = Math.floor(atMs / 3_600_000)
    let month = known.get(hour)
    if (month === undefined) known.set(hour, (month = dateAt(atMs, zone).slice(0, 7)))
    return month
  }
}

const rowsOf = <R>(db: Db, { ruleId, part }: PartRef, select: string, from: string, only = '1', bound: object = {}) =>
  db.sqlite
    .prepare<[object], R>(
      `SELECT ${select} FROM ${from} AS one WHERE one.rule_id = @rule AND one.id >= @first AND one.id < @behind AND (${only})`,
    )
    .all({ rule: ruleId, first: part * PART, behind: (part + 1) * PART, ...bound })

const COUNTERS: Readonly<Record<PartKind, Counter>> = {
  runs(db, ref, { zone }) {
    const tally = new Tally()
    const month = monthsIn(zone)
    // What conditions kept out is deleted with its age, and tells nothing of the good that a rule did.
    const rows = rowsOf<{ state: string; stop: string | null; version: number; at: number; undone: number | null }>(
      db,
      ref,
      "one.state, one.stop ->> '$.code' AS stop, one.version_id AS version, one.started_at AS at, one.undone_at AS undone",
      'runs',
      "one.state <> 'stopped' OR one.stop ->> '$.code' IN ('noLonger', 'ended', 'leftAlone')",
    )
    for (const { state, stop, version, at, undone } of rows) {
      if (stop === 'leftAlone') {
        tally.add(1, 'leftAlone')
        continue
      }
      if (undone !== null) {
        tally.add(1, 'undone')
        continue
      }
      tally.add(1, 'runs')
      tally.add(1, 'runs', 'version', version)
      tally.add(1, 'runs', 'month', month(at))
      if (state === 'failed') tally.add(1, 'runsFailed')
      if (state === 'waiting') tally.add(1, 'waiting')
    }
    return tally.figures()
  },

  measures(db, ref, { zone, nowMs }) {
    const tally = new Tally()
    const month = monthsIn(zone)
    const rows = rowsOf<{
      key: string
      alone: number
      already: number
      version: number
      owner: string | null
      labels: string
      branch: string | null
      at: number
      until: number
      reached: number | null
    }>(
      db,
      ref,
      `one.key, one.alone, one.already, one.version_id AS version, one.owner_id AS owner, one.labels, one.at_ms AS at,
       one.until_ms AS until, one.reached_at AS reached, (SELECT w.value ->> '$.branch' FROM run_steps AS s, json_each(s.result, '$.wrote') AS w
         WHERE s.run_id = one.run_id AND w.value ->> '$.what' = 'way' ORDER BY s.position LIMIT 1) AS branch`,
      'measures',
      'one.undone = 0',
    )
    for (const { key, alone, already, version, owner, labels, branch, at, until, reached } of rows) {
      const what = (name: string): string => `${key} ${alone === 1 ? 'alone ' : ''}${name}`
      if (already === 1) {
        tally.add(1, what('already'))
        continue
      }
      // Whoever still has time would only count where they were quick.
      if (until > nowMs) {
        tally.add(1, what('within'))
        if (reached !== null) tally.add(1, what('withinReached'))
        continue
      }
      for (const name of reached === null ? ['through'] : ['through', 'reached']) {
        tally.add(1, what(name))
        tally.add(1, what(name), 'month', month(at))
        tally.add(1, what(name), 'owner', owner ?? '')
        tally.add(1, what(name), 'version', version)
        for (const label of JSON.parse(labels) as readonly string[]) tally.add(1, what(name), 'label', label)
        if (branch !== null) tally.add(1, what(name), 'branch', branch)
      }
      if (reached !== null) tally.add(1, what('reached'), 'days', Math.floor((reached - at) / DAY_MS))
    }
    return tally.figures()
  },

  tasks(db, ref, { zone }) {
    const tally = new Tally()
    const month = monthsIn(zone)
    const rows = rowsOf<{
      state: string
      owner: string | null
      due: string
      made: number
      done: number | null
      outcome: string
      asks: string | null
      postponed: number
    }>(
      db,
      ref,
      `one.state, one.assignee_id AS owner, one.due, one.created_at AS made, one.done_at AS done, one.outcome,
       one.asks ->> '$.about' AS asks,
       EXISTS (SELECT 1 FROM task_acts AS a WHERE a.task_id = one.id AND a.act = 'postponed') AS postponed`,
      'tasks',
    )
    for (const { state, owner, due, made, done, outcome, asks, postponed } of rows) {
      const is: string[] = ['tasksMade']
      if (state === 'done' && done !== null) {
        is.push('tasksDone')
        if (dateAt(done, zone) > due) is.push('tasksLate')
        tally.add(done - made, 'tasksMs')
        tally.add(done - made, 'tasksMs', 'owner', owner ?? '')
        const call = asks === 'call' ? CALL_OUTCOMES.find(({ label }) => outcome.startsWith(label)) : undefined
        if (call) is.push(`call ${call.id}`)
      }
      if (state === 'withdrawn') is.push('tasksWithdrawn')
      if (postponed === 1) is.push('tasksPostponed')
      for (const name of is) {
        tally.add(1, name)
        tally.add(1, name, 'owner', owner ?? '')
        tally.add(1, name, 'month', month(made))
      }
    }
    return tally.figures()
  },

  messages(db, ref, { zone }, only, bound) {
    const tally = new Tally()
    const month = monthsIn(zone)
    const rows = rowsOf<{
      way: string
      state: string
      label: string
      template: number | null
      at: number
      answered: number | null
      out: number | null
      kind: string | null
    }>(
      db,
      ref,
      `one.way, one.state, one.label, one.template_id AS template, one.at_ms AS at, one.answered_at AS answered,
       one.opted_out_at AS "out", one.kind`,
      'messages',
      only,
      bound,
    )
    for (const { way, state, label, template, at, answered, out, kind } of rows) {
      const is =
        way === 'in'
          ? [`answer ${kind ?? 'other'}`]
          : [
              ...(state === 'sent' || state === 'bounced' ? ['sent'] : []),
              ...(state === 'bounced' || state === 'failed' ? [state] : []),
              ...(answered === null ? [] : ['answered']),
              ...(out === null ? [] : ['optedOut']),
            ]
      for (const name of is) {
        tally.add(1, name)
        tally.add(1, name, 'month', month(at))
        if (label !== '') tally.add(1, name, 'label', label)
        if (template !== null) tally.add(1, name, 'template', template)
      }
    }
    return tally.figures()
  },
}

/** Figures of rules, counted in parts in the background. */
export class ResultStore {
  private readonly stale
  private readonly anyStale

  constructor(private readonly db: Db) {
    this.stale = db.sqlite.prepare<[], PartRef>(
      'SELECT rule_id AS ruleId, kind, part FROM result_parts WHERE stale = 1 ORDER BY rule_id LIMIT 1',
    )
    this.anyStale = db.sqlite.prepare<[], number>('SELECT 1 FROM result_parts WHERE stale = 1 LIMIT 1').pluck()
  }

  anythingStale(): boolean {
    return this.anyStale.get() !== undefined
  }

  /**
   * Counts one part anew, and its rule’s sum with the last of its parts. Belongs into a transaction of its own: what
   * changes meanwhile has to be behind it.
   *
   * @returns the rule; `null` when nothing is left
   */
  countSome(now: Now): number | null {
    const ref = this.stale.get()
    if (!ref) return null
    const { ruleId, kind, part } = ref
    const is = and(eq(resultParts.ruleId, ruleId), eq(resultParts.kind, kind), eq(resultParts.part, part))
    const gone = this.db.orm.select({ gone: resultParts.gone }).from(resultParts).where(is).get()?.gone
    const figures = addUp([COUNTERS[kind](this.db, ref, now), gone ?? {}])
    this.db.orm.update(resultParts).set({ stale: false, figures }).where(is).run()
    const more = this.db.sqlite
      .prepare('SELECT 1 FROM result_parts WHERE rule_id = ? AND stale = 1 LIMIT 1')
      .get(ruleId)
    if (!more) this.sumUp(ruleId)
    return ruleId
  }

  private sumUp(ruleId: number): void {
    const parts = this.db.orm
      .select({ figures: resultParts.figures })
      .from(resultParts)
      .where(eq(resultParts.ruleId, ruleId))
      .all()
    const sum = addUp(parts.map(({ figures }) => figures ?? {}))
    this.db.orm
      .insert(resultTotals)
      .values({ ruleId, figures: sum })
      .onConflictDoUpdate({ target: resultTotals.ruleId, set: { figures: sum } })
      .run()
  }

  /**
   * Keeps what messages count that are about to be deleted with their age. Belongs into the transaction that does so.
   *
   * @param only which they are, in SQL over `one`
   */
  keepGone(only: string, bound: object, now: Now): void {
    const parts = this.db.sqlite
      .prepare<[object], PartRef>(
        `SELECT DISTINCT one.rule_id AS ruleId, 'messages' AS kind, one.id >> 12 AS part FROM messages AS one
          WHERE one.rule_id IS NOT NULL AND (${only})`,
      )
      .all(bound)
    for (const ref of parts) {
      const is = and(
        eq(resultParts.ruleId, ref.ruleId),
        eq(resultParts.kind, 'messages'),
        eq(resultParts.part, ref.part),
      )
      const before = this.db.orm.select({ gone: resultParts.gone }).from(resultParts).where(is).get()?.gone
      const gone = addUp([before ?? {}, COUNTERS.messages(this.db, ref, now, only, bound)])
      this.db.orm.update(resultParts).set({ gone, stale: true }).where(is).run()
    }
  }

  /** The day has turned: the time of some that were within it may be over. */
  markWithin(): void {
    this.db.sqlite
      .prepare("UPDATE result_parts SET stale = 1 WHERE kind = 'measures' AND stale = 0 AND figures LIKE '%within%'")
      .run()
  }

  of(ruleId: number): Figures {
    return (
      this.db.orm
        .select({ figures: resultTotals.figures })
        .from(resultTotals)
        .where(eq(resultTotals.ruleId, ruleId))
        .get()?.figures ?? {}
    )
  }

  all(): ReadonlyMap<number, Figures> {
    return new Map(
      this.db.orm
        .select()
        .from(resultTotals)
        .orderBy(sql`rule_id`)
        .all()
        .map(({ ruleId, figures }) => [ruleId, figures]),
    )
  }
}
