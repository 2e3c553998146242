import { sayProblem } from '../language/problems'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { randomRule, spoiled } from '../testing/random-rules'
import { all, condition, document, enters, set } from '../testing/rules'
import { readRuleText, ruleSchema, ruleToJson, ruleToYaml } from './rule-text'
import { readRule } from '../rules/schema'
import { ruleToText } from './rule-words'
import { catalogue } from '../testing/setting'

const numRuns = Number(process.env.SKY_LEVER_CASES ?? 500)

describe('a rule as text', () => {
  it('every rule that loads is the same after YAML and JSON', () => {
    fc.assert(
      fc.property(randomRule, (rule) => {
        const read = readRule(JSON.parse(JSON.stringify(rule)))
        if (!read.ok) throw new Error(JSON.stringify(read.problem))
        expect(readRuleText(ruleToYaml(read.value))).toEqual(read)
        expect(readRuleText(ruleToJson(read.value))).toEqual(read)
      }),
      { numRuns },
    )
  })

  it('one with something wrong in it either loads and is the same afterwards, or is refused with path and reason', () => {
    let refused = 0
    fc.assert(
      fc.property(randomRule.chain(spoiled), (given) => {
        const read = readRuleText(JSON.stringify(given))
        if (read.ok) expect(readRuleText(ruleToYaml(read.value))).toEqual(read)
        else {
          refused++
          expect(sayProblem(read.problem)).toMatch(/^[^:]+: .+/s)
        }
      }),
      { numRuns },
    )
    expect(refused).toBeGreaterThan(numRuns / 4)
  })

  it.each([
    ['what is no YAML', 'name: [a', /Line 1, column \d+: /],
    ['a field that stands without quotes', 'format: 1\nname: {{deal.name}}', /Line 2, column 8: Put quotes around/],
    ['a key that stands twice', 'format: 1\nformat: 1', /Line 2, column 1: The key “format” is used twice/],
    ['parts that stand for others', 'a: &a [1]\nb: *a', /anchors and aliases/],
    ['a tag of its own', 'format: !!js/function "x"', /Line 1, column/],
    ['a list', '- 1', /rule: /],
    ['nothing', '', /rule: /],
  ])('refuses %s', (_what, text, reason) => {
    const read = readRuleText(text)
    expect(read.ok ? '' : sayProblem(read.problem)).toMatch(reason)
  })

  it('is read aloud with its paths indented', () => {
    const rule = document({
      when: [enters('hp-quoted')],
      then: [['choosePath', {}, [all(condition('amount', 'moreThan', { value: 1 })), set('units', 1)], [null]]],
    })
    const text = ruleToText(rule, catalogue)
    expect(text).toMatch(/^When$/m)
    expect(text).toMatch(/^ {4}1a /m)
    expect(text).not.toMatch(/undefined|\[object/)
  })

  it('has a schema that names every kind of step', () => {
    const text = JSON.stringify(ruleSchema())
    for (const kind of ['setField', 'choosePath', 'decide', 'createTask']) expect(text).toContain(`"const":"${kind}"`)
    expect(text).toContain('https://json-schema.org/draft/2020-12/schema')
  })
})
