import type { Values } from '../language/value'
import { sameRef, type RecordRef } from '../records/kinds'
import type { RecordSnapshot } from '../records/record'
import type { AskingRun } from '../conditions/subject'
import { subjectOf } from '../records/subject'
import { workdaysOf } from '../rules/clock'
import type { Branch, Step } from '../rules/document'
import type { StepContext, Way } from '../rules/step'
import { STEPS } from '../rules/steps'
import type { CompiledRule } from './matcher'
import type { StepRecord, World } from './world'
import type { Moment } from '../conditions/moment'

/** Whoever has to find the way through the steps of a rule. */
export interface Chooser {
  readonly world: Pick<
    World,
    | 'catalogue'
    | 'related'
    | 'linked'
    | 'activities'
    | 'alike'
    | 'setBy'
    | 'openTask'
    | 'turn'
    | 'openTasks'
    | 'addressFacts'
    | 'lineOf'
    | 'firstSentTo'
    | 'sentByStep'
  >
  readonly rule: CompiledRule
  /** The run that goes through it, where one does. */
  readonly runId?: number
  /** The record that the rule runs for. */
  readonly own: RecordRef
  readonly moment: Moment
  /** Its values before the change that started the rule. */
  readonly before: Values | null
  /** The run that asks. */
  readonly run: AskingRun | null
  /** The step whose moment has come, where one was put off. */
  readonly due?: string | undefined
  /** What its steps gave so far, by the keys under which they are named. */
  readonly results?: Values
}

/** What a step of a rule may look at, for a record. */
export function contextOf(
  {
    world,
    rule,
    moment,
    results,
    due,
    runId,
  }: Pick<Chooser, 'world' | 'moment' | 'results' | 'due' | 'runId'> & {
    readonly rule: Pick<CompiledRule, 'ruleId' | 'results'>
  },
  step: Step,
  record: RecordSnapshot,
): StepContext {
  const ref: RecordRef = { object: record.object, id: record.id }
  return {
    catalogue: rule.results ?? world.catalogue(),
    record: rule.results && results ? { ...record, values: { ...record.values, ...results } } : record,
    // Working days are those of the team whose record it is.
    moment: { ...moment, calendar: workdaysOf(world.catalogue(), record.values.owner) },
    related: (object) => world.related(ref, object),
    linked: (object) => world.linked(ref, object),
    alike: (object, field, part, form) => world.alike(object, field, part, form),
    linkedOf: (of, object) => world.linked(of, object),
    activities: (of) => world.activities(of),
    post: world,
    ruleId: rule.ruleId,
    firstSentTo: (who) => (runId === undefined ? null : world.firstSentTo(runId, who)),
    sentHere: () => (runId === undefined ? [] : world.sentByStep(runId, step.id)),
    turn: () => world.turn(rule.ruleId, step.id),
    openTasks: (personId) => world.openTasks(personId),
    due: due === step.id,
    setBy: (field) => world.setBy(ref, field),
    openTask: (personId) => world.openTask(rule.ruleId, step.id, ref, personId),
  }
}

/** The way that is gone through a step that holds others, and how the journal tells of it. */
export function chooseWay(
  chooser: Chooser,
  step: Step,
  context: StepContext,
): { readonly result: StepRecord; readonly way: Way<Branch> | null } {
  const { world, rule, moment, own, before, run } = chooser
  const chosen = STEPS[step.kind].ways?.choose?.(step.params, step.branches ?? [], {
    ...context,
    holds: (branch, record = context.record) => {
      const conditions = rule.ways.get(branch.id)
      if (!conditions) return { holds: true, seen: [] }
      const subject = subjectOf(record, world, { before: sameRef(record, own) ? before : null, run })
      return { holds: conditions.test(subject, moment), seen: conditions.explain(subject, moment) }
    },
  })
  if (!chosen || 'none' in chosen)
    return { way: null, result: { state: 'skipped', reason: chosen?.none ?? { code: 'noPath' } } }
  const { branch, say, seen } = chosen
  return { way: chosen, result: { state: 'done', wrote: [{ what: 'way', branch: branch.id, say, seen }] } }
}

/**
 * The ways that a record would go with the values it has now, by their ids; what steps would write on the way is not
 * looked at.
 */
export function waysOf(
  chooser: Chooser,
  record: RecordSnapshot,
  steps: readonly Step[] = chooser.rule.document.steps,
): readonly string[] {
  return steps.flatMap((step) => {
    const { ways } = STEPS[step.kind]
    if (!ways) return []
    // What it makes is not there yet.
    if (ways.made) return (step.branches ?? []).map((branch) => branch.id)
    // How a wait will end nobody knows: either way is possible.
    if (!ways.choose)
      return (step.branches ?? []).flatMap((branch) => [branch.id, ...waysOf(chooser, record, branch.steps)])
    const { way } = chooseWay(chooser, step, contextOf(chooser, step, record))
    const [inside] = way?.records ?? []
    return way && inside ? [way.branch.id, ...waysOf(chooser, inside, way.branch.steps)] : []
  })
}
