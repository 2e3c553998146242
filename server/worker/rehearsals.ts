import type { RecordRef } from '../../core/records/kinds'
import type { Rehearsal } from '../../core/rehearsal/rehearse'
import { forecastOf, type Forecast } from '../../core/rehearsal/forecast'
import { compareResults, type Compared } from '../../core/rehearsal/compare'
import {
  resultOf,
  sheetOf,
  type RehearsalResult,
  type RehearsedRun,
  type RehearsedSheet,
  type RehearsedTask,
} from '../../core/rehearsal/result'
import { setUpRehearsal, type Wanted } from '../engine/rehearsal'
import { addDays, dateAt, daysBetween } from '../../core/time/dates'
import type { Workspace } from '../engine/workspace'
import type { RehearsalState } from './rehearsal-state'

/** Rehearsals and what came of them stay in the thread that made them; screens ask for the part that they show. */

/** Tasks that rules will make, by owner and day. */
export interface Load {
  readonly atMs: number
  readonly days: readonly string[]
  readonly owners: readonly { readonly id: string; readonly counts: readonly number[] }[]
}

interface Kept {
  /** The records as they were left; given up sooner than what it came to. */
  rehearsal: Rehearsal | null
  readonly result: RehearsalResult
  readonly compared: Compared | null
}

const kept = new Map<number, Kept>()
const forecasts = new Map<number, Forecast>()
const ended = new Set<number>()
const KEPT_MOST = 12
const WORLDS_MOST = 3
/** So long it goes on before it looks whether somebody wants it to stop. */
const PIECE_MS = 40

export function endRehearsal(id: number): void {
  ended.add(id)
}

/** Makes what runs rehearsals, one after the other. The records are those of the moment at which each begins. */
export function rehearsing(
  workspace: Workspace,
  tell: (told: {
    readonly id: number
    readonly state: RehearsalState
    readonly progress: number
    readonly text: string
  }) => void,
): {
  readonly rehearse: (id: number, wanted: Wanted, other: Wanted | null) => Promise<void>
  readonly load: (days: number) => Promise<Load>
} {
  let queue: Promise<unknown> = Promise.resolve()
  const inTurn = <T>(job: () => Promise<T>): Promise<T> => {
    const done = queue.then(job)
    queue = done.catch(() => undefined)
    return done
  }
  return {
    rehearse: (id, wanted, other) => inTurn(() => work(id, wanted, other)),
    load: (days) => inTurn(() => foretell(days)),
  }

  async function work(id: number, wanted: Wanted, other: Wanted | null): Promise<void> {
    const { sqlite } = workspace.db
    try {
      workspace.keepUp()
      // One transaction that only reads: what others commit meanwhile is not seen.
      sqlite.exec('BEGIN')
      const first = await through(id, wanted, 0, other ? 0.5 : 1)
      if (wanted.forecast) {
        const { object } = wanted
        forecasts.set(id, forecastOf(first, object, workspace.store.records.count(object)))
        for (const old of [...forecasts.keys()].slice(0, -KEPT_MOST)) forecasts.delete(old)
        tell({ id, state: ended.has(id) ? 'stopped' : 'done', progress: 1, text: '' })
        return
      }
      const second = other && !ended.has(id) ? await through(id, other, 0.5, 0.5) : null
      const result = resultOf(first, first.startMs)
      kept.set(id, {
        rehearsal: first,
        result,
        compared:
          second && compareResults(result, resultOf(second, second.startMs), workspace.catalogue().workspace.zone),
      })
      for (const old of [...kept.keys()].slice(0, -KEPT_MOST)) kept.delete(old)
      for (const old of [...kept.values()].slice(0, -WORLDS_MOST)) old.rehearsal = null
      tell({ id, state: ended.has(id) ? 'stopped' : 'done', progress: 1, text: '' })
    } catch (error) {
      tell({ id, state: 'failed', progress: 1, text: error instanceof Error ? error.message : String(error) })
    } finally {
      if (sqlite.inTransaction) sqlite.exec('COMMIT')
    }
  }

  /** The tasks that rules which run now will make, by whoever gets them and the day on which they are due. */
  async function foretell(days: number): Promise<Load> {
    workspace.keepUp()
    const nowMs = workspace.clock.nowMs()
    const { sqlite } = workspace.db
    sqlite.exec('BEGIN')
    try {
      const rules = workspace.store.rules
        .all()
        .flatMap(({ id, state, version }) =>
          state === 'on' && version ? [{ ruleId: id, document: version.document }] : [],
        )
      const rehearsal = await through(
        0,
        { rules, object: 'deal', ids: null, filter: null, days, back: false, script: [] },
        0,
        0,
      )
      const first = dateAt(nowMs, workspace.catalogue().workspace.zone)
      const counts = new Map<string, number[]>()
      for (const { assigneeId, due } of rehearsal.world.tasks) {
        const i = daysBetween(first, due)
        if (assigneeId === null || i < 0 || i >= days) continue
        const own = counts.get(assigneeId) ?? Array.from({ length: days }, () => 0)
        counts.set(assigneeId, own)
        own[i] = (own[i] ?? 0) + 1
      }
      return {
        atMs: nowMs,
        days: Array.from({ length: days }, (_, i) => addDays(first, i)),
        owners: [...counts].map(([id, own]) => ({ id, counts: own })),
      }
    } finally {
      if (sqlite.inTransaction) sqlite.exec('COMMIT')
    }
  }

  async function through(id: number, wanted: Wanted, from: number, share: number): Promise<Rehearsal> {
    const rehearsal = setUpRehearsal(workspace, wanted)
    let told = 0
    for (;;) {
      const until = performance.now() + PIECE_MS
      if (rehearsal.goOn(() => performance.now() >= until) || ended.has(id)) return rehearsal
      if (share > 0 && performance.now() - told > 200) {
        told = performance.now()
        tell({ id, state: 'running', progress: from + share * rehearsal.progress(), text: '' })
      }
      await new Promise((resolve) => setImmediate(resolve))
    }
  }
}

export interface RehearsalQuery {
  readonly id: number
  /** Only what happens to this record. */
  readonly ref: RecordRef | null
  readonly day: string | null
  readonly ownerId: string | null
  readonly limit: number
}

/** What a screen shows of a rehearsal. */
export interface RehearsalView extends Omit<RehearsalResult, 'runs' | 'tasks' | 'sends' | 'notices' | 'writes'> {
  readonly counts: {
    readonly runs: number
    readonly tasks: number
    readonly sends: number
    readonly notices: number
    readonly records: number
  }
  /** In the order in which things happen. */
  readonly lines: readonly RehearsalLine[]
  readonly total: number
  readonly compared: Compared | null
}

export interface RehearsalLine {
  readonly key: string
  readonly atMs: number
  readonly runId: number
  readonly ruleId: number
  readonly ruleName: string
  readonly ref: RecordRef
  readonly recordName: string
  /** "3a2", as on the sheet; empty for the start and the end of a run. */
  readonly label: string
  readonly kind: 'start' | 'step' | 'end'
  readonly category: string
  readonly state: string
  readonly say: string
  readonly task: RehearsedTask | null
}

/** What a forecast came to; `null` when it is not there, or not any more. */
export const forecastView = (_workspace: Workspace, id: number): Forecast | null => forecasts.get(id) ?? null

/** One run of a rehearsal as its sheet; `null` when it is not there, or not any more. */
export function rehearsedSheet(
  _workspace: Workspace,
  { id, run }: { readonly id: number; readonly run: number },
): RehearsedSheet | null {
  const found = kept.get(id)
  return found?.rehearsal ? sheetOf(found.rehearsal, found.result, run) : null
}

/** A part of what came of a rehearsal; `null` when it is not there any more. */
export function rehearsalView(
  workspace: Workspace,
  { id, ref, day, ownerId, limit }: RehearsalQuery,
): RehearsalView | null {
  const found = kept.get(id)
  if (!found) return null
  const { runs, tasks, sends, notices, writes: _w, ...rest } = found.result
  const { zone } = workspace.catalogue().workspace
  const taskOf = new Map(tasks.map((task) => [`${task.runId} ${task.stepId} ${task.atMs}`, task]))
  const lines: RehearsalLine[] = []
  for (const run of runs)
    if (!ref || (run.ref.object === ref.object && run.ref.id === ref.id)) lines.push(...linesOf(run))
  const dayOf = new Intl.DateTimeFormat('en-CA', { timeZone: zone, year: 'numeric', month: '2-digit', day: '2-digit' })
  const shown = lines
    .filter(
      (line) =>
        (day === null || dayOf.format(line.atMs) === day) && (ownerId === null || line.task?.assigneeId === ownerId),
    )
    .sort((a, b) => a.atMs - b.atMs || a.runId - b.runId || a.key.localeCompare(b.key, 'en', { numeric: true }))
  return {
    ...rest,
    counts: {
      runs: runs.length,
      tasks: tasks.length,
      sends: sends.length,
      notices: notices.length,
      records: new Set(runs.map((run) => `${run.ref.object} ${run.ref.id}`)).size,
    },
    lines: shown.slice(0, limit),
    total: shown.length,
    compared: found.compared,
  }

  function linesOf(run: RehearsedRun): readonly RehearsalLine[] {
    const of = { runId: run.id, ruleId: run.ruleId, ruleName: run.ruleName, ref: run.ref, recordName: run.recordName }
    return [
      {
        ...of,
        key: `${run.id} 0`,
        atMs: run.atMs,
        label: '',
        kind: 'start',
        category: '',
        state: run.state,
        say: run.because,
        task: null,
      },
      ...run.steps.map((step, i): RehearsalLine => ({
        ...of,
        key: `${run.id} ${i + 1}`,
        atMs: step.atMs,
        label: step.label,
        kind: 'step',
        category: step.category,
        state: step.state,
        say: step.say,
        task: taskOf.get(`${run.id} ${step.stepId} ${step.atMs}`) ?? null,
      })),
      ...(run.stop === null
        ? []
        : [
            {
              ...of,
              key: `${run.id} 9999`,
              atMs: run.steps.at(-1)?.atMs ?? run.atMs,
              label: '',
              kind: 'end' as const,
              category: 'stop',
              state: run.state,
              say: run.stop,
              task: null,
            },
          ]),
    ]
  }
}
