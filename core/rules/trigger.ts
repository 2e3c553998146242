import { z } from 'zod'
import { zId, type Group } from '../conditions/document'
import type { ObjectKind } from '../records/kinds'
import type { Value, Values } from '../language/value'
import type { ChangeEvent, FieldChange } from '../records/record'
import type { Listen } from '../signals'
import type { ClockTrigger } from './clock'
import type { Standing } from './standing'
import type { StepProblem } from './step'
import type { Form } from '../language/widgets'
import type { SentencePart } from '../language/sentence'
import type { Names } from '../fields/names'
import type { ResultSpec } from './result-spec'

/** What a field of the record held before the change, the newest first; a value may come twice in a row. */
export type Past = (field: string) => Iterable<Value>

/** What the record holds after the event. */
export type Held = () => Values

/** Whether an event starts a rule. */
export type Started = (event: Pick<ChangeEvent, 'kind' | 'changes'>, past?: Past, held?: Held) => boolean

export interface TriggerExample<P> {
  readonly say: string
  readonly object: ObjectKind
  readonly params: P
  readonly event: Pick<ChangeEvent, 'kind' | 'changes'>
  readonly starts: boolean
}

export interface TriggerSpec<K extends string, P extends object> {
  readonly kind: K
  readonly does: string
  /** What people should know when choosing between it and its neighbours. */
  readonly hint: string
  readonly objects: readonly ObjectKind[]
  readonly params: z.ZodType<P>
  readonly form: Form<P>
  readonly start: P
  sentence(params: P, names: Names): readonly SentencePart[]
  check(params: P, names: Names): readonly StepProblem[]
  /** The signals it listens to: of each kind the narrowest key that covers it. */
  listen(params: P, names: Names): readonly Listen[]
  /** Compiled once for a rule's version. Looks at the difference an event made, not at the value alone. */
  compile(params: P, names: Names): Started
  /** For one that goes by the clock: how it finds its records; `null` while a part is still to be chosen. */
  clock?(params: P, names: Names, conditions: Group): ClockTrigger | null
  /**
   * Whether a change that the day brought to a value has to be kept for it; where it starts the rule, when left out.
   */
  heeds?(params: P, change: FieldChange): boolean
  /** Which records stand in what it watches; nothing does, when left out. Asked only where `check` finds nothing. */
  stands?(params: P, names: Names): Standing | null
  /** What it gives to the steps: answers of whoever started it. */
  gives?(params: P, names: Names): readonly ResultSpec[]
  /** The values of those for an event that started it, by their keys; answers stand in the event’s cause. */
  given?(params: P, event: Pick<ChangeEvent, 'kind' | 'changes'>): Values
  /** What the record surely holds right after it. */
  after?(params: P): Values
  /** For an event that starts nothing and that somebody could take for its own: what kept it from it, in words. */
  nearly?(params: P, event: Pick<ChangeEvent, 'kind' | 'changes'>, names: Names): string | null
  /** What happened, in words, for the task and the journal: "stage went from Sized to Quoted". */
  because(params: P, event: Pick<ChangeEvent, 'kind' | 'changes'>, names: Names, held?: Held): string
  readonly examples: readonly [TriggerExample<P>, ...TriggerExample<P>[]]
}

export interface TriggerKind<K extends string = string> {
  readonly kind: K
  readonly does: string
  readonly hint: string
  readonly objects: readonly ObjectKind[]
  readonly params: z.ZodType<object>
  readonly form: Form<Record<string, unknown>>
  readonly start: object
  sentence(params: object, names: Names): readonly SentencePart[]
  check(params: object, names: Names): readonly StepProblem[]
  listen(params: object, names: Names): readonly Listen[]
  compile(params: object, names: Names): Started
  clock(params: object, names: Names, conditions: Group): ClockTrigger | null
  /** Whether it goes by the clock and not by what happens. */
  readonly byClock: boolean
  /** `null` where it says nothing about it. */
  heeds(params: object, change: FieldChange): boolean | null
  stands(params: object, names: Names): Standing | null
  gives(params: object, names: Names): readonly ResultSpec[]
  given(params: object, event: Pick<ChangeEvent, 'kind' | 'changes'>): Values
  after(params: object): Values
  /** `null` for an event that is nothing like what it goes by. */
  nearly(params: object, event: Pick<ChangeEvent, 'kind' | 'changes'>, names: Names): string | null
  because(params: object, event: Pick<ChangeEvent, 'kind' | 'changes'>, names: Names, held?: Held): string
  readonly examples: readonly TriggerExample<object>[]
  readonly schema: z.ZodObject<{ id: z.ZodString; kind: z.ZodLiteral<K>; params: z.ZodType<object> }>
}

/** As `defineStep`: the one place where a trigger's params lose their type, behind the document's schema. */
export const defineTrigger = <const K extends string, P extends object>(spec: TriggerSpec<K, P>): TriggerKind<K> => {
  const made: TriggerKind<K> = {
    kind: spec.kind,
    does: spec.does,
    hint: spec.hint,
    objects: spec.objects,
    params: spec.params,
    form: spec.form as Form<Record<string, unknown>>,
    start: spec.start,
    sentence: (params, names) => spec.sentence(params as P, names),
    check: (params, names) => spec.check(params as P, names),
    listen: (params, names) => spec.listen(params as P, names),
    compile: (params, names) => spec.compile(params as P, names),
    byClock: spec.clock !== undefined,
    clock: (params, names, conditions) => spec.clock?.(params as P, names, conditions) ?? null,
    heeds: (params, change) => spec.heeds?.(params as P, change) ?? null,
    stands: (params, names) => spec.stands?.(params as P, names) ?? null,
    gives: (params, names) => spec.gives?.(params as P, names) ?? [],
    given: (params, event) => spec.given?.(params as P, event) ?? {},
    after: (params) => spec.after?.(params as P) ?? {},
    nearly: (params, event, names) => spec.nearly?.(params as P, event, names) ?? null,
    because: (params, event, names, held) => spec.because(params as P, event, names, held),
    examples: spec.examples,
    schema: z.strictObject({
      id: zId as z.ZodString,
      kind: z.literal(spec.kind),
      params: spec.params as z.ZodType<object>,
    }),
  }
  return Object.freeze(made)
}
