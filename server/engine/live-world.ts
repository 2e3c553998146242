import type { RequestOf, WebRequest } from '../../core/web/request'
import type { AddressFacts, MessageChannel } from '../../core/messages/guards'
import type { Letter, LetterOf, Line } from '../../core/messages/letter'
import { lineOf } from './phone-line'
import { postLetter } from './post'
import type { Activity } from '../../core/records/activity'
import { hearersOf } from '../../core/signals/activity'
import type { Message, Notice } from '../../core/world/ports'
import type { ClockWorld, Reminder, Timer } from '../../core/engine/clockwork'
import { compileRule, type CompiledRule, type Matcher } from '../../core/engine/matcher'
import { heedsChange, listensTo } from '../../core/engine/wake'
import type {
  Measure,
  NewMeasure,
  NewRun,
  NewWait,
  OpenRun,
  RunEnd,
  RunIdentity,
  StepRecord,
  Wait,
} from '../../core/engine/world'
import type { NewTask } from '../../core/records/task'
import type { Catalogue } from '../../core/fields/catalogue'
import { dateAt } from '../../core/time/dates'
import { sayDate } from '../../core/time/say'
import type { ObjectKind, RecordRef } from '../../core/records/kinds'
import type { ChainPlace, ChangeEvent, ClockMoment, FieldChange } from '../../core/records/record'
import { LiveRecords, newChain } from './live-records'
import { answerLink } from './answer-link'
import { callKey, placeCall } from './place-call'
import { runTroubled, stepTroubled } from './troubles'

/** The world as it is: SQLite and the workspace's clock behind the port that the engine knows. */
/** What somebody did, as it is to be kept. */
export type Happened = Omit<Activity, 'id'> & { readonly key: string | null }

const HOUR_MS = 3_600_000
const DAY_MS = 24 * HOUR_MS

export class LiveWorld extends LiveRecords implements ClockWorld {
  tell(personId: string, notice: Notice): void {
    this.store.notices.add(personId, notice, this.nowMs())
  }

  turn(ruleId: number, stepId: string): number {
    return this.store.notices.turn(ruleId, stepId)
  }

  takeTurn(ruleId: number, stepId: string): void {
    this.store.notices.takeTurn(ruleId, stepId)
  }

  openTasks(personId: string): number {
    return this.store.tasks.openCount(personId)
  }

  /** The rules that run; the workspace keeps it up to date. */
  matcher: (() => Matcher) | null = null

  protected heeds(ref: RecordRef, change: FieldChange): boolean {
    if (this.matcher?.().heeds(ref, change) ?? true) return true
    return this.store.waits.any() && heedsChange(this.waitsOf(ref), change)
  }

  protected hearsLinks(object: ObjectKind): boolean {
    return this.matcher?.().hears(object, 'link') ?? false
  }

  act(ref: RecordRef, activity: Pick<Activity, 'kind' | 'about' | 'data'>, chain: ChainPlace, rulesOff = false): void {
    this.keepActivity(ref, { ...activity, atMs: this.nowMs(), key: null }, chain, rulesOff)
  }

  /** Keeps what a record did, and lets it and those it is linked to hear; answers whether it was new. */
  keepActivity(ref: RecordRef, happened: Happened, chain: ChainPlace = newChain(), rulesOff = false): boolean {
    const { kind, data, atMs, key } = happened
    const [about, nowMs] = [happened.about.trim(), this.nowMs()]
    const activityId = this.store.activities.add({ ref, kind, about, data, atMs, key }, nowMs)
    if (activityId === null) return false
    const listens = (to: RecordRef): boolean =>
      (this.matcher?.().hears(to.object, 'activity') ?? true) || this.waitsOf(to).some(listensTo('activity'))
    const hearers = hearersOf(
      { ref, name: String(this.store.records.read(ref)?.values.name ?? '') },
      { kind, about, data, atMs, toldMs: nowMs },
      (object) => this.store.links.linked(ref, object).map(({ id }) => id),
      listens,
    )
    for (const { ref: to, change } of hearers)
      this.log(to, 'happened', [change], { by: 'activity', activityId }, chain, rulesOff, nowMs)
    return true
  }

  /** Rules that are paused; the workspace keeps it up to date. */
  paused: ReadonlySet<number> = new Set()

  hold(ruleId: number, event: ChangeEvent): boolean {
    if (!this.paused.has(ruleId)) return false
    this.store.ruleJobs.hold(ruleId, event.seq)
    return true
  }

  openRun(run: NewRun): number | null {
    return this.store.runs.open(run, this.nowMs())
  }

  measure(measure: NewMeasure): void {
    this.store.measures.add(measure, this.nowMs())
  }

  openMeasures(ref: RecordRef): readonly Measure[] {
    return this.store.measures.openAt(ref, this.nowMs())
  }

  reached(measureId: number): void {
    this.store.measures.reached(measureId, this.nowMs())
  }

  runInChain(chainId: string, ruleId: number, ref: RecordRef): number | null {
    return this.store.runs.inChain(chainId, ruleId, ref)
  }

  lastRunAt(ruleId: number, ref: RecordRef, beforeRunId: number): number | null {
    return this.store.runs.lastAt(ruleId, ref, beforeRunId)
  }

  closeRun(runId: number, end: RunEnd): void {
    this.store.runs.close(runId, end, this.nowMs())
    if (end.stop?.code === 'missed') this.bundle(runId, end.stop.atMs)
    if (end.state === 'failed' && end.stop) runTroubled(this.troubles(), runId, end.stop)
  }

  /** The run that stands for those that a rule missed on a day, as long as this process finds more of them. */
  private readonly missed = new Map<string, number>()

  private bundle(runId: number, atMs: number): void {
    const run = this.store.runs.get(runId)
    if (!run) return
    const key = `${run.ruleId} ${dateAt(atMs, this.catalogue().workspace.zone)}`
    const first = this.missed.get(key)
    if (this.missed.size > 1000) this.missed.clear()
    if (first === undefined || !this.store.runs.get(first)) this.missed.set(key, runId)
    else this.store.runs.bundle(runId, first)
  }

  ran({ ruleId, ref, occurrence }: RunIdentity): boolean {
    return this.store.runs.has(ruleId, ref, occurrence)
  }

  startByClock(ref: RecordRef, starts: ClockMoment): void {
    this.log(ref, 'started', [], { by: 'clock', starts }, newChain(), false, this.nowMs())
  }

  wait(wait: NewWait): void {
    this.store.waits.add(wait, this.nowMs(), this.store.events.last())
  }

  waitsOf(ref: RecordRef): readonly Wait[] {
    return this.store.waits.of(ref)
  }

  waitsOfRun(runId: number): number {
    return this.store.waits.ofRun(runId).length
  }

  setDue(waitId: number, dueMs: number): void {
    this.store.waits.setDue(waitId, dueMs)
  }

  endWait(waitId: number): void {
    this.store.waits.remove(waitId)
  }

  openRunOf(runId: number): OpenRun | null {
    const run = this.store.runs.get(runId)
    const event = run && this.store.events.get(run.eventSeq)
    return run && event
      ? { runId, state: run.state, because: run.because, seen: run.seen, event, done: this.store.runs.steps([runId]) }
      : null
  }

  /** Versions never change; what they are compiled with does. */
  private readonly compiled = new Map<number, CompiledRule>()
  private compiledFor: Catalogue | null = null

  ruleOfRun(runId: number): CompiledRule | null {
    const run = this.store.runs.get(runId)
    if (!run) return null
    const catalogue = this.catalogue()
    if (this.compiledFor !== catalogue) this.compiled.clear()
    this.compiledFor = catalogue
    let rule = this.compiled.get(run.versionId)
    if (!rule) {
      const version = this.store.rules.version(run.versionId)
      if (!version || version.problem !== null) return null
      this.compiled.set(
        run.versionId,
        (rule = compileRule(
          { ruleId: run.ruleId, versionId: run.versionId, order: 0, document: version.document },
          catalogue,
        )),
      )
    }
    return rule
  }

  firstTimer(untilMs: number): Timer | null {
    return this.store.waits.firstTimer(untilMs)
  }

  timer(ruleId: number, triggerId: string): Timer | null {
    return this.store.waits.timer(ruleId, triggerId)
  }

  setTimer(timer: Timer): void {
    this.store.waits.setTimer(timer)
  }

  dropTimer(ruleId: number, triggerId: string): void {
    this.store.waits.dropTimer(ruleId, triggerId)
  }

  firstWait(untilMs: number): Wait | null {
    return this.store.waits.firstDue(untilMs)
  }

  firstReminder(untilMs: number): Reminder | null {
    return this.store.tasks.firstReminder(Number.isFinite(untilMs) ? untilMs : Number.MAX_SAFE_INTEGER)
  }

  remind(taskId: number): void {
    const { tasks, notices } = this.store
    const task = tasks.get(taskId)
    tasks.reminded(taskId)
    // Of what is done, or lies in a queue still, nobody needs to be reminded.
    if (task?.state !== 'open' || task.assigneeId === null) return
    const { object, recordId, ruleId, runId, stepId, title, due } = task
    notices.add(
      task.assigneeId,
      {
        ref: { object, id: recordId },
        ruleId,
        runId,
        stepId,
        subject: `Reminder: ${title}`,
        body: `Due ${sayDate(due)}`,
      },
      this.nowMs(),
    )
    this.noticed(task.assigneeId)
  }

  /** Hears who was reminded, or told of something that went wrong; the workspace tells open screens. */
  noticed: (personId: string) => void = () => {}

  /** Hears of a run that waits because its rule sent as many messages in an hour as it may. */
  capped: (runId: number) => void = () => {}

  troubles(): Parameters<typeof runTroubled>[0] {
    return { store: this.store, nowMs: this.nowMs(), told: (personId) => this.noticed(personId) }
  }

  recordStep(
    runId: number,
    position: number,
    step: { readonly id: string; readonly kind: string },
    result: StepRecord,
  ): void {
    this.store.runs.recordStep(runId, position, step.id, step.kind, result, this.nowMs())
    if (result.state !== 'done') stepTroubled(this.troubles(), runId, step.id, result)
    else if (result.wrote.some((one) => one.what === 'held' && one.capped)) this.capped(runId)
  }

  createTask(task: NewTask): number {
    const id = this.store.tasks.create(task, this.nowMs())
    if (task.asks?.about === 'call' && task.asks.automatic)
      placeCall(this.store, id, task.runId, task.asks, this.nowMs())
    return id
  }

  callOff(taskId: number): void {
    const asks = this.store.tasks.callOff(taskId)
    if (asks?.about === 'call' && asks.automatic) this.store.outbox.drop(callKey(taskId, asks.attempt))
  }

  openTask(ruleId: number, stepId: string, ref: RecordRef, personId?: string): string | null {
    return this.store.tasks.openOf(ruleId, stepId, ref, personId)
  }

  addressFacts(channel: MessageChannel, address: string, who: RecordRef, ruleId: number): AddressFacts {
    const { messages, addresses } = this.store
    const nowMs = this.nowMs()
    return {
      stopped: addresses.stopped(channel, address),
      sent: messages.sentTo(channel, address),
      toPerson: messages.toPerson(who, nowMs - DAY_MS),
      ofRule: messages.ofRule(ruleId, nowMs - HOUR_MS, this.catalogue().messaging.ruleHour),
      paused: this.paused.has(ruleId),
    }
  }

  lineOf(number: string): Line {
    return lineOf(number)
  }

  firstSentTo(runId: number, who: RecordRef): number | null {
    return this.store.messages.firstOfRun(runId, who)
  }

  sentByStep(runId: number, stepId: string): readonly string[] {
    return this.store.messages.ofStep(runId, stepId)
  }

  post(letter: Letter, of: LetterOf, key: string): void {
    postLetter(this.store, letter, of, key, this.nowMs())
  }

  request(request: WebRequest, of: RequestOf, key: string): void {
    const nowMs = this.nowMs()
    if (!this.store.connections.addRequest(request, of, key, nowMs)) return
    const { connection, method, path, body } = request
    const recipient = this.catalogue().connection(connection)?.name ?? ''
    const subject = `${method} ${path}`
    this.store.outbox.add(
      { key, channel: 'web', recipient, subject, body: body ?? '', runId: of.runId, more: null },
      nowMs,
    )
  }

  send(message: Message, key: string, runId: number, stepId: string): void {
    const { channel, recipient, subject, body, answers } = message
    const link = answers === undefined ? null : answerLink(this.store, runId, stepId, answers)
    const whole = link === null ? body : `${body}\n\nAnswer here, without signing in: ${link}`.trim()
    this.store.outbox.add({ key, channel, recipient, subject, body: whole, runId, more: null }, this.nowMs())
  }
}
