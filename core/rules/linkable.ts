import type { Names } from '../fields/names'
import type { ObjectKind } from '../records/kinds'
import { isEitherWayLinkable } from '../records/record'
import type { StepProblem } from './step'

/** What is wrong with a kind of record that something is to be linked to. */
export function checkLinkable(to: ObjectKind | null, { object }: Names): readonly StepProblem[] {
  if (to === null) return [{ param: 'to', problem: { code: 'missing', what: 'recordType' } }]
  return isEitherWayLinkable(object, to) ? [] : [{ param: 'to', problem: { code: 'notLinked', object, to } }]
}
