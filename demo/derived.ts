import type { Condition, Group } from '../core/conditions/document'
import type { Making } from '../core/derived/making'
import { RULE_FORMAT } from '../core/rules/document'
import type { ObjectKind } from '../core/records/kinds'
import type { GivenCard, ScoreLine } from '../core/scoring/card'
import type { OperatorName } from '../core/conditions/operator-names'
import type { FieldTypeName } from '../core/language/field-types'
import type { DemoRule } from './rules/parts'

/** What Larkmoor works out: fields, scorecards, and the rules that go by them. */

const all = (
  ...items: readonly { readonly field: string; readonly op: OperatorName; readonly params: object }[]
): Group => ({
  kind: 'group',
  id: 'c0',
  mode: 'all',
  items: items.map((item, i): Condition => ({ kind: 'condition', id: `c${i + 1}`, not: false, ...item })),
})

export const WORKED_OUT: readonly {
  readonly object: ObjectKind
  readonly label: string
  readonly type: FieldTypeName
  readonly description: string
  readonly made: Extract<Making, { by: 'formula' | 'rollUp' }>
}[] = [
  {
    object: 'deal',
    label: 'Commission',
    type: 'currency',
    description: 'Owner’s share of the margin: 5% for hires, 8% for the rest',
    made: { by: 'formula', text: 'decimal(margin * (if kind = "hire" then 0.05 else 0.08), 2)' },
  },
  {
    object: 'deal',
    label: 'Days past expected close',
    type: 'number',
    description: 'Above 0 when the date has passed',
    made: { by: 'formula', text: 'today() - closeDate' },
  },
  {
    object: 'company',
    label: 'Open deals',
    type: 'number',
    description: '',
    made: {
      by: 'rollUp',
      over: 'deal',
      what: 'count',
      field: null,
      order: null,
      down: false,
      where: all({ field: 'stage', op: 'standing', params: { outcome: 'open' } }),
    },
  },
  {
    object: 'company',
    label: 'Total won',
    type: 'currency',
    description: 'Amounts of signed and renewed deals',
    made: {
      by: 'rollUp',
      over: 'deal',
      what: 'sum',
      field: 'amount',
      order: null,
      down: false,
      where: all({ field: 'stage', op: 'standing', params: { outcome: 'won' } }),
    },
  },
  {
    object: 'company',
    label: 'Next close',
    type: 'date',
    description: 'The earliest expected close of its open deals',
    made: {
      by: 'rollUp',
      over: 'deal',
      what: 'earliest',
      field: 'closeDate',
      order: null,
      down: false,
      where: all({ field: 'stage', op: 'standing', params: { outcome: 'open' } }),
    },
  },
  {
    object: 'company',
    label: 'Volume per open deal',
    type: 'number',
    description: 'Cold volume divided by open deals',
    made: { by: 'formula', text: 'if openDeals = 0 then null else decimal(coldVolume / openDeals, 1)' },
  },
  {
    object: 'contact',
    label: 'Open deals',
    type: 'number',
    description: '',
    made: {
      by: 'rollUp',
      over: 'deal',
      what: 'count',
      field: null,
      order: null,
      down: false,
      where: all({ field: 'stage', op: 'standing', params: { outcome: 'open' } }),
    },
  },
]

const doing = (
  id: string,
  points: number,
  most: number | null,
  more: Partial<Extract<ScoreLine['for'], { what: 'doing' }>>,
): ScoreLine => ({
  id,
  points,
  most,
  for: { what: 'doing', kind: 'visit', about: '', from: null, fading: { how: 'never' }, ...more },
})
const being = (id: string, points: number, where: Group): ScoreLine => ({
  id,
  points,
  most: null,
  for: { what: 'being', where },
})

export const SCORECARDS: readonly (GivenCard & { readonly object: 'contact' | 'company' })[] = [
  {
    object: 'contact',
    name: 'Interest score',
    least: 0,
    most: 100,
    lines: [
      doing('l1', 6, 30, { about: '/prices', fading: { how: 'half', days: 21 } }),
      doing('l2', 15, 30, { kind: 'form', about: 'quote', fading: { how: 'half', days: 45 } }),
      doing('l3', 4, 12, { kind: 'message', fading: { how: 'gone', days: 30 } }),
      doing('l4', 10, 20, { kind: 'appointment', fading: { how: 'gone', days: 60 } }),
      being('l5', 8, all({ field: 'buyingRole', op: 'is', params: { value: 'decides' } })),
      doing('l6', -5, 10, { about: '/jobs' }),
      being('l7', -40, all({ field: 'optedOut', op: 'is', params: { value: true } })),
    ],
    bands: [
      { id: 'cool', name: 'Cool', from: 0 },
      { id: 'warm', name: 'Warm', from: 20 },
      { id: 'keen', name: 'Keen', from: 40 },
    ],
  },
  {
    object: 'company',
    name: 'Fit score',
    least: 0,
    most: 100,
    lines: [
      being('l1', 35, all({ field: 'fitTier', op: 'is', params: { value: 'a' } })),
      being('l2', 15, all({ field: 'fitTier', op: 'is', params: { value: 'b' } })),
      being('l3', 20, all({ field: 'coldVolume', op: 'moreThan', params: { value: 120 } })),
      being('l4', 10, all({ field: 'sector', op: 'isAnyOf', params: { values: ['clinic', 'laboratory', 'brewery'] } })),
      doing('l5', 2, 20, { from: 'contact', fading: { how: 'gone', days: 30 } }),
    ],
    bands: [
      { id: 'low', name: 'Low', from: 0 },
      { id: 'fair', name: 'Fair', from: 25 },
      { id: 'good', name: 'Good', from: 50 },
    ],
  },
]

/** `segment` is the number of “Close date long gone”. */
export const rulesByWorth = (segment: number): readonly DemoRule[] => [
  {
    state: 'on',
    document: {
      format: RULE_FORMAT,
      object: 'contact',
      name: 'Interest score reaches 40: create an enquiry',
      description: 'Unless the contact already has one.',
      triggers: [
        {
          id: 't1',
          kind: 'scoreCrosses',
          params: { field: 'interestScore', how: 'past', points: 40, margin: 5, band: null },
        },
      ],
      conditions: all({ field: 'openDeals', op: 'lessThan', params: { value: 1 } }),
      steps: [
        {
          id: 's1',
          kind: 'qualify',
          params: { stage: 'enq-fresh', name: 'Enquiry: {{contact.name}}', company: false, again: false },
        },
        {
          id: 's2',
          kind: 'createTask',
          params: {
            title: 'Call {{contact.name}} (interest score {{contact.interestScore}})',
            notes: '',
            taskKind: 'call',
            due: { count: 1, unit: 'workdays' },
            priority: 'high',
            again: false,
            email: false,
          },
        },
      ],
    },
  },
  {
    state: 'on',
    document: {
      format: RULE_FORMAT,
      object: 'deal',
      name: 'Two weeks past the expected close',
      description: 'One task when a deal enters the segment.',
      triggers: [{ id: 't1', kind: 'segmentEntered', params: { segment } }],
      conditions: all(),
      steps: [
        {
          id: 's1',
          kind: 'createTask',
          params: {
            title: '{{deal.name}} is {{deal.daysPastExpectedClose}} days past its expected close: update or close it',
            notes: '',
            taskKind: 'call',
            due: { count: 1, unit: 'workdays' },
            priority: 'normal',
            again: false,
            email: false,
          },
        },
      ],
    },
  },
]
