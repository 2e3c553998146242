import { CALL_ENDS, CALL_OUTCOMES } from '../../core/asks/call'
import type { RuleDocument } from '../../core/rules/document'
import { all, deal, plainTask, type DemoRule } from './parts'

/** Rules that call customers, ask colleagues, and ask services outside. `orders` is the number of that connection. */

type Step = RuleDocument['steps'][number]

const asked = (more: object) => ({
  title: '',
  notes: '',
  due: { count: 1, unit: 'workdays' },
  priority: 'normal',
  email: false,
  who: { by: 'owner' },
  remind: 'never',
  ...more,
})

const tell = (id: string, subject: string): Step => ({
  id,
  kind: 'notify',
  params: { who: { by: 'owner' }, subject, body: '', email: false },
})

/** What is done for each way a call went. */
const ON_OUTCOME: { readonly [O in (typeof CALL_OUTCOMES)[number]['id']]: string } = {
  finished: '',
  noAnswer: 'Write to {{contact.name}}: no one picks up',
  busy: 'Call {{contact.name}} tomorrow: always busy',
  voicemail: 'Wait for {{contact.name}} to call back',
  wrongNumber: 'Find the number of {{contact.name}}',
  failed: 'Ask the telephone company why {{contact.name}} can’t be called',
}
const ON_END: { readonly [E in (typeof CALL_ENDS)[number]['id']]: string } = {
  interested: 'Send {{contact.name}} an offer: {{s1.notes}}',
  appointment: 'Prepare the visit at {{deal.name}}: {{s1.notes}}',
  callBack: 'Call {{contact.name}} back: {{s1.notes}}',
  information: 'Send {{contact.name}} the data sheet',
  notInterested: 'Close {{deal.name}} as lost: {{s1.notes}}',
  otherPerson: 'Find out who decides at {{deal.name}}',
}

const byEnd: Step = {
  id: 's3',
  kind: 'pathPerValue',
  params: { field: 's1.ended' },
  branches: [
    ...CALL_ENDS.map(({ id }, i) => ({
      id: `be${i + 1}`,
      value: id,
      steps: [plainTask(`se${i + 1}`, ON_END[id], { taskKind: 'todo' })],
    })),
    { id: 'be0', steps: [plainTask('se0', 'Read what was said to {{contact.name}}', { taskKind: 'todo' })] },
  ],
}

export const outsideRules = (orders: number): readonly DemoRule[] => [
  {
    state: 'on',
    document: deal({
      name: 'Call the customer: a path for each way it went',
      description: 'The dialler calls, twice more if no one picks up.',
      triggers: [
        { id: 't1', kind: 'byHand', params: { button: 'Call them', facts: ['stage', 'amount'], questions: [] } },
      ],
      conditions: all(),
      steps: [
        {
          id: 's1',
          kind: 'makeCall',
          params: {
            ...asked({
              title: 'Call {{contact.name}}',
              notes: 'Good morning, this is Larkmoor about {{deal.name}}. Is this a good moment?',
            }),
            by: 'dialler',
            phone: 'phone',
            otherPhone: true,
            tries: 3,
            pause: { count: 2, unit: 'hours' },
            most: { count: 2, unit: 'workdays' },
            recheck: false,
          },
          branches: [
            {
              id: 'b1',
              steps: [
                {
                  id: 's2',
                  kind: 'pathPerValue',
                  params: { field: 's1.outcome' },
                  branches: [
                    ...CALL_OUTCOMES.map(({ id }, i) => ({
                      id: `bo${i + 1}`,
                      value: id,
                      steps: id === 'finished' ? [byEnd] : [plainTask(`so${i + 1}`, ON_OUTCOME[id])],
                    })),
                    { id: 'bo0', steps: [plainTask('so0', 'See how the call to {{contact.name}} went')] },
                  ],
                },
              ],
            },
            { id: 'b2', steps: [plainTask('s9', 'Call {{contact.name}} yourself: the dialler did not get through')] },
          ],
        },
      ],
    }),
  },
  {
    state: 'on',
    document: deal({
      name: 'Quote over €60,000: have it approved',
      description: 'The sales lead looks at it before it counts as sent.',
      triggers: [{ id: 't1', kind: 'entersStage', params: { stage: 'hp-quoted' } }],
      conditions: all({ field: 'amount', op: 'moreThan', params: { value: 60_000 } }),
      steps: [
        {
          id: 's1',
          kind: 'approval',
          params: {
            ...asked({
              title: 'Approve the quote for {{deal.name}}',
              who: { by: 'person', person: 'maren' },
              email: true,
              remind: 'onDay',
            }),
            facts: ['margin', 'customer', 'owner'],
            field: 'amount',
            limit: 60_000,
            most: { count: 2, unit: 'weeks' },
            recheck: true,
          },
          branches: [
            { id: 'b1', steps: [] },
            {
              id: 'b2',
              steps: [plainTask('s2', 'Change the quote for {{deal.name}}: {{s1.reason}}', { taskKind: 'todo' })],
            },
            { id: 'b3', steps: [tell('s3', 'No one has approved the quote for {{deal.name}}')] },
          ],
        },
      ],
    }),
  },
  {
    state: 'on',
    document: deal({
      name: 'Signed: send the order to the order system',
      description: 'Keeps the number that the order system answers with.',
      triggers: [{ id: 't1', kind: 'entersStage', params: { stage: 'hp-signed' } }],
      conditions: all(),
      steps: [
        {
          id: 's1',
          kind: 'webRequest',
          params: {
            connection: orders,
            method: 'POST',
            path: '/orders',
            body: '{"reference":"{{deal.reference}}","customer":"{{company.name}}","amount":"{{deal.amount}}","units":"{{deal.units}}"}',
            readings: [{ key: 'number', label: 'order number', type: 'text', path: '$.order.number' }],
            answer: 'now',
            most: { count: 1, unit: 'workdays' },
            recheck: false,
          },
          branches: [
            { id: 'b1', steps: [tell('s2', 'Order {{s1.number}} is placed: {{deal.name}}')] },
            {
              id: 'b2',
              steps: [
                plainTask('s3', 'Place the order by hand: {{deal.name}}', { taskKind: 'todo', priority: 'high' }),
              ],
            },
          ],
        },
      ],
    }),
  },
]
