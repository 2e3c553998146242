import type { RecordRef } from '../../core/records/kinds'
import type { Rehearsal } from '../../core/rehearsal/rehearse'
import { compareResults, type Compared } from '../../core/rehearsal/compare'
import { resultOf, type RehearsalResult, type RehearsedRun, type RehearsedTask } from '../../core/rehearsal/result'
import { setUpRehearsal, type Wanted } from '../engine/rehearsal'
import type { Workspace } from '../engine/workspace'
import type { RehearsalState } from './protocol'

/** Rehearsals and what came of them stay in the thread that made them; screens ask for the part that they show. */

interface Kept {
  readonly result: RehearsalResult
  readonly compared: Compared | null
}

const kept = new Map<number, Kept>()
const ended = new Set<number>()
const KEPT_MOST = 12
/** So long it goes on before it looks whether somebody wants it to stop. */
const PIECE_MS = 40

export function endRehearsal(id: number): void {
  ended.add(id)
}

/** Makes what runs rehearsals, one after the other. The records are those of the moment at which each begins. */
export function rehearsing(workspace: Workspace, tell: (told: { readonly id: number; readonly state: RehearsalState; readonly progress: number; readonly text: string }) => void): (id: number, wanted: Wanted, other: Wanted | null) => Promise<void> {
  let queue: Promise<void> = Promise.resolve()
  return (id, wanted, other) => (queue = queue.then(() => work(id, wanted, other)))

  async function work(id: number, wanted: Wanted, other: Wanted | null): Promise<void> {
    const { sqlite } = workspace.db
    try {
      workspace.keepUp()
      // One transaction that only reads: what others commit meanwhile is not seen.
      sqlite.exec('BEGIN')
      const first = await through(id, wanted, 0, other ? 0.5 : 1)
      const second = other && !ended.has(id) ? await through(id, other, 0.5, 0.5) : null
      const result = resultOf(first, first.startMs)
      kept.set(id, { result, compared: second && compareResults(result, resultOf(second, second.startMs), workspace.catalogue().workspace.zone) })
      for (const old of [...kept.keys()].slice(0, -KEPT_MOST)) kept.delete(old)
      tell({ id, state: ended.has(id) ? 'stopped' : 'done', progress: 1, text: '' })
    } catch (error) {
      tell({ id, state: 'failed', progress: 1, text: error instanceof Error ? error.message : String(error) })
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
      if (performance.now() - told > 200) {
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
  readonly counts: { readonly runs: number; readonly tasks: number; readonly sends: number; readonly notices: number; readonly records: number }
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
  readonly hue: string
  readonly state: string
  readonly say: string
  readonly task: RehearsedTask | null
}

/** A part of what came of a rehearsal; `null` when it is not there any more. */
export function rehearsalView(workspace: Workspace, { id, ref, day, ownerId, limit }: RehearsalQuery): RehearsalView | null {
  const found = kept.get(id)
  if (!found) return null
  const { runs, tasks, sends, notices, writes: _w, ...rest } = found.result
  const { zone } = workspace.catalogue().workspace
  const taskOf = new Map(tasks.map((task) => [`${task.runId} ${task.stepId} ${task.atMs}`, task]))
  const lines: RehearsalLine[] = []
  for (const run of runs) if (!ref || (run.ref.object === ref.object && run.ref.id === ref.id)) lines.push(...linesOf(run))
  const dayOf = new Intl.DateTimeFormat('en-CA', { timeZone: zone, year: 'numeric', month: '2-digit', day: '2-digit' })
  const shown = lines.filter((line) => (day === null || dayOf.format(line.atMs) === day) && (ownerId === null || line.task?.assigneeId === ownerId)).sort((a, b) => a.atMs - b.atMs || a.runId - b.runId || a.key.localeCompare(b.key, 'en', { numeric: true }))
  return {
    ...rest, counts: { runs: runs.length, tasks: tasks.length, sends: sends.length, notices: notices.length, records: new Set(runs.map((run) => `${run.ref.object} ${run.ref.id}`)).size },
    lines: shown.slice(0, limit), total: shown.length, compared: found.compared,
  }

  function linesOf(run: RehearsedRun): readonly RehearsalLine[] {
    const of = { runId: run.id, ruleId: run.ruleId, ruleName: run.ruleName, ref: run.ref, recordName: run.recordName }
    return [
      { ...of, key: `${run.id} 0`, atMs: run.atMs, label: '', kind: 'start', hue: '', state: run.state, say: run.because, task: null },
      ...run.steps.map((step, i): RehearsalLine => ({ ...of, key: `${run.id} ${i + 1}`, atMs: step.atMs, label: step.label, kind: 'step', hue: step.hue, state: step.state, say: step.say, task: taskOf.get(`${run.id} ${step.stepId} ${step.atMs}`) ?? null })),
      ...(run.stop === null ? [] : [{ ...of, key: `${run.id} 9999`, atMs: run.steps.at(-1)?.atMs ?? run.atMs, label: '', kind: 'end' as const, hue: 'stop', state: run.state, say: run.stop, task: null }]),
    ]
  }
}
