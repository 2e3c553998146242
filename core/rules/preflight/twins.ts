import type { RuleDocument } from '../document'
import type { Group } from '../../conditions/document'
import { definePreflight, noted } from './finding'

/** Without ids and names: what a rule does, when, and for which records. */
function deed({ object, triggers, conditions, steps }: RuleDocument): string {
  const bare = (value: unknown): unknown =>
    Array.isArray(value)
      ? value.map(bare)
      : typeof value === 'object' && value !== null
        ? Object.fromEntries(Object.entries(value).flatMap(([key, one]) => (key === 'id' ? [] : [[key, bare(one)]])))
        : value
  const starts = triggers.map(({ kind, params }) => JSON.stringify([kind, params])).sort()
  const group: Group = conditions
  return JSON.stringify([object, starts, bare(group), bare(steps)])
}

/** Another rule does the same to the same records: everything would be there twice. */
export const twins = definePreflight({
  kind: 'twins',
  look(rule, { rules }) {
    if (rule.document.steps.length === 0 || rule.document.triggers.length === 0) return []
    const own = deed(rule.document)
    const others = rules.filter((one) => one.on && one.ruleId !== rule.ruleId && deed(one.document) === own)
    const [first] = others
    if (!first) return []
    return [
      noted('twins', rule, {
        severity: 'warning',
        part: 'rule',
        id: 'rule',
        param: 'name',
        others: others.map(({ ruleId }) => ruleId),
        text: `“${first.document.name}” does the same`,
        why: 'It starts on the same, for the same records, and does the same. Everything would happen twice.',
      }),
    ]
  },
})
