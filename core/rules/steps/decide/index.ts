import { listOf, nounOf } from '../../../language/counts'
import { z } from 'zod'
import { sayWorth } from '../../../money/say'
import { worthIn } from '../../../money/worth'
import type { Field } from '../../../fields/field'
import { PLAIN_STYLE } from '../../../fields/kind'
import { FIELD_TYPES } from '../../../fields/types'
import { isEmpty, type Value } from '../../../language/value'
import { mainKinds } from '../../../conditions/operators/another-field'
import type { Problem } from '../../../language/problems'
import {
  decide as decideBy,
  EMPTY_TABLE,
  inputField,
  testedBy,
  zTable,
  type DecisionTable,
  type TableOutput,
} from '../../../tables/table'
import { defineStep } from '../../step'
import { say, word } from '../../../language/sentence'
import { OBJECTS, oneOf } from '../../../records/kinds'
import type { Names } from '../../../fields/names'
import { fieldWord } from '../../../fields/say-value'
import type { ResultSpec } from '../../result-spec'

interface Params {
  table: DecisionTable
}

/** An input in words: "amount", "the company's fit tier". */
export const sayInput = (field: Field | null, via: DecisionTable['inputs'][number]['via']): string =>
  `${via === null ? '' : `the ${oneOf(via)}’s `}${fieldWord(field) ?? '…'}`

/** The fields of the inputs; `null` in place of those that have gone. */
export const inputFields = (table: DecisionTable, { catalogue, object }: Names): readonly (Field | null)[] =>
  table.inputs.map((input) => inputField(input, object, catalogue))

/** What an output is to the steps further down: a text of which all values are known can be gone by path. */
function resultOf(output: TableOutput, at: number, table: DecisionTable): ResultSpec {
  const counted = table.hit === 'collect' && table.collect !== 'list'
  if (counted || output.type === 'number') return { key: output.key, label: output.label, type: 'number' }
  if (output.type === 'yesNo') return { key: output.key, label: output.label, type: 'yesNo' }
  const values = [...new Set(table.rows.flatMap((row) => (typeof row.then[at] === 'string' ? [row.then[at]] : [])))]
  return table.hit === 'collect'
    ? { key: output.key, label: output.label, type: 'text' }
    : { key: output.key, label: output.label, type: 'choice', choices: values.map((id) => ({ id, label: id })) }
}

const fitsOutput = (value: Value, { type }: TableOutput): boolean =>
  isEmpty(value) ||
  (type === 'text'
    ? typeof value === 'string'
    : type === 'number'
      ? typeof value === 'number'
      : typeof value === 'boolean')

function checkTable(table: DecisionTable, names: Names): Problem | null {
  const { catalogue, object } = names
  if (table.inputs.length === 0) return { code: 'missing', what: 'input' }
  if (table.outputs.length === 0) return { code: 'missing', what: 'result' }
  if (table.rows.length === 0) return { code: 'missing', what: 'row' }
  for (const [at, input] of table.inputs.entries()) {
    const field = inputField(input, object, catalogue)
    if (!field) return { code: 'unknownField', field: input.field }
    if (input.via !== null && !mainKinds(object).includes(input.via)) return { code: 'noMain', object, to: input.via }
    if (testedBy(field) === null) return { code: 'wrongType', type: FIELD_TYPES[field.type].word }
    for (const [i, row] of table.rows.entries()) {
      const cell = row.when[at]
      const values =
        cell?.is === 'values'
          ? cell.values
          : cell?.is === 'band'
            ? [cell.from, cell.to].filter((one) => one !== null)
            : []
      if (cell?.is === 'band' && testedBy(field) !== 'band') return { code: 'noOrder', row: i + 1, field: field.label }
      for (const value of values) {
        const read = FIELD_TYPES[field.type].accept(value, { catalogue, field, style: PLAIN_STYLE, pipelineId: null })
        if (!read.ok) return { code: 'notInColumn', row: i + 1, raw: String(value), type: FIELD_TYPES[field.type].word }
      }
    }
  }
  for (const [i, row] of table.rows.entries()) {
    const at = row.then.findIndex(
      (value, n) => !fitsOutput(value, table.outputs[n] ?? { key: '', label: '', type: 'text' }),
    )
    if (at >= 0)
      return {
        code: 'notInColumn',
        row: i + 1,
        raw: String(row.then[at]),
        type: FIELD_TYPES[table.outputs[at]?.type ?? 'text'].word,
      }
  }
  return null
}

export const sayOutput = (value: Value): string =>
  isEmpty(value) ? '–' : typeof value === 'boolean' ? (value ? 'yes' : 'no') : String(value)

const THANKS: DecisionTable = {
  hit: 'unique',
  collect: 'list',
  inputs: [{ via: null, field: 'amount' }],
  outputs: [{ key: 'thanks', label: 'Thanks', type: 'text' }],
  rows: [
    { id: 'r1', when: [{ is: 'band', from: null, fromIn: false, to: 10_000, toIn: false }], then: ['card'] },
    { id: 'r2', when: [{ is: 'band', from: 10_000, fromIn: true, to: null, toIn: false }], then: ['hamper'] },
  ],
}
const row = (id: string, then: string): DecisionTable['rows'][number] => ({ id, when: [{ is: 'any' }], then: [then] })

/** Looks something up in a decision table; what it finds is used by the steps further down. */
export const decide = defineStep<'decide', Params>({
  kind: 'decide',
  category: 'data',
  does: 'decide by a table',
  alsoCalled: ['decision table', 'DMN', 'matrix', 'bands', 'look up', 'lookup', 'tiers', 'size'],
  objects: OBJECTS,
  params: z.strictObject({ table: zTable }),
  form: { table: { widget: 'table' } },
  start: { table: EMPTY_TABLE },
  sentence({ table }, names) {
    const fields = inputFields(table, names)
    const given = listOf(table.outputs.map((output) => output.label))
    const looked = listOf(table.inputs.map((input, i) => sayInput(fields[i] ?? null, input.via)))
    return [say('decide '), word('table', given && looked ? `${given} by ${looked}` : null, 'by a table')]
  },
  check({ table }, names) {
    const problem = checkTable(table, names)
    return problem ? [{ param: 'table', problem }] : []
  },
  gives: ({ table }) => table.outputs.map((output, at) => resultOf(output, at, table)),
  run({ table }, { catalogue, record, related }) {
    const fields = inputFields(table, { catalogue, object: record.object })
    const gone = fields.findIndex((field) => field === null)
    if (gone >= 0) return { go: 'fail', reason: { code: 'unknownField', field: table.inputs[gone]?.field ?? '' } }
    const known = fields.filter((field) => field !== null)
    const from = table.inputs.map((input) => (input.via === null ? record : related(input.via)))
    // Bands and limits are in the workspace's currency.
    const values = known.map((field, i) => worthIn(field, catalogue)(from[i]?.values ?? {}))
    const saw = known
      .map(
        (field, i) =>
          `${sayInput(field, table.inputs[i]?.via ?? null)} ${sayWorth(field, from[i]?.values ?? {}, catalogue)}`,
      )
      .join(', ')
    const decision = decideBy(table, values, known, catalogue)
    if (!decision.ok) {
      return decision.why === 'none'
        ? { go: 'skip', reason: { code: 'noRow', saw } }
        : {
            go: 'fail',
            reason: {
              code: 'severalRows',
              rows: decision.rows.map((i) => i + 1),
              saw,
            },
          }
    }
    const gives = Object.fromEntries(table.outputs.map((output, i) => [output.key, decision.values[i] ?? null]))
    const rows = decision.rows.map((i) => i + 1)
    return {
      go: 'on',
      effects: [],
      gives,
      say: `${table.outputs.map((output, i) => `${output.label}: ${sayOutput(decision.values[i] ?? null)}`).join(', ')} (${nounOf(rows.length, 'row')} ${rows.join(', ')}: ${saw})`,
    }
  },
  examples: [
    {
      say: 'gives what the row says',
      params: { table: THANKS },
      record: { amount: 10_000 },
      expect: { go: 'on', gives: { thanks: 'hamper' }, say: 'Thanks: hamper (row 2: amount €10,000)' },
    },
    {
      say: 'is skipped when no row fits',
      params: { table: THANKS },
      record: { amount: null },
      expect: { go: 'skip', reason: { code: 'noRow', saw: 'amount empty' } },
    },
    {
      say: 'fails when two rows fit and only one may',
      params: { table: { ...THANKS, rows: [row('r1', 'card'), row('r2', 'hamper')] } },
      record: { amount: 5 },
      expect: {
        go: 'fail',
        reason: { code: 'severalRows', rows: [1, 2], saw: 'amount €5' },
      },
    },
    {
      say: 'takes the first row that fits when told to',
      params: { table: { ...THANKS, hit: 'first', rows: [row('r1', 'card'), row('r2', 'hamper')] } },
      record: { amount: 5 },
      expect: { go: 'on', gives: { thanks: 'card' } },
    },
    {
      say: 'gathers what all rows give when told to',
      params: { table: { ...THANKS, hit: 'collect', rows: [row('r1', 'card'), row('r2', 'hamper')] } },
      record: { amount: 5 },
      expect: { go: 'on', gives: { thanks: 'card, hamper' } },
    },
    {
      say: 'a field that has gone',
      params: { table: { ...THANKS, inputs: [{ via: null, field: 'gone' }] } },
      expect: { go: 'fail', reason: { code: 'unknownField', field: 'gone' } },
    },
  ],
})
