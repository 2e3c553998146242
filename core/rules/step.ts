import { z } from 'zod'
import type { Seen } from '../conditions/compile'
import type { Wrote } from '../effects/wrote'
import type { Outcome } from '../engine/outcome'
import type { SkipReason } from '../language/reasons'
import type { Catalogue } from '../fields/catalogue'
import type { MatchPart } from '../linking/link-by'
import type { Value, Values } from '../language/value'
import type { Problem } from '../language/problems'
import type { ObjectKind, RecordRef } from '../records/kinds'
import type { Cause, RecordSnapshot } from '../records/record'
import type { Listen } from '../signals'
import type { Happened } from '../signals/signal'
import type { Activity } from '../records/activity'
import type { PostPort } from '../messages/letter'
import type { Writing } from '../messages/writing'
import type { LinkedRecord } from '../records/subject'
import { zId } from '../conditions/document'
import type { AnyBranch, BranchOf } from './parts'
import type { Category } from '../language/category'
import type { Form } from '../language/widgets'
import type { SentencePart } from '../language/sentence'
import type { Names } from '../fields/names'
import type { Moment } from '../conditions/moment'
import type { Touch } from './touch'
import type { ResultSpec } from './result-spec'

/** What a step may look at. Everything is read through here, so that a rehearsal can stand in for the live world. */
export interface StepContext {
  readonly catalogue: Catalogue
  readonly moment: Moment
  /** The record of the run with what earlier steps changed. */
  readonly record: RecordSnapshot
  /** The main linked record of a kind, or `null`. */
  readonly related: (object: ObjectKind) => RecordSnapshot | null
  /** All records linked to it, of a kind. */
  readonly linked: (object: ObjectKind) => readonly LinkedRecord[]
  /** Records of a kind whose field has this form in the part that is compared. */
  readonly alike: (object: ObjectKind, field: string, part: MatchPart, form: string) => readonly RecordSnapshot[]
  /** What wrote the value that a field of the record holds; `null` when nothing has. */
  readonly setBy: (field: string) => Cause | null
  /** The records linked to another one, of a kind. */
  readonly linkedOf: (ref: RecordRef, object: ObjectKind) => readonly LinkedRecord[]
  /** What was done around one. */
  readonly activities: (ref: RecordRef) => readonly Activity[]
  /** What sending messages needs to know. */
  readonly post: Pick<PostPort, 'addressFacts' | 'lineOf'>
  readonly ruleId: number
  /** When this run sent a contact its first message; `null` when it has not. */
  readonly firstSentTo: (who: RecordRef) => number | null
  /** The addresses that this step has sent to in this run. */
  readonly sentHere: () => readonly string[]
  /** How often this step has given something to somebody in turn so far. */
  readonly turn: () => number
  readonly openTasks: (personId: string) => number
  /** Whether the moment has come for which this step was put off. */
  readonly due: boolean
  /** The title of a task that this very step made for this record and that is still open, or `null`. */
  readonly openTask: (personId?: string) => string | null
}

/** What ends a wait, but for the time that runs out. */
export interface Waited {
  /** The date field that the moment is counted from. */
  readonly anchor: string | null
  readonly signals: readonly Listen[]
}

export interface StepProblem {
  readonly param: string
  readonly problem: Problem
}

export interface StepExample<P> {
  readonly say: string
  readonly params: P
  readonly object?: ObjectKind
  /** What the record holds before, by field key, on top of the example record. */
  readonly record?: Values
  /** What the step must answer, as far as given. */
  readonly expect: Partial<Outcome> & { readonly go: Outcome['go'] }
}

/** What a step that holds others may look at while it chooses its way. */
export interface WayContext extends StepContext {
  /** Whether the conditions of a way hold for a record; the run's own unless told otherwise. */
  readonly holds: (
    branch: AnyBranch,
    record?: RecordSnapshot,
  ) => { readonly holds: boolean; readonly seen: readonly Seen[] }
}

/** The way that is gone and for which records: the run's own, or some that are linked to it. */
export interface Way<B extends AnyBranch = AnyBranch> {
  readonly branch: B
  readonly records: readonly RecordSnapshot[]
  /** Why this one, in words of this moment. */
  readonly say: string
  readonly seen: readonly Seen[]
}

/** A choice of ways, run as a test. `holding` are the ways whose conditions hold, whatever the record. */
export interface WayExample<P> {
  readonly say: string
  readonly params: P
  readonly object?: ObjectKind
  readonly record?: Values
  /** Records linked to it, of whatever kind is asked for, by their numbers. */
  readonly linked?: readonly number[]
  readonly branches: readonly [AnyBranch, ...AnyBranch[]]
  readonly holding?: readonly string[]
  /** The way that is gone, by its id, and how many records go it; or why none is. */
  readonly expect: { readonly way: string; readonly records: number } | { readonly none: SkipReason['code'] }
}

/** For a kind of step that holds others: what ways it has, and which is gone. */
export type Ways<P> = WaysOf<P> & (ChosenWays<P> | EndedWays | MadeWays)

/** Which way is gone is known at once. */
interface ChosenWays<P> {
  readonly made?: undefined
  readonly whenEmptied?: undefined
  choose<B extends AnyBranch>(
    params: P,
    branches: readonly B[],
    context: WayContext,
  ): Way<B> | { readonly none: SkipReason }
  readonly examples: readonly [WayExample<P>, ...WayExample<P>[]]
  readonly end?: undefined
}

/** For a step that makes a record: its one way is for what it has made. */
interface MadeWays {
  readonly made: true
  readonly choose?: undefined
  readonly end?: undefined
  readonly whenEmptied?: undefined
  readonly examples?: undefined
}

/** For a step that waits: which of its ways, from 0, is gone when the wait has ended so. */
interface EndedWays {
  readonly made?: undefined
  end(how: WaitOver, gives: Values): number
  /** Whether it has a way for a date that is emptied meanwhile; without one that ends the run. */
  readonly whenEmptied?: boolean
  readonly choose?: undefined
  readonly examples?: undefined
}

interface WaysOf<P> {
  /** The last way is gone when none before it is. */
  readonly otherwise: boolean
  /** There is one way only. */
  readonly single: boolean
  /** The kind of record that the steps inside work on. */
  object(params: P, object: ObjectKind): ObjectKind
  /** The ways a new step begins with; `fresh` makes ids. */
  begin(params: P, names: Names, fresh: (letter: 'b' | 'c') => string): readonly BranchOf<never>[]
  /** What keeps a way from being one of this kind of step, whatever the catalogue says; `null` when nothing does. */
  misfit(branches: readonly AnyBranch[], branch: AnyBranch): string | null
  /** What is gone it for, on the sheet; words that can be edited stand in the group of conditions below it. */
  label(branch: AnyBranch, index: number, branches: readonly AnyBranch[], params: P, names: Names): string
  /** What is still missing or does not fit on a way. */
  check(branch: AnyBranch, index: number, branches: readonly AnyBranch[], params: P, names: Names): readonly Problem[]
}

/** One kind of step: everything about it in one place. See CONTRIBUTING.md for adding one. */
export interface StepSpec<K extends string, P extends object> {
  readonly kind: K
  readonly category: Category
  /** What it does, for the list of steps, and other words people look for it by. */
  readonly does: string
  readonly alsoCalled: readonly string[]
  /** Objects whose records it can work on. */
  readonly objects: readonly ObjectKind[]
  readonly params: z.ZodType<P>
  readonly form: Form<P>
  /** Fields that it is always about, without anybody choosing them. */
  readonly about?: readonly string[]
  /** What a new step begins with; what is still to be chosen is `null` or empty. */
  readonly start: P
  sentence(params: P, names: Names): readonly SentencePart[]
  /** What is still missing or does not fit, by param. */
  check(params: P, names: Names): readonly StepProblem[]
  /** What it may write, for finding what rules do to one another; `held` is what the record is known to hold then. */
  touches?(params: P, names: Names, held: Values): readonly Touch[]
  /** What it gives to the steps further down. */
  gives?(params: P, names: Names): readonly ResultSpec[]
  /** What it writes to somebody outside. */
  writes?(params: P, catalogue: Catalogue): Writing
  /** What the line of time says beside it, and beside the step behind it. */
  rail?(params: P, names: Names): { readonly own?: string | null; readonly next?: string | null }
  /** Whether it may wait, or be put off. */
  mayWait?(params: P): boolean
  /**
   * For a step that may wait: the date field its moment is counted from, and the signals that may end it. `wrote` is
   * what it did before it began to wait.
   */
  waitsFor?(params: P, names: Names, wrote: readonly Wrote[]): Waited
  /** The moment, counted anew when the date it hangs on has moved; or why there is none any more. */
  movedTo?(params: P, context: StepContext): number | { readonly none: SkipReason }
  /** What it waits for beside a moment, in words: "it is done". */
  awaits?(params: P, names: Names): string
  /** Whether what happened is what it waits for; asked of what bears one of its signals. */
  comes?(params: P, event: Happened, names: Names): boolean
  /** What it gives when the wait is over; `event` is what was waited for, where that came. */
  over?(params: P, how: WaitOver, names: Names, event: Happened | null): WaitResult
  /** Whether conditions are asked again behind it; as the rule says, when left out. */
  recheck?(params: P): boolean | null
  /**
   * Pure: reads through the context and returns what is to be done. A step that holds others has nothing to do itself.
   */
  run?(params: P, context: StepContext): Outcome
  readonly ways?: Ways<P>
  readonly examples: readonly StepExample<P>[]
}

/** What came of a wait: results by their keys, and a few words for the journal. */
export interface WaitResult {
  readonly gives?: Values
  readonly say: string
}

/**
 * How a wait came to its end: its moment came, what it waited for happened, somebody wanted it over, or the date it
 * hung on was emptied.
 */
export type WaitOver = 'due' | 'came' | 'byHand' | 'emptied'

export interface StepKind<K extends string = string> {
  readonly kind: K
  readonly category: Category
  readonly does: string
  readonly alsoCalled: readonly string[]
  readonly objects: readonly ObjectKind[]
  readonly params: z.ZodType<object>
  readonly form: Form<Record<string, unknown>>
  readonly about: readonly string[]
  readonly start: object
  sentence(params: object, names: Names): readonly SentencePart[]
  check(params: object, names: Names): readonly StepProblem[]
  touches(params: object, names: Names, held: Values): readonly Touch[]
  gives(params: object, names: Names): readonly ResultSpec[]
  writes(params: object, catalogue: Catalogue): Writing | null
  rail(params: object, names: Names): { readonly own?: string | null; readonly next?: string | null }
  mayWait(params: object): boolean
  waitsFor(params: object, names: Names, wrote: readonly Wrote[]): Waited
  movedTo(params: object, context: StepContext): number | { readonly none: SkipReason }
  awaits(params: object, names: Names): string | null
  comes(params: object, event: Happened, names: Names): boolean
  over(params: object, how: WaitOver, names: Names, event: Happened | null): WaitResult
  recheck(params: object): boolean | null
  run(params: object, context: StepContext): Outcome
  readonly ways: Ways<object> | null
  readonly examples: readonly StepExample<object>[]
  readonly schema: z.ZodObject<{ id: z.ZodString; kind: z.ZodLiteral<K>; params: z.ZodType<object> }>
}

const NOTHING: Outcome = { go: 'on', effects: [] }

/**
 * The one place where a step's params lose their type. Sound, because a document is checked by the union of the
 * same schemas before the engine, the sheet or the API see it.
 */
export const defineStep = <const K extends string, P extends object>(spec: StepSpec<K, P>): StepKind<K> => {
  const made: StepKind<K> = {
    kind: spec.kind,
    category: spec.category,
    does: spec.does,
    alsoCalled: spec.alsoCalled,
    objects: spec.objects,
    params: spec.params,
    form: spec.form as Form<Record<string, unknown>>,
    about: spec.about ?? [],
    start: spec.start,
    sentence: (params, names) => spec.sentence(params as P, names),
    check: (params, names) => spec.check(params as P, names),
    touches: (params, names, held) => spec.touches?.(params as P, names, held) ?? [],
    gives: (params, names) => spec.gives?.(params as P, names) ?? [],
    writes: (params, catalogue) => spec.writes?.(params as P, catalogue) ?? null,
    rail: (params, names) => spec.rail?.(params as P, names) ?? {},
    mayWait: (params) => spec.mayWait?.(params as P) ?? false,
    waitsFor: (params, names, wrote) => spec.waitsFor?.(params as P, names, wrote) ?? { anchor: null, signals: [] },
    movedTo: (params, context) =>
      spec.movedTo?.(params as P, context) ?? { none: { code: 'own', say: 'it does not wait for a time' } },
    awaits: (params, names) => spec.awaits?.(params as P, names) ?? null,
    comes: (params, event, names) => spec.comes?.(params as P, event, names) ?? false,
    over: (params, how, names, event) => spec.over?.(params as P, how, names, event) ?? { say: '' },
    recheck: (params) => spec.recheck?.(params as P) ?? null,
    run: (params, context) => spec.run?.(params as P, context) ?? NOTHING,
    ways: (spec.ways as Ways<object> | undefined) ?? null,
    examples: spec.examples,
    schema: z.strictObject({
      id: zId as z.ZodString,
      kind: z.literal(spec.kind),
      params: spec.params as z.ZodType<object>,
    }),
  }
  return Object.freeze(made)
}

/** A value of a record, empty when it has none. */
export const valueOf = (record: RecordSnapshot, field: string): Value => record.values[field] ?? null
