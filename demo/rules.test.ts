import { describe, expect, it } from 'vitest'
import { readRuleText, ruleToJson, ruleToYaml } from '../core/formats/rule-text'
import { checkRule } from '../core/rules/check'
import { sayRule } from '../core/rules/describe'
import { preflight } from '../core/rules/preflight'
import type { PreflightData } from '../core/rules/preflight/finding'
import { readRule } from '../core/rules/schema'
import { MISTAKEN_RULE, PAUSED_RULE } from './problems'
import { RULES } from './rules'
import { ACTIVITY_RULES } from './rules/by-activities'
import { outsideRules } from './rules/outside'
import { catalogue, moment } from '../core/testing/setting'

const NO_DATA: PreflightData = {
  count: () => ({ count: 0, first: null }),
  sample: () => [],
  started: () => 0,
  filledLater: () => ({ total: 0, count: 0, first: null }),
}

describe.each(
  [...RULES, ...ACTIVITY_RULES, ...outsideRules(1), MISTAKEN_RULE, PAUSED_RULE].map(
    ({ document: rule, state }) => [rule.name, rule, state] as const,
  ),
)('the demo rule “%s”', (_name, rule, state) => {
  it('is read, said and checked', () => {
    expect(readRule(JSON.parse(JSON.stringify(rule)))).toEqual({ ok: true, value: rule })
    expect(sayRule(rule, catalogue).when).not.toBe('')
    expect(checkRule(rule, catalogue).length === 0).toBe(state !== 'draft')
  })

  it('is the same after YAML and after JSON', () => {
    expect(readRuleText(ruleToYaml(rule))).toEqual({ ok: true, value: rule })
    expect(readRuleText(ruleToJson(rule))).toEqual({ ok: true, value: rule })
  })
})

it('every finding about the demo rules can be told apart', () => {
  const all = RULES.map(({ document }, i) => ({ ruleId: i + 1, order: i * 10, on: true, document }))
  for (const one of all) {
    const keys = preflight(one, { catalogue, moment, data: NO_DATA, rules: all }).map((finding) => finding.key)
    expect(new Set(keys).size).toBe(keys.length)
  }
})
