import { RULE_FORMAT } from '../../core/rules/document'
import { all, type DemoRule, deal } from './parts'

/** What happens when deals change, one step or two each. */
export const DEAL_RULES: readonly DemoRule[] = [
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
]
