import { isAsk } from '../../conditions/document'
import { removePart } from '../edit'
import { definePreflight, noted } from './finding'
import { allOf, goThrough, isStrict } from './possible'
import { oneOf } from '../../records/kinds'

/** A condition that lets everything through asks for nothing: it was hardly meant so. */
export const alwaysTrue = definePreflight({
  kind: 'alwaysTrue',
  look(rule, { catalogue, moment }) {
    const { conditions, object } = rule.document
    if (conditions.mode !== 'all') return []
    return conditions.items.flatMap((item) => {
      if (
        item.kind === 'linked' ||
        item.kind === 'did' ||
        isAsk(item) ||
        (item.kind === 'group' && item.items.length === 0)
      )
        return []
      const group = item.kind === 'group' ? item : allOf(item)
      if (!isStrict(group, object, catalogue) || goThrough(group, object, catalogue, moment)?.always !== true) return []
      return [
        noted('alwaysTrue', rule, {
          severity: 'warning',
          part: 'condition',
          id: item.id,
          param: item.kind === 'group' ? 'mode' : 'op',
          text: 'This condition is always true',
          why: `Every ${oneOf(object)} meets it.`,
          fix: { say: 'Remove this condition', rule: removePart(rule.document, { part: 'condition', id: item.id }) },
        }),
      ]
    })
  },
})
