import TinyQueue from 'tinyqueue'
import type { Reminder } from '../engine/clockwork'
import type { Message, Notice } from './ports'
import { compileRule, type ActiveRule, type CompiledRule } from '../engine/matcher'
import {
  gotToSteps,
  type Measure,
  type NewRun,
  type OpenRun,
  type RunEnd,
  type RunIdentity,
  type StepRecord,
} from '../engine/world'
import type { NewTask } from '../records/task'
import type { AddressFacts, MessageChannel } from '../messages/guards'
import { textOf, type Letter, type LetterOf, type Line } from '../messages/letter'
import { sameRef, type RecordRef } from '../records/kinds'
import { keyOf } from './overlay-links'
import { OverlayRecords } from './overlay-records'
import type { WaitingBelow } from './base'
import type { Cause, ChainPlace } from '../records/record'
import { answerChanges, taskChange } from '../signals/task'
import type { TaskAsks } from '../asks'
import type { Values } from '../language/value'

export interface OverlayRun {
  readonly id: number
  readonly run: NewRun
  readonly atMs: number
  end: RunEnd | null
  endMs: number | null
  /** Where it was begun below. */
  readonly below?: WaitingBelow
}

export interface OverlayStep {
  readonly runId: number
  readonly stepId: string
  readonly kind: string
  readonly result: StepRecord
  readonly atMs: number
}

export interface OverlayLetter {
  readonly letter: Letter
  readonly of: LetterOf
  readonly atMs: number
}

export interface OverlayTask extends Omit<NewTask, 'asks'> {
  asks?: TaskAsks
  readonly id: number
  readonly atMs: number
  open: boolean
}

/** Runs with what they leave behind: steps, tasks, messages, notices. */
export abstract class OverlayRuns extends OverlayRecords {
  readonly runs: OverlayRun[] = []
  readonly steps: OverlayStep[] = []
  readonly tasks: OverlayTask[] = []
  readonly messages = new Map<string, Message & { readonly atMs: number; readonly runId: number }>()
  /** Messages to customers, by their keys. */
  readonly letters = new Map<string, OverlayLetter>()
  private readonly lettersTo = new Map<string, OverlayLetter[]>()
  readonly notices: (Notice & { readonly personId: string; readonly atMs: number })[] = []
  /** The rules that run, by their numbers: what waits goes on by them. */
  rules: readonly ActiveRule[] = []
  protected readonly identities = new Map<string, OverlayRun>()
  protected readonly chains = new Map<string, OverlayRun[]>()
  protected readonly ofRule = new Map<string, OverlayRun[]>()
  protected readonly stepsOf = new Map<number, OverlayStep[]>()
  protected readonly openByStep = new Map<string, OverlayTask[]>()
  protected readonly openByPerson = new Map<string, number>()
  protected readonly turns = new Map<string, number>()
  protected readonly compiled = new Map<number, CompiledRule>()
  protected readonly dueReminders = new TinyQueue<Reminder>([], (a, b) => a.dueMs - b.dueMs || a.taskId - b.taskId)
  protected readonly reminded = new Set<number>()

  tell(personId: string, notice: Notice): void {
    this.push(this.notices, { ...notice, personId, atMs: this.atMs })
  }
  turn(ruleId: number, stepId: string): number {
    return this.turns.get(`${ruleId} ${stepId}`) ?? this.base.turn(ruleId, stepId)
  }
  takeTurn(ruleId: number, stepId: string): void {
    this.put(this.turns, `${ruleId} ${stepId}`, this.turn(ruleId, stepId) + 1)
  }
  openTasks(personId: string): number {
    return this.base.openTasks(personId) + (this.openByPerson.get(personId) ?? 0)
  }
  hold(): boolean {
    return false
  }

  /** Targets are measured live alone: what would be left alone is left alone here too. */
  measure(): void {}

  openMeasures(): readonly Measure[] {
    return []
  }

  reached(): void {}

  protected override chainOf(runId: number): ChainPlace | null {
    const run = this.runs[runId - 1]?.run
    return run ? { chainId: run.chainId, depth: run.depth + 1 } : null
  }

  openRun(run: NewRun): number | null {
    if (this.ran(run)) return null
    const made: OverlayRun = { id: this.runs.length + 1, run, atMs: this.atMs, end: null, endMs: null }
    this.push(this.runs, made)
    this.put(this.identities, `${run.ruleId} ${keyOf(run.ref)} ${run.occurrence}`, made)
    this.pushTo(this.chains, `${run.chainId} ${run.ruleId} ${keyOf(run.ref)}`, made)
    this.pushTo(this.ofRule, `${run.ruleId} ${keyOf(run.ref)}`, made)
    return made.id
  }

  ran(run: RunIdentity): boolean {
    // Events here have numbers of their own; only what the clock starts is known below by the same name.
    return (
      this.identities.has(`${run.ruleId} ${keyOf(run.ref)} ${run.occurrence}`) ||
      (!run.occurrence.startsWith('event:') && this.base.ran(run))
    )
  }

  runInChain(chainId: string, ruleId: number, ref: RecordRef): number | null {
    return this.chains.get(`${chainId} ${ruleId} ${keyOf(ref)}`)?.find(({ end }) => gotToSteps(end))?.id ?? null
  }

  lastRunAt(ruleId: number, ref: RecordRef, beforeRunId: number): number | null {
    return (
      this.ofRule.get(`${ruleId} ${keyOf(ref)}`)?.findLast(({ id, end }) => id < beforeRunId && gotToSteps(end))
        ?.atMs ?? this.base.lastRunAt(ruleId, ref)
    )
  }

  closeRun(runId: number, end: RunEnd): void {
    const run = this.runs[runId - 1]
    if (!run) return
    const { end: old, endMs } = run
    run.end = end
    run.endMs = this.atMs
    this.undoable(() => {
      run.end = old
      run.endMs = endMs
    })
  }

  recordStep(
    runId: number,
    _position: number,
    step: { readonly id: string; readonly kind: string },
    result: StepRecord,
  ): void {
    const made: OverlayStep = { runId, stepId: step.id, kind: step.kind, result, atMs: this.atMs }
    this.push(this.steps, made)
    this.pushTo(this.stepsOf, runId, made)
  }

  createTask(task: NewTask): number {
    const made: OverlayTask = { ...task, id: this.tasks.length + 1, atMs: this.atMs, open: true }
    this.push(this.tasks, made)
    this.pushTo(this.openByStep, `${task.ruleId} ${task.stepId} ${keyOf(task.ref)}`, made)
    if (task.assigneeId !== null)
      this.put(this.openByPerson, task.assigneeId, (this.openByPerson.get(task.assigneeId) ?? 0) + 1)
    if (task.remindAt !== null) this.dueReminders.push({ taskId: made.id, dueMs: task.remindAt })
    return made.id
  }

  /** Somebody does what a run gave them to do; nothing where that is done, or was never given. */
  finishTask(taskId: number, outcome: string, cause: Cause, answers: Values = {}): void {
    const task = this.tasks[taskId - 1]
    if (!task?.open) return
    task.open = false
    this.undoable(() => {
      task.open = true
    })
    if (task.assigneeId !== null)
      this.put(this.openByPerson, task.assigneeId, (this.openByPerson.get(task.assigneeId) ?? 0) - 1)
    this.log('taskDone', task.ref, [taskChange(taskId, outcome), ...answerChanges(answers)], cause, this.newChain())
  }

  callOff(taskId: number): void {
    const task = this.tasks[taskId - 1]
    if (!task?.open || !task.asks) return
    task.open = false
    this.undoable(() => {
      task.open = true
    })
    if (task.assigneeId !== null)
      this.put(this.openByPerson, task.assigneeId, (this.openByPerson.get(task.assigneeId) ?? 0) - 1)
  }

  /** It was tried in vain, and is tried again. */
  askAgain(taskId: number, asks: TaskAsks): void {
    const task = this.tasks[taskId - 1]
    if (!task) return
    const before = task.asks
    task.asks = asks
    this.undoable(() => {
      if (before) task.asks = before
    })
  }

  openTask(ruleId: number, stepId: string, ref: RecordRef, personId?: string): string | null {
    return (
      this.openByStep
        .get(`${ruleId} ${stepId} ${keyOf(ref)}`)
        ?.find((task) => task.open && (personId === undefined || task.assigneeId === personId))?.title ??
      this.base.openTask(ruleId, stepId, ref, personId)
    )
  }

  /** Nobody is asked: what a rehearsal would ask stands with what it did. */
  request(): void {
    // The effect itself keeps what was asked, by its own record of the step.
  }

  send(message: Message, messageKey: string, runId: number): void {
    if (!this.messages.has(messageKey)) this.put(this.messages, messageKey, { ...message, atMs: this.atMs, runId })
  }

  post(letter: Letter, of: LetterOf, key: string): void {
    if (this.letters.has(key)) return
    const made: OverlayLetter = { letter, of, atMs: this.atMs }
    this.put(this.letters, key, made)
    for (const place of [
      `${letter.channel} ${letter.address}`,
      keyOf(letter.who),
      `rule ${of.ruleId}`,
      `run ${of.runId}`,
    ])
      this.pushTo(this.lettersTo, place, made)
  }

  /** What was sent here, the newest first. */
  private lettersAt(place: string): readonly OverlayLetter[] {
    return this.lettersTo.get(place)?.toReversed() ?? []
  }

  addressFacts(channel: MessageChannel, address: string, who: RecordRef, ruleId: number): AddressFacts {
    const below = this.base.addressFacts(channel, address, who, ruleId)
    return {
      stopped: below.stopped,
      sent: [
        ...this.lettersAt(`${channel} ${address}`).map(({ letter, atMs }) => ({ text: textOf(letter), atMs })),
        ...below.sent,
      ],
      toPerson: [...this.lettersAt(keyOf(who)).map(({ atMs }) => atMs), ...below.toPerson],
      ofRule: [...this.lettersAt(`rule ${ruleId}`).map(({ atMs }) => atMs), ...below.ofRule],
    }
  }

  lineOf(number: string): Line {
    return this.base.lineOf(number)
  }

  firstSentTo(runId: number, who: RecordRef): number | null {
    const begun = this.runs[runId - 1]?.below
    const before = begun ? this.base.firstSentTo(begun.open.runId, who) : null
    return before ?? this.lettersTo.get(`run ${runId}`)?.find(({ letter }) => sameRef(letter.who, who))?.atMs ?? null
  }

  sentByStep(runId: number, stepId: string): readonly string[] {
    const begun = this.runs[runId - 1]?.below
    return [
      ...(begun ? this.base.sentByStep(begun.open.runId, stepId) : []),
      ...(this.lettersTo.get(`run ${runId}`) ?? [])
        .filter(({ of }) => of.stepId === stepId)
        .map(({ letter }) => letter.address),
    ]
  }

  openRunOf(runId: number): OpenRun | null {
    const found = this.runs[runId - 1]
    if (found?.below)
      return {
        ...found.below.open,
        runId,
        state: found.end?.state ?? 'running',
        done: [...found.below.open.done, ...(this.stepsOf.get(runId) ?? [])],
      }
    const event = found && this.events[found.run.eventSeq - 1]
    return found && event
      ? {
          runId,
          state: found.end?.state ?? 'running',
          because: found.run.because,
          seen: found.end?.seen ?? [],
          event,
          done: this.stepsOf.get(runId) ?? [],
        }
      : null
  }

  ruleOfRun(runId: number): CompiledRule | null {
    const run = this.runs[runId - 1]
    if (!run) return null
    if (run.below) return run.below.rule
    const { ruleId } = run.run
    const known = this.compiled.get(ruleId)
    if (known) return known
    const rule = this.rules.find((one) => one.ruleId === ruleId)
    if (!rule) return null
    const made = compileRule(rule, this.base.catalogue)
    this.compiled.set(ruleId, made)
    return made
  }

  firstReminder(untilMs: number): Reminder | null {
    for (let first = this.dueReminders.peek(); first; first = this.dueReminders.peek()) {
      const task = this.tasks[first.taskId - 1]
      if (task?.open && task.remindAt === first.dueMs && !this.reminded.has(first.taskId))
        return first.dueMs <= untilMs ? first : null
      this.dueReminders.pop()
    }
    return null
  }

  remind(taskId: number): void {
    this.reminded.add(taskId)
    this.undoable(() => {
      this.reminded.delete(taskId)
    })
    const task = this.tasks[taskId - 1]
    if (task?.assigneeId)
      this.tell(task.assigneeId, {
        ref: task.ref,
        ruleId: task.ruleId,
        runId: task.runId,
        stepId: task.stepId,
        subject: `Reminder: ${task.title}`,
        body: '',
      })
  }
}
