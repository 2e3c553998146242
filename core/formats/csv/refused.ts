import Papa from 'papaparse'
import type { RefusedRow } from './import'
import type { CsvTable } from './read'

/** The heading of the column that says why; leave it in when bringing the file in again, it goes nowhere. */
export const REASON_HEADING = 'What is wrong'

/**
 * The refused rows as a file of the same shape, as they stood, with the reason at the end: mend the cells and bring the
 * file in again. Cut at the same mark as the file they came from.
 */
export function refusedCsv(table: CsvTable, refused: readonly RefusedRow[]): string {
  const cells = new Map(table.rows.map((row) => [row.row, row.cells]))
  const rows = refused.map(({ row, problems }) => {
    const own = [...(cells.get(row) ?? [])]
    // A row with too many cells keeps them all; one with too few is filled up, so that the reason has its own column.
    while (own.length < table.headings.length) own.push('')
    return [...own, problems.map(({ heading, text }) => (heading === '' ? text : `${heading}: ${text}`)).join('; ')]
  })
  return `\ufeff${Papa.unparse([[...table.headings, REASON_HEADING], ...rows], { delimiter: table.delimiter, newline: '\r\n' })}\r\n`
}
