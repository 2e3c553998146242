import { RULE_FORMAT } from '../../core/rules/document'
import { all, type DemoRule, deal, ringUp, given } from './parts'

/** Paths, tables and linked records. */
export const BRANCH_RULES: readonly DemoRule[] = [
  {
    state: 'off',
    document: {
      format: RULE_FORMAT,
      object: 'contact',
      name: 'Link contacts to companies by email domain',
      description: 'Off until the trade fair list has been checked.',
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
      name: 'Deal passes €40,000: next step by kind',
      description: 'Off until the Hire team agrees.',
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
      name: 'Deal leaves Terms',
      description: 'Off while it is being tested.',
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
      name: 'Contact opted out: tell deal owners',
      description: 'Creates a task for the owner of each open deal.',
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
              steps: [ringUp('s2', 'Call {{contact.name}}, who wants no more mail')],
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
      description: 'Asks the owner to confirm.',
      triggers: [{ id: 't1', kind: 'deleted', params: {} }],
      conditions: all(),
      steps: [ringUp('s1', 'Check: was {{company.name}} deleted on purpose?')],
    },
  },
  {
    state: 'off',
    document: {
      format: RULE_FORMAT,
      object: 'company',
      name: 'Company without a fit tier',
      description: 'Off: it would run far too often.',
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
      name: 'Contact details changed',
      description: 'For the week of the contact clean-up.',
      triggers: [{ id: 't1', kind: 'changed', params: {} }],
      conditions: all({ field: 'email', op: 'isEmpty', params: {} }),
      steps: [ringUp('s1', 'Ask {{contact.name}} for an email address')],
    },
  },
  {
    state: 'on',
    document: deal({
      name: 'Hand over',
      description: 'For owners who can’t continue with a deal.',
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
                choices: ['Away', 'Too much to do', 'Outside my area'],
                required: true,
              },
              { key: 'note', label: 'What should the next owner know?', type: 'text', choices: [], required: false },
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
            subject: 'You now own {{deal.name}}',
            body: '{{t1.why}}. {{t1.note}}',
            email: true,
          },
        },
        {
          id: 's3',
          kind: 'createTask',
          params: {
            title: 'Introduce yourself to {{contact.name}}',
            notes: '{{t1.note}}',
            taskKind: 'call',
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
      name: 'Quote over €80,000: notify the sales lead',
      description: 'The lead looks again at quotes above €80,000.',
      triggers: [{ id: 't1', kind: 'entersStage', params: { stage: 'hp-quoted' } }],
      conditions: all({ field: 'amount', op: 'moreThan', params: { value: 80_000 } }),
      steps: [
        {
          id: 's1',
          kind: 'notify',
          params: {
            who: { by: 'person', person: 'maren' },
            subject: 'Quote of {{deal.amount}}: {{deal.name}}',
            body: 'Expected close: {{deal.closeDate}}.',
            email: true,
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
      name: 'Qualify a contact',
      description: 'Creates an enquiry for the contact.',
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
          params: { stage: 'enq-fresh', name: 'Enquiry: {{contact.name}}', company: true, again: false },
        },
      ],
    },
  },
]
