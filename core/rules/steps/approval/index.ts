import { z } from 'zod'
import { DECISIONS } from '../../../asks/approval'
import type { Catalogue } from '../../../fields/catalogue'
import type { Field } from '../../../fields/field'
import { fieldWord, sayValue } from '../../../fields/say-value'
import { say, word, extra } from '../../../language/sentence'
import type { ObjectKind } from '../../../records/kinds'
import { answersIn, outcomeIn } from '../../../signals/task'
import { FACTS_MOST, factsOf, sayFacts } from '../../questions'
import { defineAwait, ownTasks } from '../awaiting'
import {
  ASKED_FORM,
  ASKED_SHAPE,
  ASKED_START,
  askedOf,
  askedWords,
  checkAsked,
  type AskedParams,
} from '../create-task/asked'

interface Params extends AskedParams {
  facts: readonly string[]
  /** The number up to which nobody is asked; always asked, where there is no field. */
  field: string | null
  limit: number
}

const START: Params = { ...ASKED_START, facts: [], field: null, limit: 0 }

const NUMBERS: readonly Field['type'][] = ['number', 'currency', 'percent']
const numberField = (key: string | null, object: ObjectKind, catalogue: Catalogue): Field | null => {
  const field = key === null ? null : catalogue.field(object, key)
  return field && NUMBERS.includes(field.type) ? field : null
}

/** Lets somebody approve it, where it is beyond a limit; below the limit it is approved at once. */
export const approval = defineAwait<'approval', Params>({
  kind: 'approval',
  does: 'have it approved',
  category: 'people',
  alsoCalled: ['approve', 'sign off', 'release', 'discount', 'limit', 'decision', 'permission'],
  params: z.strictObject({
    ...ASKED_SHAPE,
    facts: z.array(z.string().max(100)).max(FACTS_MOST),
    field: z.string().max(100).nullable(),
    limit: z.number(),
  }),
  form: {
    ...ASKED_FORM,
    facts: { widget: 'fields' },
    field: { widget: 'field', writable: false, types: NUMBERS, none: 'whatever it holds', label: 'Field with a limit' },
    limit: { widget: 'value', of: 'field' },
  },
  start: START,
  opening(params, names) {
    const { catalogue, object } = names
    const field = numberField(params.field, object, catalogue)
    return askedWords(
      params,
      'have it approved by ',
      [
        say(', '),
        ...(params.field === null
          ? [extra('field', 'whatever it holds', true)]
          : [
              say('if '),
              word('field', field ? (fieldWord(field) ?? params.field) : null, 'field'),
              say(' is more than '),
              word('limit', field ? sayValue(params.limit, field, catalogue) : String(params.limit), ''),
            ]),
        say(params.facts.length > 0 ? ', showing its ' : ', '),
        sayFacts(params.facts, names),
      ],
      names,
    )
  },
  ends: ['if it is approved', 'if it is declined', 'if no one decides in time'],
  endOf: ({ decision }) => (decision === 'declined' ? 1 : 0),
  sentence: () => [say('it is decided')],
  check(params, names) {
    const gone = params.facts.find((key) => !names.catalogue.field(names.object, key))
    return [
      ...checkAsked(params, names),
      ...(params.field !== null && !numberField(params.field, names.object, names.catalogue)
        ? [{ param: 'field', problem: { code: 'unknownField' as const, field: params.field } }]
        : []),
      ...(gone === undefined ? [] : [{ param: 'facts', problem: { code: 'unknownField' as const, field: gone } }]),
    ]
  },
  first(params, context) {
    const { record, catalogue } = context
    const field = numberField(params.field, record.object, catalogue)
    const value = field ? record.values[field.key] : null
    if (field && !(typeof value === 'number' && value > params.limit)) {
      const held = typeof value === 'number' ? sayValue(value, field, catalogue, record.values) : 'empty'
      return {
        instead: {
          go: 'on',
          effects: [],
          way: 0,
          gives: { came: 'came', decision: 'approved' },
          say: `approved at once: ${fieldWord(field) ?? field.key} is ${held}, not more than ${sayValue(params.limit, field, catalogue)}`,
        },
      }
    }
    const facts = [...new Set([...(field ? [field.key] : []), ...params.facts])]
    return askedOf(
      params,
      'todo',
      { about: 'approval', facts: factsOf(facts, record.object, record.values, catalogue) },
      context,
    )
  },
  signals: (_params, _names, wrote) => ownTasks(wrote),
  comes: () => true,
  content: {
    gives: () => [
      { key: 'decision', label: 'decision', type: 'choice', choices: DECISIONS },
      { key: 'reason', label: 'reason for the decision', type: 'text' },
    ],
    of: ({ changes }) => ({ gives: answersIn(changes), say: outcomeIn(changes) || 'decided' }),
  },
  examples: [
    {
      say: 'asks where the limit is passed',
      params: {
        ...START,
        title: 'Approve {{deal.name}}',
        who: { by: 'person', person: 'maren' },
        field: 'amount',
        limit: 1000,
        most: { count: 2, unit: 'workdays' },
        recheck: true,
      },
      record: { name: 'Two rooms', owner: 'rosa', amount: 1200 },
      expect: {
        go: 'wait',
        effects: [
          {
            effect: 'task',
            task: {
              ref: { object: 'deal', id: 1 },
              title: 'Approve Two rooms',
              notes: '',
              taskKind: 'todo',
              priority: 'normal',
              due: '2026-11-25',
              assigneeId: 'maren',
              queue: null,
              remindAt: null,
              asks: { about: 'approval', facts: [{ label: 'Amount', value: '€1,200' }] },
            },
          },
        ],
      },
    },
    {
      say: 'asks no one below the limit',
      params: {
        ...START,
        title: 'Approve',
        field: 'amount',
        limit: 1000,
        most: { count: 2, unit: 'workdays' },
        recheck: true,
      },
      record: { name: 'Two rooms', owner: 'rosa', amount: 1000 },
      expect: {
        go: 'on',
        way: 0,
        effects: [],
        gives: { came: 'came', decision: 'approved' },
        say: 'approved at once: amount is €1,000, not more than €1,000',
      },
    },
  ],
})
