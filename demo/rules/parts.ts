import type { Condition, Group } from '../../core/conditions/document'
import { RULE_FORMAT, type RuleDocument } from '../../core/rules/document'
import type { Cell, DecisionTable } from '../../core/tables/table'
import type { OperatorName } from '../../core/conditions/operator-names'

export const all = (...items: readonly Omit<Condition, 'kind' | 'id' | 'not'>[]): Group => ({
  kind: 'group',
  id: 'c0',
  mode: 'all',
  items: items.map((item, i) => ({ kind: 'condition', id: `c${i + 1}`, not: false, ...item })),
})

export const atDate = (
  id: string,
  field: string,
  side: 'before' | 'on' | 'after',
  count: number,
  more: object = {},
): RuleDocument['triggers'][number] => ({
  id,
  kind: 'atDate',
  params: {
    field,
    side,
    amount: { count, unit: 'days' },
    minute: 510,
    zone: 'workspace',
    every: 'once',
    leap: 'feb28',
    months: [],
    weekdays: [],
    ...more,
  },
})

export const plainTask = (id: string, title: string, more: object = {}): RuleDocument['steps'][number] => ({
  id,
  kind: 'createTask',
  params: {
    title,
    notes: '',
    taskKind: 'call',
    due: { count: 1, unit: 'workdays' },
    priority: 'normal',
    again: false,
    email: false,
    ...more,
  },
})

/** Within so many days the deal is further on; of a hundred so many are left alone to compare. */
export const movesOn = (days: number, alone: number): NonNullable<RuleDocument['goal']> => ({
  days,
  alone,
  conditions: {
    kind: 'group',
    id: 'c90',
    mode: 'all',
    items: [
      {
        kind: 'condition',
        id: 'c91',
        field: 'stage',
        op: 'isAnyOf',
        not: false,
        params: { values: ['hp-terms', 'hp-signed'] },
      },
    ],
  },
})

export interface DemoRule {
  readonly state: 'on' | 'off' | 'draft'
  readonly document: RuleDocument
}

export const deal = (
  given: Pick<RuleDocument, 'name' | 'description' | 'triggers' | 'conditions' | 'repeats' | 'steps' | 'goal'>,
): RuleDocument => ({ format: RULE_FORMAT, object: 'deal', ...given })

export const ringUp = (id: string, title: string): RuleDocument['steps'][number] => ({
  id,
  kind: 'createTask',
  params: {
    title,
    notes: '',
    taskKind: 'call',
    due: { count: 1, unit: 'workdays' },
    priority: 'normal',
    again: false,
    email: false,
  },
})

/** Conditions of a path. */
export const given = (
  id: string,
  ...conditions: readonly {
    readonly id: string
    readonly field: string
    readonly op: OperatorName
    readonly params: object
  }[]
): Group => ({
  kind: 'group',
  id,
  mode: 'all',
  items: conditions.map((one) => ({ kind: 'condition', not: false, ...one })),
})

/** Which thank-you a signed deal gets: by size, and whether we knew them. */
export const thanks = (top: number): DecisionTable => {
  const bands: readonly Cell[] = [
    { is: 'band', from: null, fromIn: false, to: 10_000, toIn: false },
    { is: 'band', from: 10_000, fromIn: true, to: 40_000, toIn: false },
    { is: 'band', from: top, fromIn: top === 40_000, to: null, toIn: false },
  ]
  const customers: readonly Cell[] = [
    { is: 'values', values: ['new'], not: false },
    { is: 'values', values: ['returning'], not: false },
    { is: 'empty' },
  ]
  const gifts = [
    ['card', 'Write a card of welcome'],
    ['card', 'Write a card of thanks'],
    ['card', 'Ask whether they are new, then write a card'],
    ['hamper', 'Send the welcome hamper'],
    ['hamper', 'Send the hamper of the season'],
    ['hamper', 'Ask whether they are new, then send a hamper'],
    ['visit', 'Visit them with the welcome folder'],
    ['visit', 'Invite them to the workshop'],
    ['visit', 'Ask whether they are new, then arrange a visit'],
  ] as const
  return {
    hit: 'unique',
    collect: 'list',
    inputs: [
      { via: null, field: 'amount' },
      { via: null, field: 'customer' },
    ],
    outputs: [
      { key: 'thanks', label: 'Thanks', type: 'text' },
      { key: 'what', label: 'What to do', type: 'text' },
    ],
    rows: [
      ...bands.flatMap((band, i) =>
        customers.map((customer, n) => ({
          id: `r${i * 3 + n + 1}`,
          when: [band, customer],
          then: [...(gifts[i * 3 + n] ?? [])],
        })),
      ),
      {
        id: 'r10',
        when: [{ is: 'empty' }, { is: 'any' }],
        then: ['card', 'Find out what it came to, then write a card'],
      },
    ],
  }
}
