import type { Seen } from '../conditions/compile'
import type { Wrote } from '../effects/wrote'
import type { Catalogue } from '../fields/catalogue'
import type { FailReason, SkipReason, StopReason } from '../language/reasons'
import type { RecordRef } from '../records/kinds'
import type { ChainPlace, ChangeEvent, ClockMoment } from '../records/record'
import type { DeliveryPort, RecordPort } from '../world/ports'
import type { Listen } from '../signals'
import type { CompiledRule } from './matcher'

/** What a run can be. `waiting` belongs to steps that sleep; `stopped` ended early with a reason. */
export const RUN_STATES = ['running', 'waiting', 'done', 'stopped', 'failed'] as const
export type RunState = (typeof RUN_STATES)[number]

/** Whether a run got past its conditions: what it did by then stays done, however it ended. */
export const gotToSteps = (end: Pick<RunEnd, 'state' | 'stop'> | null): boolean =>
  end?.state !== 'stopped' || end.stop?.code === 'noLonger' || end.stop?.code === 'ended'

/** Whether a run ended where it was meant to, before doing anything: nobody on the spot needs to hear of it. */
export const endedQuietly = (stop: StopReason | null | undefined): boolean =>
  stop?.code === 'conditions' || stop?.code === 'repeats' || stop?.code === 'sameChange'

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

/** Stands for the step of a wait before the first step: somebody put the start off. */
export const BEFORE_ALL = ''

/**
 * What comes when a wait is over. `go`: the run goes on behind the step. `do`: the step itself is done then, beside the
 * run. `again`: the run comes to the step once more and goes on from there.
 */
export type WaitThen = 'go' | 'do' | 'again'

/** Somebody put it off to another moment. */
export interface WaitMoved {
  readonly personId: string
  readonly atMs: number
  readonly fromMs: number
  readonly reason: string
}

/** A record that is measured: whether it comes to the target of a rule. */
export interface NewMeasure {
  readonly ruleId: number
  readonly versionId: number
  readonly runId: number
  readonly ref: RecordRef
  /** Of which counting it is: `goalKey`. */
  readonly key: string
  /** It has until then, that instant left out. */
  readonly untilMs: number
  /** Nothing was done with it, to compare. */
  readonly alone: boolean
  /** It met the target before anything was done. */
  readonly already: boolean
  readonly ownerId: string | null
  readonly labels: readonly string[]
  /** Whether it has to be looked at when the day turns. */
  readonly byDay: boolean
}

export interface Measure extends Pick<NewMeasure, 'runId' | 'ref' | 'key' | 'byDay'> {
  readonly id: number
  readonly atMs: number
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
  /** The first that comes ends the wait; empty where only its moment does. */
  readonly signals: readonly Listen[]
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
  readonly done: readonly { readonly stepId: string; readonly result: StepRecord; readonly atMs: number }[]
}

/**
 * Everything the engine needs of a world. The live workspace and a rehearsal differ in nothing but this; a behaviour
 * that cannot be had through it does not belong into the engine.
 */
export interface World extends RecordPort, DeliveryPort {
  nowMs(): number
  catalogue(): Catalogue
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
  /**
   * Notes that a record is measured from a run on; nothing where it was by an earlier run, in the same counting. A
   * rehearsal measures nothing.
   */
  measure(measure: NewMeasure): void
  /** What is measured at a record and not reached yet, its time not over. */
  openMeasures(ref: RecordRef): readonly Measure[]
  /** Notes that a record has come to the target. */
  reached(measureId: number): void
  /** All or nothing; may be nested. */
  atomically<T>(work: () => T): T
}
