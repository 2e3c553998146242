import { OBJECTS } from '../../records/kinds'
import { z } from 'zod'
import { plainSentence, say, word, type SentencePart } from '../../language/sentence'
import type { Names } from '../../fields/names'
import type { Form } from '../../language/widgets'
import type { Listen } from '../../signals'
import type { Happened } from '../../signals/signal'
import { onTask } from '../../signals/task'
import { fromInstant, MOMENT_UNITS, sayCount } from '../../time/moments'
import type { Effect } from '../../effects'
import type { Outcome } from '../../engine/outcome'
import { summaryOf, type Wrote } from '../../effects/wrote'
import type { SkipReason } from '../../language/reasons'
import type { Values } from '../../language/value'
import type { Category } from '../../language/category'
import { RECHECK, sayRecheck } from '../recheck'
import type { ResultSpec } from '../result-spec'
import { defineStep, type StepContext, type StepExample, type StepKind, type StepProblem } from '../step'
import { zCount } from '../when'

/** A wait with two ends: until something happens to the record, or at most so long. Each end has a path of its own. */

/** What every such wait has beside what it waits for. */
interface Limits {
  /** The longest it waits; 0 for as long as it takes. */
  most: z.infer<typeof zCount>
  recheck: boolean
}

export interface AwaitSpec<K extends string, P extends object> {
  readonly kind: K
  readonly does: string
  readonly alsoCalled: readonly string[]
  /** Its colour, where it does more than wait. */
  readonly category?: Category
  readonly params: z.ZodObject<{ [F in keyof P]: z.ZodType<P[F]> }>
  readonly form: Form<P>
  readonly start: P
  /** What is waited for, behind "wait until ". */
  sentence(params: P, names: Names): readonly SentencePart[]
  check(params: P, names: Names): readonly StepProblem[]
  /** What it does before it waits, in words, and what stands on lines of its own behind everything else. */
  opening?(params: P, names: Names): { readonly said: readonly SentencePart[]; readonly texts: readonly SentencePart[] }
  /** What is done before it waits; why neither is; or what becomes of it without a wait. */
  first?(
    params: P,
    context: StepContext,
  ):
    | { readonly effects: readonly Effect[] }
    | { readonly none: SkipReason }
    | { readonly instead: Extract<Outcome, { readonly go: 'on' | 'hold' }> }
  /** The signals that may end it; `wrote` is what was done before. */
  signals(params: P, names: Names, wrote: readonly Wrote[]): readonly Listen[]
  /**
   * Its ends as they stand on the sheet, where there are better words than the plain ones; the last is for the time
   * limit.
   */
  readonly ends?: readonly [came: string, ...others: string[], ranOut: string]
  /** Where it can come to several ends before that: which it is, by what it gives. */
  endOf?(gives: Values): number
  /** What can be used of it further down, beside how it ended, and what the journal says of it. */
  readonly content?: {
    gives(params: P, names: Names): readonly ResultSpec[]
    of(event: Happened, names: Names, params: P): { readonly gives: Values; readonly say: string }
  }
  /** Whether what bears one of them is what it waits for. */
  comes(params: P, event: Happened, names: Names): boolean
  readonly examples: readonly [StepExample<P & Limits>, ...StepExample<P & Limits>[]]
}

const OUTCOMES = [
  { id: 'came', label: 'It happened' },
  { id: 'ranOut', label: 'Time limit reached' },
]

/** Its two ends as they stand on the sheet. */
const ENDS = ['if it happens', 'if the time limit is reached'] as const

const WORDS: Readonly<Record<number, string>> = { 2: 'two', 3: 'three' }

const zLimits = z.strictObject({ most: zCount, recheck: z.boolean() })
const LIMITS: Limits = { most: { count: 2, unit: 'workdays' }, recheck: true }
const LIMITS_FORM: Form<Limits> = {
  most: { widget: 'amount', min: 0, max: 3650, units: MOMENT_UNITS, note: '0 means no time limit.' },
  recheck: RECHECK,
}

/** What a step waits for that gave somebody a task: that one, and no other. */
export const ownTasks = (wrote: readonly Wrote[]): readonly Listen[] =>
  wrote.flatMap((one) => {
    const made = summaryOf(one).task
    return made ? [onTask(made.id)] : []
  })

/** Only what happens behind its beginning counts. */
export const defineAwait = <const K extends string, P extends object>(spec: AwaitSpec<K, P>): StepKind<K> => {
  const ends: readonly string[] = spec.ends ?? ENDS
  return defineStep<K, P & Limits>({
    kind: spec.kind,
    category: spec.category ?? 'time',
    does: spec.does,
    alsoCalled: ['until', 'event', 'timeout', 'at most', ...spec.alsoCalled],
    objects: OBJECTS,
    // What the two parse is what they are parsed from: neither changes a value.
    params: spec.params.extend(zLimits.shape) as unknown as z.ZodType<P & Limits>,
    form: { ...spec.form, ...LIMITS_FORM } as Form<P & Limits>,
    start: { ...spec.start, ...LIMITS },
    sentence(params, names) {
      const { most, recheck } = params
      const opening = spec.opening?.(params, names)
      return [
        ...(opening?.said ?? []),
        say(opening ? ', then wait until ' : 'wait until '),
        ...spec.sentence(params, names),
        say(', '),
        word('most', most.count === 0 ? 'with no time limit' : `for at most ${sayCount(most.count, most.unit)}`, ''),
        say(', '),
        sayRecheck(recheck),
        ...(opening?.texts ?? []),
      ]
    },
    check: (params, names) => spec.check(params, names),
    rail: ({ most }) => ({ next: most.count === 0 ? 'then' : `up to ${sayCount(most.count, most.unit)}` }),
    mayWait: () => true,
    waitsFor: (params, names, wrote) => ({ anchor: null, signals: spec.signals(params, names, wrote) }),
    movedTo: ({ most }, { moment }) =>
      most.count === 0
        ? { none: { code: 'own', say: 'it has no time limit' } }
        : fromInstant(moment.nowMs, { ...most, minute: null }, moment.zone, moment.calendar),
    awaits: (params, names) => plainSentence(spec.sentence(params, names)),
    comes: (params, event, names) => spec.comes(params, event, names),
    recheck: ({ recheck }) => (recheck ? null : false),
    ways: {
      otherwise: false,
      single: false,
      object: (_params, object) => object,
      begin: (_params, _names, fresh) => ends.map(() => ({ id: fresh('b'), steps: [] })),
      misfit: (branches, branch) =>
        branches.length !== ends.length
          ? `A wait has exactly ${WORDS[ends.length] ?? ends.length} paths, one for each end.`
          : branch.when !== undefined || branch.value !== undefined
            ? 'The path of a wait can’t have conditions or a value.'
            : null,
      label: (_branch, index) => ends[index] ?? '',
      check: (branch, index, _branches, { most }) =>
        index === ends.length - 1 && branch.steps.length > 0 && most.count === 0 ? [{ code: 'noTimeLimit' }] : [],
      end: (how, gives) => (how === 'came' ? (spec.endOf?.(gives) ?? 0) : ends.length - 1),
    },
    gives: (params, names) => [
      { key: 'came', label: 'how the wait ended', type: 'choice', choices: OUTCOMES },
      ...(spec.content?.gives(params, names) ?? []),
    ],
    over(params, how, names, event) {
      if (how !== 'came')
        return { gives: { came: 'ranOut' }, say: how === 'due' ? 'time limit reached' : 'continued by hand' }
      const content = event && spec.content?.of(event, names, params)
      return { gives: { came: 'came', ...content?.gives }, say: content?.say ?? 'it happened' }
    },
    run(params, context) {
      const { most } = params
      const { nowMs, zone, calendar } = context.moment
      const first = spec.first?.(params, context)
      if (first && 'none' in first) return { go: 'skip', reason: first.none }
      if (first && 'instead' in first) return first.instead
      return {
        go: 'wait',
        dueMs: most.count === 0 ? null : fromInstant(nowMs, { ...most, minute: null }, zone, calendar),
        say: '',
        // What else it would give by itself is nothing that a wait gives.
        ...(first && { effects: first.effects }),
      }
    },
    examples: spec.examples,
  })
}
