import type { Field } from '../../fields/field'
import { coverageOf, sayBox, type Box, type Piece } from '../../tables/coverage'
import type { Cell, DecisionTable } from '../../tables/table'
import type { RuleDocument, Step } from '../document'
import { setWord } from '../edit'
import { catalogues } from '../results'
import { inputFields } from '../steps/decide'
import { placedSteps } from '../tree'
import { definePreflight, noted, type Noted } from './finding'

/** So many holes of one table are told one by one; the table itself shows all of them. */
const TOLD_MOST = 5

const tableOf = (step: Step): DecisionTable => (step.params as { readonly table: DecisionTable }).table

/** The test that takes in these pieces, where one does. */
function cellFor(pieces: readonly Piece[] | null): Cell | null {
  if (pieces === null) return { is: 'any' }
  if (pieces.every((piece) => piece.piece === 'empty')) return { is: 'empty' }
  const values = pieces.flatMap((piece) => (piece.piece === 'value' ? [piece.value] : []))
  if (values.length === pieces.length) return { is: 'values', values, not: false }
  const line = pieces.filter((piece) => piece.piece === 'point' || piece.piece === 'between')
  const [first, last] = [line[0], line.at(-1)]
  if (line.length !== pieces.length || !first || !last) return null
  const from = first.piece === 'point' ? { from: first.at, fromIn: true } : { from: first.from, fromIn: false }
  const to = last.piece === 'point' ? { to: last.at, toIn: true } : { to: last.to, toIn: false }
  const whole = line.every((piece, i) => i === 0 || (piece.piece === 'point' ? line[i - 1]?.piece === 'between' : line[i - 1]?.piece === 'point'))
  return whole ? { is: 'band', ...from, ...to } : null
}

/** The table with one more row for a hole, its results still to be written; `null` when one row cannot say it. */
export function rowForHole(table: DecisionTable, box: Box): DecisionTable | null {
  const when = box.map(cellFor)
  const cells = when.filter((cell) => cell !== null)
  if (cells.length !== when.length) return null
  let n = table.rows.length + 1
  while (table.rows.some((row) => row.id === `r${n}`)) n++
  return { ...table, rows: [...table.rows, { id: `r${n}`, when: cells, then: table.outputs.map(() => null) }] }
}

/** What falls in no row of a decision table, in two where only one may, and rows that never have a say. */
export const tableHoles = definePreflight({
  kind: 'tableHoles',
  look(rule, { catalogue: plain }) {
    const { document } = rule
    const usable = catalogues(document, plain)
    return placedSteps(document).filter(({ step }) => step.kind === 'decide').flatMap(({ step, label, object }): Noted[] => {
      const catalogue = usable.get(step.id) ?? plain
      const table = tableOf(step)
      const found = inputFields(table, { catalogue, object })
      const fields = found.filter((field): field is Field => field !== null)
      if (fields.length !== found.length || fields.length === 0 || table.rows.length === 0) return []
      const { gaps, overlaps, never } = coverageOf(table, fields, catalogue)
      const put = (next: DecisionTable): RuleDocument => setWord(document, { part: 'step', id: step.id }, 'table', next, catalogue)
      const at = { part: 'step' as const, id: step.id, param: 'table' }
      return [
        ...gaps.slice(0, TOLD_MOST).map(({ box }) => {
          const said = sayBox(box, fields, catalogue)
          const next = rowForHole(table, box)
          return noted('tableHoles', rule, {
            ...at, severity: 'likely', about: said, text: `${said} falls in no row`,
            why: `The table of step ${label} gives nothing for it, and the step is skipped.${gaps.length > TOLD_MOST ? ` It has ${gaps.length} such holes.` : ''}`,
            fix: next ? { say: 'add a row for it', rule: put(next) } : null,
          })
        }),
        ...overlaps.slice(0, TOLD_MOST).map(({ box, rows }) => {
          const said = sayBox(box, fields, catalogue)
          return noted('tableHoles', rule, {
            ...at, severity: 'grave', about: said, text: `${said} falls in rows ${rows.map((row) => row + 1).join(' and ')}`,
            why: `Only one row may fit in the table of step ${label}: the run would fail there.`, fix: { say: 'take the first row that fits', rule: put({ ...table, hit: 'first' }) },
          })
        }),
        ...never.map((row) => noted('tableHoles', rule, {
          ...at, severity: 'likely', about: `row ${row + 1}`, text: `row ${row + 1} is never used`, why: `Whatever fits it fits a row above it in the table of step ${label}.`,
          fix: { say: 'take the row out', rule: put({ ...table, rows: table.rows.filter((_, i) => i !== row) }) },
        })),
        ...table.rows.flatMap((row, i) => (row.then.length > 0 && row.then.every((value) => value === null) ? [noted('tableHoles', rule, {
          ...at, severity: 'likely', about: `empty ${row.id}`, text: `row ${i + 1} gives nothing`, why: 'Steps further down will find its results empty.',
        })] : [])),
      ]
    })
  },
})
