import { placedConditions } from '../../core/conditions/document'
import { foldText } from '../../core/fields/value'
import type { WorkspaceFacts } from '../../core/fields/field'
import { groupUsesChoice, groupUsesField } from '../../core/rules/uses'
import type { Territory } from '../../core/territories/territory'
import { RefusedError, type Workspace } from './workspace'

/** When the firm works, and who covers where. */

const refuse = (path: string, detail: string): RefusedError => new RefusedError([{ path, problem: { code: 'shape', detail } }])

/** Puts a list of territories in place of the one that is there. Refuses names that stand twice, and people and fields that are not there. */
export function setTerritories(workspace: Workspace, list: readonly Omit<Territory, 'id'>[]): void {
  const catalogue = workspace.catalogue()
  list.forEach(({ name, filter, personId }, i) => {
    if (list.findIndex((other) => foldText(other.name) === foldText(name)) !== i) throw refuse(`territories.${i}.name`, `there are two territories “${name}”`)
    if (!catalogue.person(personId)?.active) throw refuse(`territories.${i}.personId`, `there is nobody “${personId}” who could cover ${name}`)
    const unknown = placedConditions(filter, 'company').find(({ condition, object }) => !catalogue.field(object, condition.field))
    if (unknown) throw new RefusedError([{ path: `territories.${i}.filter.${unknown.condition.id}`, problem: { code: 'unknownField', field: unknown.condition.field } }])
  })
  workspace.db.atomically(() => workspace.store.catalogue.setTerritories(list))
  workspace.tellCatalogue()
}

/** Changes the zone, the working week, the office hours and the holidays. */
export function setHours(workspace: Workspace, { holidays, ...facts }: Pick<WorkspaceFacts, 'zone' | 'workdays' | 'opensAt' | 'closesAt' | 'holidays'>): void {
  if (facts.opensAt >= facts.closesAt) throw refuse('closesAt', 'the office closes before it opens')
  const twice = holidays.find(({ date }, i) => holidays.findIndex((other) => other.date === date) !== i)
  if (twice) throw refuse('holidays', `${twice.date} stands twice`)
  workspace.db.atomically(() => {
    workspace.store.catalogue.updateWorkspace({ ...facts, workdays: [...new Set(facts.workdays)].sort((a, b) => a - b) })
    workspace.store.catalogue.setHolidays(holidays)
  })
  workspace.tellCatalogue()
}

/** The territory whose conditions name a field, or a choice of it. */
export const territoryThatNames = (workspace: Workspace, object: 'deal' | 'contact' | 'company', key: string, choice: string | null = null): Territory | null =>
  (workspace.catalogue().data.territories ?? []).find(({ filter }) => (choice === null ? groupUsesField(filter, 'company', object, key) : groupUsesChoice(filter, 'company', object, key, choice))) ?? null
