import type { Operator } from '../operator'
import { OPERATOR_NAMES, type OperatorName } from '../operator-names'
import { contains, includes } from './contains'
import { after, before, farAhead, inLast, inNext, longAgo, within } from './dates'
import { is } from './is'
import { isAnyOf } from './is-any-of'
import { isEmpty } from './is-empty'
import { between, lessThan, moreThan } from './more-and-less'
import { aboveField, belowField, earlierThan, laterThan, sameAs } from './another-field'
import { standing } from './standing'
import type { FieldTypeName } from '../../language/field-types'

/** By name. A name without its operator does not compile, nor the other way round. */
export const OPERATORS: { readonly [K in OperatorName]: Operator<K> } = {
  is,
  isAnyOf,
  standing,
  contains,
  includes,
  moreThan,
  lessThan,
  between,
  within,
  inNext,
  inLast,
  longAgo,
  farAhead,
  before,
  after,
  sameAs,
  aboveField,
  belowField,
  earlierThan,
  laterThan,
  isEmpty,
}

/** Dates are asked relatively first; a fixed day is hardly ever what is meant. */
export const operatorsFor = (type: FieldTypeName): readonly OperatorName[] => {
  const fit = OPERATOR_NAMES.filter((op) => OPERATORS[op].types.includes(type))
  return type === 'date' ? [...fit.filter((op) => op !== 'is'), 'is'] : fit
}
