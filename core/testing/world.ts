import { FACTS, FIELDS, PEOPLE, PIPELINES, TERRITORIES } from './firm'
import type { Message } from '../engine/effects'
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
import { momentAt } from '../engine/moment'
import {
  gotToSteps,
  type NewRun,
  type NewTask,
  type NewWait,
  type Notice,
  type OpenRun,
  type RunEnd,
  type RunIdentity,
  type StepRecord,
  type Wait,
  type WriteResult,
} from '../engine/world'
import { compileGroup } from '../conditions/compile'
import type { Group } from '../conditions/document'
import { Catalogue } from '../fields/catalogue'
import type { Value, Values } from '../language/value'
import { matchForm, type MatchPart } from '../linking/link-by'
import type { RollUp } from '../derived/making'
import { compileWhere, rollUp } from '../derived/roll-up'
import type { Field } from '../fields/field'
import { planKept, planWrite } from '../records/plan-write'
import { sameRef, type ObjectKind, type RecordRef } from '../records/kinds'
import { subjectOf, type LinkedRecord } from '../records/subject'
import type { Cause, ChainPlace, ChangeEvent, ClockMoment, RecordSnapshot } from '../records/record'

export const TODAY = '2026-11-24'
export const NOW_MS = Date.UTC(2026, 10, 24, 9, 12)

/** The catalogue of the firm that tests stand on. */
export const catalogue = new Catalogue({
  workspace: FACTS,
  people: PEOPLE,
  territories: TERRITORIES,
  fields: FIELDS.map((field, i) => ({ ...field, id: i + 1 })),
  pipelines: PIPELINES.map(({ stages, ...pipeline }) => ({
    ...pipeline,
    stages: stages.map(([id, name, outcome], position) => ({
      id,
      name,
      outcome,
      probability: null,
      position,
      pipelineId: pipeline.id,
    })),
  })),
})
export const moment = momentAt(NOW_MS, catalogue.workspace)
export const names = (object: ObjectKind = 'deal') => ({ catalogue, object })

interface State {
  readonly records: Map<string, RecordSnapshot>
  readonly links: (readonly [RecordRef, RecordRef])[]
  events: ChangeEvent[]
  readonly runs: { id: number; run: NewRun; end: RunEnd | null; atMs: number }[]
  readonly steps: { runId: number; stepId: string; result: StepRecord }[]
  readonly tasks: (NewTask & { id: number; open: boolean })[]
  readonly messages: Map<string, Message>
  waits: Wait[]
  timers: Timer[]
}

const key = (ref: RecordRef): string => `${ref.object}:${ref.id}`

/** A world in memory, for driving the engine without a database. Rolls back like one. */
export class TestWorld implements ClockWorld {
  state: State = {
    records: new Map(),
    links: [],
    events: [],
    runs: [],
    steps: [],
    tasks: [],
    messages: new Map(),
    waits: [],
    timers: [],
  }
  position = 0
  /** Makes the next writes of a record throw, as a broken disk would. */
  broken: ((ref: RecordRef) => boolean) | null = null

  constructor(public atMs = NOW_MS) {}

  nowMs(): number {
    return this.atMs
  }
  catalogue(): Catalogue {
    return catalogue
  }

  atomically<T>(work: () => T): T {
    const { records, links, events, runs, steps, tasks, messages, waits, timers } = this.state
    const before: State = {
      records: new Map(records),
      links: [...links],
      events: [...events],
      runs: runs.map((run) => ({ ...run })),
      steps: [...steps],
      tasks: tasks.map((task) => ({ ...task })),
      messages: new Map(messages),
      waits: [...waits],
      timers: [...timers],
    }
    try {
      return work()
    } catch (error) {
      this.state = before
      throw error
    }
  }

  read(ref: RecordRef): RecordSnapshot | null {
    return this.state.records.get(key(ref)) ?? null
  }

  related(ref: RecordRef, object: ObjectKind): RecordSnapshot | null {
    const found = this.state.links.find(([from, to]) => sameRef(from, ref) && to.object === object)
    return found ? this.read(found[1]) : null
  }

  linked(ref: RecordRef, object: ObjectKind): readonly LinkedRecord[] {
    const main = this.related(ref, object)
    return this.state.links.flatMap(([from, to]) => {
      const other =
        sameRef(from, ref) && to.object === object ? to : sameRef(to, ref) && from.object === object ? from : null
      const record = other && this.read(other)
      return record ? [{ record, main: main !== null && sameRef(from, ref) && sameRef(main, record) }] : []
    })
  }

  setBy(ref: RecordRef, field: string): Cause | null {
    return (
      this.state.events.findLast(
        (event) => sameRef(event.ref, ref) && event.changes.some((change) => change.field === field),
      )?.cause ?? null
    )
  }

  alike(object: ObjectKind, field: string, part: MatchPart, form: string): readonly RecordSnapshot[] {
    const own = catalogue.field(object, field)
    return [...this.state.records.values()].filter(
      (record) =>
        record.object === object && own && matchForm(record.values[field] ?? null, own, part, catalogue) === form,
    )
  }

  unlink(from: RecordRef, to: RecordRef): string | null {
    const at = this.state.links.findIndex(([a, b]) => sameRef(a, from) && sameRef(b, to))
    if (at < 0) return null
    this.state.links.splice(at, 1)
    return ''
  }

  create(
    object: ObjectKind,
    values: Values,
    linkTo: readonly RecordRef[],
    cause: Cause,
    chain: ChainPlace,
  ): WriteResult & { readonly ref?: RecordRef } {
    const ref = { object, id: 1000 + this.state.records.size }
    const written = this.write(ref, values, cause, chain)
    if (written.ok) for (const to of linkTo) this.link(ref, to)
    return written.ok ? { ...written, ref } : written
  }

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

  link(from: RecordRef, to: RecordRef): boolean {
    if (this.state.links.some(([a, b]) => sameRef(a, from) && sameRef(b, to))) return false
    this.state.links.push([from, to])
    return true
  }

  write(ref: RecordRef, values: { readonly [field: string]: Value }, cause: Cause, chain: ChainPlace): WriteResult {
    if (this.broken?.(ref)) throw new Error('disk I/O error')
    const record = this.read(ref)
    const { changes, problems } = planWrite(ref.object, record?.values ?? null, values, this.atMs, catalogue)
    if (problems.length) return { ok: false, problems }
    if (changes.length === 0) return { ok: true, event: null }
    const next = { ...record?.values, ...Object.fromEntries(changes.map((change) => [change.field, change.new])) }
    this.state.records.set(key(ref), { ...ref, version: (record?.version ?? 0) + 1, values: next })
    const event: ChangeEvent = {
      seq: this.state.events.length + 1,
      atMs: this.atMs,
      kind: record ? 'changed' : 'created',
      ref,
      changes,
      cause,
      ...chain,
      rulesOff: false,
    }
    this.state.events.push(event)
    return { ok: true, event }
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

  private log(given: Pick<ChangeEvent, 'kind' | 'ref' | 'changes' | 'cause'>): void {
    this.state.events.push({
      seq: this.state.events.length + 1,
      atMs: this.atMs,
      chainId: `chain-${this.state.events.length}`,
      depth: 0,
      rulesOff: false,
      ...given,
    })
  }

  /** Takes a record away, as a person does. */
  delete(ref: RecordRef): void {
    const changes = Object.entries(this.read(ref)?.values ?? {}).map(([field, old]) => ({ field, old, new: null }))
    this.state.records.delete(key(ref))
    this.log({ kind: 'deleted', ref, changes, cause: { by: 'person', personId: 'ines' } })
  }

  /** Worked out values, happenings and the turn of the day are looked at through the overlay and the workspace. */
  keep(
    ref: RecordRef,
    values: { readonly [field: string]: Value },
    cause: Cause,
    chain: ChainPlace,
  ): ChangeEvent | null {
    const record = this.read(ref)
    if (!record) return null
    const changes = planKept(ref.object, record.values, values, this.atMs, catalogue)
    this.state.records.set(key(ref), { ...record, values: { ...record.values, ...values } })
    this.log({ kind: 'changed', ref, changes, cause, ...chain })
    return this.state.events.at(-1) ?? null
  }

  rollUp(ref: RecordRef, _field: Field, spec: RollUp): Value {
    return rollUp(
      spec,
      compileWhere(spec, catalogue),
      this.linked(ref, spec.over),
      (of, object) => this.linked(of, object),
      momentAt(this.atMs, catalogue.workspace),
    )
  }
  happenings(): readonly [] {
    return []
  }
  past(ref: RecordRef, field: string, beforeSeq: number): readonly Value[] {
    return this.state.events
      .filter((event) => event.seq < beforeSeq && sameRef(event.ref, ref))
      .toReversed()
      .flatMap((event) => event.changes.filter((change) => change.field === field).map((change) => change.old))
  }

  dayTurn(): null {
    return null
  }
  setDayTurn(): void {}
  behind(object: ObjectKind, afterId: number, limit: number): readonly RecordSnapshot[] {
    return this.sorted(object, () => true, afterId, limit)
  }
  newChain(): ChainPlace {
    return { chainId: `chain-${this.state.events.length}`, depth: 0 }
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

  private readonly sorted = (
    object: ObjectKind,
    test: (record: RecordSnapshot) => boolean,
    afterId: number,
    limit: number,
  ): readonly RecordSnapshot[] =>
    [...this.state.records.values()]
      .filter((record) => record.object === object && record.id > afterId && test(record))
      .sort((a, b) => a.id - b.id)
      .slice(0, limit)

  least(object: ObjectKind, field: string, from: string | number): string | number | null {
    const held = [...this.state.records.values()]
      .filter((record) => record.object === object)
      .map((record) => record.values[field] ?? null)
    const found = held.filter((value) => typeof value === typeof from && value !== null && value >= from) as (
      string | number
    )[]
    return found.sort((a, b) => (a < b ? -1 : 1))[0] ?? null
  }

  holding(
    object: ObjectKind,
    field: string,
    values: readonly (string | number)[],
    afterId: number,
    limit: number,
  ): readonly RecordSnapshot[] {
    return this.sorted(object, (record) => values.includes(record.values[field] as string), afterId, limit)
  }

  between(
    object: ObjectKind,
    field: string,
    from: number,
    to: number,
    afterId: number,
    limit: number,
  ): readonly RecordSnapshot[] {
    return this.sorted(
      object,
      ({ values }) => Number(values[field] ?? Number.NaN) >= from && Number(values[field] ?? Number.NaN) <= to,
      afterId,
      limit,
    )
  }

  matching(object: ObjectKind, group: Group, afterId: number, limit: number): readonly number[] {
    const conditions = compileGroup(group, object, catalogue)
    return this.sorted(
      object,
      (record) =>
        conditions.test(
          subjectOf(record, (ref, of) => this.linked(ref, of)),
          momentAt(this.atMs, catalogue.workspace),
        ),
      afterId,
      limit,
    ).map(({ id }) => id)
  }

  private readonly first = <T>(all: readonly T[], due: (one: T) => number | null, untilMs: number): T | null =>
    all
      .filter((one) => (due(one) ?? Infinity) <= untilMs && due(one) !== null)
      .sort((a, b) => (due(a) ?? 0) - (due(b) ?? 0))[0] ?? null

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

  /** Lets time pass to an instant, moment by moment, and everything happen that it brings; `late` lets nothing run until then. */
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

  /** Creates a record as a person would. */
  add(object: ObjectKind, id: number, values: Values): RecordRef {
    const ref = { object, id }
    const written = this.write(
      ref,
      { name: `${object} ${id}`, ...(object === 'deal' ? { stage: 'hp-sized' } : {}), ...values },
      { by: 'person', personId: 'ines' },
      { chainId: `add-${key(ref)}`, depth: 0 },
    )
    if (!written.ok) throw new Error(JSON.stringify(written.problems))
    return ref
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
