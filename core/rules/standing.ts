import type { Condition, Group } from '../conditions/document'
import type { OperatorName } from '../conditions/operator-names'
import { OPERATORS } from '../conditions/operators'
import type { Field } from '../fields/field'

/**
 * What stands already in what a trigger watches: the records that it would have started the rule for, had it been on.
 * Running a rule for existing records takes these and no others.
 */
export interface Standing {
  /** What such a record holds; `null` where its moment passed lately, which the clock of the trigger knows. */
  readonly where: Group | null
  /** "in Quoted", behind the word for records: "30 deals in Quoted". */
  readonly say: string
}

const group = (id: string, ...items: Group['items']): Group => ({ kind: 'group', id, mode: 'all', items })

/** Those that a question about one field is true for; `null` where such a field cannot be asked that. */
export function standsBy(
  field: Field,
  op: OperatorName,
  params: object,
  { not = false, say }: { readonly not?: boolean; readonly say: string },
): Standing | null {
  if (!OPERATORS[op].types.includes(field.type)) return null
  const condition: Condition = { kind: 'condition', id: 'stands', field: field.key, op, not, params }
  // A negated question is also true for what is empty.
  const filled: Condition = { ...condition, id: 'filled', op: 'isEmpty', not: true, params: {} }
  return { where: group('stands', condition, ...(not && op !== 'isEmpty' ? [filled] : [])), say }
}

/** Those that meet conditions of their own, as a segment has them. */
export const standsWhere = (where: Group, say: string): Standing => ({ where, say })
