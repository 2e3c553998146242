import { stringify } from 'yaml'
import { z } from 'zod'
import { bad, type Result } from '../language/problems'
import type { RuleDocument } from '../rules/document'
import { readYaml } from './yaml'
import { readRule, zRule } from '../rules/schema'

/**
 * A rule as text. Its document is written as YAML 1.2 or JSON (RFC 8259), both of the one published JSON Schema, and
 * read back the same; the readable text is for people and is not read back.
 */

export const RULE_TEXT_MOST = 500_000

export const ruleToYaml = (rule: RuleDocument): string =>
  stringify(rule, { lineWidth: 0, aliasDuplicateObjects: false })
export const ruleToJson = (rule: RuleDocument): string => `${JSON.stringify(rule, null, 2)}\n`

/**
 * Reads YAML or JSON, which is a part of YAML. Refuses with the line what is no YAML, with the path what is no rule.
 */
export function readRuleText(text: string): Result<RuleDocument> {
  if (text.length > RULE_TEXT_MOST) return bad({ code: 'limit', what: 'character', most: RULE_TEXT_MOST })
  const given = readYaml(text)
  return given.ok ? readRule(given.value) : given
}

/** The one published schema of rule files (JSON Schema, draft 2020-12). */
export const ruleSchema = (): object => ({
  ...z.toJSONSchema(zRule, { target: 'draft-2020-12', io: 'input', unrepresentable: 'any' }),
  $id: 'urn:sky-lever:rule:2',
  title: 'Rule',
  description: 'A Sky Lever rule: triggers, conditions and steps.',
})
