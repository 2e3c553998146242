import { checkAsk } from '../../core/conditions/asks'
import { placedAsks, placedConditions, type Group } from '../../core/conditions/document'
import type { Catalogue } from '../../core/fields/catalogue'
import type { ObjectKind } from '../../core/records/kinds'
import { RefusedError } from './workspace'

/** Refuses conditions about fields and segments that are not there, and formulas that are not true or false. */
export function refuseUnknown(group: Group, object: ObjectKind, catalogue: Catalogue, path = 'where'): void {
  const unknown = placedConditions(group, object).find(
    ({ condition, object: of }) => !catalogue.field(of, condition.field),
  )
  if (unknown)
    throw new RefusedError([
      { path: `${path}.${unknown.condition.id}`, problem: { code: 'unknownField', field: unknown.condition.field } },
    ])
  for (const { ask, object: of } of placedAsks(group, object)) {
    const wrong = checkAsk(ask, of, catalogue)
    if (wrong) throw new RefusedError([{ path: `${path}.${ask.id}.${wrong.param}`, problem: wrong.problem }])
  }
}
