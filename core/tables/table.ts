import { z } from 'zod'
import type { Catalogue } from '../fields/catalogue'
import type { Field } from '../fields/field'
import { FIELD_TYPES } from '../fields/types'
import { isEmpty, type Value, zValue } from '../language/value'
import { OBJECTS, type ObjectKind } from '../records/kinds'

/**
 * Decision tables after the OMG's Decision Model and Notation (DMN 1.3, chapter 8): rows of tests on inputs, each
 * giving outputs. Tests are kept as data with their borders said out loud, not as texts.
 */

export const INPUTS_MOST = 8
export const OUTPUTS_MOST = 8
export const ROWS_MOST = 200

/** A field of the record, of its main linked one (`via`), or a result of a step before. */
export interface TableInput {
  readonly via: ObjectKind | null
  readonly field: string
}

export const OUTPUT_TYPES = ['text', 'number', 'yesNo'] as const
export interface TableOutput {
  /** How steps further down name it; letters and digits, permanent. */
  readonly key: string
  readonly label: string
  readonly type: (typeof OUTPUT_TYPES)[number]
}

/** What one row asks of one input. */
export type Cell =
  | { readonly is: 'any' }
  | { readonly is: 'empty' }
  /** Anything but empty. */
  | { readonly is: 'filled' }
  | {
      readonly is: 'values'
      readonly values: readonly Value[]
      /** None of them; an empty input is none of them either. */ readonly not: boolean
    }
  /** From and to; `null` is without end. The borders belong to it where they say so. */
  | {
      readonly is: 'band'
      readonly from: number | string | null
      readonly fromIn: boolean
      readonly to: number | string | null
      readonly toIn: boolean
    }

export interface TableRow {
  readonly id: string
  readonly when: readonly Cell[]
  readonly then: readonly Value[]
}

/** DMN's hit policies that are covered: one row at most may fit, the first that fits, or all that fit. */
export const HIT_POLICIES = ['unique', 'first', 'collect'] as const
export type HitPolicy = (typeof HIT_POLICIES)[number]
/** What "all that fit" comes to. */
export const AGGREGATIONS = ['list', 'sum', 'min', 'max', 'count'] as const
export type Aggregation = (typeof AGGREGATIONS)[number]

export interface DecisionTable {
  readonly hit: HitPolicy
  /** Only for `collect`; `list` elsewhere. */
  readonly collect: Aggregation
  readonly inputs: readonly TableInput[]
  readonly outputs: readonly TableOutput[]
  readonly rows: readonly TableRow[]
}

const zBorder = z.union([z.number(), z.string().max(100)]).nullable()
const zCell: z.ZodType<Cell> = z.discriminatedUnion('is', [
  z.strictObject({ is: z.literal('any') }),
  z.strictObject({ is: z.literal('empty') }),
  z.strictObject({ is: z.literal('filled') }),
  z.strictObject({ is: z.literal('values'), values: z.array(zValue).min(1).max(200), not: z.boolean() }),
  z.strictObject({ is: z.literal('band'), from: zBorder, fromIn: z.boolean(), to: zBorder, toIn: z.boolean() }),
])

/** The shape of a table; whether its cells fit their fields is checked with the catalogue at hand. */
export const zTable: z.ZodType<DecisionTable> = z
  .strictObject({
    hit: z.enum(HIT_POLICIES),
    collect: z.enum(AGGREGATIONS),
    inputs: z
      .array(z.strictObject({ via: z.enum(OBJECTS).nullable(), field: z.string().min(1).max(100) }))
      .max(INPUTS_MOST),
    outputs: z
      .array(
        z.strictObject({
          key: z.string().regex(/^[A-Za-z][A-Za-z\d]{0,39}$/),
          label: z.string().trim().min(1).max(100),
          type: z.enum(OUTPUT_TYPES),
        }),
      )
      .max(OUTPUTS_MOST),
    rows: z
      .array(z.strictObject({ id: z.string().min(1).max(40), when: z.array(zCell), then: z.array(zValue) }))
      .max(ROWS_MOST),
  })
  .superRefine((table, context) => {
    table.rows.forEach((row, i) => {
      if (row.when.length !== table.inputs.length)
        context.addIssue({
          code: 'custom',
          path: ['rows', i, 'when'],
          message: `Row has ${row.when.length} cells for ${table.inputs.length} inputs.`,
        })
      if (row.then.length !== table.outputs.length)
        context.addIssue({
          code: 'custom',
          path: ['rows', i, 'then'],
          message: `Row has ${row.then.length} values for ${table.outputs.length} results.`,
        })
    })
    const keys = table.outputs.map((output) => output.key)
    const double = keys.find((key, i) => keys.indexOf(key) !== i)
    if (double !== undefined)
      context.addIssue({ code: 'custom', path: ['outputs'], message: `Result “${double}” is used twice.` })
    const ids = table.rows.map((row) => row.id)
    const twice = ids.find((id, i) => ids.indexOf(id) !== i)
    if (twice !== undefined)
      context.addIssue({ code: 'custom', path: ['rows'], message: `Row “${twice}” is used twice.` })
  })

export const EMPTY_TABLE: DecisionTable = { hit: 'unique', collect: 'list', inputs: [], outputs: [], rows: [] }

/** How an input is tested: by bands, or by values. `null` for fields that cannot be. */
export function testedBy(field: Field): 'band' | 'values' | null {
  switch (FIELD_TYPES[field.type].widget) {
    case 'number':
    case 'date':
      return 'band'
    case 'yesNo':
    case 'choice':
    case 'stage':
    case 'person':
    case 'pipeline':
    case 'text':
      return 'values'
    case 'longText':
    case 'dateTime':
    case 'choices':
      return null
  }
}

export const inputField = (input: TableInput, object: ObjectKind, catalogue: Catalogue): Field | null =>
  catalogue.field(input.via ?? object, input.field)

/** Whether a value passes a test. Equality is that of conditions: by the compared form, synonyms included. */
export function passes(cell: Cell, value: Value, field: Field, catalogue: Catalogue): boolean {
  switch (cell.is) {
    case 'any':
      return true
    case 'empty':
      return isEmpty(value)
    case 'filled':
      return !isEmpty(value)
    case 'values': {
      if (isEmpty(value)) return cell.not
      const form = catalogue.compared(field, value)
      return cell.values.some((one) => !isEmpty(one) && catalogue.compared(field, one) === form) !== cell.not
    }
    case 'band': {
      if (typeof value !== 'number' && typeof value !== 'string') return false
      if (cell.from !== null && !(cell.fromIn ? value >= cell.from : value > cell.from)) return false
      return cell.to === null || (cell.toIn ? value <= cell.to : value < cell.to)
    }
  }
}

/** The rows that fit, by their places from 0. */
export const fittingRows = (
  table: DecisionTable,
  values: readonly Value[],
  fields: readonly Field[],
  catalogue: Catalogue,
): readonly number[] =>
  table.rows.flatMap((row, i) =>
    row.when.every((cell, at) => {
      const field = fields[at]
      return field !== undefined && passes(cell, values[at] ?? null, field, catalogue)
    })
      ? [i]
      : [],
  )

export type Decision =
  /** `rows` are the places of those that gave the result. */
  | { readonly ok: true; readonly rows: readonly number[]; readonly values: readonly Value[] }
  | { readonly ok: false; readonly why: 'none' }
  | { readonly ok: false; readonly why: 'several'; readonly rows: readonly number[] }

/** What the table comes to for the values of its inputs, in their order. */
export function decide(
  table: DecisionTable,
  values: readonly Value[],
  fields: readonly Field[],
  catalogue: Catalogue,
): Decision {
  const fitting = fittingRows(table, values, fields, catalogue)
  const [first] = fitting
  if (first === undefined) return { ok: false, why: 'none' }
  if (table.hit === 'unique' && fitting.length > 1) return { ok: false, why: 'several', rows: fitting }
  if (table.hit !== 'collect') return { ok: true, rows: [first], values: table.rows[first]?.then ?? [] }
  return {
    ok: true,
    rows: fitting,
    values: table.outputs.map((output, at) =>
      gather(
        table.collect,
        output,
        fitting.map((row) => table.rows[row]?.then[at] ?? null),
      ),
    ),
  }
}

/** Several results as one; what cannot be reckoned with is passed over. */
function gather(how: Aggregation, output: TableOutput, values: readonly Value[]): Value {
  const there = values.filter((value) => !isEmpty(value))
  const numbers = there.filter((value) => typeof value === 'number')
  switch (how) {
    case 'count':
      return there.length
    case 'sum':
      return numbers.length === 0 ? null : numbers.reduce((sum, one) => sum + one, 0)
    case 'min':
      return numbers.length === 0 ? null : Math.min(...numbers)
    case 'max':
      return numbers.length === 0 ? null : Math.max(...numbers)
    case 'list':
      return output.type === 'text' ? there.map(String).join(', ') || null : (there[0] ?? null)
  }
}

/** A key by which steps further down name an output, from what people call it. */
export function outputKey(name: string, taken: readonly string[]): string {
  const words = name
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .split(/[^A-Za-z\d]+/)
    .filter(Boolean)
  const joined = words
    .map((word, i) =>
      i === 0 ? word.charAt(0).toLowerCase() + word.slice(1) : word.charAt(0).toUpperCase() + word.slice(1),
    )
    .join('')
  const base = (/^[A-Za-z]/.test(joined) ? joined : `result${joined}`).slice(0, 36)
  if (!taken.includes(base)) return base
  let n = 2
  while (taken.includes(`${base}${n}`)) n++
  return `${base}${n}`
}
