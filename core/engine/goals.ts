import type { Moment } from '../conditions/moment'
import type { Subject } from '../conditions/subject'
import type { ObjectKind, RecordRef } from '../records/kinds'
import type { ChangeEvent, RecordSnapshot } from '../records/record'
import { subjectOf } from '../records/subject'
import { isLeftAlone } from '../results/left-alone'
import { addDays, startOfDate } from '../time/dates'
import { back } from './derive'
import type { CompiledRule, Matcher } from './matcher'
import { momentAt } from './moment'
import type { Measure, World } from './world'

/** Whether records come to the target of a rule: noted when they go through it, and when they get there. */

/** Notes that a record goes through a rule, where that is measured; answers whether it is to be left alone. */
export function measured(
  world: World,
  { ruleId, versionId, goal }: CompiledRule,
  runId: number,
  subject: Subject,
  record: RecordSnapshot,
  moment: Moment,
): boolean {
  if (!goal) return false
  const ref = { object: record.object, id: record.id }
  const alone = isLeftAlone(ruleId, ref, goal.alone)
  const { owner, labels } = record.values
  world.measure({
    ruleId,
    versionId,
    runId,
    ref,
    key: goal.key,
    untilMs: startOfDate(addDays(moment.today, goal.days + 1), moment.zone),
    alone,
    already: goal.test(subject, moment),
    ownerId: typeof owner === 'string' ? owner : null,
    labels: Array.isArray(labels) ? labels : [],
    byDay: goal.depends.byDay || goal.depends.byRates || goal.depends.reaches.length > 0,
  })
  return alone
}

/** Asks whether a record has come to the target that it is measured by; answers whether it has. */
export function lookAtGoal(world: World, measure: Measure): boolean {
  const { id, ref, key, atMs, runId } = measure
  const goal = world.ruleOfRun(runId)?.goal
  const record = goal?.key === key ? world.read(ref) : null
  if (!goal || !record) return false
  const run = { startedMs: atMs, steps: new Map<string, number>(), activity: null }
  const moment = momentAt(world.nowMs(), world.catalogue().workspace)
  if (!goal.test(subjectOf(record, world, { run }), moment)) return false
  world.reached(id)
  return true
}

const lookAt = (world: World, ref: RecordRef, only: string | null): void => {
  for (const measure of world.openMeasures(ref)) if (only === null || measure.key === only) lookAtGoal(world, measure)
}

/** Looks at what is measured at the record of an event, and at records whose target looks at it over links. */
export function noticeGoals(world: World, matcher: Matcher, event: ChangeEvent): void {
  const { ref, kind } = event
  lookAt(world, ref, null)
  for (const { document, goal } of matcher.farGoals) {
    if (!goal) continue
    for (const reach of goal.depends.reaches)
      reach.path.forEach((object: ObjectKind, at) => {
        const last = at === reach.path.length - 1
        if (object !== ref.object || (!last && kind !== 'linked')) return
        for (const far of back(world, ref, reach, at, document.object)) lookAt(world, far, goal.key)
      })
  }
}
