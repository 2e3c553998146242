import { stringify } from 'yaml'
import { z } from 'zod'
import { sayGroup } from '../conditions/compile'
import type { Catalogue } from '../fields/catalogue'
import { bad, type Result } from '../language/problems'
import { OBJECT_WORDS } from '../records/kinds'
import { sayStep, sayTrigger } from '../rules/describe'
import type { RuleDocument, Step } from '../rules/document'
import { goesByTime, goingOnSentence } from '../rules/going-on'
import { readYaml } from './yaml'
import { repeatSentence } from '../rules/repeats'
import { withResults } from '../rules/results'
import { STEPS } from '../rules/steps'
import { branchLabel, objectInside, stepLabel } from '../rules/tree'
import { plainSentence } from '../language/sentence'
import { readRule, zRule } from '../rules/schema'

/**
 * A rule as text. Its document is written as YAML 1.2 or JSON (RFC 8259), both of the one published JSON Schema, and
 * read back the same; the readable text is for people and is not read back.
 */

export const RULE_TEXT_MOST = 2_000_000

export const ruleToYaml = (rule: RuleDocument): string =>
  stringify(rule, { lineWidth: 0, aliasDuplicateObjects: false })
export const ruleToJson = (rule: RuleDocument): string => `${JSON.stringify(rule, null, 2)}\n`

/** Reads YAML or JSON, which is a part of YAML. Refuses with the line what is no YAML, with the path what is no rule. */
export function readRuleText(text: string): Result<RuleDocument> {
  if (text.length > RULE_TEXT_MOST) return bad({ code: 'limit', what: 'characters in the file', most: RULE_TEXT_MOST })
  const given = readYaml(text)
  return given.ok ? readRule(given.value) : given
}

/** The one published schema of rule files (JSON Schema, draft 2020-12). */
export const ruleSchema = (): object => ({
  ...z.toJSONSchema(zRule, { target: 'draft-2020-12', io: 'input', unrepresentable: 'any' }),
  $id: 'urn:sky-lever:rule:1',
  title: 'Rule',
  description: 'A rule of Sky Lever: when it starts, on which records, and what it does.',
})

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
    `  ${plainSentence(repeatSentence(rule.repeats))}`,
    ...(goesByTime(rule) ? [`  ${plainSentence(goingOnSentence(rule))}`] : []),
    'Only if',
    `  ${rule.conditions.items.length > 0 ? sayGroup(rule.conditions, rule.object, catalogue) : 'always'}`,
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
        const ways = STEPS[step.kind].ways
        lines.push(
          `${deep}  ${name} ${ways?.label(branch, i, branches, step.params, inside) ?? ''}${ways?.single && branch.when?.items.length ? ` ${sayGroup(branch.when, inside.object, catalogue)}` : ''}`,
        )
        write(branch.steps, inside.object, name, `${deep}    `)
      })
    })
  }
  write(rule.steps, rule.object, '', '  ')
  if (rule.steps.length === 0) lines.push('  …')
  return `${lines.join('\n')}\n`
}
