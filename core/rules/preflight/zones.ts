import { figure, listSome, nounOf, plural } from '../../language/counts'
import { EMPTY_GROUP } from '../../conditions/document'
import { isZone, ZONE_FIELD } from '../clock'
import { definePreflight, noted } from './finding'
import { allOf } from './possible'

const TRIED_MOST = 2000

/** A start by the contact's clock, and contacts whose time zone is none. */
export const zones = definePreflight({
  kind: 'zones',
  look(rule, { data }) {
    return rule.document.triggers.flatMap(({ id, params }) => {
      if ((params as { readonly zone?: string }).zone !== 'contact') return []
      const filled = {
        kind: 'condition',
        id: 'preflight-zone',
        field: ZONE_FIELD,
        op: 'isEmpty',
        not: true,
        params: {},
      } as const
      const wrong = data
        .sample('contact', allOf(EMPTY_GROUP, filled), TRIED_MOST)
        .filter(({ values }) => !isZone(values[ZONE_FIELD]))
      const [first] = wrong
      if (!first) return []
      const said = [...new Set(wrong.map(({ values }) => `“${String(values[ZONE_FIELD])}”`))]
      return [
        noted('zones', rule, {
          severity: 'warning',
          part: 'trigger',
          id,
          param: 'zone',
          text: `${figure(wrong.length)} ${nounOf(wrong.length, 'contact')} ${plural(wrong.length, 'has', 'have')} an unknown time zone`,
          why: `${listSome(said)} ${plural(said.length, 'is', 'are')} no time zone, for example of “${first.name}”. The workspace’s is used for ${plural(wrong.length, 'it', 'them')}.`,
        }),
      ]
    })
  },
})
