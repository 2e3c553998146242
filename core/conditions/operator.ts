import type { z } from 'zod'
import type { Catalogue } from '../fields/catalogue'
import type { Field } from '../fields/field'
import type { Value } from '../language/value'
import type { Problem } from '../language/problems'
import type { Form } from '../language/widgets'
import { predicateOf, type Reading } from './reading'
import type { SentencePart } from '../language/sentence'
import type { Moment, Test } from './moment'
import type { FieldTypeName } from '../language/field-types'

export interface OperatorExample<P> {
  readonly type: FieldTypeName
  readonly value: Value
  readonly params: P
  readonly holds: boolean
}

/**
 * One question that can be asked of a field. What empty means is decided once for all of them: an empty value
 * answers every question with no, except "is empty"; `not` then turns the answer round, so "is not hire" holds
 * for a record that has nothing there.
 */
export interface OperatorSpec<K extends string, P extends object> {
  readonly op: K
  readonly types: readonly FieldTypeName[]
  /** "is more than", and its negation "is not more than". */
  readonly words: readonly [plain: string, negated: string]
  readonly params: z.ZodType<P>
  readonly form: Form<P>
  /** What a new condition begins with; what is still to be chosen is `null`. */
  readonly start: P
  /** What follows the words where operators are listed, when two would read alike: "is" an open, won or lost stage. */
  readonly listed?: string
  /** What follows the operator's words. */
  sentence(params: P, field: Field, catalogue: Catalogue): readonly SentencePart[]
  /** What in finished params does not fit the field or has gone since. */
  wrong?(
    params: P,
    field: Field,
    catalogue: Catalogue,
  ): { readonly param: keyof P & string; readonly problem: Problem } | null
  /** The names of params that must still be chosen. */
  missing(params: P): readonly (keyof P & string)[]
  /** What it comes to: at any time, when it does not hang on the day. One of `read` and `readOn` is there. */
  read?(params: P, field: Field, catalogue: Catalogue): Reading
  /** What it comes to on the day of the moment. */
  readOn?(params: P, field: Field, moment: Moment, catalogue: Catalogue): Reading
  readonly asksEmpty?: true
  /** How far off a value is, in words, when it fails: "€100 below the limit". */
  distance?(value: Value, params: P, field: Field, catalogue: Catalogue): string | null
  readonly examples: readonly [OperatorExample<P>, ...OperatorExample<P>[]]
}

/** The same, with the params' own type closed over, so that all operators fit one table. */
export interface Operator<K extends string = string> {
  readonly op: K
  readonly types: readonly FieldTypeName[]
  readonly words: readonly [string, string]
  readonly listed?: string | undefined
  readonly params: z.ZodType<object>
  readonly form: Form<Record<string, unknown>>
  readonly start: object
  readonly asksEmpty: boolean
  /** Whether the answer can be another one on another day. */
  readonly byDay: boolean
  sentence(params: object, field: Field, catalogue: Catalogue): readonly SentencePart[]
  missing(params: object): readonly string[]
  wrong(
    params: object,
    field: Field,
    catalogue: Catalogue,
  ): { readonly param: string; readonly problem: Problem } | null
  /** Compiled once for a rule's version; `value` is never empty, but for "is empty". */
  compile(params: object, field: Field, catalogue: Catalogue): Test
  read(params: object, field: Field, moment: Moment, catalogue: Catalogue): Reading
  /** The compared forms of which the value must have one; `null` when the answer does not hang on equality. */
  keys(params: object, field: Field, catalogue: Catalogue): readonly (string | number)[] | null
  distance(value: Value, params: object, field: Field, catalogue: Catalogue): string | null
  readonly examples: readonly OperatorExample<object>[]
}

/**
 * The one place where an operator's params lose their type. Sound, because documents are checked by the union of
 * the same `params` schemas before anything else sees them.
 */
export const defineOperator = <const K extends string, P extends object>(spec: OperatorSpec<K, P>): Operator<K> => {
  const read = (params: object, field: Field, moment: Moment, catalogue: Catalogue): Reading => {
    const reading = spec.read?.(params as P, field, catalogue) ?? spec.readOn?.(params as P, field, moment, catalogue)
    if (!reading) throw new Error(`the operator ${spec.op} says nothing`)
    return reading
  }
  const made: Operator<K> = {
    op: spec.op,
    types: spec.types,
    words: spec.words,
    listed: spec.listed,
    params: spec.params,
    form: spec.form as Form<Record<string, unknown>>,
    start: spec.start,
    asksEmpty: spec.asksEmpty ?? false,
    byDay: spec.readOn !== undefined,
    sentence: (params, field, catalogue) => spec.sentence(params as P, field, catalogue),
    missing: (params) => spec.missing(params as P),
    wrong: (params, field, catalogue) => spec.wrong?.(params as P, field, catalogue) ?? null,
    read,
    compile(params, field, catalogue) {
      if (spec.read) return predicateOf(spec.read(params as P, field, catalogue), field, catalogue)
      // The edges move once a day, not once a record.
      let today = ''
      let test: Test = () => false
      return (value, moment, subject) => {
        if (moment.today !== today) {
          today = moment.today
          test = predicateOf(read(params, field, moment, catalogue), field, catalogue)
        }
        return test(value, moment, subject)
      }
    },
    keys(params, field, catalogue) {
      const reading = spec.read?.(params as P, field, catalogue)
      return reading?.is === 'oneOf' ? reading.keys : null
    },
    distance: (value, params, field, catalogue) => spec.distance?.(value, params as P, field, catalogue) ?? null,
    examples: spec.examples,
  }
  return Object.freeze(made)
}
