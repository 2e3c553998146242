import { RULE_FORMAT, type RuleDocument } from '../../core/rules/document'
import { all, atDate, deal, given, plainTask, type DemoRule } from './parts'

/** Rules that write to customers. `templates` are their numbers, by their names. */

const letter = (id: string, more: object): RuleDocument['steps'][number] => ({
  id,
  kind: 'sendMessage',
  params: {
    channel: 'mail',
    to: 'main',
    from: 'owner',
    copy: [],
    template: null,
    subject: '',
    body: '',
    phone: 'phone',
    otherPhone: false,
    again: 0,
    urgent: '',
    answered: false,
    label: '',
    ...more,
  },
})

const answered = (
  id: string,
  most: { readonly count: number; readonly unit: string },
  came: RuleDocument['steps'],
  ranOut: RuleDocument['steps'],
): RuleDocument['steps'][number] => ({
  id,
  kind: 'waitForActivity',
  params: { kind: 'message', by: 'contact', about: '', most, recheck: false },
  branches: [
    { id: `${id}a`, steps: came },
    { id: `${id}b`, steps: ranOut },
  ],
})

export const messageRules = (templates: ReadonlyMap<string, number>): readonly DemoRule[] => [
  {
    state: 'on',
    document: {
      format: RULE_FORMAT,
      object: 'contact',
      folder: 'Messages',
      name: 'Form sent: welcome, then call',
      description: 'In their language; whoever has an open deal gets another text.',
      triggers: [{ id: 't1', kind: 'activity', params: { kind: 'form', by: 'contact', about: '', late: false } }],
      conditions: all(),
      repeats: { how: 'rest', rest: { count: 4, unit: 'weeks' } },
      steps: [
        {
          id: 's1',
          kind: 'choosePath',
          params: {},
          branches: [
            {
              id: 'b1',
              when: {
                kind: 'group',
                id: 'g1',
                mode: 'all',
                items: [
                  {
                    kind: 'linked',
                    id: 'g2',
                    object: 'deal',
                    how: 'any',
                    count: 1,
                    group: given('g3', { id: 'g4', field: 'stage', op: 'standing', params: { outcome: 'open' } }),
                  },
                ],
              },
              steps: [letter('s2', { template: templates.get('Welcome back') ?? null, label: 'welcome back' })],
            },
            {
              id: 'b2',
              steps: [letter('s3', { template: templates.get('Welcome') ?? null, label: 'welcome' })],
            },
          ],
        },
        answered(
          's4',
          { count: 3, unit: 'days' },
          [
            {
              id: 's5',
              kind: 'pathPerValue',
              params: { field: 's4.kind' },
              branches: [
                {
                  id: 'b3',
                  value: 'positive',
                  steps: [plainTask('s6', 'Fix a time with {{contact.name}}', { priority: 'high' })],
                },
                { id: 'b4', value: 'question', steps: [plainTask('s7', 'Answer {{contact.name}}: {{s4.answer}}')] },
                { id: 'b5', value: 'negative', steps: [] },
                { id: 'b6', steps: [plainTask('s8', 'Read what {{contact.name}} wrote')] },
              ],
            },
          ],
          [plainTask('s9', 'Call {{contact.name}}: no answer to the welcome')],
        ),
      ],
    },
  },
  {
    state: 'on',
    document: {
      ...deal({
        name: 'Quoted: send the offer, call after a day',
        description: 'To the main contact, in the owner’s name.',
        triggers: [{ id: 't1', kind: 'entersStage', params: { stage: 'hp-quoted' } }],
        conditions: {
          kind: 'group',
          id: 'c0',
          mode: 'all',
          items: [{ kind: 'linked', id: 'c1', object: 'contact', how: 'any', count: 1, group: given('c2') }],
        },
        steps: [
          letter('s1', {
            subject: 'Your offer: {{deal.name}}',
            body: 'Dear {{contact.firstName or "customer"}},\n\nhere is our offer for {{deal.name}} over {{deal.amount or "the sum we spoke of"}}.\n\nMay I call you about it?\n\n{{deal.owner or "Larkmoor Cold Rooms"}}',
            label: 'offer',
            again: 30,
          }),
          answered(
            's2',
            { count: 24, unit: 'hours' },
            [],
            [plainTask('s3', 'Call about the offer {{deal.name}}: no answer', { priority: 'high' })],
          ),
        ],
      }),
      folder: 'Messages',
    },
  },
  {
    state: 'on',
    document: {
      format: RULE_FORMAT,
      object: 'contact',
      folder: 'Messages',
      name: 'Birthday at nine, by their clock',
      description: '',
      triggers: [atDate('t1', 'birthday', 'on', 0, { minute: 540, zone: 'contact', every: 'year' })],
      conditions: all(),
      steps: [letter('s1', { template: templates.get('Birthday') ?? null, again: 300, label: 'birthday' })],
    },
  },
  {
    state: 'on',
    document: {
      format: RULE_FORMAT,
      object: 'appointment',
      folder: 'Messages',
      name: 'Visit tomorrow: remind by text message',
      description: 'Everyone in the appointment who has a mobile number.',
      triggers: [atDate('t1', 'start', 'before', 1, { minute: null })],
      conditions: all({ field: 'status', op: 'is', params: { value: 'booked' } }),
      steps: [
        letter('s1', {
          channel: 'text',
          to: 'all',
          body: '{{contact.firstName or "Hello"}}, we see you tomorrow: {{appointment.name}}, {{appointment.start or "at the time we agreed"}}. Larkmoor',
          otherPhone: true,
          label: 'visit reminder',
        }),
      ],
    },
  },
]
