import type { PlacedProblem } from '../language/problems'
import { compileGroup, type CompiledGroup } from '../conditions/compile'
import type { Catalogue } from '../fields/catalogue'
import { FIELD_TYPES } from '../fields/types'
import { isEmpty, type Value } from '../language/value'
import { worthIn } from '../money/worth'
import { OBJECT_WORDS, type ObjectKind } from '../records/kinds'
import { isEitherWayLinkable } from '../records/record'
import { subjectOf, type LinkedRecord, type Around } from '../records/subject'
import { sayGroup } from '../conditions/compile'
import type { RollUp } from './making'
import { fieldWord } from '../fields/say-value'
import type { Moment } from '../conditions/moment'
import type { FieldTypeName } from '../language/field-types'

/** Sums are kept to six digits, as numbers are: in which order they are added makes no difference then. */
const sixDigits = (value: number): number => Number(value.toFixed(6)) + 0

/**
 * What a roll-up comes to over linked records. Empty values count for nothing; over nothing at all it is empty, but for
 * a count. Amounts are added up and compared in the workspace's currency; one without a rate counts for nothing.
 */
export function rollUp(
  spec: RollUp,
  where: CompiledGroup,
  records: readonly LinkedRecord[],
  around: Around,
  moment: Moment,
  catalogue: Catalogue,
): Value {
  const { what, over, field: key, order: orderKey, down } = spec
  const field = key === null ? null : catalogue.field(over, key)
  const order = orderKey === null ? null : catalogue.field(over, orderKey)
  const counted = records
    .filter(({ record }) => where.test(subjectOf(record, around), moment))
    .map(({ record }) => record)
  if (what === 'count') return counted.length
  if (field === null) return null
  const worth = worthIn(field, catalogue)
  if (what === 'first') {
    const by = order && worthIn(order, catalogue)
    const ordered = counted
      .map((record) => ({ record, by: by ? by(record.values) : null }))
      .filter((one) => by === null || !isEmpty(one.by))
      .sort(
        (a, b) =>
          (by === null ? 0 : compare(a.by, b.by) * (down ? -1 : 1)) ||
          (by === null && down ? b.record.id - a.record.id : a.record.id - b.record.id),
      )
    return ordered[0] ? worth(ordered[0].record.values) : null
  }
  const values = counted.flatMap((record): (string | number)[] => {
    const value = worth(record.values)
    return typeof value === 'string' || typeof value === 'number' ? [value] : []
  })
  if (values.length === 0) return null
  if (what === 'sum') return sixDigits(values.reduce<number>((sum, value) => sum + Number(value), 0))
  const sign = what === 'least' || what === 'earliest' ? 1 : -1
  return values.reduce((best, value) => (compare(value, best) * sign < 0 ? value : best))
}

const compare = (a: Value, b: Value): number =>
  (a as number) < (b as number) ? -1 : (a as number) > (b as number) ? 1 : 0

/** The type of field that holds a roll-up; `null` where it makes no sense. */
export function rollUpType({ over, what, field: key }: RollUp, catalogue: Catalogue): FieldTypeName | null {
  if (what === 'count') return 'number'
  const field = key === null ? null : catalogue.field(over, key)
  if (!field) return null
  const isNumber = FIELD_TYPES[field.type].widget === 'number'
  const isDate = field.type === 'date' || field.type === 'dateTime'
  if (what === 'sum') return field.type === 'percent' ? null : isNumber ? field.type : null
  if (what === 'least' || what === 'most') return isNumber ? field.type : null
  if (what === 'earliest' || what === 'latest') return isDate ? field.type : null
  return field.type === 'choices' || field.type === 'pipeline' ? null : field.type
}

/** What keeps a roll-up from being kept; `null` when nothing does. */
export function rollUpProblem(spec: RollUp, object: ObjectKind, catalogue: Catalogue): PlacedProblem | null {
  if (!isEitherWayLinkable(object, spec.over))
    return { path: 'over', problem: { code: 'rollUpOver', object, over: spec.over } }
  const order = spec.order === null ? null : catalogue.field(spec.over, spec.order)
  if (spec.what === 'first' && spec.order !== null && !(order && FIELD_TYPES[order.type].ordered))
    return { path: 'order', problem: { code: 'sortable' } }
  if (rollUpType(spec, catalogue) === null)
    return {
      path: 'field',
      problem: spec.field === null ? { code: 'chooseField' } : { code: 'rollUpOf', what: ROLL_UP_WORDS[spec.what] },
    }
  return null
}

export const ROLL_UP_WORDS: { readonly [K in RollUp['what']]: string } = {
  count: 'number of',
  sum: 'total',
  least: 'lowest',
  most: 'highest',
  earliest: 'earliest',
  latest: 'latest',
  first: 'first',
}

/** "the total amount of its deals where the stage is Signed". */
export function sayRollUp(spec: RollUp, catalogue: Catalogue): string {
  const many = OBJECT_WORDS[spec.over].many
  const field = fieldWord(spec.field === null ? null : catalogue.field(spec.over, spec.field)) ?? '…'
  const order =
    spec.order === null
      ? spec.down
        ? 'newest'
        : 'oldest'
      : `${spec.down ? 'highest' : 'lowest'} by ${fieldWord(catalogue.field(spec.over, spec.order)) ?? '…'}`
  const said =
    spec.what === 'count'
      ? `the number of its ${many}`
      : spec.what === 'first'
        ? `the ${field} of the ${order} of its ${many}`
        : `the ${ROLL_UP_WORDS[spec.what]} ${field} of its ${many}`
  return spec.where.items.length === 0 ? said : `${said} where ${sayGroup(spec.where, spec.over, catalogue, 'the')}`
}

export const compileWhere = (spec: RollUp, catalogue: Catalogue): CompiledGroup =>
  compileGroup(spec.where, spec.over, catalogue)
