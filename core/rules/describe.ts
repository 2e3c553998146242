import { sayGroup } from '../conditions/compile'
import type { Catalogue } from '../fields/catalogue'
import type { RuleDocument, Step, Trigger } from './document'
import { plainSentence, type Names } from './sentence'
import { STEPS } from './steps'
import { TRIGGERS } from './triggers'

export const sayTrigger = (trigger: Trigger, names: Names): string => plainSentence(TRIGGERS[trigger.kind].sentence(trigger.params, names))
export const sayStep = (step: Step, names: Names): string => plainSentence(STEPS[step.kind].sentence(step.params, names))

/** The rule in three pieces of plain text, as the list of rules shows it. */
export function sayRule(rule: RuleDocument, catalogue: Catalogue): { readonly when: string; readonly onlyIf: string; readonly then: readonly string[] } {
  const names: Names = { catalogue, object: rule.object }
  return {
    when: rule.triggers.map((trigger) => sayTrigger(trigger, names)).join(', or '),
    onlyIf: rule.conditions.items.length ? sayGroup(rule.conditions, rule.object, catalogue) : '',
    then: rule.steps.map((step) => sayStep(step, names)),
  }
}
