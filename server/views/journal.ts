import { sayInstant } from '../../core/time/say'
import type { Seen } from '../../core/conditions/compile'
import { sayStepRecord } from '../../core/engine/say-run'
import { sayStop, type RunState, type StepRecord } from '../../core/engine/world'
import { fieldWord, sayValue } from '../../core/rules/sentence'
import type { Catalogue } from '../../core/fields/catalogue'
import { sayStep, sayTrigger } from '../../core/rules/describe'
import { withResults } from '../../core/rules/results'
import type { RuleDocument, Step } from '../../core/rules/document'
import { placedBranches, placedSteps } from '../../core/rules/tree'
import { STEPS } from '../../core/rules/steps'
import type { Hue } from '../../core/rules/step'
import type { RecordRef } from '../../core/records/kinds'
import type { ChangeEvent } from '../../core/records/record'
import { seesRecord, type Scope } from '../auth/scope'
import type { Workspace } from '../engine/workspace'
import type { RunFilter, RunRow, RunStepRow } from '../store/runs'
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
      : steps.filter((step) => step.runId === run.id && (run.state !== 'done' || step.result.state !== 'failed')).map((step) => sayStepRecord(step.result, names, today)).join('; ')
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

/** A step as the run went through it, or a way of a step that holds others. */
export interface RunLine {
  readonly id: string
  /** "3a2"; for a way "3a". */
  readonly label: string
  readonly depth: number
  /** `null` for a way. */
  readonly hue: Hue | null
  readonly sentence: string
  readonly state: StepRecord['state'] | null
  readonly result: string
  readonly taskId: number | null
  /** The record it worked on, where that was not the run's own. */
  readonly on: { readonly ref: RecordRef; readonly name: string } | null
}

export interface RunPage extends JournalLine {
  readonly version: number
  readonly endedMs: number | null
  readonly triggers: readonly string[]
  readonly doer: Doer | null
  readonly mode: 'all' | 'any' | 'none'
  readonly seen: readonly Seen[]
  readonly stop: string | null
  /** Set once somebody has taken it back. */
  /** What it waits for now. */
  readonly waits: readonly { readonly id: number; readonly stepId: string; readonly say: string }[]
  readonly undone: { readonly person: string; readonly atMs: number } | null
  /** The rule's steps as they stood then; those that were not reached have no result. */
  readonly steps: readonly RunLine[]
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
  const results = runs.steps([id])
  const event = events.get(run.eventSeq)
  const [line] = journalPage(workspace, { limit: 1, before: id + 1 }).lines
  if (!line || line.id !== id) return null
  return {
    ...line,
    version: version.number,
    endedMs: run.state === 'waiting' ? null : run.endedAt,
    triggers: version.document.triggers.map((trigger) => sayTrigger(trigger, names)),
    doer: event ? doerTeller(workspace)(event.cause) : null,
    mode: version.document.conditions.mode,
    seen: run.seen,
    stop: run.stop ? sayStop(run.stop) : null,
    waits: workspace.store.waits.ofRun(id).map((wait) => ({ id: wait.id, stepId: wait.stepId, say: sayWait(wait.dueMs, catalogue.workspace.zone) })),
    undone: run.undoneAt === null ? null : { person: catalogue.person(run.undoneBy ?? '')?.name ?? '', atMs: run.undoneAt },
    steps: runLines(workspace, version.document, results, new Map(workspace.store.waits.ofRun(id).map((wait) => [wait.stepId, sayWait(wait.dueMs, catalogue.workspace.zone)])), withResults(version.document, catalogue), today),
    messages: outbox.ofRun(id).map(({ recipient, subject, state, deliveredAt }) => ({ recipient, subject, state, deliveredAt })),
    chain: chainOf(workspace, run, ref).filter((entry) => scope === null || seesRecord(scope, workspace.store.records.read(entry.ref)?.values ?? {})),
  }
}

/** "waits until 3 Dec 2026, 9:00". */
const sayWait = (dueMs: number | null, zone: string): string => (dueMs === null ? 'waits for as long as it takes' : `waits until ${sayInstant(dueMs, zone)}`)

/**
 * The steps in reading order, each as often as the run went through it. Of a step that holds others, the ways that
 * were not gone are named and their steps left out.
 */
function runLines(workspace: Workspace, document: RuleDocument, rows: readonly RunStepRow[], waiting: ReadonlyMap<string, string>, catalogue: Catalogue, today: string): readonly RunLine[] {
  const lines: RunLine[] = []
  const placed = new Map(placedSteps(document).map((one) => [one.step.id, one]))
  const gone = new Map(rows.flatMap(({ stepId, result }) => (result.state === 'done' ? result.wrote.flatMap((wrote) => (wrote.what === 'way' ? [[stepId, wrote.branch] as const] : [])) : [])))
  const branches = placedBranches(document)
  visit(document.steps)
  function visit(steps: readonly Step[]): void {
    for (const step of steps) {
      const { label = '', object = document.object, depth = 0 } = placed.get(step.id) ?? {}
      const names = { catalogue, object }
      const own = rows.filter((row) => row.stepId === step.id)
      const line = { id: step.id, label, depth, hue: STEPS[step.kind].hue, sentence: sayStep(step, names) }
      const wait = waiting.get(step.id)
      if (own.length === 0) lines.push({ ...line, state: null, result: wait ?? 'not reached', taskId: null, on: null })
      for (const { result } of own) {
        const task = result.state === 'done' ? result.wrote.find((wrote) => wrote.what === 'task') : undefined
        lines.push({
          ...line, state: result.state, taskId: task?.what === 'task' ? task.taskId : null, on: result.on ? { ref: result.on, name: workspace.nameOf(result.on) } : null,
          result: `${sayStepRecord(result, names, today)}${result.againBy === undefined ? '' : ` (tried again by ${catalogue.person(result.againBy)?.name ?? result.againBy})`}`,
        })
      }
      for (const branch of step.branches ?? []) {
        heads(branch.id)
        if (gone.get(step.id) === branch.id) visit(branch.steps)
      }
    }
  }
  function heads(id: string): void {
    const placed = branches.find((one) => one.branch.id === id)
    if (!placed) return
    const all = placed.of.branches ?? []
    const taken = gone.get(placed.of.id) === id
    lines.push({
      id, label: placed.label, depth: placed.depth, hue: null, taskId: null, on: null, state: taken ? 'done' : null, result: taken ? (placed.branch.steps.length === 0 ? 'this way was gone; nothing stands on it' : 'this way was gone') : 'not gone',
      sentence: STEPS[placed.of.kind].ways?.label(placed.branch, all.indexOf(placed.branch), all, placed.of.params, { catalogue, object: placed.object }) ?? '',
    })
  }
  return lines
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
  if (event.kind === 'started') return event.cause.by === 'clock' ? 'the moment came' : 'started by hand'
  if (event.kind !== 'changed') return event.kind
  const catalogue = workspace.catalogue().asOf(event.atMs)
  return event.changes.flatMap((change) => {
    const field = catalogue.field(event.ref.object, change.field)
    return !field || field.keptBy ? [] : [`${fieldWord(field)}: ${sayValue(change.old, field, catalogue)} → ${sayValue(change.new, field, catalogue)}`]
  }).join('; ')
}
