import { STEPS } from '../rules/steps'
import { stepById } from '../rules/tree'
import { momentAt } from './moment'
import { contextOf } from './ways'
import type { Wait, World } from './world'

/**
 * The moment of a wait, counted anew from where it began by the zone, the hours and the holidays as they are in
 * `world`: ms UTC, possibly past. `null` where it waits for no moment, or can no longer be counted.
 */
export function momentAnew(world: World, wait: Wait): number | null {
  const rule = world.ruleOfRun(wait.runId)
  const step = rule && stepById(rule.document.steps, wait.stepId)
  const own = world.read(wait.ref)
  if (wait.dueMs === null || !rule || !step || !own) return null
  const moment = momentAt(wait.sinceMs, world.catalogue().workspace)
  const chooser = { world, rule, own: wait.ref, moment, before: null, run: null }
  const at = STEPS[step.kind].movedTo(step.params, contextOf(chooser, step, own))
  return typeof at === 'number' ? at : null
}
