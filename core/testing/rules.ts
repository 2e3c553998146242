import type { Condition, Group, Item } from '../conditions/document'
import type { ActiveRule } from '../engine/matcher'
import { RULE_FORMAT, type Branch, type RuleDocument, type Step } from '../rules/document'
import type { StepName } from '../rules/steps'
import type { TriggerName } from '../rules/triggers'
import type { OperatorName } from '../conditions/operator-names'

/** Short ways to write rules in tests. */
export const condition = (
  field: string,
  op: OperatorName,
  params: object,
  not = false,
  id = `c-${field}-${op}`,
): Condition => ({ kind: 'condition', id, field, op, not, params })
export const all = (...items: readonly Item[]): Group => ({ kind: 'group', id: 'c0', mode: 'all', items })

interface Parts {
  readonly object?: RuleDocument['object']
  readonly when: readonly (readonly [TriggerName, object])[]
  readonly onlyIf?: Group
  readonly then: readonly StepLine[]
}

/** A step as a test writes it; one that holds others has its ways behind its params. */
export type StepLine = readonly [StepName, object, ...WayLine[]]
/** A way: what it is gone for (conditions, a value, or `null` for "otherwise"), and its steps. */
export type WayLine = readonly [Group | string | boolean | null, ...StepLine[]]

/** Steps with ids of their own, in reading order. */
export function stepsOf(lines: readonly StepLine[]): readonly Step[] {
  let [s, b] = [0, 0]
  const build = (some: readonly StepLine[]): readonly Step[] =>
    some.map(([kind, params, ...ways]): Step => {
      const id = `s${++s}`
      if (ways.length === 0) return { id, kind, params }
      return {
        id,
        kind,
        params,
        branches: ways.map(([why, ...steps]): Branch => ({
          id: `b${++b}`,
          ...(why === null ? {} : typeof why === 'object' ? { when: why } : { value: why }),
          steps: build(steps),
        })),
      }
    })
  return build(lines)
}
/** A group with an id of its own, for the conditions of a way. */
export const given = (id: string, ...items: readonly Item[]): Group => ({ kind: 'group', id, mode: 'all', items })

export const document = ({ object = 'deal', when, onlyIf = all(), then }: Parts, name = 'A rule'): RuleDocument => ({
  format: RULE_FORMAT,
  name,
  description: '',
  object,
  conditions: onlyIf,
  triggers: when.map(([kind, params], i) => ({ id: `t${i + 1}`, kind, params })),
  steps: stepsOf(then),
})

export const active = (ruleId: number, parts: Parts, order = 10): ActiveRule => ({
  ruleId,
  versionId: ruleId * 10,
  order,
  document: document(parts, `Rule ${ruleId}`),
})

export const enters = (stage: string) => ['entersStage', { stage }] as const
/** So many days before a date of the record, at 8:30. */
export const daysBefore = (days = 3, field = 'closeDate') =>
  [
    'atDate',
    {
      field,
      side: 'before',
      amount: { count: days, unit: 'days' },
      minute: 510,
      zone: 'workspace',
      every: 'once',
      leap: 'feb28',
      months: [],
      weekdays: [],
    },
  ] as const
export const set = (field: string, value: unknown) => ['setField', { field, source: { from: 'value', value } }] as const
export const move = (stage: string, backwards = true) => ['moveStage', { stage, backwards, across: false }] as const
export const task = (title: string, more: object = {}) =>
  [
    'createTask',
    {
      title,
      notes: '',
      taskKind: 'call',
      due: { count: 2, unit: 'workdays' },
      priority: 'normal',
      again: false,
      email: false,
      ...more,
    },
  ] as const
