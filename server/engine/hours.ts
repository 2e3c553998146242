import { sayDate } from '../../core/time/say'
import type { ObjectKind } from '../../core/records/kinds'
import { foldText } from '../../core/language/value'
import { Catalogue } from '../../core/fields/catalogue'
import type { Hours, WorkspaceFacts } from '../../core/fields/field'
import { groupUsesChoice, groupUsesField } from '../../core/rules/uses'
import type { Territory } from '../../core/territories/territory'
import { refuseUnknown } from './refuse-unknown'
import { movedReminders } from './reminders'
import type { Workspace } from './workspace'
import { refuse } from './refuse'

/** When the firm works, and who covers where. */

/**
 * Puts a list of territories in place of the one that is there. Refuses names that stand twice, and people and fields
 * that are not there.
 */
export function setTerritories(workspace: Workspace, list: readonly Omit<Territory, 'id'>[]): void {
  const catalogue = workspace.catalogue()
  list.forEach(({ name, filter, personId }, i) => {
    if (list.findIndex((other) => foldText(other.name) === foldText(name)) !== i)
      throw refuse(`territories.${i}.name`, { code: 'territoryTwice', name })
    if (!catalogue.person(personId)?.active)
      throw refuse(`territories.${i}.personId`, { code: 'cannotCover', person: personId, territory: name })
    refuseUnknown(filter, 'company', catalogue, `territories.${i}.filter`)
  })
  workspace.db.atomically(() => workspace.store.catalogue.setTerritories(list))
  workspace.tellCatalogue()
}

/** Hours in their one form; refuses those that end before they begin and days that stand twice. */
function checked<H extends Hours>(hours: H, path: string): H {
  if (hours.opensAt >= hours.closesAt) throw refuse(`${path}closesAt`, { code: 'closesBeforeOpening' })
  const twice = hours.holidays.find(({ date }, i) => hours.holidays.findIndex((other) => other.date === date) !== i)
  if (twice) throw refuse(`${path}holidays`, { code: 'listedTwice', what: sayDate(twice.date) })
  return { ...hours, workdays: [...new Set(hours.workdays)].sort((a, b) => a - b) }
}

export type GivenHours = Hours & Pick<WorkspaceFacts, 'zone' | 'teams'>

/** What is said of a workspace with other hours; refuses hours that cannot be. */
export function withHours(catalogue: Catalogue, { zone, teams = [], ...firm }: GivenHours): WorkspaceFacts {
  const known = new Set(catalogue.people.map((person) => person.team))
  const own = teams.map((hours, i) => {
    if (hours.team === '' || !known.has(hours.team))
      throw refuse(`teams.${i}.team`, { code: 'noTeam', team: hours.team })
    if (teams.findIndex((other) => other.team === hours.team) !== i)
      throw refuse(`teams.${i}.team`, { code: 'listedTwice', what: hours.team })
    return checked(hours, `teams.${i}.`)
  })
  return { ...catalogue.workspace, zone, ...checked(firm, ''), teams: own }
}

/**
 * Changes the zone, the working week, the office hours and the holidays; of the firm, and of teams that have their own.
 */
export function setHours(workspace: Workspace, hours: GivenHours): void {
  const before = workspace.catalogue()
  const next = withHours(before, hours)
  const { holidays, teams, ...facts } = next
  workspace.db.atomically(() => {
    for (const { taskId, dueMs } of movedReminders(
      workspace,
      before,
      new Catalogue({ ...before.data, workspace: next }),
    ))
      workspace.store.tasks.remindAt(taskId, dueMs)
    workspace.store.catalogue.updateWorkspace({ ...facts, teams: teams ?? [] })
    workspace.store.catalogue.setHolidays(holidays)
  })
  workspace.tellCatalogue()
}

/** The territory whose conditions name a field, or a choice of it. */
export const territoryThatNames = (
  workspace: Workspace,
  object: ObjectKind,
  key: string,
  choice: string | null = null,
): Territory | null =>
  (workspace.catalogue().data.territories ?? []).find(({ filter }) =>
    choice === null
      ? groupUsesField(filter, 'company', object, key)
      : groupUsesChoice(filter, 'company', object, key, choice),
  ) ?? null
