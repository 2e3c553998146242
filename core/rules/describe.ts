import { conditionSentence } from '../conditions/compile'
import type { Group } from '../conditions/document'
import type { Catalogue } from '../fields/catalogue'
import type { RuleDocument, Step, Trigger } from './document'
import { plainSentence, type Names } from './sentence'
import { STEPS } from './steps'
import { TRIGGERS } from './triggers'

export const sayTrigger = (trigger: Trigger, names: Names): string => plainSentence(TRIGGERS[trigger.kind].sentence(trigger.params, names))
export const sayStep = (step: Step, names: Names): string => plainSentence(STEPS[step.kind].sentence(step.params, names))

function sayGroup(group: Group, names: Names): string {
  const parts = group.items.map((item) => (item.kind === 'group' ? `(${sayGroup(item, names)})` : plainSentence(conditionSentence(item, names.object, names.catalogue))))
  if (group.mode === 'none') return `none of: ${parts.join('; ')}`
  return parts.join(group.mode === 'all' ? ' and ' : ' or ')
}

/** The rule in three pieces of plain text, as the list of rules shows it. */
export function sayRule(rule: RuleDocument, catalogue: Catalogue): { readonly when: string; readonly onlyIf: string; readonly then: readonly string[] } {
  const names: Names = { catalogue, object: rule.object }
  return {
    when: rule.triggers.map((trigger) => sayTrigger(trigger, names)).join(', or '),
    onlyIf: rule.conditions.items.length ? sayGroup(rule.conditions, names) : '',
    then: rule.steps.map((step) => sayStep(step, names)),
  }
}
