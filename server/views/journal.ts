import type { Seen } from '../../core/conditions/compile'
import { runLines, type RunLine } from '../../core/engine/run-sheet'
import { sayStepRecord, sayWait } from '../../core/engine/say-run'
import type { RunState, StepRecord } from '../../core/engine/world'
import { categoryOf } from '../../core/effects/wrote'
import type { Category } from '../../core/language/category'
import { sayStop } from '../../core/language/reasons'
import { sayActivity } from '../../core/rules/activities'
import { awaitedAt } from '../../core/rules/awaited'
import { sayTrigger } from '../../core/rules/describe'
import { withResults } from '../../core/rules/results'
import { aOne, type RecordRef } from '../../core/records/kinds'
import { linkedTo } from '../../core/signals/link'
import { listOf } from '../../core/language/counts'
import { isShown } from '../../core/fields/field'
import type { ChangeEvent } from '../../core/records/record'
import { valuesBefore } from '../../core/records/subject'
import type { Values } from '../../core/language/value'
import { tellingOfOthers } from '../../core/access/seen-world'
import type { Scope } from '../../core/access/scope'
import { derivationsOf } from '../../core/derived/derivations'
import { seesRef } from '../engine/seen'
import type { Workspace } from '../engine/workspace'
import type { RunFilter, RunPlace, RunRow } from '../store/runs'
import { wholeFrom } from '../engine/retention'
import { noteOf } from './not-kept'
import { doerTeller, type Doer } from './words'
import { fieldWord, sayValue } from '../../core/fields/say-value'

export interface JournalLine {
  readonly id: number
  /** When it began. */
  readonly atMs: number
  /** When it did something last: there it stands in the journal. */
  readonly lastMs: number
  readonly ruleId: number
  readonly ruleName: string
  readonly ref: RecordRef
  readonly recordName: string
  readonly state: RunState
  readonly because: string
  /** What it did, or why it did nothing. */
  readonly outcome: string
  /** How many more ended alike, for which this one stands. */
  readonly more: number
  /** Its mark: what it did, or that it waits or failed; `null` where it stopped. */
  readonly category: Category | null
}

/** A task or a word to somebody is what people look for; otherwise what was done first. */
function categoryOfRun(state: RunState, steps: readonly StepRecord[]): Category | null {
  if (state === 'failed') return 'stop'
  if (state === 'waiting') return 'time'
  if (state === 'stopped') return null
  const categories = steps.flatMap((step) =>
    step.state === 'done' ? step.wrote.flatMap((one) => categoryOf(one) ?? []) : [],
  )
  return categories.includes('people') ? 'people' : (categories[0] ?? 'data')
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
  return miss ? `${miss.text} was not true: ${miss.value}` : 'the conditions were not true'
}

const sayUndone = (workspace: Workspace, personId: string | null): string =>
  `undone by ${workspace.catalogue().person(personId ?? '')?.name ?? personId ?? ''}`

/** What a run saw, without what tells of records that somebody does not see. */
function seenWithin(workspace: Workspace, run: RunRow, scope: Scope): readonly Seen[] {
  if (scope === null) return run.seen
  const version = workspace.store.rules.version(run.versionId)
  const telling = version && tellingOfOthers(version.document.conditions, run.object, workspace.catalogue())
  return run.seen.map((one) =>
    telling && !telling.has(one.id) ? one : { ...one, value: 'depends on other records', off: null, gap: null },
  )
}

/** The newest runs that fit the filter. `next` is where the following page begins. */
export function journalPage(
  workspace: Workspace,
  filter: RunFilter,
  scope: Scope = null,
): { readonly lines: readonly JournalLine[]; readonly next: RunPlace | null } {
  const rows = workspace.store.runs.list({ ...filter, limit: filter.limit + 1 })
  const shown = rows.slice(0, filter.limit)
  const last = rows.length > filter.limit ? shown.at(-1) : undefined
  return {
    lines: linesOf(workspace, shown, filter.bundle === undefined, scope),
    next: last ? { atMs: last.lastAt, id: last.id } : null,
  }
}

/** Runs as lines; `bundled` says how many more one stands for. */
function linesOf(
  workspace: Workspace,
  shown: readonly RunRow[],
  bundled: boolean,
  scope: Scope,
): readonly JournalLine[] {
  const steps = workspace.store.runs.steps(shown.map((run) => run.id))
  const nameOf = ruleNames(workspace)
  const today = workspace.today()
  const more = workspace.store.runs.bundled(bundled ? shown.map((run) => run.id) : [])
  return shown.map((run): JournalLine => {
    const ref: RecordRef = { object: run.object, id: run.recordId }
    const names = { catalogue: workspace.catalogue().asOf(run.startedAt), object: run.object }
    const own = steps
      .filter((step) => step.runId === run.id)
      .map(({ result }) => result)
      .filter(({ on }) => on === undefined || seesRef(workspace, scope, on))
    const outcome = run.stop
      ? run.stop.code === 'conditions'
        ? firstMiss(seenWithin(workspace, run, scope))
        : sayStop(run.stop)
      : [
          ...own
            .filter((step) => run.state !== 'done' || step.state !== 'failed')
            .map((step) => sayStepRecord(step, names, today)),
          ...(run.state === 'waiting' ? waitWords(workspace, run).map(({ say }) => say) : []),
        ].join('; ')
    return {
      id: run.id,
      atMs: run.startedAt,
      lastMs: run.lastAt,
      ruleId: run.ruleId,
      ruleName: nameOf(run),
      ref,
      recordName: workspace.nameOf(ref),
      state: run.state,
      because: run.because,
      outcome: run.undoneAt === null ? outcome : `${sayUndone(workspace, run.undoneBy)}: ${outcome}`,
      more: more.get(run.id) ?? 0,
      category: categoryOfRun(run.state, own),
    }
  })
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
  /** Set once somebody has taken it back. */
  /** What it waits for now. */
  readonly waits: readonly { readonly id: number; readonly stepId: string; readonly say: string }[]
  readonly undone: { readonly person: string; readonly atMs: number } | null
  /** The rule's steps as they stood then; those that were not reached have no result. */
  readonly steps: readonly RunLine[]
  readonly messages: readonly {
    readonly recipient: string
    readonly subject: string
    readonly state: string
    readonly deliveredAt: number | null
  }[]
  readonly chain: readonly ChainEntry[]
  /** What was deleted with its age. */
  readonly notes: readonly string[]
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
  const [line] = linesOf(workspace, [run], true, scope)
  if (!line) return null
  return {
    ...line,
    version: version.number,
    endedMs: run.state === 'waiting' ? null : run.endedAt,
    triggers: version.document.triggers.map((trigger) => sayTrigger(trigger, names)),
    doer: event ? doerTeller(workspace, scope)(event.cause) : null,
    mode: version.document.conditions.mode,
    seen: seenWithin(workspace, run, scope),
    stop: run.stop ? sayStop(run.stop) : null,
    waits: waitWords(workspace, run),
    undone:
      run.undoneAt === null ? null : { person: catalogue.person(run.undoneBy ?? '')?.name ?? '', atMs: run.undoneAt },
    steps: runLines({
      document: version.document,
      done: results,
      waiting: new Map(waitWords(workspace, run).map(({ stepId, say }) => [stepId, say])),
      catalogue: withResults(version.document, catalogue),
      today,
      nameOf: (one) => workspace.nameOf(one),
    }).map((one) =>
      one.on && !seesRef(workspace, scope, one.on.ref)
        ? { ...one, on: null, result: 'for a record that you can’t see' }
        : one,
    ),
    messages: outbox
      .ofRun(id)
      .map(({ recipient, subject, state, deliveredAt }) => ({ recipient, subject, state, deliveredAt })),
    notes: [
      ...(version.problem === null ? [] : [`Version ${version.number} of the rule can’t be read: ${version.problem}`]),
      ...notesOf(workspace, run),
    ],
    chain: chainOf(workspace, run, ref, scope).filter((entry) => seesRef(workspace, scope, entry.ref)),
  }
}

/** What is no longer there of what a run's page would show. */
function notesOf(workspace: Workspace, run: RunRow): readonly string[] {
  const messagesFrom = wholeFrom(workspace, 'messages')
  const changes = noteOf(workspace, run.startedAt, 'changes')
  return [
    ...(changes === null ? [] : [changes]),
    ...(messagesFrom !== null && run.startedAt < messagesFrom && workspace.store.outbox.ofRun(run.id).length === 0
      ? ['Emails that it may have sent are not stored any more.']
      : []),
  ]
}

/** What a run waits for now. */
function waitWords(
  workspace: Workspace,
  run: Pick<RunRow, 'id' | 'versionId'>,
): readonly { readonly id: number; readonly stepId: string; readonly say: string }[] {
  const { waits, rules } = workspace.store
  const catalogue = workspace.catalogue()
  const rows = waits.ofRun(run.id)
  const version = rows.some(({ signals }) => signals.length > 0) ? rules.version(run.versionId) : null
  return rows.map(({ id, stepId, dueMs }) => ({
    id,
    stepId,
    say: sayWait(
      dueMs,
      catalogue.workspace.zone,
      version && version.problem === null ? awaitedAt(version.document, stepId, catalogue) : null,
    ),
  }))
}

/** The change that began it and everything rules did because of it: behind each run, what came of that. */
function chainOf(workspace: Workspace, run: RunRow, ref: RecordRef, scope: Scope): readonly ChainEntry[] {
  const { runs, events } = workspace.store
  const tell = doerTeller(workspace, scope)
  const nameOf = ruleNames(workspace)
  const recordName = (of: RecordRef) => (of.object === ref.object && of.id === ref.id ? '' : workspace.nameOf(of))
  const byEvent = new Map<number, RunRow[]>()
  for (const one of runs.ofChain(run.chainId)) byEvent.set(one.eventSeq, [...(byEvent.get(one.eventSeq) ?? []), one])
  const all = events.ofChain(run.chainId)
  const known = new Set([...byEvent.values()].flat().map(({ id }) => id))
  /** What each run changed; by `null` what no run of this chain did. */
  const changedBy = new Map<number | null, ChangeEvent[]>()
  for (const event of all) {
    const { cause } = event
    const by = cause.by === 'rule' && known.has(cause.runId) ? cause.runId : null
    changedBy.set(by, [...(changedBy.get(by) ?? []), event])
  }
  const entriesOf = (event: ChangeEvent): ChainEntry[] => {
    const changes = sayChanges(event, workspace, scope)
    const started = byEvent.get(event.seq) ?? []
    // What a segment keeps is shown as the segment, and says nothing here unless something began with it.
    if (changes === '' && started.length === 0) return []
    const doer = tell(event.cause).name
    const change: ChainEntry = {
      what: 'change',
      id: event.seq,
      atMs: event.atMs,
      depth: event.depth,
      // What somebody did says itself who it was.
      text: event.kind === 'happened' ? changes : `${doer}: ${changes}`,
      ref: event.ref,
      // What a record did to itself names it once.
      recordName: recordName(event.ref) === doer ? '' : recordName(event.ref),
      state: null,
    }
    const runsOfIt = started.flatMap((one): ChainEntry[] => {
      const of: RecordRef = { object: one.object, id: one.recordId }
      const did = one.stop
        ? one.stop.code === 'conditions'
          ? firstMiss(seenWithin(workspace, one, scope))
          : sayStop(one.stop)
        : one.state
      const line: ChainEntry = {
        what: 'run',
        id: one.id,
        atMs: one.startedAt,
        depth: one.depth,
        text: `${nameOf(one)}: ${did}`,
        ref: of,
        recordName: recordName(of),
        state: one.state,
      }
      return [line, ...(changedBy.get(one.id) ?? []).flatMap(entriesOf)]
    })
    return [change, ...runsOfIt]
  }
  return (changedBy.get(null) ?? []).flatMap(entriesOf)
}

const changedTo = (changes: ChangeEvent['changes']): Values =>
  Object.fromEntries(changes.map((change) => [change.field, change.new]))

/** "linked to Corvo Clinic"; by name only what the one who asks sees. */
function sayLinks(changes: ChangeEvent['changes'], workspace: Workspace, scope: Scope): string {
  const moves = changes.flatMap((change) => {
    const [object, id] = [linkedTo(change), change.new ?? change.old]
    if (object === null || typeof id !== 'number') return []
    const name = seesRef(workspace, scope, { object, id }) ? workspace.nameOf({ object, id }) : aOne(object)
    return [`${change.new === null ? 'unlinked from' : 'linked to'} ${name}`]
  })
  return moves.length === 0 ? 'links changed' : listOf(moves)
}

/** "stage: Sized → Quoted; amount: € 1 → € 2", or "created". */
export function sayChanges(event: ChangeEvent, workspace: Workspace, scope: Scope = null): string {
  if (event.kind === 'started') return event.cause.by === 'clock' ? 'scheduled time' : 'run by hand'
  if (event.kind === 'taskDone') return 'task done'
  if (event.kind === 'replied') return 'web request answered'
  if (event.kind === 'happened') return sayActivity(event.changes, { catalogue: workspace.catalogue() })
  if (event.kind === 'linked') return sayLinks(event.changes, workspace, scope)
  if (event.kind !== 'changed') return event.kind
  const catalogue = workspace.catalogue().asOf(event.atMs)
  const now = workspace.world.read(event.ref)?.values ?? {}
  const veiled = scope === null ? [] : derivationsOf(workspace.catalogue()).overLinks(event.ref.object)
  const [old, fresh] = [valuesBefore(now, event.changes), { ...now, ...changedTo(event.changes) }]
  return event.changes
    .flatMap((change) => {
      const field = catalogue.field(event.ref.object, change.field)
      return !field ||
        !isShown(field) ||
        veiled.some((one) => one.field.key === field.key) ||
        (field.keptBy && event.cause.by !== 'derived')
        ? []
        : [
            `${fieldWord(field)}: ${sayValue(change.old, field, catalogue, old)} → ${sayValue(change.new, field, catalogue, fresh)}`,
          ]
    })
    .join('; ')
}
