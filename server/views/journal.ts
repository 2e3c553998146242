import type { Seen } from '../../core/conditions/compile'
import { sayStepRecord } from '../../core/engine/say-run'
import { sayStop, type RunState, type StepRecord } from '../../core/engine/world'
import { fieldWord, sayValue } from '../../core/rules/sentence'
import { sayStep, sayTrigger } from '../../core/rules/describe'
import { STEPS } from '../../core/rules/steps'
import type { Hue } from '../../core/rules/step'
import type { RecordRef } from '../../core/records/kinds'
import type { ChangeEvent } from '../../core/records/record'
import { seesRecord, type Scope } from '../auth/scope'
import type { Workspace } from '../engine/workspace'
import type { RunFilter, RunRow } from '../store/runs'
import { doerTeller, type Doer } from './words'

export interface JournalLine {
  readonly id: number
  readonly atMs: number
  readonly ruleId: number
  readonly ruleName: string
  readonly ref: RecordRef
  readonly recordName: string
  readonly state: RunState
  readonly because: string
  /** What it did, or why it did nothing. */
  readonly outcome: string
}

function ruleNames(workspace: Workspace): (run: RunRow) => string {
  const names = new Map<number, string>()
  return (run) => {
    const known = names.get(run.versionId)
    if (known !== undefined) return known
    const name = workspace.store.rules.version(run.versionId)?.document.name ?? `rule ${run.ruleId}`
    names.set(run.versionId, name)
    return name
  }
}

/** The first condition that did not hold, with what it saw. */
function firstMiss(seen: readonly Seen[]): string {
  const miss = seen.find((one) => !one.holds)
  return miss ? `${miss.text} did not hold: ${miss.linked ? '' : 'it was '}${miss.value}` : 'the conditions did not hold'
}

/** The newest runs that fit the filter. `next` is where the following page begins. */
export function journalPage(workspace: Workspace, filter: RunFilter): { readonly lines: readonly JournalLine[]; readonly next: number | null } {
  const rows = workspace.store.runs.list({ ...filter, limit: filter.limit + 1 })
  const shown = rows.slice(0, filter.limit)
  const steps = workspace.store.runs.steps(shown.map((run) => run.id))
  const nameOf = ruleNames(workspace)
  const today = workspace.today()
  const lines = shown.map((run): JournalLine => {
    const ref: RecordRef = { object: run.object, id: run.recordId }
    const names = { catalogue: workspace.catalogue().asOf(run.startedAt), object: run.object }
    const outcome = run.stop
      ? (run.stop.code === 'conditions' ? firstMiss(run.seen) : sayStop(run.stop))
      : steps.filter((step) => step.runId === run.id).map((step) => sayStepRecord(step.result, names, today)).join('; ')
    return {
      id: run.id, atMs: run.startedAt, ruleId: run.ruleId, ruleName: nameOf(run), ref, recordName: workspace.nameOf(ref),
      state: run.state, because: run.because, outcome,
    }
  })
  return { lines, next: rows.length > filter.limit ? (shown.at(-1)?.id ?? null) : null }
}

export interface ChainEntry {
  readonly what: 'change' | 'run'
  readonly id: number
  readonly atMs: number
  readonly depth: number
  readonly text: string
  readonly ref: RecordRef
  readonly recordName: string
  readonly state: RunState | null
}

export interface RunPage extends JournalLine {
  readonly version: number
  readonly endedMs: number | null
  readonly triggers: readonly string[]
  readonly doer: Doer | null
  readonly mode: 'all' | 'any' | 'none'
  readonly seen: readonly Seen[]
  readonly stop: string | null
  /** The rule's steps as they stood then; those that were not reached have no result. */
  readonly steps: readonly { readonly id: string; readonly hue: Hue; readonly sentence: string; readonly state: StepRecord['state'] | null; readonly result: string; readonly taskId: number | null }[]
  readonly messages: readonly { readonly recipient: string; readonly subject: string; readonly state: string; readonly deliveredAt: number | null }[]
  readonly chain: readonly ChainEntry[]
}

/** One run as its sheet, with the values of that moment. */
export function runPage(workspace: Workspace, id: number, scope: Scope = null): RunPage | null {
  const { runs, rules, events, outbox } = workspace.store
  const run = runs.get(id)
  const version = run && rules.version(run.versionId)
  if (!run || !version) return null
  // What was is told in the words of then.
  const catalogue = workspace.catalogue().asOf(run.startedAt)
  const names = { catalogue, object: run.object }
  const today = workspace.today()
  const ref: RecordRef = { object: run.object, id: run.recordId }
  const results = new Map(runs.steps([id]).map((step) => [step.stepId, step.result]))
  const event = events.get(run.eventSeq)
  const [line] = journalPage(workspace, { limit: 1, before: id + 1 }).lines
  if (!line || line.id !== id) return null
  return {
    ...line,
    version: version.number,
    endedMs: run.endedAt,
    triggers: version.document.triggers.map((trigger) => sayTrigger(trigger, names)),
    doer: event ? doerTeller(workspace)(event.cause) : null,
    mode: version.document.conditions.mode,
    seen: run.seen,
    stop: run.stop ? sayStop(run.stop) : null,
    steps: version.document.steps.map((step) => {
      const result = results.get(step.id)
      const task = result?.state === 'done' ? result.wrote.find((wrote) => wrote.what === 'task') : undefined
      return {
        id: step.id, hue: STEPS[step.kind].hue, sentence: sayStep(step, names), state: result?.state ?? null,
        result: result ? sayStepRecord(result, names, today) : 'not reached', taskId: task?.what === 'task' ? task.taskId : null,
      }
    }),
    messages: outbox.ofRun(id).map(({ recipient, subject, state, deliveredAt }) => ({ recipient, subject, state, deliveredAt })),
    chain: chainOf(workspace, run, ref).filter((entry) => scope === null || seesRecord(scope, workspace.store.records.read(entry.ref)?.values ?? {})),
  }
}

/** The change that began it and everything rules did because of it, in order. */
function chainOf(workspace: Workspace, run: RunRow, ref: RecordRef): readonly ChainEntry[] {
  const { runs, events } = workspace.store
  const tell = doerTeller(workspace)
  const nameOf = ruleNames(workspace)
  const recordName = (of: RecordRef) => (of.object === ref.object && of.id === ref.id ? '' : workspace.nameOf(of))
  const byEvent = new Map<number, RunRow[]>()
  for (const one of runs.ofChain(run.chainId)) byEvent.set(one.eventSeq, [...(byEvent.get(one.eventSeq) ?? []), one])
  return events.ofChain(run.chainId).flatMap((event): ChainEntry[] => [
    { what: 'change', id: event.seq, atMs: event.atMs, depth: event.depth, text: `${tell(event.cause).name}: ${sayChanges(event, workspace)}`, ref: event.ref, recordName: recordName(event.ref), state: null },
    ...(byEvent.get(event.seq) ?? []).map((one): ChainEntry => {
      const of: RecordRef = { object: one.object, id: one.recordId }
      const did = one.stop ? (one.stop.code === 'conditions' ? firstMiss(one.seen) : sayStop(one.stop)) : one.state
      return { what: 'run', id: one.id, atMs: one.startedAt, depth: one.depth, text: `${nameOf(one)}: ${did}`, ref: of, recordName: recordName(of), state: one.state }
    }),
  ])
}

/** "stage: Sized → Quoted; amount: € 1 → € 2", or "created". */
export function sayChanges(event: ChangeEvent, workspace: Workspace): string {
  if (event.kind !== 'changed') return event.kind
  const catalogue = workspace.catalogue().asOf(event.atMs)
  return event.changes.flatMap((change) => {
    const field = catalogue.field(event.ref.object, change.field)
    return !field || field.keptBy ? [] : [`${fieldWord(field)}: ${sayValue(change.old, field, catalogue)} → ${sayValue(change.new, field, catalogue)}`]
  }).join('; ')
}
