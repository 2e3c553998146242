import type { Catalogue } from '../fields/catalogue'
import type { Person } from '../fields/field'
import type { Values } from '../language/value'

/** Whose records and tasks a person sees. `null` is everybody's. */
export type Scope = ReadonlySet<string> | null

/**
 * Specialists and viewers see all. An owner sees what belongs to the team, and what belongs to nobody: somebody has to
 * pick that up.
 */
export function scopeOf(person: Person, catalogue: Catalogue): Scope {
  if (person.role !== 'owner') return null
  return new Set(
    catalogue.people
      .filter((one) => one.id === person.id || (person.team !== '' && one.team === person.team))
      .map((one) => one.id),
  )
}

export const sees = (scope: Scope, ownerId: unknown): boolean =>
  scope === null || typeof ownerId !== 'string' || scope.has(ownerId)
/** Whether somebody sees the queue of a team: those who are in it, and whoever sees everything. */
export const seesQueue = (scope: Scope, team: string | null, catalogue: Catalogue): boolean =>
  scope === null || catalogue.people.some((one) => scope.has(one.id) && one.team === team)
export const seesRecord = (scope: Scope, values: Values): boolean => sees(scope, values.owner)
