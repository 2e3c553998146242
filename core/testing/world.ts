import '../formulas/formula'
import '../time/recurrence-days'
import type { RunReport } from '../engine/handle-event'
import { nextDue, planTimers, workDue } from '../engine/clockwork'
import { Matcher, type ActiveRule } from '../engine/matcher'
import { processEvent } from '../engine/process-event'
import type { Value, Values } from '../language/value'
import type { ObjectKind, RecordRef } from '../records/kinds'
import type { Cause, ChainPlace } from '../records/record'
import { Memory } from '../world/memory'
import { Overlay } from '../world/overlay'
import type { WriteResult } from '../world/ports'
import { catalogue, NOW_MS } from './setting'

const INES: Cause = { by: 'person', personId: 'ines' }

/** The world of rehearsals over nothing, with short ways to drive it: the engine's tests stand on what people use. */
export class TestWorld extends Overlay {
  position = 0
  /** Makes the next writes of a record throw, as a broken disk would. */
  broken: ((ref: RecordRef) => boolean) | null = null

  constructor(atMs = NOW_MS) {
    super(new Memory(catalogue), atMs)
  }

  /** What there is, in lists. */
  get state() {
    const { events, runs, steps, tasks, messages } = this
    return { events, runs, steps, tasks, messages, waits: [...this.waits.values()], timers: [...this.timers.values()] }
  }

  override write(
    ref: RecordRef,
    values: { readonly [field: string]: Value },
    cause: Cause,
    chain: ChainPlace,
  ): WriteResult {
    if (this.broken?.(ref)) throw new Error('disk I/O error')
    return super.write(ref, values, cause, chain)
  }

  /** Creates a record as a person would. */
  add(object: ObjectKind, id: number, values: Values): RecordRef {
    const ref = { object, id }
    const given = { name: `${object} ${id}`, ...(object === 'deal' ? { stage: 'hp-sized' } : {}), ...values }
    const made = this.create(object, given, [], INES, { chainId: `add-${object}:${id}`, depth: 0 }, id)
    if (!made.ok) throw new Error(JSON.stringify(made.problems))
    return ref
  }

  /** A person's change; rules have not run yet. */
  change(ref: RecordRef, values: Values, chainId = `chain-${this.events.length}`): void {
    const written = this.write(ref, values, INES, { chainId, depth: 0 })
    if (!written.ok) throw new Error(JSON.stringify(written.problems))
  }

  /** Takes a record away, as a person does. */
  delete(ref: RecordRef): void {
    this.remove(ref, INES, this.newChain())
  }

  /** Puts rules on, timers and all. */
  switchOn(...rules: readonly ActiveRule[]): void {
    this.rules = rules
    planTimers(this, new Matcher(rules, catalogue))
  }

  /** Lets rules see every event that none has seen yet. */
  drain(rules: readonly ActiveRule[]): readonly RunReport[] {
    const matcher = new Matcher(rules, catalogue)
    const reports: RunReport[] = []
    for (let event = this.events[this.position]; event; event = this.events[this.position]) {
      const { woken, started } = processEvent(this, matcher, event)
      reports.push(...woken, ...started)
      this.position++
    }
    return reports
  }

  /**
   * Lets time pass to an instant, moment by moment, and everything happen that it brings; `late` lets nothing run until
   * then.
   */
  pass(toMs: number, late = false): readonly RunReport[] {
    const reports: RunReport[] = []
    const matcher = new Matcher(this.rules, catalogue)
    for (let at = nextDue(this), n = 0; at !== null && at <= toMs; at = nextDue(this), n++) {
      if (n > 5_000) throw new Error(`something is due again and again, at ${new Date(at).toISOString()}`)
      this.atMs = late ? toMs : Math.max(this.atMs, at)
      reports.push(...(this.atomically(() => workDue(this, matcher, 3)) ?? []), ...this.drain(this.rules))
    }
    this.atMs = toMs
    return reports
  }
}
