import type { AskingRun } from '../conditions/subject'
import { figure } from '../language/counts'
import type { FailReason } from '../language/reasons'
import type { Values } from '../language/value'
import { effectOf } from '../effects'
import { summaryOf } from '../effects/wrote'
import { sameRef, type RecordRef } from '../records/kinds'
import type { ChangeEvent, RecordSnapshot } from '../records/record'
import { resultKey } from '../rules/results'
import type { StepContext, Way } from '../rules/step'
import { STEPS } from '../rules/steps'
import type { Branch, Step } from '../rules/document'
import type { Effect } from '../effects'
import type { Outcome } from './outcome'
import { chooseWay, contextOf, type Chooser } from './ways'
import type { StepRecord, World } from './world'
import type { Wrote } from '../effects/wrote'
import { endWaits } from './end-waits'

import { valuesBefore } from '../records/subject'

/** A run on its way through the steps. */
export interface Walk extends Chooser {
  readonly run: AskingRun & { readonly steps: Map<string, number> }
  readonly world: World
  readonly event: ChangeEvent
  readonly runId: number
  readonly because: string
  /** What came of each step so far. */
  readonly steps: StepRecord[]
  results: Values
  /** How many steps have been recorded. */
  position: number
  /**
   * For a run that goes on: what was done before and is not done twice, and who wants it tried again, where somebody
   * does.
   */
  readonly again: { readonly done: readonly DoneStep[]; readonly personId: string | null } | null
  /** How many linked records were gone through since it was taken on. */
  fresh: number
}

/** A step that a run went through before. */
export interface DoneStep {
  readonly stepId: string
  readonly result: StepRecord
  readonly atMs: number
}

export type Going = 'on' | 'stopped' | 'failed' | 'waiting'

export const wroteFields = (result: StepRecord): boolean =>
  result.state === 'done' && result.wrote.some((wrote) => summaryOf(wrote).changed !== undefined)

export function runSteps(walk: Walk, steps: readonly Step[], ref: RecordRef): Going {
  const { world, event } = walk
  const readAgain = () => (sameRef(ref, event.ref) ? recordOf(world, event) : world.read(ref))
  let current = readAgain()
  for (const step of steps) {
    const before = doneBefore(walk, step, ref)
    if (before) {
      keepResults(walk, before)
      const going = goInside(walk, step, wayBefore(walk, step, before, current))
      if (going !== 'on') return going
      continue
    }
    const context = current && contextOf(walk, step, current)
    const way = context && STEPS[step.kind].ways?.choose ? chooseWay(walk, step, context) : null
    const done = !context ? GONE : way ? way.result : runStep(walk, step, context)
    if (done.state === 'waiting') return 'waiting'
    const result = way && goesOn(walk, step, ref) ? done : record(walk, step, ref, done)
    if (result.state === 'failed') return 'failed'
    if (result.state === 'done' && result.wrote.some((wrote) => wrote.what === 'stop')) return 'stopped'
    const going = goInside(walk, step, way ? way.way : wayBefore(walk, step, result, current))
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
  walk.run.steps.set(step.id, walk.world.nowMs())
  keepResults(walk, result)
  return result
}

/** What a step gave is at hand for those further down. */
function keepResults(walk: Walk, result: StepRecord): void {
  if (walk.rule.results === null || result.state !== 'done') return
  for (const wrote of result.wrote) if (wrote.what === 'gave') walk.results = { ...walk.results, ...wrote.values }
}

/** Of very many linked records so many are gone through in one commit; the clock takes the run on with the next. */
export const EACH_AT_ONCE = 200

/** Whether a run that went through some of very many linked records comes back for the others. */
const goesOn = ({ again, event }: Walk, step: Step, ref: RecordRef): boolean =>
  STEPS[step.kind].ways?.single === true &&
  (again?.done.some(({ stepId, result }) => stepId === step.id && sameRef(result.on ?? event.ref, ref)) ?? false)

function goInside(walk: Walk, step: Step, way: Pick<Way<Branch>, 'branch' | 'records'> | null): Going {
  const records = way?.records ?? []
  const single = STEPS[step.kind].ways?.single === true
  for (const [n, inside] of records.entries()) {
    if (single && walk.fresh >= EACH_AT_ONCE && walk.event.kind !== 'deleted') {
      restLater(walk, step, n, records.length)
      return 'waiting'
    }
    const before = walk.steps.length
    const going = runSteps(walk, way?.branch.steps ?? [], inside)
    if (single && walk.steps.length > before) walk.fresh++
    if (going !== 'on') return going
  }
  return 'on'
}

/** The rest of very many is for another commit, as soon as the clock looks: how far it has come is kept and shown. */
function restLater(walk: Walk, step: Step, gone: number, of: number): void {
  const { world, rule, event, runId } = walk
  record(walk, step, event.ref, {
    state: 'done',
    wrote: [
      { what: 'gave', say: `${figure(gone)} of ${figure(of)} done, the rest follows in the background`, values: {} },
    ],
  })
  world.wait({
    runId,
    ruleId: rule.ruleId,
    ref: event.ref,
    stepId: step.id,
    then: 'go',
    dueMs: world.nowMs(),
    anchor: null,
    signals: [],
  })
}

/** What came of a step for this record when the run was there before; `null` when it was not, or failed. */
function doneBefore({ again, event }: Walk, step: Step, ref: RecordRef): StepRecord | null {
  if (!again) return null
  // Each linked record is looked for anew: those that were gone through are known by their own steps.
  if (STEPS[step.kind].ways?.single) return null
  return doneOf(again.done, event.ref).get(`${step.id} ${ref.object} ${ref.id}`) ?? null
}

/** A step that was held is not done: the run comes to it once more. */
const isHeld = (result: StepRecord): boolean =>
  result.state === 'done' && result.wrote.some(({ what }) => what === 'held')

const found = new WeakMap<readonly DoneStep[], ReadonlyMap<string, StepRecord>>()

/** What was done before, by step and record: of very many, each would otherwise be looked for among all. */
function doneOf(done: readonly DoneStep[], own: RecordRef): ReadonlyMap<string, StepRecord> {
  const known = found.get(done)
  if (known) return known
  const made = new Map<string, StepRecord>()
  for (const { stepId, result } of done) {
    const { object, id } = result.on ?? own
    const key = `${stepId} ${object} ${id}`
    // A step that did something and then waited is there twice: the way it went is with the later.
    if (result.state !== 'failed' && !isHeld(result)) made.set(key, result)
  }
  found.set(done, made)
  return made
}

/** The way that a run went through a step before. */
function wayBefore(
  { world }: Walk,
  step: Step,
  result: StepRecord,
  record: RecordSnapshot | null,
): Pick<Way<Branch>, 'branch' | 'records'> | null {
  if (STEPS[step.kind].ways?.made) {
    const [branch] = step.branches ?? []
    const ref = result.state === 'done' ? result.wrote.findLast((one) => summaryOf(one).made !== undefined) : undefined
    const made = ref && summaryOf(ref).made
    const there = made ? world.read(made) : null
    return branch && there ? { branch, records: [there] } : null
  }
  const wrote = result.state === 'done' ? result.wrote.find((one) => one.what === 'way') : undefined
  const branch = wrote?.what === 'way' ? step.branches?.find((one) => one.id === wrote.branch) : undefined
  return branch && record ? { branch, records: [record] } : null
}

const GONE: StepRecord = { state: 'failed', reason: { code: 'recordDeleted' } }

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
    case 'hold':
    case 'later': {
      const { world, rule, event, runId } = walk
      const { object, id } = context.record
      const why = !sameRef(context.record, event.ref) ? 'linked' : event.kind === 'deleted' ? 'deleted' : null
      // What stands behind a wait must not come before its end; what only appears later is left out.
      if (why !== null && outcome.go !== 'later') return { state: 'failed', reason: { code: 'cannotWait', why } }
      if (why !== null) return { state: 'skipped', reason: { code: why === 'linked' ? 'onlyOwn' : 'recordDeleted' } }
      const before = outcome.go !== 'later' ? carryOutAll(walk, step, context.record, outcome.effects ?? []) : []
      if ('fails' in before) return { state: 'failed', reason: before.fails }
      const names = { catalogue: context.catalogue, object }
      const { anchor, signals } = STEPS[step.kind].waitsFor(step.params, names, before)
      if (outcome.go === 'hold')
        record(walk, step, context.record, {
          state: 'done',
          wrote: [
            ...before,
            { what: 'held', untilMs: outcome.dueMs, say: outcome.say, ...(outcome.capped ? { capped: true } : {}) },
          ],
        })
      else if (before.length > 0) record(walk, step, context.record, { state: 'done', wrote: before })
      world.wait({
        runId,
        ruleId: rule.ruleId,
        ref: { object, id },
        stepId: step.id,
        then: outcome.go === 'wait' ? 'go' : outcome.go === 'hold' ? 'again' : 'do',
        dueMs: outcome.dueMs,
        anchor,
        signals,
      })
      return outcome.go !== 'later'
        ? { state: 'waiting' }
        : { state: 'done', wrote: [{ what: 'planned', dueMs: outcome.dueMs, say: outcome.say }] }
    }
    case 'on': {
      const { event } = walk
      const onGone =
        event.kind === 'deleted' &&
        outcome.effects.some((effect) =>
          effectOf(effect.effect)
            .needs(effect)
            .some((ref) => sameRef(ref, event.ref)),
        )
      if (onGone) return { state: 'skipped', reason: { code: 'recordDeleted' } }
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
      const left = carryOutAll(walk, step, context.record, outcome.effects)
      if ('fails' in left) return { state: 'failed', reason: left.fails }
      const branch = outcome.way === undefined ? undefined : step.branches?.[outcome.way]
      if (branch) wrote.push({ what: 'way', branch: branch.id, say: '', seen: [] })
      return { state: 'done', wrote: [...wrote, ...left] }
    }
  }
}

/** Carries out effects in their order; what was made by one is at hand for the next. */
function carryOutAll(
  walk: Walk,
  step: Step,
  record: RecordRef,
  effects: readonly Effect[],
): readonly Wrote[] | { readonly fails: FailReason } {
  const wrote: Wrote[] = []
  let made: RecordRef | null = null
  for (const effect of effects) {
    const result = carryOut(walk, step, record, effect, made)
    if (result === null) continue
    if ('fails' in result) return result
    wrote.push(result)
    made = summaryOf(result).made ?? made
  }
  return wrote
}

function carryOut(
  { world, rule: { ruleId }, event, runId, because }: Walk,
  { id: stepId }: Step,
  record: RecordRef,
  effect: Effect,
  made: RecordRef | null,
): Wrote | null | { readonly fails: FailReason } {
  const left = effectOf(effect.effect).apply(
    {
      world,
      event,
      ruleId,
      runId,
      stepId,
      record,
      because,
      cause: { by: 'rule', ruleId, runId, stepId },
      made,
      endWaits: (ref, say) => endWaits(world, ref, { code: 'ended', say }, runId),
    },
    effect,
  )
  if (left === null) return null
  return 'fails' in left ? (left as { readonly fails: FailReason }) : ({ what: effect.effect, ...left } as Wrote)
}

/** The record an event is about; one that was deleted as it was until then. */
export function recordOf(world: World, { kind, ref, changes }: ChangeEvent): RecordSnapshot | null {
  return kind === 'deleted' ? { ...ref, version: 0, values: valuesBefore({}, changes) } : world.read(ref)
}
