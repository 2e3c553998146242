import TinyQueue from 'tinyqueue'
import type { ClockWorld, Timer } from '../engine/clockwork'
import type { Matcher } from '../engine/matcher'
import { heedsChange, listensTo } from '../engine/wake'
import type { NewWait, Wait } from '../engine/world'
import type { ActivityScript } from '../records/activity'
import type { ObjectKind, RecordRef } from '../records/kinds'
import type { Cause, ChainPlace, ClockMoment, FieldChange } from '../records/record'
import { hearersOf } from '../signals/activity'
import { keyOf } from './overlay-links'
import { OverlayRuns, type OverlayRun } from './overlay-runs'
import type { WaitingBelow } from './base'

type HandStart = NonNullable<Extract<Cause, { by: 'person' }>['starts']>

/** Everything that happens stands here, in order; what drops a part of it takes back exactly that. */
export class Overlay extends OverlayRuns implements ClockWorld {
  readonly waits = new Map<number, Wait>()
  readonly timers = new Map<string, Timer>()
  private readonly waitsByRecord = new Map<string, Set<number>>()
  private readonly waitsByRun = new Map<number, Set<number>>()
  private readonly dueWaits = new TinyQueue<{ readonly dueMs: number; readonly id: number }>(
    [],
    (a, b) => a.dueMs - b.dueMs || a.id - b.id,
  )
  private lastWait = 0

  /** Takes over a run that was begun below and waits there: it goes on here by the version it began with. */
  take(below: WaitingBelow): void {
    const { run, atMs, open, waits } = below
    const made: OverlayRun = {
      id: this.runs.length + 1,
      run,
      atMs,
      end: { state: open.state, stop: null, seen: open.seen },
      endMs: null,
      below,
    }
    this.push(this.runs, made)
    this.put(this.identities, `${run.ruleId} ${keyOf(run.ref)} ${run.occurrence}`, made)
    this.pushTo(this.ofRule, `${run.ruleId} ${keyOf(run.ref)}`, made)
    // Changes here are counted from the first: all of them come behind it.
    for (const wait of waits) this.keepWait({ ...wait, id: ++this.lastWait, runId: made.id, sinceSeq: 0 })
  }

  /** The rules that run here; whoever drives it sets them. */
  matcher: Matcher | null = null

  protected heeds(ref: RecordRef, change: FieldChange): boolean {
    return (this.matcher?.heeds(ref, change) ?? true) || (this.waits.size > 0 && heedsChange(this.waitsOf(ref), change))
  }

  protected hearsLinks(object: ObjectKind): boolean {
    return this.matcher?.hears(object, 'link') ?? false
  }

  startByClock(ref: RecordRef, starts: ClockMoment): void {
    if (this.only && !this.only.has(keyOf(ref))) return
    this.log('started', ref, [], { by: 'clock', starts }, { chainId: `clock-${this.events.length}`, depth: 0 })
  }

  /** Somebody wants a rule run for the record. */
  startByHand(ref: RecordRef, starts: HandStart, chain: ChainPlace): void {
    this.log('started', ref, [], { by: 'person', personId: '', starts }, chain)
  }

  /**
   * Somebody does something: the record hears of it, and those it is linked to. What was really done is known below
   * already, and is told with the moment of its own.
   */
  act(ref: RecordRef, { kind, about, data, doneMs }: ActivityScript, chain: ChainPlace = this.newChain()): void {
    const record = this.read(ref)
    if (!record) return
    const atMs = doneMs ?? this.atMs
    if (doneMs === undefined)
      this.pushTo(this.done, keyOf(ref), { id: -1 - this.events.length, kind, about, data, atMs })
    const hearers = hearersOf(
      { ref, name: String(record.values.name ?? '') },
      { kind, about, data, atMs, toldMs: this.atMs },
      (object) => this.linked(ref, object).map((one) => one.record.id),
      (to) => (this.matcher?.hears(to.object, 'activity') ?? true) || this.waitsOf(to).some(listensTo('activity')),
    )
    for (const { ref: to, change } of hearers)
      if (to === ref || !this.only || this.only.has(keyOf(to)))
        this.log('happened', to, [change], { by: 'activity', activityId: 0 }, chain)
  }

  wait(given: NewWait): void {
    this.keepWait({ ...given, id: ++this.lastWait, sinceMs: this.atMs, sinceSeq: this.events.length })
  }

  private keepWait(wait: Wait): void {
    // A wait goes by changes that nobody went by when days were looked ahead.
    this.wakeUp(wait.ref)
    this.put(this.waits, wait.id, wait)
    for (const [map, key] of [
      [this.waitsByRecord, keyOf(wait.ref)],
      [this.waitsByRun, wait.runId],
    ] as const) {
      const ids = (map as Map<unknown, Set<number>>).get(key) ?? new Set<number>()
      ;(map as Map<unknown, Set<number>>).set(key, ids)
      ids.add(wait.id)
    }
    if (wait.dueMs !== null) this.dueWaits.push({ dueMs: wait.dueMs, id: wait.id })
  }

  waitsOf(ref: RecordRef): readonly Wait[] {
    return [...(this.waitsByRecord.get(keyOf(ref)) ?? [])].flatMap((id) => this.waits.get(id) ?? [])
  }
  waitsOfRun(runId: number): number {
    return [...(this.waitsByRun.get(runId) ?? [])].filter((id) => this.waits.has(id)).length
  }

  setDue(waitId: number, dueMs: number): void {
    const wait = this.waits.get(waitId)
    if (!wait) return
    this.put(this.waits, waitId, { ...wait, dueMs })
    this.dueWaits.push({ dueMs, id: waitId })
  }

  endWait(waitId: number): void {
    const wait = this.waits.get(waitId)
    if (!wait) return
    this.waits.delete(waitId)
    this.undoable(() => {
      this.waits.set(waitId, wait)
      if (wait.dueMs !== null) this.dueWaits.push({ dueMs: wait.dueMs, id: waitId })
    })
  }

  firstTimer(untilMs: number): Timer | null {
    let first: Timer | null = null
    for (const timer of this.timers.values())
      if (timer.dueMs <= untilMs && (first === null || timer.dueMs < first.dueMs)) first = timer
    return first
  }

  timer(ruleId: number, triggerId: string): Timer | null {
    return this.timers.get(`${ruleId} ${triggerId}`) ?? null
  }
  setTimer(timer: Timer): void {
    this.put(this.timers, `${timer.ruleId} ${timer.triggerId}`, timer)
  }
  dropTimer(ruleId: number, triggerId: string): void {
    const key = `${ruleId} ${triggerId}`
    const timer = this.timers.get(key)
    if (!timer) return
    this.timers.delete(key)
    this.undoable(() => {
      this.timers.set(key, timer)
    })
  }

  firstWait(untilMs: number): Wait | null {
    for (let first = this.dueWaits.peek(); first; first = this.dueWaits.peek()) {
      const wait = this.waits.get(first.id)
      if (wait?.dueMs === first.dueMs) return wait.dueMs <= untilMs ? wait : null
      // It has ended, or moved and stands further down again.
      this.dueWaits.pop()
    }
    return null
  }
}
