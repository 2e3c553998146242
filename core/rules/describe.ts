import { sayGroup } from '../conditions/compile'
import type { Catalogue } from '../fields/catalogue'
import type { RuleDocument, Step, Trigger } from './document'
import { repeatSentence } from './repeats'
import { withResults } from './results'
import { STEPS } from './steps'
import { objectInside } from './tree'
import { TRIGGERS } from './triggers'
import { plainSentence } from '../language/sentence'
import type { Names } from '../fields/names'

export const sayTrigger = (trigger: Trigger, names: Names): string =>
  plainSentence(TRIGGERS[trigger.kind].sentence(trigger.params, names))
export const sayStep = (step: Step, names: Names): string =>
  plainSentence(STEPS[step.kind].sentence(step.params, names))

/**
 * A step with what stands inside it, in one line: "choose the first path that fits (if …: task …; otherwise: stop here
 * …)".
 */
export function sayStepWhole(step: Step, names: Names): string {
  const { ways } = STEPS[step.kind]
  const said = sayStep(step, names)
  if (!ways || !step.branches) return said
  const inside: Names = { ...names, object: objectInside(step, names.object) }
  const branches = step.branches
  return `${said} (${branches
    .flatMap((branch, i) =>
      branch.steps.length === 0
        ? []
        : [
            `${ways.label(branch, i, branches, step.params, inside)}${ways.single && branch.when?.items.length ? ` ${sayGroup(branch.when, inside.object, inside.catalogue)}` : ''}: ${branch.steps.map((one) => sayStepWhole(one, inside)).join(', ')}`,
          ],
    )
    .join('; ')})`
}

/** The rule in three pieces of plain text, as the list of rules shows it. */
export function sayRule(
  rule: RuleDocument,
  catalogue: Catalogue,
): { readonly when: string; readonly onlyIf: string; readonly then: readonly string[] } {
  const names: Names = { catalogue: withResults(rule, catalogue), object: rule.object }
  return {
    when:
      rule.triggers.map((trigger) => sayTrigger(trigger, names)).join(', or ') +
      (rule.repeats ? ` (${plainSentence(repeatSentence(rule.repeats))})` : ''),
    onlyIf: rule.conditions.items.length ? sayGroup(rule.conditions, rule.object, catalogue) : '',
    then: rule.steps.map((step) => sayStepWhole(step, names)),
  }
}
