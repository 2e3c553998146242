import type { Seen } from '../conditions/compile'
import type { Value, Values } from '../language/value'
import type { RecordRef } from '../records/kinds'
import type { ChangeEvent } from '../records/record'
import { askingRun, subjectOf, valuesBefore } from '../records/subject'
import { stillResting } from '../rules/repeats'
import type { RuleDocument } from '../rules/document'
import { resultKey } from '../rules/results'
import { TRIGGERS } from '../rules/triggers'
import type { Held, Past } from '../rules/trigger'
import { dateAt } from '../time/dates'
import { sayInstant } from '../time/say'
import type { CompiledRule, Hit, Matcher } from './matcher'
import { measured } from './goals'
import { momentAt } from './moment'
import { BEFORE_ALL, type RunEnd, type StepRecord, type World } from './world'
import type { StopReason } from '../language/reasons'
import type { Moment } from '../conditions/moment'
import { type Walk, type DoneStep, type Going, wroteFields, runSteps, recordOf } from './walk'

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
  const held: Held = () => recordOf(world, event)?.values ?? {}
  if (!matcher.looksAtValues(event)) {
    for (const hit of matcher.match(event, null, past, held)) add(reports, startRun(world, hit, event, guarded))
    return reports
  }
  // The rules an event starts hang on its record here, and a rule sees what those before it changed: after each run
  // that wrote on the record, the rules behind it are looked up anew.
  let values = recordOf(world, event)?.values ?? {}
  let waiting = matcher.match(event, values, past, held)
  for (let hit = waiting[0]; hit; hit = waiting[0]) {
    const report = startRun(world, hit, event, guarded)
    add(reports, report)
    waiting = waiting.slice(1)
    if (!report?.steps.some(wroteFields)) continue
    values = world.read(event.ref)?.values ?? {}
    const { order, ruleId } = hit.rule
    waiting = matcher
      .match(event, values, past, held)
      .filter(({ rule }) => rule.order > order || (rule.order === order && rule.ruleId > ruleId))
  }
  return reports
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

export function run(world: World, { rule, because }: Hit, event: ChangeEvent, mishap: string | null): RunReport | null {
  const { ref, chainId, depth } = event
  // What somebody changed themselves is the first of its chain, and has nothing before it; what is worked out because
  // of it belongs to it.
  const first = depth === 0 && event.cause.by !== 'derived'
  const again = rule.document.repeats?.how === 'again'
  const earlier = first || again ? null : world.runInChain(chainId, rule.ruleId, ref)
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
        say: `it was due on ${sayInstant(dueMs, world.catalogue().workspace.zone)} while the server was down`,
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
      signals: [],
    })
    return close('waiting', null, [])
  }
  if (earlier !== null) return close('stopped', { code: depth === 0 ? 'sameChange' : 'circle', runId: earlier }, [])
  if (depth >= DEPTH_MOST) return close('stopped', { code: 'tooDeep', depth }, [])

  const record = recordOf(world, event)
  if (!record) return close('stopped', { code: 'recordGone' }, [])
  const moment = momentAt(world.nowMs(), world.catalogue().workspace)
  const resting = restOf(world, rule, ref, runId, moment)
  if (resting !== null) return close('stopped', { code: 'repeats', say: resting }, [])
  const asking = askingRun(event)
  const subject = subjectOf(record, world, { before: valuesBefore(record.values, event.changes), run: asking })
  const seen = rule.conditions.explain(subject, moment)
  if (!rule.conditions.test(subject, moment)) return close('stopped', { code: 'conditions' }, seen)
  if (measured(world, rule, runId, subject, record, moment)) return close('stopped', { code: 'leftAlone' }, seen)

  const walk: Walk = {
    world,
    rule,
    own: ref,
    event,
    runId,
    because,
    moment,
    before: subject.before,
    run: asking,
    steps,
    position: 0,
    again: null,
    fresh: 0,
    results: answersIn(event, rule.document),
  }
  return close(stateBehind(walk, runSteps(walk, rule.document.steps, ref)), null, seen)
}

/** What a run is once its steps were gone through as far as they go now. */
export function stateBehind({ world, runId, rule }: Walk, going: Going): RunEnd['state'] {
  if (going === 'failed') return 'failed'
  return going === 'waiting' || (rule.waits && world.waitsOfRun(runId) > 0) ? 'waiting' : 'done'
}

/** What was answered by whoever started the run, or told by what did, by the keys under which steps name it. */
export function answersIn(event: ChangeEvent, { triggers }: Pick<RuleDocument, 'triggers'>): Values {
  const starts = event.cause.by === 'person' ? event.cause.starts : undefined
  const named = (id: string, values: Values): [string, Value][] =>
    Object.entries(values).map(([key, value]) => [resultKey(id, key), value])
  return Object.fromEntries([
    ...(starts?.triggerId ? named(starts.triggerId, starts.answers) : []),
    ...triggers.flatMap(({ id, kind, params }) => named(id, TRIGGERS[kind].given(params, event))),
  ])
}

/** What keeps the record from going through the rule again now, in words; `null` when nothing does. */
function restOf(
  world: World,
  { ruleId, document: { repeats } }: CompiledRule,
  ref: RecordRef,
  runId: number,
  moment: Moment,
): string | null {
  if (!repeats || repeats.how === 'again') return null
  const lastMs = world.lastRunAt(ruleId, ref, runId)
  return lastMs === null ? null : stillResting(repeats, dateAt(lastMs, moment.zone), moment)
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
    run: askingRun(event, done),
    steps,
    position: done.length,
    again: { done, personId },
    fresh: 0,
    results: answersIn(event, rule.document),
  }
  // A run that threw was rolled back as a whole: nobody has asked its conditions yet.
  if (record && done.every(({ result }) => result.state === 'failed' && result.reason.code === 'unexpected')) {
    const subject = subjectOf(record, world, { before: walk.before, run: walk.run })
    const asked = rule.conditions.explain(subject, moment)
    const met = rule.conditions.test(subject, moment)
    if (!met || measured(world, rule, runId, subject, record, moment)) {
      const stop: StopReason = { code: met ? 'leftAlone' : 'conditions' }
      world.closeRun(runId, { state: 'stopped', stop, seen: asked })
      return { runId, ruleId: rule.ruleId, ruleName: rule.document.name, ref: event.ref, state: 'stopped', stop, steps }
    }
  }
  const state = stateBehind(walk, runSteps(walk, rule.document.steps, event.ref))
  world.closeRun(runId, { state, stop: null, seen })
  return { runId, ruleId: rule.ruleId, ruleName: rule.document.name, ref: event.ref, state, stop: null, steps }
}
