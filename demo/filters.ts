import type { Group } from '../core/conditions/document'
import { all } from './rules/parts'

/** Who covers where. */
export const TERRITORIES: readonly { readonly name: string; readonly filter: Group; readonly personId: string }[] = [
  { name: 'Poland', personId: 'tomasz', filter: all({ field: 'country', op: 'is', params: { value: 'Poland' } }) },
  {
    name: 'Overseas',
    personId: 'callum',
    filter: all({ field: 'country', op: 'isAnyOf', params: { values: ['Canada', 'New Zealand'] } }),
  },
  {
    name: 'Clinics and laboratories',
    personId: 'anouk',
    filter: all({ field: 'sector', op: 'isAnyOf', params: { values: ['clinic', 'laboratory'] } }),
  },
  { name: 'Everywhere else', personId: 'rosa', filter: all() },
]

/** Saved filters that the demo starts with. */
export const SEGMENTS: readonly {
  readonly object: 'deal' | 'contact' | 'company'
  readonly name: string
  readonly filter: Group
  readonly columns: readonly string[]
  readonly sort: string
}[] = [
  {
    object: 'deal',
    name: 'Two weeks past expected close',
    sort: 'closeDate',
    columns: ['name', 'closeDate', 'stage', 'amount', 'owner', 'quoteSentOn'],
    filter: all(
      { field: 'stage', op: 'standing', params: { outcome: 'open' } },
      { field: 'closeDate', op: 'longAgo', params: { amount: { count: 2, unit: 'weeks' } } },
    ),
  },
  {
    object: 'deal',
    name: 'Large open deals',
    sort: 'name',
    columns: [],
    filter: all(
      { field: 'stage', op: 'standing', params: { outcome: 'open' } },
      { field: 'amount', op: 'moreThan', params: { value: 40_000 } },
    ),
  },
  {
    object: 'contact',
    name: 'Contacts without a company',
    sort: 'name',
    columns: [],
    filter: {
      kind: 'group',
      id: 'c0',
      mode: 'all',
      items: [
        {
          kind: 'linked',
          id: 'c1',
          object: 'company',
          how: 'none',
          count: 1,
          group: { kind: 'group', id: 'c2', mode: 'all', items: [] },
        },
      ],
    },
  },
]
