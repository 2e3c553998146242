import { listOf } from '../language/counts'
import type { Catalogue } from '../fields/catalogue'
import type { Field } from '../fields/field'
import { FIELD_TYPES } from '../fields/types'
import { isEmpty, type Value } from '../language/value'
import { sayDate } from '../time/say'
import { addDays } from '../time/dates'
import { testedBy, type Cell, type DecisionTable } from './table'
import { fieldWord, sayValue } from '../fields/say-value'

/**
 * What a table leaves out and what it says twice. Every input is cut into pieces inside of which all tests answer
 * alike: for numbers and dates the borders themselves and what lies between them, for choices each of them, and what is
 * empty. Pieces that the same rows fit are taken together, input by input, so that the count stays that of the rows.
 */

export type Piece =
  | { readonly piece: 'empty' }
  /** The border itself. */
  | { readonly piece: 'point'; readonly at: number | string }
  /** Strictly between two borders; `null` is without end. */
  | { readonly piece: 'between'; readonly from: number | string | null; readonly to: number | string | null }
  | { readonly piece: 'value'; readonly value: Value }
  /** Every value that no row names. */
  | { readonly piece: 'other' }

/** A part of what can come in: for each input the pieces; `null` for whatever it may be. */
export type Box = readonly (readonly Piece[] | null)[]

export interface Gap {
  readonly box: Box
}

export interface Overlap {
  readonly box: Box
  /** Places of the rows, from 0. */
  readonly rows: readonly number[]
}

export interface Coverage {
  readonly gaps: readonly Gap[]
  readonly overlaps: readonly Overlap[]
  /** Rows that never have a say: those before them take everything. Only under the policy `first`. */
  readonly never: readonly number[]
  /** False when the table is too large to be looked through to the end. */
  readonly whole: boolean
}

const FOUND_MOST = 50
const VISITS_MOST = 20_000

/** Whether every value inside of a piece passes a test; by construction either all do or none does. */
function pieceFits(cell: Cell, piece: Piece, field: Field, catalogue: Catalogue): boolean {
  if (cell.is === 'any') return true
  if (piece.piece === 'empty') return cell.is === 'empty' || (cell.is === 'values' && cell.not)
  if (cell.is === 'empty') return false
  if (cell.is === 'filled') return true
  if (cell.is === 'values') {
    // Between two borders lies none of the values that are named: each of them is a border.
    if (piece.piece !== 'value' && piece.piece !== 'point') return cell.not
    const form = catalogue.compared(field, piece.piece === 'value' ? piece.value : piece.at)
    return cell.values.some((one) => !isEmpty(one) && catalogue.compared(field, one) === form) !== cell.not
  }
  if (piece.piece === 'point') {
    return (
      (cell.from === null || (cell.fromIn ? piece.at >= cell.from : piece.at > cell.from)) &&
      (cell.to === null || (cell.toIn ? piece.at <= cell.to : piece.at < cell.to))
    )
  }
  if (piece.piece !== 'between') return false
  return (
    (cell.from === null || (piece.from !== null && piece.from >= cell.from)) &&
    (cell.to === null || (piece.to !== null && piece.to <= cell.to))
  )
}

/** The pieces of one input, in order: along the line for bands, and what is empty at the end. */
export function piecesOf(cells: readonly Cell[], field: Field, catalogue: Catalogue): readonly Piece[] {
  const empty: readonly Piece[] = field.required ? [] : [{ piece: 'empty' }]
  if (testedBy(field) === 'band') {
    const borders = [
      ...new Set(
        cells.flatMap((cell): readonly (number | string)[] =>
          cell.is === 'band'
            ? [cell.from, cell.to].filter((one) => one !== null)
            : cell.is === 'values'
              ? cell.values.filter((one) => typeof one === 'number' || typeof one === 'string')
              : [],
        ),
      ),
    ].sort((a, b) => (a < b ? -1 : 1))
    const days = FIELD_TYPES[field.type].widget === 'date'
    const line = borders.flatMap((at, i): Piece[] => {
      const next = borders[i + 1] ?? null
      // No day lies between two neighbouring ones.
      const none = days && typeof at === 'string' && typeof next === 'string' && addDays(at, 1) === next
      return [{ piece: 'point', at }, ...(none ? [] : [{ piece: 'between' as const, from: at, to: next }])]
    })
    return [{ piece: 'between', from: null, to: borders[0] ?? null }, ...line, ...empty]
  }
  const known = allValues(field, catalogue)
  if (known) return [...known.map((value): Piece => ({ piece: 'value', value })), ...empty]
  const named = new Map(
    cells.flatMap((cell) =>
      cell.is === 'values'
        ? cell.values.filter((one) => !isEmpty(one)).map((value) => [catalogue.compared(field, value), value] as const)
        : [],
    ),
  )
  return [...[...named.values()].map((value): Piece => ({ piece: 'value', value })), { piece: 'other' }, ...empty]
}

/** Every value a field can hold, where they can be listed. */
function allValues(field: Field, catalogue: Catalogue): readonly Value[] | null {
  switch (field.type) {
    case 'choice':
      return field.choices.map((choice) => choice.id)
    case 'yesNo':
      return [true, false]
    case 'stage':
      return catalogue.allStages().map((stage) => stage.id)
    case 'pipeline':
      return catalogue.pipelines.map((pipeline) => pipeline.id)
    default:
      return null
  }
}

/** Looks a table through. `fields` are those of its inputs, in order. */
export function coverageOf(table: DecisionTable, fields: readonly Field[], catalogue: Catalogue): Coverage {
  const gaps: Gap[] = []
  const overlaps: Overlap[] = []
  const used = new Set<number>()
  let visits = 0
  const pieces = fields.map((field, at) =>
    piecesOf(
      table.rows.flatMap((row) => row.when[at] ?? []),
      field,
      catalogue,
    ),
  )

  const look = (at: number, rows: readonly number[], box: Box): void => {
    if (visits++ > VISITS_MOST) return
    if (rows.length === 0) {
      if (gaps.length < FOUND_MOST) gaps.push({ box: [...box, ...fields.slice(at).map(() => null)] })
      return
    }
    const field = fields[at]
    if (!field) {
      const [first] = rows
      if (first !== undefined) used.add(first)
      if (rows.length > 1 && overlaps.length < FOUND_MOST) overlaps.push({ box, rows })
      return
    }
    const groups = new Map<string, { readonly rows: readonly number[]; readonly pieces: Piece[] }>()
    for (const piece of pieces[at] ?? []) {
      const fitting = rows.filter((row) =>
        pieceFits(table.rows[row]?.when[at] ?? { is: 'any' }, piece, field, catalogue),
      )
      const key = fitting.join(' ')
      const known = groups.get(key)
      if (known) known.pieces.push(piece)
      else groups.set(key, { rows: fitting, pieces: [piece] })
    }
    for (const group of groups.values()) look(at + 1, group.rows, [...box, groups.size === 1 ? null : group.pieces])
  }
  look(
    0,
    table.rows.map((_, i) => i),
    [],
  )
  const whole = visits <= VISITS_MOST
  return {
    gaps: table.hit === 'collect' && table.collect === 'count' ? [] : gaps,
    overlaps: table.hit === 'unique' ? overlaps : [],
    never: table.hit === 'first' && whole ? table.rows.map((_, i) => i).filter((i) => !used.has(i)) : [],
    whole,
  }
}

/** Which rows a piece of one input fits, whatever the others hold. */
export const rowsOnPiece = (
  table: DecisionTable,
  at: number,
  piece: Piece,
  field: Field,
  catalogue: Catalogue,
): readonly number[] =>
  table.rows.flatMap((row, i) => (pieceFits(row.when[at] ?? { is: 'any' }, piece, field, catalogue) ? [i] : []))

function sayPieces(given: readonly Piece[], field: Field, catalogue: Catalogue): string {
  const word = fieldWord(field) ?? field.key
  const show = (value: number | string) =>
    FIELD_TYPES[field.type].widget === 'date' ? sayDate(String(value)) : sayValue(value, field, catalogue)
  const joined: string[] = []
  const line = given.filter((piece) => piece.piece === 'point' || piece.piece === 'between')
  // Neighbours along the line are one stretch, its borders said: "from 10,000 up to, but without, 40,000".
  for (let i = 0; i < line.length;) {
    let end = i
    while (end + 1 < line.length && touches(line[end], line[end + 1])) end++
    joined.push(sayStretch(line[i], line[end], show))
    i = end + 1
  }
  const values = given.flatMap((piece) =>
    piece.piece === 'value'
      ? [sayValue(piece.value, field, catalogue)]
      : piece.piece === 'other'
        ? ['any other value']
        : [],
  )
  if (values.length > 0) joined.push(listOf(values, 'or'))
  if (given.some((piece) => piece.piece === 'empty')) joined.push('empty')
  return `${word} ${joined.join(', or ')}`
}

function touches(a: Piece | undefined, b: Piece | undefined): boolean {
  if (a?.piece === 'between' && b?.piece === 'point') return a.to === b.at
  return a?.piece === 'point' && b?.piece === 'between' && a.at === b.from
}

function sayStretch(
  first: Piece | undefined,
  last: Piece | undefined,
  show: (value: number | string) => string,
): string {
  if (first?.piece === 'point' && first === last) return `exactly ${show(first.at)}`
  if (first?.piece === 'point' && last?.piece === 'point') return `from ${show(first.at)} to ${show(last.at)}`
  const from =
    first?.piece === 'point'
      ? `from ${show(first.at)}`
      : first?.piece === 'between' && first.from !== null
        ? `more than ${show(first.from)}`
        : null
  const to =
    last?.piece === 'point'
      ? `up to ${show(last.at)}`
      : last?.piece === 'between' && last.to !== null
        ? `less than ${show(last.to)}`
        : null
  return [from, to].filter(Boolean).join(' and ') || 'any value'
}

/** A part of what can come in, in words: "amount €40,000 itself, customer empty". */
export const sayBox = (box: Box, fields: readonly Field[], catalogue: Catalogue): string =>
  box
    .flatMap((given, at) => {
      const field = fields[at]
      return given && field ? [sayPieces(given, field, catalogue)] : []
    })
    .join(', ') || 'anything'
