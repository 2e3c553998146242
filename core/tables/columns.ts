import { outputKey, type DecisionTable, type TableOutput } from './table'

type Input = DecisionTable['inputs'][number]

const replaced = <T>(list: readonly T[], at: number, by: T): readonly T[] => list.map((one, i) => (i === at ? by : one))
const without = <T>(list: readonly T[], at: number): readonly T[] => list.filter((_, i) => i !== at)

/** One more input at the end; every row takes any value of it. */
export const withInput = (table: DecisionTable, input: Input): DecisionTable => ({
  ...table,
  inputs: [...table.inputs, input],
  rows: table.rows.map((row) => ({ ...row, when: [...row.when, { is: 'any' }] })),
})

/** Another field in place of an input; what the rows asked of the old one is dropped. */
export const withInputAt = (table: DecisionTable, at: number, input: Input): DecisionTable => ({
  ...table,
  inputs: replaced(table.inputs, at, input),
  rows: table.rows.map((row) => ({ ...row, when: replaced(row.when, at, { is: 'any' }) })),
})

export const withoutInput = (table: DecisionTable, at: number): DecisionTable => ({
  ...table,
  inputs: without(table.inputs, at),
  rows: table.rows.map((row) => ({ ...row, when: without(row.when, at) })),
})

/** One more result at the end, named and keyed so that it is told apart from the others; empty in every row. */
export function withOutput(table: DecisionTable): DecisionTable {
  const label = table.outputs.length === 0 ? 'Result' : `Result ${table.outputs.length + 1}`
  const key = outputKey(
    label,
    table.outputs.map((one) => one.key),
  )
  return {
    ...table,
    outputs: [...table.outputs, { key, label, type: 'text' }],
    rows: table.rows.map((row) => ({ ...row, then: [...row.then, null] })),
  }
}

export const withoutOutput = (table: DecisionTable, at: number): DecisionTable => ({
  ...table,
  outputs: without(table.outputs, at),
  rows: table.rows.map((row) => ({ ...row, then: without(row.then, at) })),
})

/** A result of another name. Its key follows, unless `keepsKey`: then something further down uses it. */
export function withOutputNamed(table: DecisionTable, at: number, label: string, keepsKey: boolean): DecisionTable {
  const others = without(table.outputs, at).map((one) => one.key)
  return {
    ...table,
    outputs: table.outputs.map((one, i) =>
      i === at ? { ...one, label, key: keepsKey ? one.key : outputKey(label, others) } : one,
    ),
  }
}

/** A result of another type; what the rows held for it does not fit and is dropped. */
export const withOutputTyped = (table: DecisionTable, at: number, type: TableOutput['type']): DecisionTable => ({
  ...table,
  outputs: table.outputs.map((one, i) => (i === at ? { ...one, type } : one)),
  rows: table.rows.map((row) => ({ ...row, then: replaced(row.then, at, null) })),
})
