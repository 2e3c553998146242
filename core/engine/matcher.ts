import { compileGroup, type CompiledGroup } from '../conditions/compile'
import { equalitiesOf, type Equality } from '../conditions/equalities'
import type { Catalogue } from '../fields/catalogue'
import type { Values } from '../language/value'
import type { ObjectKind, RecordRef } from '../records/kinds'
import type { ChangeEvent, FieldChange } from '../records/record'
import type { RuleDocument, Trigger } from '../rules/document'
import { placedBranches, placedSteps } from '../rules/tree'
import { namesResults, withResults } from '../rules/results'
import type { Held, Past, Started } from '../rules/trigger'
import type { ClockTrigger } from '../rules/clock'
import { STEPS } from '../rules/steps'
import { TRIGGERS } from '../rules/triggers'
import { aboutOf, SIGNALS, SIGNAL_NAMES, type SignalName } from '../signals'
import type { Happened } from '../signals/signal'
import { Bucket } from './bucket'
import { compileGoal, type CompiledGoal } from './goal'
import type { Names } from '../fields/names'

/** A version of a rule that is on. */
export interface ActiveRule {
  readonly ruleId: number
  readonly versionId: number
  /** Rules that match the same event go by this number, then by age, which is the order of their ids. */
  readonly order: number
  readonly document: RuleDocument
  /** When it was last switched on or changed: a moment from then on counts, however soon it comes. */
  readonly changedAt?: number
}

/** The rule compiled for running: nothing of its document is walked again per record. */
export interface CompiledRule extends ActiveRule {
  readonly conditions: CompiledGroup
  /** Conditions of the ways of its steps, by the id of the way. */
  readonly ways: ReadonlyMap<string, CompiledGroup>
  /** Whether any of its steps may wait. */
  readonly waits: boolean
  /** Its triggers that go by the clock. */
  readonly clocks: readonly { readonly triggerId: string; readonly trigger: ClockTrigger }[]
  /** With the results of its steps, where any of them is used; `null` where runs need not carry them along. */
  readonly results: Catalogue | null
  /** What it is for, where that is measured. */
  readonly goal: CompiledGoal | null
}

export interface Hit {
  readonly rule: CompiledRule
  /** What happened, in words. */
  readonly because: string
}

interface Entry {
  readonly rule: CompiledRule
  readonly trigger: Trigger
  readonly names: Names
  readonly test: Started
  readonly equalities: readonly Equality[]
}

const NO_WAYS: ReadonlyMap<string, CompiledGroup> = new Map()

/** Compiled once for a version of a rule. */
export function compileRule(rule: ActiveRule, catalogue: Catalogue): CompiledRule {
  const { conditions, object, steps } = rule.document
  const results = namesResults(rule.document) ? withResults(rule.document, catalogue) : null
  const branches = steps.some((step) => step.branches) ? placedBranches(rule.document) : []
  return {
    ...rule,
    results,
    waits: placedSteps(rule.document).some(({ step }) => STEPS[step.kind].mayWait(step.params)),
    clocks: rule.document.triggers.flatMap((one) => {
      const trigger = TRIGGERS[one.kind].clock(one.params, { catalogue, object }, conditions)
      return trigger ? [{ triggerId: one.id, trigger }] : []
    }),
    conditions: compileGroup(conditions, object, catalogue),
    goal: compileGoal(rule.document, catalogue),
    ways:
      branches.length === 0
        ? NO_WAYS
        : new Map(
            branches.flatMap(({ branch, object: of }) =>
              branch.when ? [[branch.id, compileGroup(branch.when, of, results ?? catalogue)] as const] : [],
            ),
          ),
  }
}

/**
 * Finds the rules an event starts. Triggers are kept under the signals they listen to, by kind of record and key, so
 * that the cost of an event is that of the rules it touches and not of the rules there are.
 */
export class Matcher {
  private readonly byId = new Map<number, CompiledRule>()
  /** By kind of record and kind of signal, then by key; only signals that anybody listens to. */
  private readonly buckets = new Map<ObjectKind, Map<SignalName, Map<string, Bucket<Entry>>>>()
  /** Triggers that listen to a field in any way, by kind of record and field. */
  private readonly byField = new Map<ObjectKind, Map<string, Entry[]>>()
  /** Fields, by kind of record, that a moment of a rule hangs on. */
  private readonly timed = new Map<ObjectKind, Set<string>>()
  readonly size: number

  constructor(
    rules: readonly ActiveRule[],
    private readonly catalogue: Catalogue,
  ) {
    this.size = rules.length
    for (const rule of rules) this.add(compileRule(rule, catalogue))
    for (const { document, clocks } of this.byId.values())
      for (const { trigger } of clocks)
        for (const field of trigger.fields) {
          const timed = this.timed.get(document.object) ?? new Set<string>()
          this.timed.set(document.object, timed.add(field))
        }
    this.farGoals = [...this.byId.values()].filter(({ goal }) => goal !== null && goal.depends.reaches.length > 0)
    this.clocked = [...this.byId.values()]
      .filter((rule) => rule.clocks.length > 0)
      .sort((a, b) => a.order - b.order || a.ruleId - b.ruleId)
  }

  private add(rule: CompiledRule): void {
    this.byId.set(rule.ruleId, rule)
    const { object, triggers } = rule.document
    const names: Names = { catalogue: this.catalogue, object }
    const equalities = equalitiesOf(rule.document.conditions, object, this.catalogue)
    for (const trigger of triggers) {
      const kind = TRIGGERS[trigger.kind]
      const entry: Entry = { rule, trigger, names, test: kind.compile(trigger.params, names), equalities }
      for (const listen of kind.listen(trigger.params, names)) {
        if (SIGNALS[listen.signal].ruleOf) continue
        const about = aboutOf(listen)
        if ('field' in about) {
          const byField = this.byField.get(object) ?? new Map<string, Entry[]>()
          this.byField.set(object, byField)
          const there = byField.get(about.field)
          if (!there) byField.set(about.field, [entry])
          else if (there.at(-1) !== entry) there.push(entry)
        }
        const ofObject = this.buckets.get(object) ?? new Map<SignalName, Map<string, Bucket<Entry>>>()
        this.buckets.set(object, ofObject)
        const ofSignal = ofObject.get(listen.signal) ?? new Map<string, Bucket<Entry>>()
        ofObject.set(listen.signal, ofSignal)
        const bucket =
          ofSignal.get(listen.key) ??
          new Bucket<Entry>(
            (field) => this.catalogue.field(object, field),
            (field, value) => this.catalogue.compared(field, value),
          )
        ofSignal.set(listen.key, bucket)
        bucket.add(entry)
      }
    }
  }

  private *bucketsOf(event: Happened): Generator<Bucket<Entry>> {
    const ofObject = this.buckets.get(event.ref.object)
    if (!ofObject) return
    for (const signal of SIGNAL_NAMES) {
      const ofSignal = ofObject.get(signal)
      if (!ofSignal) continue
      for (const key of SIGNALS[signal].keys(event, this.catalogue)) {
        const bucket = ofSignal.get(key)
        if (bucket) yield bucket
      }
    }
  }

  /** The rule that somebody or the clock started for the record, while it is on. */
  private startOf(event: ChangeEvent): readonly Hit[] {
    let rule: CompiledRule | undefined
    for (const signal of SIGNAL_NAMES) rule ??= this.byId.get(SIGNALS[signal].ruleOf?.(event) ?? 0)
    if (rule?.document.object !== event.ref.object) return []
    if (event.cause.by === 'clock') return [{ rule, because: event.cause.starts.because }]
    const names: Names = { catalogue: this.catalogue, object: rule.document.object }
    const starts = event.cause.by === 'person' ? event.cause.starts : undefined
    const trigger = rule.document.triggers.find((one) => one.id === starts?.triggerId)
    const who =
      event.cause.by === 'person' ? (this.catalogue.person(event.cause.personId)?.name ?? event.cause.personId) : ''
    return [
      {
        rule,
        because: trigger
          ? `${TRIGGERS[trigger.kind].because(trigger.params, event, names)} by ${who}`
          : `it matched when ${who} switched the rule on`,
      },
    ]
  }

  /** Rules that go by the clock, in the order in which they run. */
  readonly clocked: readonly CompiledRule[]

  /** Rules whose target looks at linked records. */
  readonly farGoals: readonly CompiledRule[]

  /** Rules by their numbers. */
  rule(ruleId: number): CompiledRule | null {
    return this.byId.get(ruleId) ?? null
  }

  /**
   * Whether a rule goes by a change that the day brought to a value: it starts one, moves a moment of one, or one will
   * ask later whether it was so. What nobody goes by needs no event.
   */
  heeds(ref: RecordRef, change: FieldChange): boolean {
    return (this.timed.get(ref.object)?.has(change.field) ?? false) || this.listens(ref, change)
  }

  /**
   * As `heeds`, apart from moments: those are counted once, and nobody asks for the change again. Asked for every value
   * of every record when the day turns, so no key is made of a value here: whoever listens to one tests for it too.
   */
  listens(ref: RecordRef, change: FieldChange): boolean {
    const listeners = this.byField.get(ref.object)?.get(change.field)
    if (!listeners) return false
    const event = { kind: 'changed', ref, changes: [change] } as const
    return listeners.some(({ trigger, test }) => TRIGGERS[trigger.kind].heeds(trigger.params, change) ?? test(event))
  }

  /** Whether any rule listens to such a signal of records of a kind: nobody else needs to be told of it. */
  hears(object: ObjectKind, signal: SignalName): boolean {
    return this.buckets.get(object)?.has(signal) ?? false
  }

  /** Whether the rules an event starts hang on what its record holds, so that they change when the record does. */
  looksAtValues(event: ChangeEvent): boolean {
    for (const bucket of this.bucketsOf(event)) if (bucket.looksAtValues) return true
    return false
  }

  /**
   * The rules the event starts, each once, in the order in which they run. Where very many wait for the same thing,
   * those whose "is" conditions `values` do not meet are passed over; without `values` none is.
   */
  match(event: ChangeEvent, values: Values | null = null, past?: Past, held?: Held): readonly Hit[] {
    if (event.kind === 'started') return this.startOf(event)
    const hits = new Map<number, Hit>()
    for (const bucket of this.bucketsOf(event)) {
      for (const { rule, trigger, names, test } of bucket.candidates(values)) {
        if (hits.has(rule.ruleId) || !test(event, past, held)) continue
        hits.set(rule.ruleId, { rule, because: TRIGGERS[trigger.kind].because(trigger.params, event, names, held) })
      }
    }
    return [...hits.values()].sort((a, b) => a.rule.order - b.rule.order || a.rule.ruleId - b.rule.ruleId)
  }
}
