import Papa from 'papaparse'
import { cover } from './own-file'

/** Rows as CSV (RFC 4180), texts that a spreadsheet would take for formulas covered. */
export const csvOf = (head: readonly string[], rows: readonly (readonly (string | number | null)[])[]): string =>
  Papa.unparse(
    [head, ...rows].map((row) =>
      row.map((cell) => (typeof cell === 'string' ? cover(cell) : cell === null ? '' : String(cell))),
    ),
  ) + '\r\n'
