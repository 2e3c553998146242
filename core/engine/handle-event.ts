import type { Seen } from '../conditions/compile'
import { sayProblem } from '../problems'
import type { RecordRef } from '../records/kinds'
import type { ChangeEvent, RecordSnapshot } from '../records/record'
import { subjectOf, valuesBefore } from '../records/subject'
import { STEPS } from '../rules/steps'
import type { Step } from '../rules/document'
import type { Effect, Outcome } from './effects'
import type { Hit, Matcher } from './matcher'
import { momentAt } from './moment'
import type { RunEnd, StepRecord, StopReason, World, Wrote } from './world'

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
  if (!matcher.looksAtValues(event)) {
    for (const hit of matcher.match(event)) add(reports, startRun(world, hit, event, guarded))
    return reports
  }
  // The rules an event starts hang on its record here, and a rule sees what those before it changed: after each run
  // that wrote on the record, the rules behind it are looked up anew.
  let values = world.read(event.ref)?.values ?? {}
  let waiting = matcher.match(event, values)
  for (let hit = waiting[0]; hit; hit = waiting[0]) {
    const report = startRun(world, hit, event, guarded)
    add(reports, report)
    waiting = waiting.slice(1)
    if (!report?.steps.some(wroteFields)) continue
    values = world.read(event.ref)?.values ?? {}
    const { order, ruleId } = hit.rule
    waiting = matcher.match(event, values).filter(({ rule }) => rule.order > order || (rule.order === order && rule.ruleId > ruleId))
  }
  return reports
}

function add(reports: RunReport[], report: RunReport | null): void {
  if (report) reports.push(report)
}

function startRun(world: World, hit: Hit, event: ChangeEvent, guarded: boolean): RunReport | null {
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
    ruleId: rule.ruleId, versionId: rule.versionId, ref, occurrence: `event:${event.seq}`, eventSeq: event.seq, chainId, depth, because,
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
  if (earlier !== null) return close('stopped', { code: 'circle', runId: earlier }, [])
  if (depth >= DEPTH_MOST) return close('stopped', { code: 'tooDeep', depth }, [])

  const record = world.read(ref)
  if (!record) return close('stopped', { code: 'recordGone' }, [])
  const moment = momentAt(world.nowMs(), world.catalogue().workspace)
  const subject = subjectOf(record, (from, object) => world.linked(from, object), valuesBefore(record.values, event.changes))
  const seen = rule.conditions.explain(subject, moment)
  if (!rule.conditions.test(subject, moment)) return close('stopped', { code: 'conditions' }, seen)

  let current: RecordSnapshot | null = record
  for (const [position, step] of rule.document.steps.entries()) {
    const result = runStep(world, current, { step, runId, ruleId: rule.ruleId, ruleName: rule.document.name, event, because })
    world.recordStep(runId, position, step, result)
    steps.push(result)
    if (result.state === 'failed') return close('failed', null, seen)
    if (wroteFields(result)) current = world.read(ref)
  }
  return close('done', null, seen)
}

interface At {
  readonly step: Step
  readonly runId: number
  readonly ruleId: number
  readonly ruleName: string
  readonly event: ChangeEvent
  readonly because: string
}

const wroteFields = (result: StepRecord): boolean => result.state === 'done' && result.wrote.some((wrote) => wrote.what === 'fields')

function runStep(world: World, record: RecordSnapshot | null, at: At): StepRecord {
  const { ref } = at.event
  if (!record) return { state: 'failed', reason: { code: 'refused', reason: 'the record is no longer there' } }
  const catalogue = world.catalogue()
  const outcome: Outcome = STEPS[at.step.kind].run(at.step.params, {
    catalogue,
    record,
    moment: momentAt(world.nowMs(), catalogue.workspace),
    related: (object) => world.related(ref, object),
    linked: (object) => world.linked(ref, object),
    alike: (object, field, part, form) => world.alike(object, field, part, form),
    setBy: (field) => world.setBy(ref, field),
    openTask: () => world.openTask(at.ruleId, at.step.id, ref),
  })
  if (outcome.go === 'skip') return { state: 'skipped', reason: outcome.reason }
  if (outcome.go === 'fail') return { state: 'failed', reason: outcome.reason }
  const wrote: Wrote[] = []
  for (const effect of outcome.effects) {
    const result = carryOut(world, effect, at)
    if ('code' in result) return { state: 'failed', reason: result }
    wrote.push(...result)
  }
  return { state: 'done', wrote }
}

function carryOut(world: World, effect: Effect, at: At): readonly Wrote[] | { readonly code: 'refused'; readonly reason: string } {
  const { runId, ruleId, step, event } = at
  if (effect.effect === 'task') {
    const { ref, title, notes, taskKind, priority, due, assigneeId } = effect.task
    const taskId = world.createTask({ ref, title, notes, taskKind, priority, due, assigneeId, runId, ruleId, stepId: step.id, because: `${at.ruleName}: ${at.because}` })
    return [{ what: 'task', taskId, title, assigneeId, due }]
  }
  if (effect.effect === 'send') {
    const { recipient, subject } = effect.message
    const key = `run-${runId}-${step.id}`
    world.send(effect.message, key, runId)
    return [{ what: 'message', key, recipient, subject }]
  }
  const cause = { by: 'rule', ruleId, runId, stepId: step.id } as const
  if (effect.effect === 'link') {
    const { from, to, name } = effect
    return world.link(from, to, cause) ? [{ what: 'link', from, to, name }] : []
  }
  const written = world.write(effect.ref, effect.values, cause, { chainId: event.chainId, depth: event.depth + 1 })
  if (!written.ok) return { code: 'refused', reason: written.problems.map(({ path, problem }) => `${path}: ${sayProblem(problem)}`).join('; ') }
  return written.event ? [{ what: 'fields', eventSeq: written.event.seq, changes: written.event.changes }] : []
}
