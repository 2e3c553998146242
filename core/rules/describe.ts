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

/** What leads into the path `i` of a step, with its conditions where it is asked like one: "if its kind is Hire". */
export function sayPath(step: Step, i: number, inside: Names): string {
  const { ways } = STEPS[step.kind]
  const branches = step.branches ?? []
  const branch = branches[i]
  if (!ways || !branch) return ''
  const label = ways.label(branch, i, branches, step.params, inside)
  return ways.single && branch.when?.items.length
    ? `${label} ${sayGroup(branch.when, inside.object, inside.catalogue)}`
    : label
}

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
        : [`${sayPath(step, i, inside)}: ${branch.steps.map((one) => sayStepWhole(one, inside)).join(', ')}`],
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
