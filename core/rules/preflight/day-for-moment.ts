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
            severity: 'info',
            part: 'trigger',
            id,
            param: 'field',
            text: `${field.label} has no time; ${fieldWord(timed) ?? ''} has one`,
            why: `The rule uses the time set here, not the time in “${timed.label}”.`,
            fix: {
              say: `Use ${fieldWord(timed) ?? ''}`,
              rule: setWord(moved, { part: 'trigger', id }, 'minute', null, catalogue),
            },
          }),
        ]
      })
  },
})
