import { compileGroup, type CompiledGroup } from '../conditions/compile'
import type { Catalogue } from '../fields/catalogue'
import { subjectOf, type Around } from '../records/subject'
import type { RecordSnapshot } from '../records/record'
import type { Moment } from '../conditions/moment'
import type { Territory } from './territory'

const compiled = new WeakMap<
  Catalogue['data'],
  readonly { readonly territory: Territory; readonly covers: CompiledGroup }[]
>()

/** The territory that a company lies in: the first whose conditions it meets; `null` when none is. */
export function territoryOf(
  company: RecordSnapshot,
  catalogue: Catalogue,
  around: Around,
  moment: Moment,
): Territory | null {
  let known = compiled.get(catalogue.data)
  if (!known)
    compiled.set(
      catalogue.data,
      (known = (catalogue.data.territories ?? []).map((territory) => ({
        territory,
        covers: compileGroup(territory.filter, 'company', catalogue),
      }))),
    )
  const subject = subjectOf(company, around)
  return known.find(({ covers }) => covers.test(subject, moment))?.territory ?? null
}
