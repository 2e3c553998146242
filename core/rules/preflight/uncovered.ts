import { figure, nounOf, plural } from '../../language/counts'
import type { Group } from '../../conditions/document'
import { placedSteps } from '../tree'
import { definePreflight, noted } from './finding'

/** “By territory”, and companies that lie in none, or in one whose person has left. */
export const uncovered = definePreflight({
  kind: 'uncovered',
  look(rule, { catalogue, data }) {
    const territories = catalogue.data.territories ?? []
    const step = placedSteps(rule.document).find(
      ({ step: { params } }) => (params as { readonly who?: { readonly by: string } }).who?.by === 'territory',
    )?.step
    if (!step || territories.length === 0) return []
    const within = (some: typeof territories, mode: Group['mode']): Group => ({
      kind: 'group',
      id: 'preflight-territories',
      mode,
      items: some.map(({ filter, id }) => ({ ...filter, id: `preflight-territory-${id}` })),
    })
    const at = { part: 'step', id: step.id, param: 'who', severity: 'warning' } as const
    const { count, first } = data.count('company', within(territories, 'none'))
    const left = territories.filter(({ personId }) => !catalogue.person(personId)?.active)
    const lost = left.length === 0 ? { count: 0 } : data.count('company', within(left, 'any'))
    return [
      ...(count > 0 && first
        ? [
            noted('uncovered', rule, {
              ...at,
              text: `${figure(count)} ${nounOf(count, 'company')} ${plural(count, 'is', 'are')} in no territory`,
              why: `No one covers ${plural(count, 'it', 'them')}, for example “${first.name}”. The step would be skipped.`,
            }),
          ]
        : []),
      ...(lost.count > 0
        ? [
            noted('uncovered', rule, {
              ...at,
              param: 'who.left',
              text: `${figure(lost.count)} ${nounOf(lost.count, 'company')} in a territory of someone who has left`,
              why: `${left.map((one) => `“${one.name}”`).join(', ')}: choose someone else under People, Territories.`,
            }),
          ]
        : []),
    ]
  },
})
