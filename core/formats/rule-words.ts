import { sayGroup } from '../conditions/compile'
import type { Catalogue } from '../fields/catalogue'
import { OBJECT_WORDS } from '../records/kinds'
import { sayPath, sayStep, sayTrigger } from '../rules/describe'
import type { RuleDocument, Step } from '../rules/document'
import { goalSentence } from '../rules/goal'
import { goesByTime, goesOnAsUsual, goingOnSentence } from '../rules/going-on'
import { repeatSentence } from '../rules/repeats'
import { withResults } from '../rules/results'
import { branchLabel, objectInside, stepLabel } from '../rules/tree'
import { plainSentence } from '../language/sentence'

/** The rule as people read it aloud. */
export function ruleToText(rule: RuleDocument, plain: Catalogue): string {
  const catalogue = withResults(rule, plain)
  const names = { catalogue, object: rule.object }
  const lines = [
    `${rule.name} (for ${OBJECT_WORDS[rule.object].many})`,
    ...(rule.description ? [rule.description] : []),
    '',
    'When',
  ]
  rule.triggers.forEach((trigger, i) => lines.push(`  ${i > 0 ? 'or ' : ''}${sayTrigger(trigger, names)}`))
  if (rule.triggers.length === 0) lines.push('  …')
  lines.push(
    ...(rule.repeats ? [`  ${plainSentence(repeatSentence(rule.repeats))}`] : []),
    ...(goesByTime(rule) && !goesOnAsUsual(rule) ? [`  ${plainSentence(goingOnSentence(rule))}`] : []),
    'Only if',
    `  ${rule.conditions.items.length > 0 ? sayGroup(rule.conditions, rule.object, catalogue) : 'No conditions'}`,
    'Then',
  )
  const write = (steps: readonly Step[], object: RuleDocument['object'], prefix: string, deep: string): void => {
    steps.forEach((step, at) => {
      const label = stepLabel(prefix, at)
      lines.push(`${deep}${label}. ${sayStep(step, { catalogue, object })}`)
      const branches = step.branches ?? []
      const inside = { catalogue, object: objectInside(step, object) }
      branches.forEach((branch, i) => {
        const name = branchLabel(step, label, i)
        lines.push(`${deep}  ${name} ${sayPath(step, i, inside)}`)
        write(branch.steps, inside.object, name, `${deep}    `)
      })
    })
  }
  write(rule.steps, rule.object, '', '  ')
  if (rule.steps.length === 0) lines.push('  …')
  if (rule.goal)
    lines.push(
      'Target',
      `  ${sayGroup(rule.goal.conditions, rule.object, catalogue)}`,
      `  ${plainSentence(goalSentence(rule.goal))}`,
    )
  return `${lines.join('\n')}\n`
}
