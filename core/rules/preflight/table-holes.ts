import { capital } from '../../language/nouns'
import { count, listOf } from '../../language/counts'
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

/**
 * The tests that take in these pieces and nothing more: one for each stretch along the line, one for values, one for
 * what is empty; `null` where none can say it.
 */
function cellsFor(pieces: readonly Piece[] | null): readonly Cell[] | null {
  if (pieces === null) return [{ is: 'any' }]
  if (pieces.some((piece) => piece.piece === 'other')) return null
  const cells: Cell[] = []
  let stretch: Piece[] = []
  const close = () => {
    const [first, last] = [stretch[0], stretch.at(-1)]
    if (first && last) {
      const [from, to] = [borderOf(first, 'from'), borderOf(last, 'to')]
      cells.push({ is: 'band', from: from.at, fromIn: from.belongs, to: to.at, toIn: to.belongs })
    }
    stretch = []
  }
  for (const piece of pieces) {
    if (piece.piece !== 'point' && piece.piece !== 'between') continue
    const before = stretch.at(-1)
    if (before && !meets(before, piece)) close()
    stretch.push(piece)
  }
  close()
  const values = pieces.flatMap((piece) => (piece.piece === 'value' ? [piece.value] : []))
  if (values.length > 0) cells.push({ is: 'values', values, not: false })
  if (pieces.some((piece) => piece.piece === 'empty')) cells.push({ is: 'empty' })
  return cells
}

const meets = (a: Piece, b: Piece): boolean =>
  a.piece === 'between' && b.piece === 'point'
    ? a.to === b.at
    : a.piece === 'point' && b.piece === 'between' && a.at === b.from

/** Where a stretch begins or ends, and whether that border belongs to it. */
const borderOf = (
  piece: Piece,
  end: 'from' | 'to',
): { readonly at: number | string | null; readonly belongs: boolean } =>
  piece.piece === 'point'
    ? { at: piece.at, belongs: true }
    : { at: piece.piece === 'between' ? piece[end] : null, belongs: false }

/** More rows for one hole than this are not written by themselves. */
const ROWS_FOR_HOLE = 12

/** The table with rows for a hole, their results still to be written; `null` when a few rows cannot say it. */
export function rowsForHole(table: DecisionTable, box: Box): DecisionTable | null {
  let whens: readonly (readonly Cell[])[] = [[]]
  for (const pieces of box) {
    const cells = cellsFor(pieces)
    if (!cells || whens.length * cells.length > ROWS_FOR_HOLE) return null
    whens = whens.flatMap((when) => cells.map((cell) => [...when, cell]))
  }
  const rows = [...table.rows]
  for (const when of whens) {
    let n = rows.length + 1
    while (rows.some((row) => row.id === `r${n}`)) n++
    rows.push({ id: `r${n}`, when, then: table.outputs.map(() => null) })
  }
  return { ...table, rows }
}

/** What falls in no row of a decision table, in two where only one may, and rows that never have a say. */
export const tableHoles = definePreflight({
  kind: 'tableHoles',
  look(rule, { catalogue: plain }) {
    const { document } = rule
    const usable = catalogues(document, plain)
    return placedSteps(document)
      .filter(({ step }) => step.kind === 'decide')
      .flatMap(({ step, label, object }): Noted[] => {
        const catalogue = usable.get(step.id) ?? plain
        const table = tableOf(step)
        const found = inputFields(table, { catalogue, object })
        const fields = found.filter((field): field is Field => field !== null)
        if (fields.length !== found.length || fields.length === 0 || table.rows.length === 0) return []
        const { gaps, overlaps, never } = coverageOf(table, fields, catalogue)
        const put = (next: DecisionTable): RuleDocument =>
          setWord(document, { part: 'step', id: step.id }, 'table', next, catalogue)
        const at = { part: 'step' as const, id: step.id, param: 'table' }
        return [
          ...gaps.slice(0, TOLD_MOST).map(({ box }) => {
            const said = sayBox(box, fields, catalogue)
            const next = rowsForHole(table, box)
            return noted('tableHoles', rule, {
              ...at,
              severity: 'warning',
              about: said,
              text: `${capital(said)} is not covered by any row`,
              why: `Step ${label} is skipped for it.${gaps.length > TOLD_MOST ? ` The table has ${count(gaps.length, 'gap')}.` : ''}`,
              fix: next
                ? {
                    say: next.rows.length === table.rows.length + 1 ? 'Add a row' : 'Add rows',
                    rule: put(next),
                  }
                : null,
            })
          }),
          ...overlaps.slice(0, TOLD_MOST).map(({ box, rows }) => {
            const said = sayBox(box, fields, catalogue)
            return noted('tableHoles', rule, {
              ...at,
              severity: 'error',
              about: said,
              text: `Rows ${listOf(rows.map((row) => String(row + 1)))} overlap at ${said}`,
              why: `Step ${label} allows one matching row, so the run would fail.`,
              fix: { say: 'Use the first matching row', rule: put({ ...table, hit: 'first' }) },
            })
          }),
          ...never.map((row) =>
            noted('tableHoles', rule, {
              ...at,
              severity: 'warning',
              about: `row ${row + 1}`,
              text: `Row ${row + 1} is never used`,
              why: `A row above always matches first (step ${label}).`,
              fix: { say: 'Remove the row', rule: put({ ...table, rows: table.rows.filter((_, i) => i !== row) }) },
            }),
          ),
          ...table.rows.flatMap((row, i) =>
            row.then.length > 0 && row.then.every((value) => value === null)
              ? [
                  noted('tableHoles', rule, {
                    ...at,
                    severity: 'warning',
                    about: `empty ${row.id}`,
                    text: `Row ${i + 1} has no result`,
                    why: 'Later steps will find it empty.',
                  }),
                ]
              : [],
          ),
        ]
      })
  },
})
