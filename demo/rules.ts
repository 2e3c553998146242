import type { Condition, Group } from '../core/conditions/document'
import { RULE_FORMAT, type RuleDocument } from '../core/rules/document'
import type { Cell, DecisionTable } from '../core/tables/table'
import type { OperatorName } from '../core/conditions/operator-names'

const all = (...items: readonly Omit<Condition, 'kind' | 'id' | 'not'>[]): Group => ({
  kind: 'group',
  id: 'c0',
  mode: 'all',
  items: items.map((item, i) => ({ kind: 'condition', id: `c${i + 1}`, not: false, ...item })),
})

const atDate = (
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
const plainTask = (id: string, title: string, more: object = {}): RuleDocument['steps'][number] => ({
  id,
  kind: 'createTask',
  params: {
    title,
    notes: '',
    taskKind: 'call',
    due: { count: 1, unit: 'workdays' },
    priority: 'normal',
    again: false,
    tell: false,
    ...more,
  },
})

export interface DemoRule {
  readonly state: 'on' | 'off' | 'draft'
  readonly document: RuleDocument
}

const deal = (
  given: Pick<RuleDocument, 'name' | 'description' | 'triggers' | 'conditions' | 'repeats' | 'steps'>,
): RuleDocument => ({ format: RULE_FORMAT, object: 'deal', ...given })

const ringUp = (id: string, title: string): RuleDocument['steps'][number] => ({
  id,
  kind: 'createTask',
  params: {
    title,
    notes: '',
    taskKind: 'call',
    due: { count: 1, unit: 'workdays' },
    priority: 'normal',
    again: false,
    tell: false,
  },
})
/** Conditions of a path. */
const given = (
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
const thanks = (top: number): DecisionTable => {
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

/** Rules in which time plays a part. */
const TIME_RULES: readonly DemoRule[] = [
  {
    state: 'on',
    document: deal({
      name: 'Close date near, still in Terms',
      description: 'One call three days before the expected close, not one a day.',
      triggers: [atDate('t1', 'closeDate', 'before', 3)],
      conditions: all({ field: 'stage', op: 'is', params: { value: 'hp-terms' } }),
      steps: [
        plainTask('s1', 'Ring {{contact.name}}: {{deal.name}} closes on {{deal.closeDate}}', {
          due: { count: 0, unit: 'workdays' },
          priority: 'high',
          remind: 'onDay',
        }),
      ],
    }),
  },
  {
    state: 'on',
    document: deal({
      name: 'Quote without an answer',
      description: 'Two working days after the quote somebody rings, unless the deal has moved on.',
      triggers: [{ id: 't1', kind: 'entersStage', params: { stage: 'hp-quoted' } }],
      conditions: all({ field: 'stage', op: 'is', params: { value: 'hp-quoted' } }),
      steps: [
        {
          id: 's1',
          kind: 'waitFor',
          params: { field: 'stage', how: 'changes', to: null, most: { count: 2, unit: 'workdays' }, recheck: true },
        },
        plainTask('s2', 'Ask {{contact.name}} about the quote for {{deal.name}}'),
        {
          id: 's3',
          kind: 'wait',
          params: { until: { at: 'after', amount: { count: 1, unit: 'weeks' }, minute: 540 }, recheck: true },
        },
        plainTask('s4', 'Still no answer: {{deal.name}}', { priority: 'high' }),
      ],
    }),
  },
  {
    state: 'on',
    document: {
      format: RULE_FORMAT,
      object: 'company',
      name: 'Hygiene certificate runs out',
      description: '45 days before its end the owner arranges the inspection.',
      triggers: [atDate('t1', 'hygieneUntil', 'before', 45)],
      conditions: all(),
      steps: [
        plainTask('s1', 'Arrange the inspection at {{company.name}}', {
          notes: 'The certificate is valid until {{company.hygieneUntil}}.',
          taskKind: 'visit',
          due: { count: 10, unit: 'workdays' },
        }),
      ],
    },
  },
  {
    state: 'on',
    document: {
      format: RULE_FORMAT,
      object: 'company',
      name: 'Contract end in sight',
      description: '300 days before the end two reviews are planned, 100 and 200 days later.',
      triggers: [atDate('t1', 'contractEnd', 'before', 300)],
      conditions: all(),
      steps: [
        plainTask('s1', 'First review with {{company.name}}', {
          taskKind: 'visit',
          later: { at: 'after', amount: { count: 100, unit: 'days' }, minute: 540 },
          due: { count: 5, unit: 'workdays' },
        }),
        plainTask('s2', 'Second review with {{company.name}}', {
          taskKind: 'visit',
          later: { at: 'after', amount: { count: 200, unit: 'days' }, minute: 540 },
          due: { count: 5, unit: 'workdays' },
        }),
      ],
    },
  },
  {
    state: 'on',
    document: {
      format: RULE_FORMAT,
      object: 'contact',
      name: 'Birthday',
      description: 'At half past eight where they are.',
      triggers: [atDate('t1', 'birthday', 'on', 0, { every: 'year', zone: 'contact' })],
      conditions: all({ field: 'buyingRole', op: 'is', params: { value: 'decides' } }),
      steps: [
        {
          id: 's1',
          kind: 'notify',
          params: {
            who: { by: 'owner' },
            subject: '{{contact.name}} has their birthday',
            body: 'It is half past eight there.',
            mail: false,
          },
        },
      ],
    },
  },
  {
    state: 'on',
    document: deal({
      name: 'Thursday tidy-up',
      description: 'Deals past their expected close go into the queue of the Hire team.',
      triggers: [
        {
          id: 't1',
          kind: 'recurring',
          params: { rule: { rule: 'FREQ=WEEKLY;BYDAY=TH', from: '2026-01-01' }, minute: 930, offDays: 'next' },
        },
      ],
      conditions: all(
        { field: 'stage', op: 'standing', params: { outcome: 'open' } },
        { field: 'closeDate', op: 'longAgo', params: { amount: { count: 5, unit: 'days' } } },
        { field: 'kind', op: 'is', params: { value: 'hire' } },
      ),
      repeats: { how: 'rest', rest: { count: 4, unit: 'weeks' } },
      steps: [
        plainTask('s1', 'New close date for {{deal.name}}?', {
          taskKind: 'todo',
          who: { by: 'queue', team: 'Hire' },
          due: { count: 3, unit: 'workdays' },
        }),
      ],
    }),
  },
  {
    state: 'on',
    document: deal({
      name: 'Nobody has it',
      description: 'A deal without an owner goes to whoever covers the territory, in office hours.',
      triggers: [{ id: 't1', kind: 'created', params: {} }],
      conditions: all({ field: 'owner', op: 'isEmpty', params: {} }),
      steps: [
        {
          id: 's1',
          kind: 'wait',
          params: { until: { at: 'hours', from: 540, to: 1020, workdays: true }, recheck: true },
        },
        { id: 's2', kind: 'assignOwner', params: { person: null, replace: false, who: { by: 'territory' } } },
      ],
    }),
  },
]

/** The rules the demo starts with: every kind of trigger and step is seen at work, one is off and one is unfinished. */
export const RULES: readonly DemoRule[] = [
  {
    state: 'on',
    document: deal({
      name: 'Note the day of the quote',
      description: 'So that nobody has to remember it.',
      triggers: [{ id: 't1', kind: 'entersStage', params: { stage: 'hp-quoted' } }],
      conditions: all({ field: 'quoteSentOn', op: 'isEmpty', params: {} }),
      steps: [{ id: 's1', kind: 'setField', params: { field: 'quoteSentOn', source: { from: 'today' } } }],
    }),
  },
  {
    state: 'on',
    document: deal({
      name: 'Large quote, ring them',
      description: 'A large quote gets a call within two working days.',
      triggers: [{ id: 't1', kind: 'entersStage', params: { stage: 'hp-quoted' } }],
      conditions: all({ field: 'amount', op: 'moreThan', params: { value: 40_000 } }),
      steps: [
        {
          id: 's1',
          kind: 'createTask',
          params: {
            title: 'Ring {{contact.name}} about the quote for {{deal.name}}',
            notes: '{{deal.amount}}, expected to close {{deal.closeDate}}. Ask what is still open.',
            taskKind: 'call',
            due: { count: 2, unit: 'workdays' },
            priority: 'high',
            again: false,
            tell: true,
          },
        },
      ],
    }),
  },
  {
    state: 'on',
    document: deal({
      name: 'Site visit booked',
      description: 'A date for the visit takes an enquiry into Hire & purchase.',
      triggers: [
        { id: 't1', kind: 'fieldChanges', params: { field: 'siteVisit', how: 'filled', from: null, to: null } },
      ],
      conditions: all({ field: 'pipeline', op: 'is', params: { value: 'enq' } }),
      steps: [
        { id: 's1', kind: 'moveStage', params: { stage: 'hp-visit', backwards: false, across: true } },
        {
          id: 's2',
          kind: 'createTask',
          params: {
            title: 'Prepare the visit at {{company.name}}',
            notes: 'On {{deal.siteVisit}}. Door widths, drains, three-phase supply.',
            taskKind: 'visit',
            due: { count: 1, unit: 'workdays' },
            priority: 'normal',
            again: false,
            tell: false,
          },
        },
      ],
    }),
  },
  {
    state: 'on',
    document: deal({
      name: 'Amount cut late',
      description: 'Somebody should ask why before the contract goes out.',
      triggers: [{ id: 't1', kind: 'fieldChanges', params: { field: 'amount', how: 'down', from: null, to: null } }],
      conditions: all({ field: 'stage', op: 'isAnyOf', params: { values: ['hp-quoted', 'hp-terms'] } }),
      steps: [
        {
          id: 's1',
          kind: 'createTask',
          params: {
            title: 'Find out why {{deal.name}} shrank',
            notes: 'Now {{deal.amount}}.',
            taskKind: 'call',
            due: { count: 0, unit: 'workdays' },
            priority: 'high',
            again: false,
            tell: false,
          },
        },
      ],
    }),
  },
  {
    state: 'on',
    document: deal({
      name: 'Signed',
      description: 'Thank them, and remember that they are customers now.',
      triggers: [{ id: 't1', kind: 'entersStage', params: { stage: 'hp-signed' } }],
      conditions: all(),
      steps: [
        { id: 's1', kind: 'setField', params: { field: 'customer', source: { from: 'value', value: 'returning' } } },
        {
          id: 's2',
          kind: 'createTask',
          params: {
            title: 'Thank {{contact.name}} at {{company.name}}',
            notes: '',
            taskKind: 'email',
            due: { count: 1, unit: 'workdays' },
            priority: 'normal',
            again: false,
            tell: false,
          },
        },
      ],
    }),
  },
  {
    state: 'on',
    document: deal({
      name: 'Lost, but why?',
      description: 'A lost deal without a reason teaches nothing.',
      triggers: [{ id: 't1', kind: 'entersStage', params: { stage: 'hp-lost' } }],
      conditions: all({ field: 'lostReason', op: 'isEmpty', params: {} }),
      steps: [
        {
          id: 's1',
          kind: 'createTask',
          params: {
            title: 'Write down why {{deal.name}} was lost',
            notes: '',
            taskKind: 'todo',
            due: { count: 3, unit: 'workdays' },
            priority: 'low',
            again: false,
            tell: false,
          },
        },
      ],
    }),
  },
  {
    state: 'off',
    document: deal({
      name: 'New hire enquiry, call today',
      description: 'Switched off while the hire team is short of hands.',
      triggers: [{ id: 't1', kind: 'created', params: {} }],
      conditions: all(
        { field: 'kind', op: 'is', params: { value: 'hire' } },
        { field: 'amount', op: 'moreThan', params: { value: 5_000 } },
      ),
      steps: [
        {
          id: 's1',
          kind: 'createTask',
          params: {
            title: 'First call about {{deal.name}}',
            notes: '',
            taskKind: 'call',
            due: { count: 0, unit: 'workdays' },
            priority: 'normal',
            again: false,
            tell: false,
          },
        },
      ],
    }),
  },
  {
    state: 'draft',
    document: deal({
      name: 'Close date gone by',
      description: '',
      triggers: [
        { id: 't1', kind: 'fieldChanges', params: { field: 'closeDate', how: 'anything', from: null, to: null } },
      ],
      conditions: all(
        { field: 'closeDate', op: 'longAgo', params: { amount: { count: 2, unit: 'weeks' } } },
        { field: 'stage', op: 'isAnyOf', params: { values: ['hp-quoted', 'hp-terms'] } },
      ),
      steps: [
        {
          id: 's1',
          kind: 'createTask',
          params: {
            title: '',
            notes: '',
            taskKind: 'todo',
            due: { count: 2, unit: 'workdays' },
            priority: 'normal',
            again: false,
            tell: false,
          },
        },
      ],
    }),
  },
  {
    state: 'on',
    document: deal({
      name: 'Hire deal that nobody owns',
      description: 'Rosa shares them out on Monday.',
      triggers: [{ id: 't1', kind: 'created', params: {} }],
      conditions: all(
        { field: 'kind', op: 'is', params: { value: 'hire' } },
        { field: 'owner', op: 'isEmpty', params: {} },
      ),
      steps: [{ id: 's1', kind: 'assignOwner', params: { person: 'rosa', replace: false } }],
    }),
  },
  {
    state: 'on',
    document: {
      format: RULE_FORMAT,
      object: 'company',
      name: 'Fit tier A near home',
      description: 'Bakeries, caterers and breweries we can reach within a day, with no deal under way.',
      triggers: [
        { id: 't1', kind: 'created', params: {} },
        { id: 't2', kind: 'fieldChanges', params: { field: 'sector', how: 'anything', from: null, to: null } },
      ],
      conditions: {
        kind: 'group',
        id: 'c0',
        mode: 'all',
        items: [
          {
            kind: 'condition',
            id: 'c1',
            field: 'sector',
            op: 'isAnyOf',
            not: false,
            params: { values: ['bakery', 'catering', 'brewery'] },
          },
          {
            kind: 'condition',
            id: 'c2',
            field: 'country',
            op: 'isAnyOf',
            not: false,
            params: { values: ['United Kingdom', 'Ireland'] },
          },
          {
            kind: 'linked',
            id: 'c3',
            object: 'deal',
            how: 'none',
            count: 1,
            group: {
              kind: 'group',
              id: 'c4',
              mode: 'all',
              items: [
                {
                  kind: 'condition',
                  id: 'c5',
                  field: 'stage',
                  op: 'standing',
                  not: false,
                  params: { outcome: 'open' },
                },
                {
                  kind: 'condition',
                  id: 'c6',
                  field: 'createdAt',
                  op: 'inLast',
                  not: false,
                  params: { amount: { count: 6, unit: 'months' } },
                },
              ],
            },
          },
        ],
      },
      steps: [
        {
          id: 's1',
          kind: 'setField',
          params: { field: 'fitTier', source: { from: 'value', value: 'a' }, keepByHand: true },
        },
      ],
    },
  },
  {
    state: 'off',
    document: {
      format: RULE_FORMAT,
      object: 'contact',
      name: 'Find the company of a contact',
      description: 'Off until the list from the fair has been looked through.',
      triggers: [
        { id: 't1', kind: 'created', params: {} },
        { id: 't2', kind: 'fieldChanges', params: { field: 'email', how: 'filled', from: null, to: null } },
      ],
      conditions: all(),
      steps: [
        {
          id: 's1',
          kind: 'linkMatch',
          params: {
            to: 'company',
            theirField: 'domain',
            part: 'domain',
            ownField: 'email',
            several: 'leave',
            publicToo: false,
            leftOut: ['openpost.example'],
          },
        },
      ],
    },
  },
  {
    state: 'off',
    document: deal({
      name: 'Grown large, by kind',
      description: 'What a deal past 40,000 needs depends on what it is. Off until the hire team agrees.',
      triggers: [{ id: 't1', kind: 'fieldChanges', params: { field: 'amount', how: 'past', from: null, to: 40_000 } }],
      conditions: all(),
      repeats: { how: 'once' },
      steps: [
        {
          id: 's1',
          kind: 'pathPerValue',
          params: { field: 'kind' },
          branches: [
            { id: 'b1', value: 'hire', steps: [ringUp('s2', 'Ask {{contact.name}} how long {{deal.name}} is needed')] },
            {
              id: 'b2',
              value: 'purchase',
              steps: [
                ringUp('s3', 'Offer a visit before {{deal.name}} is built'),
                { id: 's4', kind: 'moveStage', params: { stage: 'hp-terms', backwards: false, across: false } },
              ],
            },
            { id: 'b3', steps: [{ id: 's5', kind: 'stop', params: { because: 'service is not sold by size' } }] },
          ],
        },
      ],
    }),
  },
  {
    state: 'off',
    document: deal({
      name: 'Left Terms',
      description: 'Signed or not, somebody learns from it. Off while it is being tried.',
      triggers: [{ id: 't1', kind: 'leavesStage', params: { stage: 'hp-terms' } }],
      conditions: all(),
      steps: [
        {
          id: 's1',
          kind: 'choosePath',
          params: {},
          branches: [
            {
              id: 'b1',
              when: given(
                'c1',
                { id: 'c2', field: 'stage', op: 'standing', params: { outcome: 'lost' } },
                { id: 'c3', field: 'amount', op: 'moreThan', params: { value: 20_000 } },
              ),
              steps: [ringUp('s2', 'Ask {{contact.name}} what {{deal.name}} was lost to')],
            },
            {
              id: 'b2',
              when: given('c4', { id: 'c5', field: 'stage', op: 'standing', params: { outcome: 'won' } }),
              steps: [
                {
                  id: 's3',
                  kind: 'setField',
                  params: { field: 'customer', source: { from: 'value', value: 'returning' }, keepByHand: false },
                },
              ],
            },
            { id: 'b3', steps: [] },
          ],
        },
      ],
    }),
  },
  {
    state: 'off',
    document: {
      format: RULE_FORMAT,
      object: 'contact',
      name: 'Opted out, tell whoever sells to them',
      description: 'Each open deal of theirs gets a task for its owner.',
      triggers: [{ id: 't1', kind: 'fieldChanges', params: { field: 'optedOut', how: 'to', from: null, to: true } }],
      conditions: all(),
      steps: [
        {
          id: 's1',
          kind: 'eachLinked',
          params: { to: 'deal' },
          branches: [
            {
              id: 'b1',
              when: given('c1', { id: 'c2', field: 'stage', op: 'standing', params: { outcome: 'open' } }),
              steps: [ringUp('s2', 'Ring {{contact.name}}, who wants no more mail')],
            },
          ],
        },
      ],
    },
  },
  {
    state: 'on',
    document: {
      format: RULE_FORMAT,
      object: 'company',
      name: 'Company deleted',
      description: 'Somebody should know why before it is forgotten.',
      triggers: [{ id: 't1', kind: 'deleted', params: {} }],
      conditions: all(),
      steps: [ringUp('s1', 'Was it right to delete {{company.name}}?')],
    },
  },
  {
    state: 'off',
    document: {
      format: RULE_FORMAT,
      object: 'company',
      name: 'No fit tier yet',
      description: 'Looked at whenever anything about a company changes. Off: it would ask far too often.',
      triggers: [{ id: 't1', kind: 'createdOrChanged', params: {} }],
      conditions: all({ field: 'fitTier', op: 'isEmpty', params: {} }),
      steps: [ringUp('s1', 'Decide the fit tier of {{company.name}}')],
    },
  },
  {
    state: 'off',
    document: {
      format: RULE_FORMAT,
      object: 'contact',
      name: 'Somebody’s details changed',
      description: 'For the week in which the address book is cleaned.',
      triggers: [{ id: 't1', kind: 'changed', params: {} }],
      conditions: all({ field: 'email', op: 'isEmpty', params: {} }),
      steps: [ringUp('s1', 'Ask {{contact.name}} for a mail address')],
    },
  },
  {
    state: 'on',
    document: deal({
      name: 'Hand over',
      description: 'For whoever cannot see to a deal any more.',
      triggers: [
        {
          id: 't1',
          kind: 'byHand',
          params: {
            button: 'Hand over',
            facts: ['amount', 'stage', 'closeDate'],
            questions: [
              {
                key: 'why',
                label: 'Why?',
                type: 'choice',
                choices: ['Away', 'Too much to do', 'Not my field'],
                required: true,
              },
              { key: 'note', label: 'What should the next one know?', type: 'text', choices: [], required: false },
            ],
          },
        },
      ],
      conditions: all({ field: 'stage', op: 'standing', params: { outcome: 'open' } }),
      steps: [
        {
          id: 's1',
          kind: 'assignOwner',
          params: { person: null, replace: true, who: { by: 'load', people: ['rosa', 'jude', 'anouk'] } },
        },
        { id: 's4', kind: 'setField', params: { field: 'notes', source: { from: 'add', value: 'handed over' } } },
        {
          id: 's2',
          kind: 'notify',
          params: {
            who: { by: 'owner' },
            subject: '{{deal.name}} is yours now',
            body: '{{t1.why}}. {{t1.note}}',
            mail: true,
          },
        },
        {
          id: 's3',
          kind: 'createTask',
          params: {
            title: 'Say hello to {{contact.name}}',
            notes: '{{t1.note}}',
            taskKind: 'call',
            due: { count: 1, unit: 'workdays' },
            priority: 'normal',
            again: false,
            tell: false,
          },
        },
      ],
    }),
  },
  {
    state: 'on',
    document: deal({
      name: 'Very large quote, tell the lead',
      description: 'Somebody should look twice at what is above 80,000.',
      triggers: [{ id: 't1', kind: 'entersStage', params: { stage: 'hp-quoted' } }],
      conditions: all({ field: 'amount', op: 'moreThan', params: { value: 80_000 } }),
      steps: [
        {
          id: 's1',
          kind: 'notify',
          params: {
            who: { by: 'person', person: 'maren' },
            subject: 'Quoted at {{deal.amount}}: {{deal.name}}',
            body: 'By the owner of the deal, expected to close {{deal.closeDate}}.',
            mail: true,
          },
        },
      ],
    }),
  },
  {
    state: 'on',
    document: {
      format: RULE_FORMAT,
      object: 'contact',
      name: 'Make an enquiry of it',
      description: 'A contact who is worth a deal becomes one, in Enquiries.',
      triggers: [{ id: 't1', kind: 'byHand', params: { button: 'Qualify', facts: ['email'], questions: [] } }],
      conditions: {
        kind: 'group',
        id: 'c0',
        mode: 'none',
        items: [{ kind: 'condition', id: 'c1', not: false, field: 'optedOut', op: 'is', params: { value: true } }],
      },
      steps: [
        {
          id: 's1',
          kind: 'qualify',
          params: { stage: 'enq-fresh', name: 'Enquiry of {{contact.name}}', company: true, again: false },
        },
      ],
    },
  },
  {
    state: 'off',
    document: deal({
      name: 'Renewed, next term',
      description: 'The following renewal is put on the board at once, with whoever is next in turn.',
      triggers: [{ id: 't1', kind: 'entersStage', params: { stage: 'ren-renewed' } }],
      conditions: all(),
      steps: [
        {
          id: 's1',
          kind: 'createRecord',
          params: { make: 'deal', name: '{{deal.name}}, next term', stage: 'ren-due', again: true },
        },
        {
          id: 's2',
          kind: 'createTask',
          params: {
            title: 'Look after {{s1.name}}',
            notes: '',
            taskKind: 'todo',
            due: { count: 5, unit: 'workdays' },
            priority: 'low',
            again: true,
            tell: false,
            who: { by: 'turn', people: ['rosa', 'jude'] },
          },
        },
      ],
    }),
  },
  {
    state: 'on',
    document: deal({
      name: 'Urgent, ring today',
      description: 'The label comes off once the deal has left Terms.',
      triggers: [
        { id: 't1', kind: 'fieldChanges', params: { field: 'labels', how: 'gains', from: null, to: ['urgent'] } },
      ],
      conditions: all(),
      steps: [
        {
          id: 's1',
          kind: 'createTask',
          params: {
            title: 'Ring {{contact.name}} today',
            notes: '',
            taskKind: 'call',
            due: { count: 0, unit: 'workdays' },
            priority: 'high',
            again: false,
            tell: true,
          },
        },
      ],
    }),
  },
  {
    state: 'on',
    document: deal({
      name: 'No longer urgent',
      description: '',
      triggers: [{ id: 't1', kind: 'leavesStage', params: { stage: 'hp-terms' } }],
      conditions: all({ field: 'labels', op: 'includes', params: { values: ['urgent'] } }),
      steps: [
        { id: 's1', kind: 'setField', params: { field: 'labels', source: { from: 'remove', value: ['urgent'] } } },
      ],
    }),
  },
  {
    state: 'off',
    document: {
      format: RULE_FORMAT,
      object: 'contact',
      name: 'Left the firm',
      description: 'Off until it is agreed how that is noted.',
      triggers: [{ id: 't1', kind: 'byHand', params: { button: 'Has left the firm', facts: [], questions: [] } }],
      conditions: all(),
      steps: [{ id: 's1', kind: 'unlink', params: { to: 'company', which: 'main' } }],
    },
  },
  {
    state: 'on',
    document: deal({
      name: 'Signed, thank them',
      description: 'A thank-you by size and by whether we knew them.',
      triggers: [{ id: 't1', kind: 'entersStage', params: { stage: 'hp-signed' } }],
      conditions: all(),
      steps: [
        { id: 's1', kind: 'decide', params: { table: thanks(40_000) } },
        {
          id: 's2',
          kind: 'createTask',
          params: {
            title: '{{s1.what}}: {{company.name}}',
            notes: '{{deal.name}}, {{deal.amount}}.',
            taskKind: 'todo',
            due: { count: 3, unit: 'workdays' },
            priority: 'normal',
            again: false,
            tell: false,
          },
        },
      ],
    }),
  },
  {
    state: 'off',
    document: deal({
      name: 'Renewed, thank them',
      description: 'Being written: preflight has something to say about it.',
      triggers: [{ id: 't1', kind: 'entersStage', params: { stage: 'ren-renewed' } }],
      conditions: all({ field: 'stage', op: 'isEmpty', params: {} }),
      steps: [
        { id: 's1', kind: 'decide', params: { table: thanks(40_001) } },
        {
          id: 's2',
          kind: 'pathPerValue',
          params: { field: 's1.thanks' },
          branches: [
            {
              id: 'b1',
              value: 'visit',
              steps: [
                {
                  id: 's3',
                  kind: 'createTask',
                  params: {
                    title: 'Visit {{company.name}}',
                    notes: '',
                    taskKind: 'visit',
                    due: { count: 5, unit: 'workdays' },
                    priority: 'normal',
                    again: false,
                    tell: false,
                  },
                },
              ],
            },
            { id: 'b2', steps: [{ id: 's4', kind: 'stop', params: { because: 'a card is enough' } }] },
          ],
        },
      ],
    }),
  },
  ...TIME_RULES,
]

/** Who covers where. */
export const TERRITORIES: readonly { readonly name: string; readonly filter: Group; readonly personId: string }[] = [
  { name: 'Poland', personId: 'tomasz', filter: all({ field: 'country', op: 'is', params: { value: 'Poland' } }) },
  {
    name: 'Overseas',
    personId: 'callum',
    filter: all({ field: 'country', op: 'isAnyOf', params: { values: ['Canada', 'New Zealand'] } }),
  },
  {
    name: 'Clinics and laboratories',
    personId: 'anouk',
    filter: all({ field: 'sector', op: 'isAnyOf', params: { values: ['clinic', 'laboratory'] } }),
  },
  { name: 'Everywhere else', personId: 'rosa', filter: all() },
]

/** Saved filters that the demo starts with. */
export const SEGMENTS: readonly {
  readonly object: 'deal' | 'contact' | 'company'
  readonly name: string
  readonly filter: Group
  readonly columns: readonly string[]
  readonly sort: string
}[] = [
  {
    object: 'deal',
    name: 'Close date long gone',
    sort: 'closeDate',
    columns: ['name', 'closeDate', 'stage', 'amount', 'owner', 'quoteSentOn'],
    filter: all(
      { field: 'stage', op: 'standing', params: { outcome: 'open' } },
      { field: 'closeDate', op: 'longAgo', params: { amount: { count: 2, unit: 'weeks' } } },
    ),
  },
  {
    object: 'deal',
    name: 'Large and open',
    sort: 'name',
    columns: [],
    filter: all(
      { field: 'stage', op: 'standing', params: { outcome: 'open' } },
      { field: 'amount', op: 'moreThan', params: { value: 40_000 } },
    ),
  },
  {
    object: 'contact',
    name: 'Without a company',
    sort: 'name',
    columns: [],
    filter: {
      kind: 'group',
      id: 'c0',
      mode: 'all',
      items: [
        {
          kind: 'linked',
          id: 'c1',
          object: 'company',
          how: 'none',
          count: 1,
          group: { kind: 'group', id: 'c2', mode: 'all', items: [] },
        },
      ],
    },
  },
]
