import type { Condition, Group } from '../../core/conditions/document'
import type { OperatorName } from '../../core/conditions/operator-names'

/** Questions that the server itself asks of records. */
export const condition = (field: string, op: OperatorName, params: object): Condition => ({
  kind: 'condition',
  id: `own-${field}`,
  field,
  op,
  not: false,
  params,
})
export const all = (...items: readonly Condition[]): Group => ({ kind: 'group', id: 'own', mode: 'all', items })
