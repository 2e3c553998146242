import { figure, plural } from '../../language/counts'
import type { Group } from '../../conditions/document'
import { OBJECT_WORDS } from '../../records/kinds'
import { ZONE_FIELD } from '../clock'
import { definePreflight, noted, type Noted } from './finding'
import { fieldWord } from '../../fields/say-value'

/** The rule's conditions, and a field that is empty. */
const withEmpty = (group: Group, field: string): Group => ({
  kind: 'group',
  id: 'p0',
  mode: 'all',
  items: [group, { kind: 'condition', id: 'p1', field, op: 'isEmpty', not: false, params: {} }],
})

/** Records that a date would start, and that hold no date or no time zone. */
export const noMoment = definePreflight({
  kind: 'noMoment',
  look(rule, { catalogue, data }) {
    const { object, conditions, triggers } = rule.document
    const many = OBJECT_WORDS[object].many
    return triggers
      .filter((trigger) => trigger.kind === 'atDate')
      .flatMap(({ id, params }): Noted[] => {
        const { field: key, zone } = params as { readonly field: string | null; readonly zone: string }
        const field = key === null ? null : catalogue.field(object, key)
        if (!field) return []
        const all = data.count(object, conditions).count
        const empty = data.count(object, withEmpty(conditions, field.key))
        const found: Noted[] = []
        if (all > 0 && empty.count * 2 >= all)
          found.push(
            noted('noMoment', rule, {
              severity: 'info',
              part: 'trigger',
              id,
              param: 'field',
              text: `${figure(empty.count)} of ${figure(all)} ${plural(empty.count, 'has', 'have')} no ${fieldWord(field) ?? ''}`,
              why: `The rule won’t run for ${empty.count === all ? 'any of them' : plural(empty.count, 'it', `these ${many}`)} until the date is filled in${empty.first ? `, for example ${empty.first.name}` : ''}.`,
            }),
          )
        if (zone !== 'contact') return found
        if (!catalogue.field('contact', ZONE_FIELD))
          return [
            ...found,
            noted('noMoment', rule, {
              severity: 'warning',
              part: 'trigger',
              id,
              param: 'zone',
              text: 'Contacts have no time zone field',
              why: `Workspace time is used until there is a text field with the key “${ZONE_FIELD}” and names such as America/Halifax.`,
            }),
          ]
        const lost = object === 'contact' ? data.count('contact', withEmpty(conditions, ZONE_FIELD)) : null
        if (lost && lost.count > 0)
          found.push(
            noted('noMoment', rule, {
              severity: 'info',
              part: 'trigger',
              id,
              param: 'zone',
              text: `${figure(lost.count)} ${plural(lost.count, 'has', 'have')} no time zone`,
              why: `Workspace time is used for ${plural(lost.count, 'it', 'them')}${lost.first ? `, for example ${lost.first.name}` : ''}.`,
            }),
          )
        return found
      })
  },
})
