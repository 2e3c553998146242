import { RULE_FORMAT } from '../../core/rules/document'
import { all, type DemoRule, deal, thanks } from './parts'

/** Rules started by hand, and those that make, link and tell. */
export const OTHER_RULES: readonly DemoRule[] = [
  {
    state: 'off',
    document: deal({
      name: 'Renewal signed: create the next one',
      description: 'Assigned to the next person in turn.',
      triggers: [{ id: 't1', kind: 'entersStage', params: { stage: 'ren-renewed' } }],
      conditions: all(),
      steps: [
        {
          id: 's1',
          kind: 'createRecord',
          params: {
            make: 'deal',
            name: '{{deal.name}}, next term',
            stage: 'ren-due',
            again: true,
            beside: 'none',
            alike: null,
          },
          branches: [
            {
              id: 'b1',
              steps: [
                { id: 's3', kind: 'setField', params: { field: 'kind', source: { from: 'value', value: 'hire' } } },
              ],
            },
          ],
        },
        {
          id: 's2',
          kind: 'createTask',
          params: {
            title: 'Plan {{s1.name}}',
            notes: '',
            taskKind: 'todo',
            due: { count: 5, unit: 'workdays' },
            priority: 'low',
            again: true,
            email: false,
            who: { by: 'turn', people: ['rosa', 'jude'] },
          },
        },
      ],
    }),
  },
  {
    state: 'on',
    document: deal({
      name: 'Marked urgent: call today',
      description: 'When the deal leaves Terms.',
      triggers: [{ id: 't1', kind: 'labelChanges', params: { labels: ['urgent'], how: 'added', field: 'labels' } }],
      conditions: all(),
      steps: [
        {
          id: 's1',
          kind: 'createTask',
          params: {
            title: 'Call {{contact.name}} today',
            notes: '',
            taskKind: 'call',
            due: { count: 0, unit: 'workdays' },
            priority: 'high',
            again: false,
            email: true,
          },
        },
      ],
    }),
  },
  {
    state: 'on',
    document: deal({
      name: 'Remove the urgent label',
      description: '',
      triggers: [{ id: 't1', kind: 'leavesStage', params: { stage: 'hp-terms' } }],
      conditions: all({ field: 'labels', op: 'includes', params: { values: ['urgent'] } }),
      steps: [{ id: 's1', kind: 'changeLabels', params: { how: 'remove', labels: ['urgent'], field: 'labels' } }],
    }),
  },
  {
    state: 'off',
    document: {
      format: RULE_FORMAT,
      object: 'contact',
      name: 'Contact left the company',
      description: 'Off until the process is agreed.',
      triggers: [{ id: 't1', kind: 'byHand', params: { button: 'Has left the company', facts: [], questions: [] } }],
      conditions: all(),
      steps: [{ id: 's1', kind: 'unlink', params: { to: 'company', which: 'main' } }],
    },
  },
  {
    state: 'on',
    document: deal({
      name: 'Deal signed: choose a gift',
      description: 'By deal size and new or returning customer.',
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
            email: false,
          },
        },
      ],
    }),
  },
  {
    state: 'off',
    document: deal({
      name: 'Renewal signed: choose a gift',
      description: 'Draft with open Preflight findings.',
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
                    email: false,
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
]
