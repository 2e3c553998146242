import { countrySpellings } from '../../core/synonyms/countries'
import { JOB_ROLES } from '../../core/synonyms/job-roles'
import { APPOINTMENT_FIELDS, slug } from '../../core/fields/define'
import { STARTER_FIELDS, STARTER_PIPELINE } from '../../core/fields/starter'
import type { Person, Role } from '../../core/fields/field'
import type { Workspace } from './workspace'

export interface SetUp {
  readonly name: string
  /** An IANA zone. */
  readonly zone: string
  /** ISO 4217. */
  readonly currency: string
  readonly specialist: { readonly name: string; readonly email: string; readonly passwordHash: string }
}

/** An id for a new person that nobody has yet: the name in plain letters, with a number when it is taken. */
export function freshPersonId(name: string, taken: readonly string[]): string {
  const wanted = slug(name) || 'person'
  if (!taken.includes(wanted)) return wanted
  let n = 2
  while (taken.includes(`${wanted}-${n}`)) n++
  return `${wanted}-${n}`
}

export const newPerson = (given: {
  readonly id: string
  readonly name: string
  readonly email: string
  readonly role: Role
  readonly team: string
  readonly title: string
}): Person => ({ ...given, awayFrom: null, awayTo: null, deputyId: null, active: true, zone: null })

/** Makes an empty database a workspace, with fields to begin with and its first specialist; answers who that is. */
export function setUpWorkspace(workspace: Workspace, { name, zone, currency, specialist }: SetUp): string {
  const { catalogue, people } = workspace.store
  const id = freshPersonId(specialist.name, [])
  workspace.db.atomically(() => {
    if (catalogue.read()) throw new Error('the workspace is set up already')
    catalogue.setUp({
      name,
      zone,
      locale: 'en-GB',
      currency,
      demo: false,
      workdays: [1, 2, 3, 4, 5],
      opensAt: 540,
      closesAt: 1020,
      holidays: [],
    })
    people.add(
      newPerson({
        id,
        name: specialist.name,
        email: specialist.email,
        role: 'specialist',
        team: '',
        title: 'Sales operations',
      }),
      specialist.passwordHash,
    )
    catalogue.addPipeline({ ...STARTER_PIPELINE, position: 0 })
    const countries = catalogue.addSynonymSet('Countries', countrySpellings())
    catalogue.addSynonymSet('Job roles', JOB_ROLES)
    for (const field of STARTER_FIELDS)
      catalogue.addField(field.key === 'country' ? { ...field, synonyms: countries, indexed: true } : field)
  })
  workspace.tellCatalogue()
  return id
}

/** Gives a workspace that was set up before there were appointments their fields; does nothing where they are. */
export function addMissingFields(workspace: Workspace): void {
  if (!workspace.catalogueOrNull() || workspace.catalogue().everyField('appointment').length > 0) return
  workspace.db.inTurn(() =>
    workspace.db.atomically(() => {
      for (const field of APPOINTMENT_FIELDS) workspace.store.catalogue.addField(field)
    }),
  )
  workspace.tellCatalogue()
}
