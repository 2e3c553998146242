import type { Catalogue } from '../fields/catalogue'
import { isForeign } from '../money/worth'
import type { ObjectKind } from '../records/kinds'
import type { Group } from './document'
import { OPERATORS } from './operators'

/** A field that must hold one of these compared forms, or the group does not hold. */
export interface Equality {
  readonly field: string
  readonly keys: readonly (string | number)[]
}

/**
 * What must be equal for a group to hold: the plain (not negated) questions for equality at the top of an "all" group.
 * Necessary, never sufficient.
 */
export function equalitiesOf(group: Group, object: ObjectKind, catalogue: Catalogue): readonly Equality[] {
  if (group.mode !== 'all') return []
  return group.items.flatMap((item): Equality[] => {
    if (item.kind !== 'condition' || item.not || item.at) return []
    const field = catalogue.field(object, item.field)
    const keys =
      // What an amount is worth is not what the record holds.
      field && !isForeign(field) && OPERATORS[item.op].types.includes(field.type)
        ? OPERATORS[item.op].keys(item.params, field, catalogue)
        : null
    return field && keys && keys.length > 0 ? [{ field: field.key, keys }] : []
  })
}
