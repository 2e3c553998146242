import type { Seen } from '../conditions/compile'
import type { Values } from '../language/value'
import { sayProblem } from '../language/problems'
import { sameRef, type RecordRef } from '../records/kinds'
import type { ChangeEvent, RecordSnapshot } from '../records/record'
import { subjectOf, valuesBefore } from '../records/subject'
import { stillResting } from '../rules/repeats'
import { resultKey } from '../rules/results'
import type { StepContext, Way } from '../rules/step'
import { STEPS } from '../rules/steps'
import type { Branch, Step } from '../rules/document'
import type { Past } from '../rules/trigger'
import { dateAt } from '../time/dates'
import { sayInstant } from '../time/say'
import type { Effect, Outcome } from './effects'
import type { CompiledRule, Hit, Matcher } from './matcher'
import { momentAt } from './moment'
import { chooseWay, contextOf, type Chooser } from './ways'
import { BEFORE_ALL, type RunEnd, type StepRecord, type StopReason, type World, type Wrote } from './world'
import type { Moment } from '../conditions/moment'

/** A change at this depth may start nothing more. */
export const DEPTH_MOST = 10

/** What one rule did about one event; the journal holds the rest. */
export interface RunReport {
  readonly runId: number
  readonly ruleId: number
  readonly ruleName: string
  readonly ref: RecordRef
  readonly state: RunEnd['state']
  readonly stop: StopReason | null
  readonly steps: readonly StepRecord[]
}

/**
 * Takes one event through every rule it starts. The caller commits it together with the new position in the event
 * log, so that after a crash the event is handled again as a whole or not at all; a run that exists already is not
 * started again even so.
 *
 * `guarded` makes each run a part of the transaction that can fail by itself, which has its price. Without it a
 * mishap of a run is thrown; the caller drops everything since the event and takes it through again, guarded.
 */
export function handleEvent(world: World, matcher: Matcher, event: ChangeEvent, guarded = true): readonly RunReport[] {
  if (event.rulesOff) return []
  const reports: RunReport[] = []
  const past: Past = (field) => world.past(event.ref, field, event.seq)
  if (!matcher.looksAtValues(event)) {
    for (const hit of matcher.match(event, null, past)) add(reports, startRun(world, hit, event, guarded))
    return reports
  }
  // The rules an event starts hang on its record here, and a rule sees what those before it changed: after each run
  // that wrote on the record, the rules behind it are looked up anew.
  let values = recordOf(world, event)?.values ?? {}
  let waiting = matcher.match(event, values, past)
  for (let hit = waiting[0]; hit; hit = waiting[0]) {
    const report = startRun(world, hit, event, guarded)
    add(reports, report)
    waiting = waiting.slice(1)
    if (!report?.steps.some(wroteFields)) continue
    values = world.read(event.ref)?.values ?? {}
    const { order, ruleId } = hit.rule
    waiting = matcher
      .match(event, values, past)
      .filter(({ rule }) => rule.order > order || (rule.order === order && rule.ruleId > ruleId))
  }
  return reports
}

/** The record an event is about; one that was deleted as it was until then. */
function recordOf(world: World, { kind, ref, changes }: ChangeEvent): RecordSnapshot | null {
  return kind === 'deleted' ? { ...ref, version: 0, values: valuesBefore({}, changes) } : world.read(ref)
}

function add(reports: RunReport[], report: RunReport | null): void {
  if (report) reports.push(report)
}

function startRun(world: World, hit: Hit, event: ChangeEvent, guarded: boolean): RunReport | null {
  if (world.hold(hit.rule.ruleId, event)) return null
  if (!guarded) return run(world, hit, event, null)
  try {
    return world.atomically(() => run(world, hit, event, null))
  } catch (error) {
    // One rule's mishap must not hold up every rule behind it for ever: what the run wrote is rolled back, and it is
    // kept as failed with what is known. A database that is full or locked throws again here, and then the event waits.
    const reason = error instanceof Error ? error.message : String(error)
    return world.atomically(() => run(world, hit, event, reason))
  }
}

function run(world: World, { rule, because }: Hit, event: ChangeEvent, mishap: string | null): RunReport | null {
  const { ref, chainId, depth } = event
  // The first change of a chain has nothing before it.
  const earlier = depth === 0 ? null : world.runInChain(chainId, rule.ruleId, ref)
  const runId = world.openRun({
    ruleId: rule.ruleId,
    versionId: rule.versionId,
    ref,
    occurrence: event.cause.by === 'clock' ? event.cause.starts.occurrence : `event:${event.seq}`,
    eventSeq: event.seq,
    chainId,
    depth,
    because,
  })
  if (runId === null) return null
  const steps: StepRecord[] = []
  const close = (state: RunEnd['state'], stop: StopReason | null, seen: readonly Seen[]): RunReport => {
    world.closeRun(runId, { state, stop, seen })
    return { runId, ruleId: rule.ruleId, ruleName: rule.document.name, ref, state, stop, steps }
  }

  if (mishap !== null) {
    const first = rule.document.steps[0]
    const failed: StepRecord = { state: 'failed', reason: { code: 'unexpected', reason: mishap } }
    if (first) world.recordStep(runId, 0, first, failed)
    steps.push(failed)
    return close('failed', null, [])
  }
  const starts = event.cause.by === 'clock' ? event.cause.starts : null
  if (starts?.missed) {
    const { dueMs } = starts
    return close(
      'stopped',
      {
        code: 'missed',
        atMs: dueMs,
        say: `it was due on ${sayInstant(dueMs, world.catalogue().workspace.zone)}, when nothing ran`,
      },
      [],
    )
  }
  if (starts?.calledOff !== undefined) return close('stopped', { code: 'calledOff', say: starts.calledOff }, [])
  if (starts?.putOffTo !== undefined) {
    world.wait({
      runId,
      ruleId: rule.ruleId,
      ref,
      stepId: BEFORE_ALL,
      then: 'go',
      dueMs: starts.putOffTo,
      anchor: null,
      awaited: null,
    })
    return close('waiting', null, [])
  }
  if (earlier !== null) return close('stopped', { code: 'circle', runId: earlier }, [])
  if (depth >= DEPTH_MOST) return close('stopped', { code: 'tooDeep', depth }, [])

  const record = recordOf(world, event)
  if (!record) return close('stopped', { code: 'recordGone' }, [])
  const moment = momentAt(world.nowMs(), world.catalogue().workspace)
  const resting = restOf(world, rule, ref, runId, moment)
  if (resting !== null) return close('stopped', { code: 'repeats', say: resting }, [])
  const subject = subjectOf(
    record,
    (from, object) => world.linked(from, object),
    valuesBefore(record.values, event.changes),
  )
  const seen = rule.conditions.explain(subject, moment)
  if (!rule.conditions.test(subject, moment)) return close('stopped', { code: 'conditions' }, seen)

  const walk: Walk = {
    world,
    rule,
    own: ref,
    event,
    runId,
    because,
    moment,
    before: subject.before,
    steps,
    position: 0,
    again: null,
    results: answersIn(event),
  }
  return close(stateBehind(walk, runSteps(walk, rule.document.steps, ref)), null, seen)
}

/** What a run is once its steps were gone through as far as they go now. */
export function stateBehind({ world, runId, rule }: Walk, going: Going): RunEnd['state'] {
  if (going === 'failed') return 'failed'
  return going === 'waiting' || (rule.waits && world.waitsOfRun(runId) > 0) ? 'waiting' : 'done'
}

/** What was answered by whoever started the run, by the keys under which steps name it. */
export function answersIn({ cause }: ChangeEvent): Values {
  const starts = cause.by === 'person' ? cause.starts : undefined
  return starts?.triggerId
    ? Object.fromEntries(
        Object.entries(starts.answers).map(([key, value]) => [resultKey(starts.triggerId ?? '', key), value]),
      )
    : {}
}

/** What keeps the record from going through the rule again now, in words; `null` when nothing does. */
function restOf(
  world: World,
  { ruleId, document: { repeats } }: CompiledRule,
  ref: RecordRef,
  runId: number,
  moment: Moment,
): string | null {
  if (!repeats) return null
  const lastMs = world.lastRunAt(ruleId, ref, runId)
  return lastMs === null ? null : stillResting(repeats, dateAt(lastMs, moment.zone), moment)
}

/** A run on its way through the steps. */
export interface Walk extends Chooser {
  readonly world: World
  readonly event: ChangeEvent
  readonly runId: number
  readonly because: string
  /** What came of each step so far. */
  readonly steps: StepRecord[]
  results: Values
  /** How many steps have been recorded. */
  position: number
  /** For a run that goes on: what was done before and is not done twice, and who wants it tried again, where somebody does. */
  readonly again: { readonly done: readonly DoneStep[]; readonly personId: string | null } | null
}

/** A step that a run went through before. */
export interface DoneStep {
  readonly stepId: string
  readonly result: StepRecord
}

export type Going = 'on' | 'stopped' | 'failed' | 'waiting'

const wroteFields = (result: StepRecord): boolean =>
  result.state === 'done' && result.wrote.some((wrote) => wrote.what === 'fields')

export function runSteps(walk: Walk, steps: readonly Step[], ref: RecordRef): Going {
  const { world, event } = walk
  const readAgain = () => (sameRef(ref, event.ref) ? recordOf(world, event) : world.read(ref))
  let current = readAgain()
  for (const step of steps) {
    const before = doneBefore(walk, step, ref)
    if (before) {
      keepResults(walk, before)
      const going = goInside(walk, wayBefore(step, before, current))
      if (going !== 'on') return going
      continue
    }
    const context = current && contextOf(walk, step, current)
    const way = context && STEPS[step.kind].ways ? chooseWay(walk, step, context) : null
    const done = !context ? GONE : way ? way.result : runStep(walk, step, context)
    if (done.state === 'waiting') return 'waiting'
    const result = record(walk, step, ref, done)
    if (result.state === 'failed') return 'failed'
    if (result.state === 'done' && result.wrote.some((wrote) => wrote.what === 'stop')) return 'stopped'
    const going = goInside(walk, way?.way ?? null)
    if (going !== 'on') return going
    if (way || wroteFields(result)) current = readAgain()
  }
  return 'on'
}

/** Keeps what came of a step. */
export function record(walk: Walk, step: Step, ref: RecordRef, done: StepRecord): StepRecord {
  const result: StepRecord = {
    ...done,
    ...(sameRef(ref, walk.event.ref) ? {} : { on: ref }),
    ...(walk.again?.personId ? { againBy: walk.again.personId } : {}),
  }
  walk.world.recordStep(walk.runId, walk.position++, step, result)
  walk.steps.push(result)
  keepResults(walk, result)
  return result
}

/** What a step gave is at hand for those further down. */
function keepResults(walk: Walk, result: StepRecord): void {
  if (walk.rule.results === null || result.state !== 'done') return
  for (const wrote of result.wrote) if (wrote.what === 'gave') walk.results = { ...walk.results, ...wrote.values }
}

function goInside(walk: Walk, way: Pick<Way<Branch>, 'branch' | 'records'> | null): Going {
  for (const inside of way?.records ?? []) {
    const going = runSteps(walk, way?.branch.steps ?? [], inside)
    if (going !== 'on') return going
  }
  return 'on'
}

/** What came of a step for this record when the run was there before; `null` when it was not, or failed. */
function doneBefore({ again, event }: Walk, step: Step, ref: RecordRef): StepRecord | null {
  if (!again) return null
  // Each linked record is looked for anew: those that were gone through are known by their own steps.
  if (STEPS[step.kind].ways?.single) return null
  return (
    again.done.find(
      ({ stepId, result }) => stepId === step.id && result.state !== 'failed' && sameRef(result.on ?? event.ref, ref),
    )?.result ?? null
  )
}

/** The way that a run went through a step before. */
function wayBefore(
  step: Step,
  result: StepRecord,
  record: RecordSnapshot | null,
): Pick<Way<Branch>, 'branch' | 'records'> | null {
  const wrote = result.state === 'done' ? result.wrote.find((one) => one.what === 'way') : undefined
  const branch = wrote?.what === 'way' ? step.branches?.find((one) => one.id === wrote.branch) : undefined
  return branch && record ? { branch, records: [record] } : null
}

/**
 * Takes a run that failed on from the step at which it did: what was done stays and is not done again, in the way that
 * was gone then. The caller has the run, its event and its steps at hand, and commits.
 */
export function retryRun(
  world: World,
  rule: CompiledRule,
  event: ChangeEvent,
  run: {
    readonly runId: number
    readonly because: string
    readonly seen: readonly Seen[]
    readonly done: readonly DoneStep[]
  },
  personId: string,
): RunReport {
  const { runId, because, seen, done } = run
  const steps: StepRecord[] = []
  const moment = momentAt(world.nowMs(), world.catalogue().workspace)
  const record = recordOf(world, event)
  const walk: Walk = {
    world,
    rule,
    own: event.ref,
    event,
    runId,
    because,
    moment,
    before: record && valuesBefore(record.values, event.changes),
    steps,
    position: done.length,
    again: { done, personId },
    results: answersIn(event),
  }
  // A run that threw was rolled back as a whole: nobody has asked its conditions yet.
  if (record && done.every(({ result }) => result.state === 'failed' && result.reason.code === 'unexpected')) {
    const subject = subjectOf(record, (from, object) => world.linked(from, object), walk.before)
    const asked = rule.conditions.explain(subject, moment)
    if (!rule.conditions.test(subject, moment)) {
      const stop: StopReason = { code: 'conditions' }
      world.closeRun(runId, { state: 'stopped', stop, seen: asked })
      return { runId, ruleId: rule.ruleId, ruleName: rule.document.name, ref: event.ref, state: 'stopped', stop, steps }
    }
  }
  const state = stateBehind(walk, runSteps(walk, rule.document.steps, event.ref))
  world.closeRun(runId, { state, stop: null, seen })
  return { runId, ruleId: rule.ruleId, ruleName: rule.document.name, ref: event.ref, state, stop: null, steps }
}

const GONE: StepRecord = { state: 'failed', reason: { code: 'refused', reason: 'the record is no longer there' } }

export function runStep(walk: Walk, step: Step, context: StepContext): StepRecord | { readonly state: 'waiting' } {
  const outcome: Outcome = STEPS[step.kind].run(step.params, context)
  switch (outcome.go) {
    case 'skip':
      return { state: 'skipped', reason: outcome.reason }
    case 'fail':
      return { state: 'failed', reason: outcome.reason }
    case 'stop':
      return { state: 'done', wrote: [{ what: 'stop', because: outcome.because }] }
    case 'wait':
    case 'later': {
      const { world, rule, event, runId } = walk
      const { anchor, awaited } = STEPS[step.kind].waitsFor(step.params)
      const { object, id } = context.record
      if (!sameRef(context.record, event.ref))
        return { state: 'skipped', reason: { code: 'own', say: 'only the rule’s own record can be waited for' } }
      if (event.kind === 'deleted') return { state: 'skipped', reason: { code: 'own', say: 'the record was deleted' } }
      world.wait({
        runId,
        ruleId: rule.ruleId,
        ref: { object, id },
        stepId: step.id,
        then: outcome.go === 'wait' ? 'go' : 'do',
        dueMs: outcome.dueMs,
        anchor,
        awaited,
      })
      return outcome.go === 'wait'
        ? { state: 'waiting' }
        : { state: 'done', wrote: [{ what: 'planned', dueMs: outcome.dueMs, say: outcome.say }] }
    }
    case 'on': {
      const { event } = walk
      const onGone =
        event.kind === 'deleted' &&
        outcome.effects.some(
          (effect) =>
            (effect.effect === 'write' && sameRef(effect.ref, event.ref)) ||
            ((effect.effect === 'link' || effect.effect === 'unlink') &&
              (sameRef(effect.from, event.ref) || sameRef(effect.to, event.ref))) ||
            (effect.effect === 'create' &&
              (effect.linkTo.some((to) => sameRef(to, event.ref)) ||
                (effect.linkFrom !== null && sameRef(effect.linkFrom, event.ref)))),
        )
      if (onGone) return { state: 'skipped', reason: { code: 'own', say: 'the record was deleted' } }
      const wrote: Wrote[] = []
      const { gives, say } = outcome
      if (say !== undefined || (gives && walk.rule.results)) {
        wrote.push({
          what: 'gave',
          say: say ?? '',
          values: Object.fromEntries(
            Object.entries(gives ?? {}).map(([key, value]) => [resultKey(step.id, key), value]),
          ),
        })
      }
      let made: RecordRef | null = null
      for (const effect of outcome.effects) {
        const result = carryOut(walk, step, context.record, effect, made)
        if ('code' in result) return { state: 'failed', reason: result }
        wrote.push(...result)
        for (const one of result) if (one.what === 'created') made = one.ref
      }
      return { state: 'done', wrote }
    }
  }
}

function carryOut(
  { world, rule, event, runId, because }: Walk,
  step: Step,
  record: RecordRef,
  effect: Effect,
  made: RecordRef | null,
): readonly Wrote[] | { readonly code: 'refused'; readonly reason: string } {
  const { ruleId } = rule
  if (effect.effect === 'task') {
    const { ref, title, notes, taskKind, priority, due, assigneeId, queue, remindAt } = effect.task
    const taskId = world.createTask({
      ref,
      title,
      notes,
      taskKind,
      priority,
      due,
      assigneeId,
      queue,
      remindAt,
      runId,
      ruleId,
      stepId: step.id,
      because: `${rule.document.name}: ${because}`,
    })
    return [{ what: 'task', taskId, title, assigneeId, ...(queue === null ? {} : { queue }), due }]
  }
  if (effect.effect === 'send') {
    const { recipient, subject } = effect.message
    // The same step of one run may send once for each of several records.
    const key = sameRef(record, event.ref)
      ? `run-${runId}-${step.id}`
      : `run-${runId}-${step.id}-${record.object}-${record.id}`
    world.send(effect.message, key, runId)
    return [{ what: 'message', key, recipient, subject }]
  }
  const cause = { by: 'rule', ruleId, runId, stepId: step.id } as const
  if (effect.effect === 'notice') {
    world.tell(effect.personId, {
      ref: { object: record.object, id: record.id },
      ruleId,
      runId,
      stepId: step.id,
      subject: effect.subject,
      body: effect.body,
    })
    return [{ what: 'notice', personId: effect.personId, subject: effect.subject }]
  }
  if (effect.effect === 'endWaits') {
    const runs = endWaits(world, effect.ref, { code: 'ended', say: effect.because }, runId)
    return runs === 0 ? [] : [{ what: 'ended', runs, because: effect.because }]
  }
  if (effect.effect === 'turn') {
    world.takeTurn(ruleId, step.id)
    return []
  }
  if (effect.effect === 'unlink') {
    const role = world.unlink(effect.from, effect.to, cause)
    return role === null ? [] : [{ what: 'unlink', from: effect.from, to: effect.to, role, name: effect.name }]
  }
  if (effect.effect === 'create') {
    const created = world.create(
      effect.object,
      effect.values,
      [...effect.linkTo, ...(effect.linkToMade && made ? [made] : [])],
      cause,
      { chainId: event.chainId, depth: event.depth + 1 },
    )
    if (!created.ok)
      return {
        code: 'refused',
        reason: created.problems.map(({ path, problem }) => `${path}: ${sayProblem(problem)}`).join('; '),
      }
    if (!created.ref || !created.event) return { code: 'refused', reason: 'it was not made' }
    if (effect.linkFrom) world.link(effect.linkFrom, created.ref, cause)
    return [{ what: 'created', ref: created.ref, eventSeq: created.event.seq, name: effect.name }]
  }
  if (effect.effect === 'link') {
    const { from, to, name } = effect
    return world.link(from, to, cause) ? [{ what: 'link', from, to, name }] : []
  }
  const written = world.write(effect.ref, effect.values, cause, { chainId: event.chainId, depth: event.depth + 1 })
  if (!written.ok)
    return {
      code: 'refused',
      reason: written.problems.map(({ path, problem }) => `${path}: ${sayProblem(problem)}`).join('; '),
    }
  return written.event ? [{ what: 'fields', eventSeq: written.event.seq, changes: written.event.changes }] : []
}

/** Ends what waits at a record, but for one run: each ends with the reason, and nothing is held up. Answers how many runs did. */
export function endWaits(world: World, ref: RecordRef, stop: StopReason, but: number | null = null): number {
  const ended = new Set<number>()
  for (const wait of world.waitsOf(ref)) {
    if (wait.runId === but) continue
    world.endWait(wait.id)
    ended.add(wait.runId)
  }
  for (const runId of ended) endRun(world, runId, stop)
  return ended.size
}

/** Ends a run that waited; one that had failed or ended before stays what it is. */
export function endRun(world: World, runId: number, stop: StopReason): void {
  const run = world.openRunOf(runId)
  if (run?.state === 'waiting') world.closeRun(runId, { state: 'stopped', stop, seen: run.seen })
}
