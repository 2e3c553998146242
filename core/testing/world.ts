import type { Message, Notice } from '../world/ports'
import { handleEvent, type RunReport } from '../engine/handle-event'
import {
  nextDue,
  noticeTimers,
  planTimers,
  workDue,
  type ClockWorld,
  type Reminder,
  type Timer,
} from '../engine/clockwork'
import { compileRule, Matcher, type ActiveRule, type CompiledRule } from '../engine/matcher'
import { noticeWaits } from '../engine/wake'
import {
  gotToSteps,
  type NewRun,
  type NewWait,
  type OpenRun,
  type RunEnd,
  type RunIdentity,
  type StepRecord,
  type Wait,
} from '../engine/world'
import type { NewTask } from '../records/task'
import type { Values } from '../language/value'
import { sameRef, type RecordRef } from '../records/kinds'
import type { ClockMoment } from '../records/record'
import { RecordsInMemory } from './records-in-memory'
import { catalogue } from './setting'

/** A world in memory, for driving the engine without a database. Rolls back like one. */
export class TestWorld extends RecordsInMemory implements ClockWorld {
  readonly notices: { readonly personId: string; readonly subject: string }[] = []
  private readonly turns = new Map<string, number>()
  tell(personId: string, { subject }: Notice): void {
    this.notices.push({ personId, subject })
  }
  turn(ruleId: number, stepId: string): number {
    return this.turns.get(`${ruleId} ${stepId}`) ?? 0
  }
  takeTurn(ruleId: number, stepId: string): void {
    this.turns.set(`${ruleId} ${stepId}`, this.turn(ruleId, stepId) + 1)
  }
  openTasks(personId: string): number {
    return this.state.tasks.filter((task) => task.open && task.assigneeId === personId).length
  }

  hold(): boolean {
    return false
  }

  openRun(run: NewRun): number | null {
    if (
      this.state.runs.some(
        ({ run: other }) =>
          other.ruleId === run.ruleId && sameRef(other.ref, run.ref) && other.occurrence === run.occurrence,
      )
    )
      return null
    this.state.runs.push({ id: this.state.runs.length + 1, run, end: null, atMs: this.atMs })
    return this.state.runs.length
  }

  runInChain(chainId: string, ruleId: number, ref: RecordRef): number | null {
    return (
      this.state.runs.find(
        ({ run, end }) => run.chainId === chainId && run.ruleId === ruleId && sameRef(run.ref, ref) && gotToSteps(end),
      )?.id ?? null
    )
  }

  lastRunAt(ruleId: number, ref: RecordRef, beforeRunId: number): number | null {
    return (
      this.state.runs.findLast(
        ({ id, run, end }) => id < beforeRunId && run.ruleId === ruleId && sameRef(run.ref, ref) && gotToSteps(end),
      )?.atMs ?? null
    )
  }

  rules: readonly ActiveRule[] = []
  ran({ ruleId, ref, occurrence }: RunIdentity): boolean {
    return this.state.runs.some(
      ({ run }) => run.ruleId === ruleId && sameRef(run.ref, ref) && run.occurrence === occurrence,
    )
  }

  startByClock(ref: RecordRef, starts: ClockMoment): void {
    this.log({ kind: 'started', ref, changes: [], cause: { by: 'clock', starts } })
  }

  private lastWait = 0
  wait(wait: NewWait): void {
    this.state.waits.push({ ...wait, id: ++this.lastWait, sinceMs: this.atMs, sinceSeq: this.state.events.length })
  }

  waitsOf(ref: RecordRef): readonly Wait[] {
    return this.state.waits.filter((wait) => sameRef(wait.ref, ref))
  }
  waitsOfRun(runId: number): number {
    return this.state.waits.filter((wait) => wait.runId === runId).length
  }
  setDue(id: number, dueMs: number): void {
    this.state.waits = this.state.waits.map((wait) => (wait.id === id ? { ...wait, dueMs } : wait))
  }
  endWait(id: number): void {
    this.state.waits = this.state.waits.filter((wait) => wait.id !== id)
  }

  openRunOf(runId: number): OpenRun | null {
    const found = this.state.runs.find(({ id }) => id === runId)
    const event = found && this.state.events.find(({ seq }) => seq === found.run.eventSeq)
    return found && event
      ? {
          runId,
          state: found.end?.state ?? 'running',
          because: found.run.because,
          seen: found.end?.seen ?? [],
          event,
          done: this.state.steps.filter((step) => step.runId === runId),
        }
      : null
  }

  ruleOfRun(runId: number): CompiledRule | null {
    const rule = this.rules.find(({ ruleId }) => ruleId === this.state.runs[runId - 1]?.run.ruleId)
    return rule ? compileRule(rule, catalogue) : null
  }

  firstTimer(untilMs: number): Timer | null {
    return this.first(this.state.timers, (timer) => timer.dueMs, untilMs)
  }
  timer(ruleId: number, triggerId: string): Timer | null {
    return this.state.timers.find((one) => one.ruleId === ruleId && one.triggerId === triggerId) ?? null
  }
  setTimer(timer: Timer): void {
    this.dropTimer(timer.ruleId, timer.triggerId)
    this.state.timers = [...this.state.timers, timer]
  }

  dropTimer(ruleId: number, triggerId: string): void {
    this.state.timers = this.state.timers.filter((one) => one.ruleId !== ruleId || one.triggerId !== triggerId)
  }
  firstWait(untilMs: number): Wait | null {
    return this.first(this.state.waits, (wait) => wait.dueMs, untilMs)
  }
  readonly reminded: number[] = []
  firstReminder(untilMs: number): Reminder | null {
    const task = this.first(
      this.state.tasks.filter(({ id, open }) => open && !this.reminded.includes(id)),
      ({ remindAt }) => remindAt,
      untilMs,
    )
    return task && { taskId: task.id, dueMs: task.remindAt ?? 0 }
  }

  remind(taskId: number): void {
    this.reminded.push(taskId)
  }

  /**
   * Lets time pass to an instant, moment by moment, and everything happen that it brings; `late` lets nothing run until
   * then.
   */
  pass(toMs: number, late = false): readonly RunReport[] {
    const reports: RunReport[] = []
    const matcher = new Matcher(this.rules, catalogue)
    for (let at = nextDue(this); at !== null && at <= toMs; at = nextDue(this)) {
      this.atMs = late ? toMs : Math.max(this.atMs, at)
      reports.push(...(this.atomically(() => workDue(this, matcher, 3)) ?? []), ...this.drain(this.rules))
    }
    this.atMs = toMs
    return reports
  }

  /** Puts rules on, timers and all. */
  switchOn(...rules: readonly ActiveRule[]): void {
    this.rules = rules
    planTimers(this, new Matcher(rules, catalogue))
  }

  closeRun(runId: number, end: RunEnd): void {
    const run = this.state.runs.find((one) => one.id === runId)
    if (run) run.end = end
  }

  recordStep(runId: number, _position: number, step: { readonly id: string }, result: StepRecord): void {
    this.state.steps.push({ runId, stepId: step.id, result })
  }
  createTask(task: NewTask): number {
    return this.state.tasks.push({ ...task, id: this.state.tasks.length + 1, open: true })
  }
  openTask(ruleId: number, stepId: string, ref: RecordRef): string | null {
    return (
      this.state.tasks.find(
        (task) => task.open && task.ruleId === ruleId && task.stepId === stepId && sameRef(task.ref, ref),
      )?.title ?? null
    )
  }

  send(message: Message, messageKey: string): void {
    if (!this.state.messages.has(messageKey)) this.state.messages.set(messageKey, message)
  }

  /** A person's change; rules have not run yet. */
  change(ref: RecordRef, values: Values, chainId = `chain-${this.state.events.length}`): void {
    const written = this.write(ref, values, { by: 'person', personId: 'ines' }, { chainId, depth: 0 })
    if (!written.ok) throw new Error(JSON.stringify(written.problems))
  }

  /** Lets rules see every event that none has seen yet. */
  drain(rules: readonly ActiveRule[]): readonly RunReport[] {
    const matcher = new Matcher(rules, catalogue)
    const reports: RunReport[] = []
    for (;;) {
      const event = this.state.events[this.position]
      if (!event) return reports
      noticeTimers(this, matcher, event)
      reports.push(...noticeWaits(this, event), ...handleEvent(this, matcher, event))
      this.position++
    }
  }
}
