import { figure, nounOf, plural } from '../../language/counts'
import { EMPTY_GROUP, type Condition } from '../../conditions/document'
import { fieldWord, sayValue } from '../../fields/say-value'
import type { Value, Values } from '../../language/value'
import { isForeign } from '../../money/worth'
import { referencesOf } from '../references'
import { allOf } from './possible'
import { definePreflight, noted } from './finding'

/** Amounts in a currency that has no rate: compared, added up or put into a formula they are empty. */
export const noRate = definePreflight({
  kind: 'noRate',
  look(rule, { catalogue, data }) {
    const seen = new Set<string>()
    return referencesOf(rule.document).flatMap(({ reference, part, id, param }) => {
      if (reference.to !== 'field' || reference.object === null) return []
      const { object, key } = reference
      const field = catalogue.field(object, key)
      if (!field || !isForeign(field) || part === 'branch' || seen.has(`${object}.${key}`)) return []
      seen.add(`${object}.${key}`)
      const asked = (op: Condition['op'], params: object): Condition => ({
        kind: 'condition',
        id: `preflight-rate-${op}`,
        field: key,
        op,
        not: true,
        params,
      })
      // Something is there, and yet it is not more than anything.
      const { count, first } = data.count(
        object,
        allOf(allOf(EMPTY_GROUP, asked('isEmpty', {})), asked('moreThan', { value: -Number.MAX_SAFE_INTEGER })),
      )
      const [example] = first
        ? data.sample(object, allOf(EMPTY_GROUP, asked('isEmpty', {})), 2000).filter((one) => one.id === first.id)
        : []
      if (count === 0 || !first) return []
      const said = example
        ? ` (${sayValue((example.values[key] ?? null) as Value, field, catalogue, example.values as Values)})`
        : ''
      return [
        noted('noRate', rule, {
          severity: 'warning',
          part,
          id,
          param,
          text: `No exchange rate for ${figure(count)} ${nounOf(count, object)}`,
          why: `${plural(count, 'Its', 'Their')} ${fieldWord(field) ?? ''} can’t be compared, for example “${first.name}”${said}. Add rates under Data, Exchange rates.`,
        }),
      ]
    })
  },
})
