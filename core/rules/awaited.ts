import type { Catalogue } from '../fields/catalogue'
import type { RuleDocument, Step } from './document'
import { STEPS } from './steps'
import { placedSteps, stepById } from './tree'

/** What runs of a rule wait for, in words, and what comes when the wait is over. */

/** What a run waits for at a step beside a moment; `null` where it waits for nothing else. */
export function awaitedAt(document: RuleDocument, stepId: string, catalogue: Catalogue): string | null {
  const step = stepById(document.steps, stepId)
  return step && STEPS[step.kind].awaits(step.params, { catalogue, object: document.object })
}

const inside = (step: Step): readonly string[] =>
  (step.branches ?? []).flatMap((branch) => branch.steps.flatMap((one) => [one.id, ...inside(one)]))

/**
 * The step that comes when the moment of a wait has come: the first on the path for that, or the one behind the wait;
 * `null` where there is none.
 */
export function stepWhenDue(document: RuleDocument, stepId: string): Step | null {
  const placed = placedSteps(document)
  const at = placed.findIndex(({ step }) => step.id === stepId)
  const waits = placed[at]?.step
  if (!waits) return null
  const end = STEPS[waits.kind].ways?.end?.('due', {})
  const [first] = (end === undefined ? undefined : waits.branches?.[end]?.steps) ?? []
  const others = new Set(inside(waits))
  return first ?? placed.slice(at + 1).find(({ step }) => !others.has(step.id))?.step ?? null
}
