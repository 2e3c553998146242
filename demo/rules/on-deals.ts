import { RULE_FORMAT } from '../../core/rules/document'
import { all, deal, movesOn, type DemoRule } from './parts'

/** What happens when deals change, one step or two each. */
export const DEAL_RULES: readonly DemoRule[] = [
  {
    state: 'on',
    document: deal({
      name: 'Set the quote date',
      description: 'Fills in the date when a quote goes out.',
      triggers: [{ id: 't1', kind: 'entersStage', params: { stage: 'hp-quoted' } }],
      conditions: all({ field: 'quoteSentOn', op: 'isEmpty', params: {} }),
      steps: [{ id: 's1', kind: 'setField', params: { field: 'quoteSentOn', source: { from: 'today' } } }],
    }),
  },
  {
    state: 'on',
    document: deal({
      name: 'Large quote: call the customer',
      description: 'Quotes over €40,000 get a call within 2 working days.',
      triggers: [{ id: 't1', kind: 'entersStage', params: { stage: 'hp-quoted' } }],
      conditions: all({ field: 'amount', op: 'moreThan', params: { value: 40_000 } }),
      steps: [
        {
          id: 's1',
          kind: 'createTask',
          params: {
            title: 'Call {{contact.name}} about the quote for {{deal.name}}',
            notes: '{{deal.amount}}, expected to close {{deal.closeDate}}. Ask what is still open.',
            taskKind: 'call',
            due: { count: 2, unit: 'workdays' },
            priority: 'high',
            again: false,
            email: true,
          },
        },
      ],
      goal: movesOn(21, 0),
    }),
  },
  {
    state: 'on',
    document: deal({
      name: 'Site visit booked',
      description: 'Moves the enquiry to Hire & purchase and creates a visit task.',
      triggers: [
        { id: 't1', kind: 'fieldChanges', params: { field: 'siteVisit', how: 'filled', from: null, to: null } },
      ],
      conditions: all({ field: 'pipeline', op: 'is', params: { value: 'enq' } }),
      steps: [
        {
          id: 's1',
          kind: 'moveStage',
          params: { stage: 'hp-visit', backwards: false, across: true, beside: 'company', alike: 'kind' },
        },
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
            email: false,
          },
        },
      ],
    }),
  },
  {
    state: 'on',
    document: deal({
      name: 'Amount reduced after the quote',
      description: 'Ask why before the contract goes out.',
      triggers: [{ id: 't1', kind: 'fieldChanges', params: { field: 'amount', how: 'down', from: null, to: null } }],
      conditions: all({ field: 'stage', op: 'isAnyOf', params: { values: ['hp-quoted', 'hp-terms'] } }),
      steps: [
        {
          id: 's1',
          kind: 'createTask',
          params: {
            title: 'Ask why the amount of {{deal.name}} was reduced',
            notes: 'Now {{deal.amount}}.',
            taskKind: 'call',
            due: { count: 0, unit: 'workdays' },
            priority: 'high',
            again: false,
            email: false,
          },
        },
      ],
    }),
  },
  {
    state: 'on',
    document: deal({
      name: 'Deal signed: say thank you',
      description: 'Marks the customer as returning and creates an email task.',
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
            email: false,
          },
        },
      ],
    }),
  },
  {
    state: 'on',
    document: deal({
      name: 'Deal lost without a reason',
      description: 'Asks the owner for the reason.',
      triggers: [{ id: 't1', kind: 'entersStage', params: { stage: 'hp-lost' } }],
      conditions: all({ field: 'lostReason', op: 'isEmpty', params: {} }),
      steps: [
        {
          id: 's1',
          kind: 'createTask',
          params: {
            title: 'Enter the lost reason for {{deal.name}}',
            notes: '',
            taskKind: 'todo',
            due: { count: 3, unit: 'workdays' },
            priority: 'low',
            again: false,
            email: false,
          },
        },
      ],
    }),
  },
  {
    state: 'off',
    document: deal({
      name: 'New hire enquiry: call today',
      description: 'Off while the Hire team is short-staffed.',
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
            email: false,
          },
        },
      ],
    }),
  },
  {
    state: 'draft',
    document: deal({
      name: 'Expected close has passed',
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
            email: false,
          },
        },
      ],
    }),
  },
  {
    state: 'on',
    document: deal({
      name: 'Hire deal without an owner',
      description: 'Goes to Rosa, who assigns it on Monday.',
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
      name: 'Set fit tier A for nearby companies',
      description: 'Bakeries, caterers and breweries within a day’s reach, without a recent open deal.',
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
]
