import { figure, listSome, nounOf, plural } from '../../language/counts'
import { fieldWord, sayValue } from '../../fields/say-value'
import { valuesWithoutPath } from '../steps/path-per-value'
import { placedSteps } from '../tree'
import { definePreflight, noted } from './finding'
import { allOf } from './possible'

/** A choice that has no path of its own, and nothing in the path for all others. */
export const noPath = definePreflight({
  kind: 'noPath',
  look(rule, { catalogue, data }) {
    const { document } = rule
    return placedSteps(document).flatMap(({ step, object }) => {
      if (step.kind !== 'pathPerValue') return []
      const { field: key } = step.params as { readonly field: string | null }
      const field = key === null ? null : catalogue.field(object, key)
      const branches = step.branches ?? []
      if (!field || branches.every(({ steps }) => steps.length === 0) || branches.at(-1)?.steps.length !== 0) return []
      const missing = valuesWithoutPath(branches, key, { catalogue, object })
      if (missing.length === 0) return []
      const values = missing.flatMap((value) => (typeof value === 'string' ? [value] : []))
      const now =
        object === document.object && values.length > 0
          ? data.count(
              object,
              allOf(document.conditions, {
                kind: 'condition',
                id: 'preflight-path',
                field: field.key,
                op: 'isAnyOf',
                not: false,
                params: { values },
              }),
            ).count
          : 0
      const these = plural(missing.length, 'This value', 'These values')
      const have = `${plural(now, 'has', 'have')} ${plural(missing.length, 'it', 'one of them')} now`
      return [
        noted('noPath', rule, {
          severity: 'warning',
          part: 'step',
          id: step.id,
          param: 'field',
          text: `No path for ${listSome(missing.map((value) => `“${sayValue(value, field, catalogue)}”`))}`,
          why: [
            `${these} of ${fieldWord(field) ?? ''} ${plural(missing.length, 'has', 'have')} no path,`,
            `and the path for other values is empty. ${figure(now)} matching ${nounOf(now, object)} ${have}.`,
          ].join(' '),
        }),
      ]
    })
  },
})
