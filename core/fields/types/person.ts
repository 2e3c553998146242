import { bad, good } from '../../language/problems'
import { defineFieldType } from '../kind'
import { foldText } from '../../language/value'

export const person = defineFieldType({
  type: 'person',
  word: 'person',
  storage: 'text',
  widget: 'person',
  read: (raw, { catalogue }) => {
    const wanted = foldText(raw)
    if (wanted === '') return good(null)
    const found = catalogue.people.find(
      (one) => one.id === raw || foldText(one.name) === wanted || one.email === wanted,
    )
    return found ? good(found.id) : bad({ code: 'unknownPerson', raw })
  },
  accept: (value, { catalogue }) => {
    if (value === null) return good(null)
    if (typeof value !== 'string') return bad({ code: 'wrongType', type: 'person' })
    return catalogue.person(value) ? good(value) : bad({ code: 'unknownPerson', raw: value })
  },
  write: (value, { catalogue }) => catalogue.person(String(value))?.name ?? String(value),
  key: (value) => String(value),
  ordered: false,
  examples: [
    ['rosa amara', 'rosa'],
    ['rosa@larkmoor.example', 'rosa'],
    ['', null],
  ],
})
