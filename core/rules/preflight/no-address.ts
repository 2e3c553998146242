import type { Condition, Group, Item } from '../../conditions/document'
import { figure, plural } from '../../language/counts'
import { fieldWord } from '../../fields/say-value'
import { OBJECT_WORDS } from '../../records/kinds'
import { LINKABLE } from '../../records/record'
import { STEPS } from '../steps'
import { placedSteps } from '../tree'
import { definePreflight, noted } from './finding'
import { allOf } from './possible'

/** From so many of a hundred on it is worth a word, and from so many it is hardly meant. */
const NOTE_PERCENT = 5
const LIKELY_PERCENT = 25

/** Messages to contacts that have no address: nothing can be sent there. */
export const noAddress = definePreflight({
  kind: 'noAddress',
  look(rule, { catalogue, data }) {
    const { document } = rule
    return placedSteps(document).flatMap(({ step, object }) => {
      const writing = STEPS[step.kind].writes(step.params, catalogue)
      const field = writing?.field ? catalogue.field('contact', writing.field) : null
      // Of companies and appointments it can’t be asked who their main contact is.
      const linked = LINKABLE.some((pair) => pair.from === object && pair.to === 'contact')
      if (!field || object !== document.object || (object !== 'contact' && !linked)) return []
      const { count: total } = data.count(object, document.conditions)
      const { count, first } = data.count(object, allOf(document.conditions, withoutAddress(object, field.key)))
      const percent = total === 0 ? 0 : Math.round((100 * count) / total)
      if (percent < NOTE_PERCENT || !first) return []
      const word = fieldWord(field) ?? field.key
      return [
        noted('noAddress', rule, {
          severity: percent >= LIKELY_PERCENT ? 'warning' : 'info',
          part: 'step',
          id: step.id,
          param: writing?.channel === 'text' ? 'phone' : 'to',
          text: `Nothing can be sent to ${percent}%`,
          why: `${figure(count)} of ${figure(total)} matching ${OBJECT_WORDS[object].many} ${plural(count, 'has', 'have')} no contact with ${word}, for example “${first.name}”.`,
        }),
      ]
    })
  },
})

function withoutAddress(object: string, field: string): Item {
  const empty = (not: boolean): Condition => ({
    kind: 'condition',
    id: 'preflight-address',
    field,
    op: 'isEmpty',
    not,
    params: {},
  })
  if (object === 'contact') return empty(false)
  const main: Group = {
    kind: 'group',
    id: 'preflight-nobody',
    mode: 'none',
    items: [
      { kind: 'linked', id: 'preflight-main', object: 'contact', how: 'main', count: 1, group: allOf(empty(true)) },
    ],
  }
  return main
}
