import { derivationsOf, type Derived } from '../derived/derivations'
import type { Activity } from '../records/activity'
import type { ObjectKind, RecordRef } from '../records/kinds'
import { ZONE_FIELD, type ClockRecords } from '../rules/clock'
import { addDays, dateAt, startOfDate } from '../time/dates'
import { sayInstant } from '../time/say'
import type { ChainPlace, ChangeEvent, RecordSnapshot } from '../records/record'
import { kindsByDay, turnDay, type DayTurn, type DerivingWorld } from './derive'
import type { RunReport } from './handle-event'
import type { Matcher } from './matcher'
import { STEPS } from '../rules/steps'
import { stepById } from '../rules/tree'
import { endLate, graceMs, wake } from './wake'
import type { Wait, World } from './world'

/**
 * What the clock does: triggers whose moment has come, waits that are over, reminders. Live and in a rehearsal it is
 * taken piece by piece in the order of its moments; whoever calls commits each piece and lets rules see what it made.
 */

/** The next moment of one trigger of a rule that is on. */
export interface Timer {
  readonly ruleId: number
  readonly triggerId: string
  readonly dueMs: number
  /** The last record that was started at this moment. */
  readonly position: number
}

export interface Reminder {
  readonly taskId: number
  readonly dueMs: number
}

export interface ClockWorld extends World, DerivingWorld, ClockRecords {
  /** How far the turn of the day has come; `null` when nobody has begun to look. */
  dayTurn(): DayTurn | null
  setDayTurn(turn: DayTurn): void
  /** Whether a value that hangs on the day is kept up to date here; all are, when left out. */
  keepsDaily?(derived: Derived): boolean
  /** Records of a kind behind a number, in their order. */
  behind(object: ObjectKind, afterId: number, limit: number): readonly RecordSnapshot[]
  newChain(): ChainPlace
  /** Somebody does something: the record hears of it, and those it is linked to. */
  act(ref: RecordRef, activity: Pick<Activity, 'kind' | 'about' | 'data'>, chain: ChainPlace, rulesOff?: boolean): void
  /** The earliest timer that is not later than an instant. */
  firstTimer(untilMs: number): Timer | null
  timer(ruleId: number, triggerId: string): Timer | null
  setTimer(timer: Timer): void
  dropTimer(ruleId: number, triggerId: string): void
  firstWait(untilMs: number): Wait | null
  firstReminder(untilMs: number): Reminder | null
  /** Reminds whoever has the task now, once. */
  remind(taskId: number): void
}

/** When the day turns that has not been gone through yet; `null` where nothing hangs on the day. */
function nextTurn(world: ClockWorld): number | null {
  if (
    kindsByDay(derivationsOf(world.catalogue()), world.keepsDaily ? (one) => world.keepsDaily?.(one) ?? true : null)
      .length === 0
  )
    return null
  const turn = world.dayTurn()
  return turn && startOfDate(addDays(turn.through, 1), world.catalogue().workspace.zone)
}

/**
 * When the next thing is due; `null` when nothing is. Without `turns` the turn of the day is passed over: nobody waits
 * for it.
 */
export function nextDue(world: ClockWorld, turns = true): number | null {
  const moments = [
    turns ? nextTurn(world) : null,
    world.firstTimer(Infinity)?.dueMs,
    world.firstWait(Infinity)?.dueMs,
    world.firstReminder(Infinity)?.dueMs,
  ].flatMap((at) => (typeof at === 'number' ? [at] : []))
  return moments.length === 0 ? null : Math.min(...moments)
}

/**
 * Does the next piece of what is due; `null` when nothing is. `limit` is how many records a piece takes at the most.
 */
export function workDue(world: ClockWorld, matcher: Matcher, limit: number): readonly RunReport[] | null {
  const nowMs = world.nowMs()
  const timer = world.firstTimer(nowMs)
  const wait = world.firstWait(nowMs)
  const reminder = world.firstReminder(nowMs)
  const turnMs = nextTurn(world)
  const first = Math.min(
    turnMs !== null && turnMs <= nowMs ? turnMs : Infinity,
    timer?.dueMs ?? Infinity,
    wait?.dueMs ?? Infinity,
    reminder?.dueMs ?? Infinity,
  )
  if (first === Infinity) return null
  // Whatever else is due at midnight finds the values of the new day.
  if (turnMs === first) {
    workTurn(world, limit)
    return []
  }
  if (timer?.dueMs === first) {
    workTimer(world, matcher, timer, limit)
    return []
  }
  if (wait?.dueMs === first) {
    const rule = world.ruleOfRun(wait.runId)
    const step = rule && stepById(rule.document.steps, wait.stepId)
    // The rest of very many linked records is of something that has begun: it is never too late.
    const begun = step !== null && STEPS[step.kind].ways?.single === true
    const late = rule !== null && !begun && nowMs - first > graceMs(rule)
    const report = late
      ? endLate(
          world,
          wait,
          `it was due on ${sayInstant(first, world.catalogue().workspace.zone)} while the server was down`,
        )
      : wake(world, wait, 'due')
    return report ? [report] : []
  }
  if (reminder) world.remind(reminder.taskId)
  return []
}

/** Works out what hangs on the day for the next records; a pass keeps to the day on which it began. */
function workTurn(world: ClockWorld, limit: number): void {
  const turn = world.dayTurn()
  if (!turn) return
  const only = world.keepsDaily ? (one: Derived): boolean => world.keepsDaily?.(one) ?? true : null
  const kinds = kindsByDay(derivationsOf(world.catalogue()), only)
  const turning = turn.turning ?? dateAt(world.nowMs(), world.catalogue().workspace.zone)
  const object = turn.turning !== null && turn.object !== null && kinds.includes(turn.object) ? turn.object : kinds[0]
  if (!object) return
  const records = world.behind(object, turn.turning === null ? 0 : turn.afterId, limit)
  turnDay(world, records, () => world.newChain(), only)
  const last = records.length < limit ? null : (records.at(-1)?.id ?? null)
  const next = last === null ? kinds[kinds.indexOf(object) + 1] : object
  world.setDayTurn(
    next
      ? { through: turn.through, turning, object: next, afterId: last ?? 0 }
      : { through: turning, turning: null, object: null, afterId: 0 },
  )
}

function workTimer(world: ClockWorld, matcher: Matcher, timer: Timer, limit: number): void {
  const { ruleId, triggerId, dueMs, position } = timer
  const rule = matcher.rule(ruleId)
  const clock = rule?.clocks.find((one) => one.triggerId === triggerId)
  if (!rule || !clock) {
    world.dropTimer(ruleId, triggerId)
    return
  }
  const { starts, last } = clock.trigger.due(world, dueMs, position, limit)
  const missed = world.nowMs() - dueMs > graceMs(rule)
  for (const { ref, occurrence, because } of starts) {
    if (!world.ran({ ruleId, ref, occurrence }))
      world.startByClock(ref, { ruleId, triggerId, occurrence, because, dueMs, ...(missed ? { missed } : {}) })
  }
  if (last !== null) {
    world.setTimer({ ...timer, position: last })
    return
  }
  const next = clock.trigger.next(world, dueMs)
  if (next === null) world.dropTimer(ruleId, triggerId)
  else world.setTimer({ ruleId, triggerId, dueMs: next, position: 0 })
}

/** Brings timers forward for what a change moved: the moment that its record has now may come before all others. */
export function noticeTimers(world: ClockWorld, matcher: Matcher, event: ChangeEvent): void {
  if (
    matcher.clocked.length === 0 ||
    event.kind === 'deleted' ||
    event.kind === 'merged' ||
    event.kind === 'started' ||
    event.kind === 'happened' ||
    event.kind === 'taskDone' ||
    event.kind === 'replied'
  )
    return
  const changed = new Set(event.changes.map((change) => change.field))
  for (const { ruleId, document, clocks } of matcher.clocked) {
    for (const { triggerId, trigger } of clocks) {
      let next: number | null = null
      if (document.object === event.ref.object) {
        // Whose clock a moment goes by may hang on a link.
        const moved =
          event.kind === 'linked'
            ? trigger.zone === 'contact'
            : event.kind === 'restored' || trigger.fields.some((field) => changed.has(field))
        if (!moved) continue
        const record = world.read(event.ref)
        next = record && trigger.momentOf(world, record, world.nowMs())
      } else if (trigger.zone === 'contact' && event.ref.object === 'contact' && changed.has(ZONE_FIELD)) {
        next = trigger.next(world, world.nowMs())
      } else continue
      if (next === null) continue
      const timer = world.timer(ruleId, triggerId)
      if (!timer || next < timer.dueMs) world.setTimer({ ruleId, triggerId, dueMs: next, position: 0 })
    }
  }
}

/** So long it may take from switching a rule on until its moments are planned, at the most. */
const PLANNED_WITHIN_MS = 5000

/** Sets the timers of rules that are on: those that have one keep it unless something comes before it. */
export function planTimers(world: ClockWorld, matcher: Matcher): void {
  const nowMs = world.nowMs()
  for (const { ruleId, clocks, changedAt = nowMs } of matcher.clocked) {
    for (const { triggerId, trigger } of clocks) {
      const timer = world.timer(ruleId, triggerId)
      // Between switching on and planning a moment passes: what was due in it is not lost.
      const sinceMs = timer ? nowMs : Math.min(nowMs, Math.max(changedAt, nowMs - PLANNED_WITHIN_MS))
      const next = trigger.next(world, sinceMs)
      // What is due and has not been worked yet keeps its place.
      if (timer && (timer.dueMs <= nowMs || timer.dueMs === next)) continue
      if (next === null) world.dropTimer(ruleId, triggerId)
      else world.setTimer({ ruleId, triggerId, dueMs: next, position: 0 })
    }
  }
}
