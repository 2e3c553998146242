import type { Catalogue } from '../fields/catalogue'
import type { Field } from '../fields/field'
import { PLAIN_STYLE } from '../fields/kind'
import { FIELD_TYPES } from '../fields/types'
import { bad, good, type Result } from '../language/problems'
import type { Value } from '../language/value'

/** A value in the form in which a field keeps it, or why it does not fit. */
export function fit(value: Value, field: Field, catalogue: Catalogue): Result<Value> {
  if (value === null) return good(null)
  const whole = field.type === 'dateTime' && typeof value === 'number' ? Math.round(value) : value
  const read = FIELD_TYPES[field.type].accept(whole, { catalogue, field, style: PLAIN_STYLE, pipelineId: null })
  return read.ok ? good(read.value) : bad(read.problem)
}

/** The same for a field that is worked out: it shows nothing where it does not fit. */
export function fitted(value: Value, field: Field, catalogue: Catalogue): Value {
  const read = fit(value, field, catalogue)
  return read.ok ? read.value : null
}
