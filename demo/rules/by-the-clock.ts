import { RULE_FORMAT } from '../../core/rules/document'
import { all, atDate, movesOn, plainTask, type DemoRule, deal } from './parts'

/** Of a hundred quotes that nobody answered so many are not called, to compare. */
export const CALLED_ALONE = 25
/** The rule that does. */
export const CALLS_QUOTES = 'Quote not answered: call'

/** Rules in which time plays a part. */
export const TIME_RULES: readonly DemoRule[] = [
  {
    state: 'on',
    document: deal({
      name: 'Closing in 3 days, still in Terms',
      description: 'One call 3 days before the expected close.',
      triggers: [atDate('t1', 'closeDate', 'before', 3)],
      conditions: all({ field: 'stage', op: 'is', params: { value: 'hp-terms' } }),
      steps: [
        plainTask('s1', 'Call {{contact.name}}: {{deal.name}} closes on {{deal.closeDate}}', {
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
      name: CALLS_QUOTES,
      description: 'Calls 2 working days after the quote unless the deal has moved on.',
      triggers: [{ id: 't1', kind: 'entersStage', params: { stage: 'hp-quoted' } }],
      conditions: all({ field: 'stage', op: 'is', params: { value: 'hp-quoted' } }),
      steps: [
        {
          id: 's1',
          kind: 'waitFor',
          params: { field: 'stage', how: 'changes', to: null, most: { count: 2, unit: 'workdays' }, recheck: true },
          branches: [
            { id: 'b1', steps: [] },
            { id: 'b2', steps: [] },
          ],
        },
        plainTask('s2', 'Ask {{contact.name}} about the quote for {{deal.name}}'),
        {
          id: 's3',
          kind: 'wait',
          params: { until: { at: 'after', amount: { count: 1, unit: 'weeks' }, minute: 540 }, recheck: true },
        },
        plainTask('s4', 'No answer yet: {{deal.name}}', { priority: 'high' }),
      ],
      goal: movesOn(14, CALLED_ALONE),
    }),
  },
  {
    state: 'on',
    document: {
      format: RULE_FORMAT,
      object: 'company',
      name: 'Hygiene certificate expires in 45 days',
      description: 'The owner arranges the inspection.',
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
      name: 'Contract ends in 300 days: plan two reviews',
      description: 'Reviews 100 and 200 days later.',
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
      name: 'Contact’s birthday',
      description: 'At 8:30 in the contact’s time zone.',
      triggers: [atDate('t1', 'birthday', 'on', 0, { every: 'year', zone: 'contact' })],
      conditions: all({ field: 'buyingRole', op: 'is', params: { value: 'decides' } }),
      steps: [
        {
          id: 's1',
          kind: 'notify',
          params: {
            who: { by: 'owner' },
            subject: '{{contact.name}} has a birthday today',
            body: 'It is 8:30 there now.',
            email: false,
          },
        },
      ],
    },
  },
  {
    state: 'on',
    document: deal({
      name: 'Thursday clean-up of overdue deals',
      description: 'Creates tasks in the Hire queue.',
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
        plainTask('s1', 'Set a new close date for {{deal.name}}', {
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
      name: 'New deal without an owner: assign by territory',
      description: 'Assigned during office hours.',
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
  {
    state: 'off',
    document: {
      format: RULE_FORMAT,
      name: 'Hire team meeting',
      description: 'About no record: one task for everyone in Hire.',
      object: 'none',
      triggers: [
        {
          id: 't1',
          kind: 'recurring',
          params: { rule: { rule: 'FREQ=WEEKLY;BYDAY=TU', from: '2026-01-01' }, minute: 960, offDays: 'next' },
        },
      ],
      conditions: all(),
      steps: [
        plainTask('s1', 'Team meeting', {
          taskKind: 'todo',
          who: { by: 'everyone', team: 'Hire' },
          due: { count: 0, unit: 'days' },
        }),
      ],
    },
  },
]
