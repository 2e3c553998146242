import { newDid } from '../../core/conditions/did'
import type { Did, Group } from '../../core/conditions/document'
import { RULE_FORMAT, type RuleDocument } from '../../core/rules/document'
import { all, atDate, deal, plainTask, type DemoRule } from './parts'

/** Rules that go by what people do: visits, bookings, and what becomes of an appointment. */

const did = (kind: string, about = '', late = false): RuleDocument['triggers'][number] => ({
  id: 't1',
  kind: 'activity',
  params: { kind, by: 'contact', about, late },
})

const contact = (given: Pick<RuleDocument, 'name' | 'description' | 'triggers' | 'conditions' | 'repeats' | 'steps'>) =>
  ({ format: RULE_FORMAT, object: 'contact', ...given }) satisfies RuleDocument

const openDeal: Group = {
  kind: 'group',
  id: 'c0',
  mode: 'all',
  items: [
    {
      kind: 'linked',
      id: 'c1',
      object: 'deal',
      how: 'any',
      count: 1,
      group: {
        kind: 'group',
        id: 'c2',
        mode: 'all',
        items: [
          { kind: 'condition', id: 'c3', field: 'stage', op: 'standing', not: false, params: { outcome: 'open' } },
        ],
      },
    },
  ],
}

const missedBefore: Did = {
  ...newDid('c2', 'contact'),
  how: 'this',
  activity: 'appointmentMissed',
  group: {
    kind: 'group',
    id: 'c3',
    mode: 'all',
    items: [
      {
        kind: 'condition',
        id: 'c4',
        field: 'appointmentMissed.missedBefore',
        op: 'moreThan',
        not: false,
        params: { value: 0 },
      },
    ],
  },
}

export const ACTIVITY_RULES: readonly DemoRule[] = [
  {
    state: 'on',
    document: contact({
      name: 'Price page visited: call',
      description: 'Only with an open deal, and not while there is such a task.',
      triggers: [did('visit', 'price')],
      conditions: openDeal,
      steps: [
        plainTask('s1', 'Call {{contact.name}} about prices', {
          due: { count: 0, unit: 'workdays' },
          priority: 'high',
        }),
      ],
    }),
  },
  {
    state: 'on',
    document: deal({
      name: 'Site visit booked: on to Hire & purchase',
      description: 'For deals in Enquiries.',
      triggers: [did('appointment', 'site visit')],
      conditions: all({ field: 'pipeline', op: 'is', params: { value: 'enq' } }),
      steps: [
        {
          id: 's1',
          kind: 'moveStage',
          params: { stage: 'hp-visit', backwards: false, across: true, beside: 'none', alike: null },
        },
      ],
    }),
  },
  {
    state: 'on',
    document: contact({
      name: 'Site visit missed',
      description: 'Once: offer another time. Again: the owner decides.',
      triggers: [did('appointmentMissed')],
      conditions: all(),
      steps: [
        {
          id: 's1',
          kind: 'choosePath',
          params: {},
          branches: [
            {
              id: 'b1',
              when: { kind: 'group', id: 'c1', mode: 'all', items: [missedBefore] },
              steps: [plainTask('s2', 'Missed twice: is {{contact.name}} still interested?', { priority: 'high' })],
            },
            { id: 'b2', steps: [plainTask('s3', 'Offer {{contact.name}} another time')] },
          ],
        },
      ],
    }),
  },
  {
    state: 'on',
    document: {
      format: RULE_FORMAT,
      object: 'appointment',
      name: 'Appointment over: write notes',
      description: 'A quarter of an hour after its end.',
      triggers: [atDate('t1', 'end', 'after', 15, { amount: { count: 15, unit: 'minutes' }, minute: null })],
      conditions: all({ field: 'notes', op: 'isEmpty', params: {} }),
      steps: [
        plainTask('s1', 'Write notes on {{appointment.name}}', {
          taskKind: 'todo',
          due: { count: 0, unit: 'workdays' },
        }),
      ],
    },
  },
]
