import type { SkipReason, StopReason } from '../language/reasons'
import type { Value, Values } from '../language/value'
import type { ChangeEvent, FieldChange } from '../records/record'
import { activityIn } from '../signals/activity'
import { askingRun, subjectOf, valuesBefore } from '../records/subject'
import type { Step } from '../rules/document'
import type { WaitOver } from '../rules/step'
import { STEPS } from '../rules/steps'
import { stepById } from '../rules/tree'
import { aboutOf, bears, type SignalName } from '../signals'

import { answersIn, stateBehind, type RunReport } from './handle-event'
import { resultKey } from '../rules/results'
import type { CompiledRule } from './matcher'
import { momentAt } from './moment'
import { contextOf } from './ways'
import { measured } from './goals'
import { BEFORE_ALL, type OpenRun, type StepRecord, type Wait, type World } from './world'
import { saySkip } from '../language/reasons'
import { GRACE_HOURS } from '../rules/document'
import { sayInstant } from '../time/say'
import { summaryOf, type Wrote } from '../effects/wrote'
import { endRun, endWaits } from './end-waits'
import { record, runStep, runSteps, type Walk } from './walk'

/** What happens to runs that wait, and what the clock starts. Whoever calls commits. */

/** A run as it goes on. */
function walkOf(world: World, rule: CompiledRule, { runId, because, event, done }: OpenRun, due?: string): Walk {
  const own = world.read(event.ref)
  return {
    world,
    rule,
    own: event.ref,
    event,
    runId,
    because,
    moment: momentAt(world.nowMs(), world.catalogue().workspace),
    before: own && valuesBefore(own.values, event.changes),
    run: askingRun(event, done),
    steps: [],
    position: done.length,
    again: { done, personId: null },
    fresh: 0,
    results: { ...answersIn(event, rule.document), ...givenBefore(rule, done) },
    due,
  }
}

/** The branch that a wait with two ends goes on with. */
function endOf({ kind, branches = [] }: Step, how: WaitOver, gives: Values): readonly Wrote[] {
  const end = STEPS[kind].ways?.end?.(how, gives)
  const branch = end === undefined ? undefined : branches[end]
  return branch ? [{ what: 'way', branch: branch.id, say: '', seen: [] }] : []
}

/** The results of steps that were done before. */
function givenBefore(rule: CompiledRule, done: OpenRun['done']): Walk['results'] {
  if (rule.results === null) return {}
  return Object.assign(
    {},
    ...done.flatMap(({ result }) =>
      result.state === 'done' ? result.wrote.flatMap((wrote) => (wrote.what === 'gave' ? [wrote.values] : [])) : [],
    ),
  ) as Walk['results']
}

/** A run whose rule cannot be read has failed: it is told, and can be tried again once it can be read. */
function setAside(world: World, { runId, state, seen }: OpenRun, ref: Wait['ref']): void {
  for (const wait of world.waitsOf(ref)) if (wait.runId === runId) world.endWait(wait.id)
  if (state === 'waiting') world.closeRun(runId, { state: 'failed', stop: { code: 'unreadable' }, seen })
}

/**
 * Takes a waiting run on: what its wait was for has come. Before the next step its conditions are asked again, unless
 * the rule or the step says otherwise; `null` when the run is no longer there to go on.
 */
export function wake(world: World, wait: Wait, how: WaitOver, came: ChangeEvent | null = null): RunReport | null {
  world.endWait(wait.id)
  const run = world.openRunOf(wait.runId)
  const rule = world.ruleOfRun(wait.runId)
  if (!run) return null
  if (!rule) {
    setAside(world, run, wait.ref)
    return null
  }
  const step = stepById(rule.document.steps, wait.stepId)
  const walk = walkOf(world, rule, run, wait.then === 'do' ? wait.stepId : undefined)
  const close = (state: RunReport['state'], stop: StopReason | null, seen = run.seen): RunReport => {
    // A run that had failed keeps that, whatever of it was put off to later.
    if (run.state === 'waiting') world.closeRun(wait.runId, { state, stop, seen })
    return {
      runId: wait.runId,
      ruleId: rule.ruleId,
      ruleName: rule.document.name,
      ref: wait.ref,
      state: run.state === 'waiting' ? state : run.state,
      stop,
      steps: walk.steps,
    }
  }
  const own = world.read(wait.ref)
  if (!own || (!step && wait.stepId !== BEFORE_ALL)) {
    endWaits(world, wait.ref, { code: 'recordGone' })
    return close(
      'stopped',
      own ? { code: 'ended', say: 'the step it was waiting at no longer exists' } : { code: 'recordGone' },
    )
  }
  // Conditions are asked for the first time where the start itself was put off.
  if ((step ? STEPS[step.kind].recheck(step.params) : true) ?? rule.document.recheck !== false) {
    const subject = subjectOf(own, world, { before: walk.before, run: walk.run })
    const seen = rule.conditions.explain(subject, walk.moment)
    if (!rule.conditions.test(subject, walk.moment)) {
      // What was put off as well would ask the same and get the same answer.
      for (const other of world.waitsOf(wait.ref)) if (other.runId === wait.runId) world.endWait(other.id)
      return close('stopped', { code: step ? 'noLonger' : 'conditions' }, seen)
    }
    if (!step && measured(world, rule, wait.runId, subject, own, walk.moment))
      return close('stopped', { code: 'leftAlone' }, seen)
    if (!step) return close(stateBehind(walk, runSteps(walk, rule.document.steps, run.event.ref)), null, seen)
  }
  if (!step) return null
  if (wait.then === 'do') {
    const context = contextOf(walk, step, own)
    const done = runStep(walk, step, context)
    if (done.state === 'waiting') return close('waiting', null)
    const result = record(walk, step, wait.ref, done)
    const going = result.state === 'failed' ? 'failed' : 'on'
    return close(stateBehind(walk, going), null)
  }
  // It comes to the step once more; or, of very many linked records, to the next ones: nothing was waited for.
  if (wait.then === 'again' || STEPS[step.kind].ways?.single)
    return close(stateBehind(walk, runSteps(walk, rule.document.steps, run.event.ref)), null)
  const names = { catalogue: rule.results ?? world.catalogue(), object: wait.ref.object }
  const { gives = {}, say } = STEPS[step.kind].over(step.params, how, names, came)
  const waited: StepRecord = {
    state: 'done',
    wrote: [
      { what: 'waited', fromMs: wait.sinceMs, toMs: world.nowMs(), say },
      ...endOf(step, how, gives),
      ...(rule.results && Object.keys(gives).length > 0
        ? [
            {
              what: 'gave' as const,
              say: '',
              values: Object.fromEntries(
                Object.entries(gives).map(([key, value]) => [resultKey(step.id, key), value as Value]),
              ),
            },
          ]
        : []),
    ],
  }
  // What was not answered in time is asked no more: an answer would lead nowhere.
  if (how !== 'came')
    for (const done of run.done)
      if (done.stepId === step.id && done.result.state === 'done')
        for (const wrote of done.result.wrote) {
          const made = summaryOf(wrote).task
          if (made) world.callOff(made.id)
        }
  const result = record(walk, step, wait.ref, waited)
  const on: Walk = {
    ...walk,
    again: { done: [...run.done, { stepId: step.id, result, atMs: world.nowMs() }], personId: null },
  }
  return close(stateBehind(on, runSteps(on, rule.document.steps, run.event.ref)), null)
}

/**
 * Lets what waits at a record know of a change: dates that moved move what hangs on them, and what was waited for has
 * come. A record that is gone, or went into another one, ends them all.
 */
export function noticeWaits(world: World, event: ChangeEvent): readonly RunReport[] {
  const waits = world.waitsOf(event.ref)
  if (waits.length === 0) return []
  if (event.kind === 'deleted' || event.kind === 'merged') {
    endWaits(
      world,
      event.ref,
      event.kind === 'deleted' ? { code: 'recordGone' } : { code: 'ended', say: 'the record was merged into another' },
    )
    return []
  }
  const reports: RunReport[] = []
  const doneMs = activityIn(event.changes)?.atMs ?? null
  for (const wait of waits) {
    // What somebody did counts by the moment at which it was done, whenever one was told of it.
    if (event.seq <= wait.sinceSeq || (doneMs !== null && doneMs < wait.sinceMs)) continue
    const moved = wait.anchor !== null && event.changes.some((change) => change.field === wait.anchor)
    const may = !event.rulesOff && bears(event, world.catalogue(), wait.signals)
    if (!moved && !may) continue
    const rule = world.ruleOfRun(wait.runId)
    const step = rule && stepById(rule.document.steps, wait.stepId)
    if (!rule && may) wake(world, wait, 'came')
    if (!rule || !step) continue
    if (
      may &&
      STEPS[step.kind].comes(step.params, event, {
        catalogue: rule.results ?? world.catalogue(),
        object: wait.ref.object,
      })
    ) {
      const report = wake(world, wait, 'came', event)
      if (report) reports.push(report)
    } else if (moved) {
      const report = plan(world, wait, rule, step)
      if (report) reports.push(report)
    }
  }
  return reports
}

/** Whether something waits for such a signal. */
export const listensTo =
  (signal: SignalName) =>
  ({ signals }: Pick<Wait, 'signals'>): boolean =>
    signals.some((one) => one.signal === signal)

/** Whether a change of a value concerns something that waits. */
export const heedsChange = (waits: readonly Wait[], { field }: FieldChange): boolean =>
  waits.some(
    ({ anchor, signals }) =>
      anchor === field ||
      signals.some((signal) => {
        const about = aboutOf(signal)
        return 'field' in about && about.field === field
      }),
  )

const HOUR_MS = 3_600_000

/** How long after its moment something is still made up for. */
export const graceMs = ({ document }: CompiledRule): number => (document.graceHours ?? GRACE_HOURS) * HOUR_MS

/**
 * Counts the moment of a wait anew. One that hangs on a date that is empty now is over, and so is one whose new moment
 * has passed too long ago to be made up for; answers the run that ends by that.
 */
function plan(world: World, wait: Wait, rule: CompiledRule, step: Step): RunReport | null {
  const own = world.read(wait.ref)
  const run = world.openRunOf(wait.runId)
  if (!own || !run) return null
  const walk = walkOf(world, rule, run)
  const at = STEPS[step.kind].movedTo(step.params, contextOf(walk, step, own))
  if (typeof at === 'number') {
    if (world.nowMs() - at > graceMs(rule)) {
      const moment = sayInstant(at, world.catalogue().workspace.zone)
      return endLate(world, wait, `the date was moved; its moment, ${moment}, had passed`)
    }
    world.setDue(wait.id, at)
    return null
  }
  if (STEPS[step.kind].ways?.whenEmptied) return wake(world, wait, 'emptied')
  world.endWait(wait.id)
  if (wait.then !== 'do') endRun(world, wait.runId, { code: 'ended', say: saySkip(at.none) })
  else leaveOut(world, rule, run, step, wait, at.none)
  return null
}

/** Ends one wait because somebody wants it; the run goes no further. What it put off to other moments stays. */
export function endByHand(world: World, wait: Wait, who: string, reason: string): void {
  const say = `ended by ${who}${reason === '' ? '' : `: ${reason}`}`
  const run = world.openRunOf(wait.runId)
  const rule = world.ruleOfRun(wait.runId)
  const step = rule && stepById(rule.document.steps, wait.stepId)
  world.endWait(wait.id)
  if (!run || !rule) return
  if (wait.then !== 'do' || !step) endRun(world, wait.runId, step ? { code: 'ended', say } : { code: 'calledOff', say })
  else leaveOut(world, rule, run, step, wait, { code: 'own', say })
}

/** Ends a wait whose moment has passed too long ago to be made up for: it is recorded, with the reason, as missed. */
export function endLate(world: World, wait: Wait, say: string): RunReport | null {
  const run = world.openRunOf(wait.runId)
  const rule = world.ruleOfRun(wait.runId)
  const step = rule && stepById(rule.document.steps, wait.stepId)
  world.endWait(wait.id)
  if (!run || !rule) return null
  const stop: StopReason = { code: 'ended', say }
  if (wait.then !== 'do' || !step) endRun(world, wait.runId, stop)
  else leaveOut(world, rule, run, step, wait, { code: 'own', say })
  return {
    runId: wait.runId,
    ruleId: rule.ruleId,
    ruleName: rule.document.name,
    ref: wait.ref,
    state: 'stopped',
    stop,
    steps: [],
  }
}

/** A step that was put off is not done after all; the run is over when it waits for nothing else. */
function leaveOut(world: World, rule: CompiledRule, run: OpenRun, step: Step, wait: Wait, reason: SkipReason): void {
  record(walkOf(world, rule, run), step, wait.ref, { state: 'skipped', reason })
  if (run.state === 'waiting' && world.waitsOfRun(wait.runId) === 0)
    world.closeRun(wait.runId, { state: 'done', stop: null, seen: run.seen })
}
