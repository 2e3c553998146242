import { z } from 'zod'
import { isEmpty } from '../../../fields/value'
import { oneOf, say, word } from '../../sentence'
import { defineStep, valueOf } from '../../step'

interface Params { person: string | null; replace: boolean }

export const assignOwner = defineStep<'assignOwner', Params>({
  kind: 'assignOwner',
  hue: 'people',
  does: 'give the record to somebody',
  alsoCalled: ['assign', 'owner', 'hand over', 'responsible'],
  objects: ['deal', 'contact', 'company'],
  params: z.strictObject({ person: z.string().max(100).nullable(), replace: z.boolean() }),
  form: { person: { widget: 'person' }, replace: { widget: 'toggle', on: 'whoever has it now', off: 'unless it has an owner' } },
  start: { person: null, replace: false },
  sentence: ({ person, replace }, { catalogue, object }) => [
    say(`give the ${oneOf(object)} to `), word('person', person === null ? null : (catalogue.person(person)?.name ?? person), 'somebody'), say(', '),
    word('replace', replace ? 'whoever has it now' : 'unless it has an owner', ''),
  ],
  check({ person: id }, { catalogue }) {
    if (id === null) return [{ param: 'person', problem: { code: 'missing', what: 'who gets it' } }]
    return catalogue.person(id) ? [] : [{ param: 'person', problem: { code: 'unknownPerson', raw: id } }]
  },
  touches: ({ person }, { object }) => (person === null ? [] : [{ object, field: 'owner', value: person }]),
  run({ person: id, replace }, { catalogue, record }) {
    const named = id === null ? null : catalogue.person(id)
    if (!named) return { go: 'fail', reason: { code: 'refused', reason: `there is no person “${id}” any more` } }
    const owner = valueOf(record, 'owner')
    if (!isEmpty(owner) && !replace) {
      return { go: 'skip', reason: { code: 'own', say: `${catalogue.person(String(owner))?.name ?? String(owner)} has it already` } }
    }
    // Being away passes, so the owner stays the owner; somebody who has left would never look at it again.
    const deputy = named.deputyId === null ? null : catalogue.person(named.deputyId)
    const who = named.active ? named : deputy
    if (!who?.active) return { go: 'skip', reason: { code: 'left', person: named.name } }
    if (owner === who.id) return { go: 'skip', reason: { code: 'sameValue', field: 'Owner' } }
    return { go: 'on', effects: [{ effect: 'write', ref: { object: record.object, id: record.id }, values: { owner: who.id } }] }
  },
  examples: [
    {
      say: 'gives nobody’s deal to somebody', params: { person: 'rosa', replace: false }, record: { owner: null },
      expect: { go: 'on', effects: [{ effect: 'write', ref: { object: 'deal', id: 1 }, values: { owner: 'rosa' } }] },
    },
    { say: 'leaves a deal with its owner', params: { person: 'rosa', replace: false }, record: { owner: 'jude' }, expect: { go: 'skip', reason: { code: 'own', say: 'Jude Okell has it already' } } },
    {
      say: 'takes it from its owner when told to', params: { person: 'piet', replace: true }, record: { owner: 'jude' },
      expect: { go: 'on', effects: [{ effect: 'write', ref: { object: 'deal', id: 1 }, values: { owner: 'piet' } }] },
    },
    { say: 'does nothing when that is the owner', params: { person: 'jude', replace: true }, record: { owner: 'jude' }, expect: { go: 'skip', reason: { code: 'sameValue', field: 'Owner' } } },
    { say: 'fails when nobody is called that any more', params: { person: 'gone', replace: true }, record: { owner: null }, expect: { go: 'fail', reason: { code: 'refused', reason: 'there is no person “gone” any more' } } },
  ],
})
