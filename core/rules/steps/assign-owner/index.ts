import { z } from 'zod'
import { isEmpty } from '../../../language/value'
import { defineStep, valueOf } from '../../step'
import { checkWho, chooseWho, sayWho, zWho, type Who } from '../../who'
import { say, word, extra } from '../../../language/sentence'
import { OBJECTS, oneOf } from '../../../records/kinds'

interface Params {
  person: string | null
  replace: boolean
  /** Another way of choosing than naming one; then `person` says nothing. */
  who?: Who | undefined
}

const wanted = ({ person, who }: Params): Who => who ?? { by: 'person', person }

export const assignOwner = defineStep<'assignOwner', Params>({
  kind: 'assignOwner',
  category: 'people',
  does: 'assign an owner',
  alsoCalled: ['assign', 'owner', 'hand over', 'responsible'],
  objects: OBJECTS,
  params: z.strictObject({ person: z.string().max(100).nullable(), replace: z.boolean(), who: zWho.optional() }),
  about: ['owner'],
  form: {
    person: { widget: 'person' },
    who: { widget: 'who', owner: false },
    replace: { widget: 'toggle', on: 'even if it has an owner', off: 'unless it has an owner' },
  },
  start: { person: null, replace: false, who: { by: 'person', person: null } },
  sentence: (params, { catalogue, object }) => [
    say(`assign the ${oneOf(object)} to `),
    word('who', sayWho(wanted(params), object, catalogue), 'someone'),
    say(', '),
    extra('replace', params.replace ? 'even if it has an owner' : 'unless it has an owner', !params.replace),
  ],
  check(params, names) {
    const problem = checkWho(wanted(params), names)
    return problem ? [{ param: 'who', problem }] : []
  },
  touches(params, { object }) {
    const who = wanted(params)
    return [{ object, field: 'owner', ...(who.by === 'person' && who.person !== null ? { value: who.person } : {}) }]
  },
  gives: () => [{ key: 'who', label: 'new owner', type: 'person' }],
  run(params, context) {
    const { catalogue, record, moment } = context
    const who = wanted(params)
    const named = who.by === 'person' && who.person !== null ? catalogue.person(who.person) : null
    if (who.by === 'person' && !named)
      return { go: 'fail', reason: { code: 'unknownPerson', person: String(who.person) } }
    const owner = valueOf(record, 'owner')
    if (!isEmpty(owner) && !params.replace) {
      return {
        go: 'skip',
        reason: { code: 'owned', person: catalogue.person(String(owner))?.name ?? String(owner) },
      }
    }
    // Being away passes, so somebody who is named gets it all the same; somebody who has left would never look at it
    // again.
    const chosen = named?.active ? { person: named, turn: false } : chooseWho(who, record.values, moment.today, context)
    if ('none' in chosen) return { go: 'skip', reason: chosen.none }
    if (owner === chosen.person.id) return { go: 'skip', reason: { code: 'sameValue', field: 'Owner' } }
    return {
      go: 'on',
      effects: [
        { effect: 'fields', ref: { object: record.object, id: record.id }, values: { owner: chosen.person.id } },
        ...(chosen.turn ? [{ effect: 'turn' as const }] : []),
      ],
      gives: { who: chosen.person.id },
    }
  },
  examples: [
    {
      say: 'gives no one’s deal to someone',
      params: { person: 'rosa', replace: false },
      record: { owner: null },
      expect: { go: 'on', effects: [{ effect: 'fields', ref: { object: 'deal', id: 1 }, values: { owner: 'rosa' } }] },
    },
    {
      say: 'leaves a deal with its owner',
      params: { person: 'rosa', replace: false },
      record: { owner: 'jude' },
      expect: { go: 'skip', reason: { code: 'owned', person: 'Jude Okell' } },
    },
    {
      say: 'takes it from its owner when told to',
      params: { person: 'piet', replace: true },
      record: { owner: 'jude' },
      expect: { go: 'on', effects: [{ effect: 'fields', ref: { object: 'deal', id: 1 }, values: { owner: 'piet' } }] },
    },
    {
      say: 'does nothing when that is the owner',
      params: { person: 'jude', replace: true },
      record: { owner: 'jude' },
      expect: { go: 'skip', reason: { code: 'sameValue', field: 'Owner' } },
    },
    {
      say: 'fails when no one is called that any more',
      params: { person: 'gone', replace: true },
      record: { owner: null },
      expect: { go: 'fail', reason: { code: 'unknownPerson', person: 'gone' } },
    },
  ],
})
