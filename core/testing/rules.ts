import type { Condition, Group, Item } from '../conditions/document'
import type { OperatorName } from '../conditions/operators'
import type { ActiveRule } from '../engine/matcher'
import { RULE_FORMAT, type RuleDocument } from '../rules/document'
import type { StepName } from '../rules/steps'
import type { TriggerName } from '../rules/triggers'

/** Short ways to write rules in tests. */
export const condition = (field: string, op: OperatorName, params: object, not = false, id = `c-${field}-${op}`): Condition => ({ kind: 'condition', id, field, op, not, params })
export const all = (...items: readonly Item[]): Group => ({ kind: 'group', id: 'c0', mode: 'all', items })

interface Parts {
  readonly object?: RuleDocument['object']
  readonly when: readonly (readonly [TriggerName, object])[]
  readonly onlyIf?: Group
  readonly then: readonly (readonly [StepName, object])[]
}

export const document = ({ object = 'deal', when, onlyIf = all(), then }: Parts, name = 'A rule'): RuleDocument => ({
  format: RULE_FORMAT, name, description: '', object, conditions: onlyIf,
  triggers: when.map(([kind, params], i) => ({ id: `t${i + 1}`, kind, params })),
  steps: then.map(([kind, params], i) => ({ id: `s${i + 1}`, kind, params })),
})

export const active = (ruleId: number, parts: Parts, order = 10): ActiveRule => ({ ruleId, versionId: ruleId * 10, order, document: document(parts, `Rule ${ruleId}`) })

export const enters = (stage: string) => ['entersStage', { stage }] as const
export const set = (field: string, value: unknown) => ['setField', { field, source: { from: 'value', value } }] as const
export const move = (stage: string, backwards = true) => ['moveStage', { stage, backwards, across: false }] as const
export const task = (title: string, more: object = {}) =>
  ['createTask', { title, notes: '', taskKind: 'call', due: { count: 2, unit: 'workdays' }, priority: 'normal', again: false, tell: false, ...more }] as const
