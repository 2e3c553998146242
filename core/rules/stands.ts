import type { Group } from '../conditions/document'
import type { Catalogue } from '../fields/catalogue'
import type { ClockTrigger } from './clock'
import type { RuleDocument } from './document'
import type { Standing } from './standing'
import { TRIGGERS } from './triggers'

/** One trigger of a rule in which records can stand. */
export interface Stands {
  readonly triggerId: string
  readonly say: string
  readonly where: Group | null
  /** By which the moments are found that passed lately; set where `where` is not. */
  readonly clock: ClockTrigger | null
}

/** The triggers of a rule in which records stand; none where it has none, or they are not finished. */
export function standsOf(
  { object, triggers, conditions }: Pick<RuleDocument, 'object' | 'triggers' | 'conditions'>,
  catalogue: Catalogue,
): readonly Stands[] {
  const names = { catalogue, object }
  return triggers.flatMap(({ id, kind, params }): Stands[] => {
    const trigger = TRIGGERS[kind]
    const standing: Standing | null = trigger.check(params, names).length > 0 ? null : trigger.stands(params, names)
    if (!standing) return []
    const clock = standing.where === null ? trigger.clock(params, names, conditions) : null
    return standing.where === null && clock === null ? [] : [{ triggerId: id, ...standing, clock }]
  })
}

/** The records that stand in one of them and meet the conditions, as far as conditions can say it; `null` for none. */
export function standingGroup(conditions: Group, stands: readonly Stands[]): Group | null {
  const items = stands.flatMap(({ where }) => where ?? [])
  if (items.length === 0) return null
  const any: Group = { kind: 'group', id: 'standing', mode: 'any', items }
  return { kind: 'group', id: 'through', mode: 'all', items: [conditions, any] }
}
