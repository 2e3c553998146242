import { nearNames } from '../../fields/namesakes'
import { setWord } from '../edit'
import { definePreflight, noted } from './finding'
import { fieldWord } from '../../fields/say-value'

/** Goes by a day, where a field with nearly the same name holds the time as well. */
export const dayForMoment = definePreflight({
  kind: 'dayForMoment',
  look(rule, { catalogue }) {
    const { document } = rule
    return document.triggers
      .filter((trigger) => trigger.kind === 'atDate')
      .flatMap(({ id, params }) => {
        const { field: key, every } = params as { readonly field: string | null; readonly every: string }
        const field = key === null ? null : catalogue.field(document.object, key)
        if (field?.type !== 'date' || every !== 'once') return []
        const timed = catalogue
          .fields(document.object)
          .find((other) => other.type === 'dateTime' && other.keptBy === null && nearNames(other.label, field.label))
        if (!timed) return []
        const moved = setWord(document, { part: 'trigger', id }, 'field', timed.key, catalogue)
        return [
          noted('dayForMoment', rule, {
            severity: 'note',
            part: 'trigger',
            id,
            param: 'field',
            text: `${fieldWord(field) ?? ''} is a day; ${fieldWord(timed) ?? ''} holds the time as well`,
            why: `By the day it goes at the time that is written here, whatever “${timed.label}” says.`,
            fix: {
              say: `go by ${fieldWord(timed) ?? ''}`,
              rule: setWord(moved, { part: 'trigger', id }, 'minute', null, catalogue),
            },
          }),
        ]
      })
  },
})
