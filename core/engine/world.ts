import type { Seen } from '../conditions/compile'
import type { Catalogue } from '../fields/catalogue'
import type { Value, Values } from '../language/value'
import type { MatchPart } from '../linking/link-by'
import type { PlacedProblem } from '../language/problems'
import type { ObjectKind, RecordRef } from '../records/kinds'
import type { LinkedRecord } from '../records/subject'
import type { Cause, ChainPlace, ChangeEvent, ClockMoment, RecordSnapshot } from '../records/record'
import type { CompiledRule } from './matcher'
import type { Message, TaskDraft } from './effects'
import type { FailReason, SkipReason, StopReason } from '../language/reasons'

/** What a run can be. `waiting` belongs to steps that sleep; `stopped` ended early with a reason. */
export const RUN_STATES = ['running', 'waiting', 'done', 'stopped', 'failed'] as const
export type RunState = (typeof RUN_STATES)[number]

/** Whether a run got past its conditions: what it did by then stays done, however it ended. */
export const gotToSteps = (end: Pick<RunEnd, 'state' | 'stop'> | null): boolean =>
  end?.state !== 'stopped' || end.stop?.code === 'noLonger' || end.stop?.code === 'ended'

/** Whether a run ended where it was meant to, before doing anything: nobody on the spot needs to hear of it. */
export const endedQuietly = (stop: StopReason | null | undefined): boolean =>
  stop?.code === 'conditions' || stop?.code === 'repeats'

/** One record going through one rule because of one occurrence: the same three never run twice. */
export interface RunIdentity {
  readonly ruleId: number
  readonly ref: RecordRef
  /** `event:<seq>` for a run started by a change; of the clock, what names the one moment. */
  readonly occurrence: string
}

export interface NewRun extends RunIdentity, ChainPlace {
  readonly versionId: number
  readonly eventSeq: number
  /** What happened, in words. */
  readonly because: string
}

export interface RunEnd {
  readonly state: RunState
  readonly stop: StopReason | null
  readonly seen: readonly Seen[]
}

/** What came of a step. `on` names the record it worked on, where that was not the run's own. */
export type StepRecord = {
  readonly on?: RecordRef
  /** Who had it tried again, where somebody had. */ readonly againBy?: string
} & (
  | { readonly state: 'done'; readonly wrote: readonly Wrote[] }
  | { readonly state: 'skipped'; readonly reason: SkipReason }
  | { readonly state: 'failed'; readonly reason: FailReason }
)

/** What one effect left behind, as the journal shows it. */
export type Wrote =
  /** `ref` names the record, where it was not the one that the step worked on. */
  | {
      readonly what: 'fields'
      readonly ref?: RecordRef
      readonly eventSeq: number
      readonly changes: readonly { readonly field: string; readonly old: Value; readonly new: Value }[]
    }
  /** The run went this way through a step that holds others. */
  | { readonly what: 'way'; readonly branch: string; readonly say: string; readonly seen: readonly Seen[] }
  /** What the step found, for the steps further down; by the keys under which they name it. */
  | { readonly what: 'gave'; readonly values: Values; readonly say: string }
  /** The run waited here, from and until these instants. */
  | { readonly what: 'waited'; readonly fromMs: number; readonly toMs: number; readonly say: string }
  /** The step itself is to be done later. */
  | { readonly what: 'planned'; readonly dueMs: number; readonly say: string }
  /** What waited for a record was ended: so many runs. */
  | { readonly what: 'ended'; readonly runs: number; readonly because: string }
  /** The run was ended here. */
  | { readonly what: 'stop'; readonly because: string }
  | { readonly what: 'link'; readonly from: RecordRef; readonly to: RecordRef; readonly name: string }
  | {
      readonly what: 'unlink'
      readonly from: RecordRef
      readonly to: RecordRef
      readonly role: string
      readonly name: string
    }
  | { readonly what: 'created'; readonly ref: RecordRef; readonly eventSeq: number; readonly name: string }
  /** Somebody was told in the app. */
  | { readonly what: 'notice'; readonly personId: string; readonly subject: string }
  | { readonly what: 'message'; readonly key: string; readonly recipient: string; readonly subject: string }
  | {
      readonly what: 'task'
      readonly taskId: number
      readonly title: string
      readonly assigneeId: string | null
      readonly queue?: string
      readonly due: string
    }

/** What somebody is told in the app, and which run wanted it. */
export interface Notice {
  readonly ref: RecordRef
  readonly ruleId: number
  readonly runId: number
  readonly stepId: string
  readonly subject: string
  readonly body: string
}

/** Stands for the step of a wait before the first step: somebody put the start off. */
export const BEFORE_ALL = ''

/** What comes when a wait is over. `go`: the run goes on behind the step. `do`: the step itself is done then. */
export type WaitThen = 'go' | 'do'

/** Somebody put it off to another moment. */
export interface WaitMoved {
  readonly personId: string
  readonly atMs: number
  readonly fromMs: number
  readonly reason: string
}

/** What a run waits for at a step. */
export interface NewWait {
  readonly runId: number
  readonly ruleId: number
  readonly ref: RecordRef
  readonly stepId: string
  readonly then: WaitThen
  readonly dueMs: number | null
  /** The date field that the moment is counted from. */
  readonly anchor: string | null
  /** The field that is waited for. */
  readonly awaited: string | null
}

export interface Wait extends NewWait {
  readonly id: number
  readonly sinceMs: number
  /** The last change there was when it began: only what comes behind it counts. */
  readonly sinceSeq: number
}

/** A run with what it did so far, to be taken on. */
export interface OpenRun {
  readonly runId: number
  readonly state: RunState
  readonly because: string
  readonly seen: readonly Seen[]
  readonly event: ChangeEvent
  readonly done: readonly { readonly stepId: string; readonly result: StepRecord }[]
}

export interface NewTask extends TaskDraft {
  readonly ruleId: number
  readonly runId: number
  readonly stepId: string
  /** Why it exists, in words of this moment. */
  readonly because: string
}

/** The event a write made, `null` when nothing would change; or what was wrong with the values. */
export type WriteResult =
  | { readonly ok: true; readonly event: ChangeEvent | null }
  | { readonly ok: false; readonly problems: readonly PlacedProblem[] }

/**
 * Everything the engine needs of a world. The live workspace and a rehearsal differ in nothing but this; a behaviour
 * that cannot be had through it does not belong into the engine.
 */
export interface World {
  nowMs(): number
  catalogue(): Catalogue
  read(ref: RecordRef): RecordSnapshot | null
  /** The records linked to it, of a kind, in either direction, main ones first. */
  linked(ref: RecordRef, object: ObjectKind): readonly LinkedRecord[]
  /**
   * Records of a kind whose field has this form in the part that is compared, the oldest first; not more than a few
   * dozen.
   */
  alike(object: ObjectKind, field: string, part: MatchPart, form: string): readonly RecordSnapshot[]
  /** Links two records; answers whether they were not linked before. */
  link(from: RecordRef, to: RecordRef, cause: Cause): boolean
  /** Takes a link away; answers the role it had, `null` when there was none. */
  unlink(from: RecordRef, to: RecordRef, cause: Cause): string | null
  /** Makes a record with its links, as one event. */
  create(
    object: ObjectKind,
    values: Values,
    linkTo: readonly RecordRef[],
    cause: Cause,
    chain: ChainPlace,
  ): WriteResult & { readonly ref?: RecordRef }
  /** Tells somebody in the app. */
  tell(personId: string, notice: Notice): void
  /** How often a step of a rule has given something to somebody in turn. */
  turn(ruleId: number, stepId: string): number
  takeTurn(ruleId: number, stepId: string): void
  /** How many tasks of a person are open. */
  openTasks(personId: string): number
  /** What a field held before a change, the newest first; not more than a few hundred. */
  past(ref: RecordRef, field: string, beforeSeq: number): Iterable<Value>
  /** What wrote the value that a field holds; `null` when nothing has since the record was there. */
  setBy(ref: RecordRef, field: string): Cause | null
  /** The record's main linked record of a kind. */
  related(ref: RecordRef, object: ObjectKind): RecordSnapshot | null
  /** Record, history and event together; `null` when nothing would change. */
  write(ref: RecordRef, values: { readonly [field: string]: Value }, cause: Cause, chain: ChainPlace): WriteResult
  /** Keeps what would start a rule while that is paused; answers whether it did. */
  hold(ruleId: number, event: ChangeEvent): boolean
  /** Opens a run; `null` when this identity has one already. */
  openRun(run: NewRun): number | null
  /** The earlier run of the rule for the record in the chain that got as far as its steps, or `null`. */
  runInChain(chainId: string, ruleId: number, ref: RecordRef): number | null
  /**
   * When the rule was last started for the record before this run and got past its conditions; `null` when it never
   * was.
   */
  lastRunAt(ruleId: number, ref: RecordRef, beforeRunId: number): number | null
  closeRun(runId: number, end: RunEnd): void
  /** Whether a run with this identity is there. */
  ran(run: RunIdentity): boolean
  /** Logs that the clock wants a rule run for a record. */
  startByClock(ref: RecordRef, moment: ClockMoment): void
  /** Keeps what a run waits for. */
  wait(wait: NewWait): void
  /** What is waited for at a record. */
  waitsOf(ref: RecordRef): readonly Wait[]
  /** How many things a run waits for. */
  waitsOfRun(runId: number): number
  setDue(waitId: number, dueMs: number): void
  endWait(waitId: number): void
  openRunOf(runId: number): OpenRun | null
  /** The version of a rule that a run began with, compiled. */
  ruleOfRun(runId: number): CompiledRule | null
  recordStep(
    runId: number,
    position: number,
    step: { readonly id: string; readonly kind: string },
    result: StepRecord,
  ): void
  createTask(task: NewTask): number
  openTask(ruleId: number, stepId: string, ref: RecordRef): string | null
  /** Keeps what is to leave the house until after the commit; the same key is never kept twice. */
  send(message: Message, key: string, runId: number): void
  /** All or nothing; may be nested. */
  atomically<T>(work: () => T): T
}
