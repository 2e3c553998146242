import Papa from 'papaparse'

export interface CsvRow {
  /** As a spreadsheet counts: the headings are row 1. */
  readonly row: number
  readonly cells: readonly string[]
  /** Why the row cannot be read as it stands, or `null`. */
  readonly broken: string | null
}

/** So many columns a file has at the most: more are a file of another kind. */
export const COLUMNS_MOST = 500

export interface CsvTable {
  /** Why the whole file cannot be read, or `null`; then it has no rows. */
  readonly problem: string | null
  readonly delimiter: string
  readonly headings: readonly string[]
  readonly rows: readonly CsvRow[]
}

const QUOTE_WORDS: { readonly [code: string]: string } = {
  MissingQuotes: 'A quote is not closed.',
  InvalidQuotes: 'Unexpected quote inside a cell.',
}

/** The mark that cuts the headings into most cells; the rows may hold any of the others inside their texts. */
function delimiterOf(text: string): string {
  const cells = (delimiter: string): number =>
    Papa.parse<string[]>(text, { delimiter, preview: 1 }).data[0]?.length ?? 0
  return [';', ',', '\t', '|'].reduce((best, mark) => (cells(mark) > cells(best) ? mark : best))
}

/** Where the headings begin, and the mark between cells where the file says it in a line before: `sep=;`. */
function beginning(content: string): { readonly at: number; readonly line: number; readonly mark: string | null } {
  let at = content.startsWith('\ufeff') ? 1 : 0
  let [line, mark] = [1, null as string | null]
  for (;;) {
    const end = content.slice(at, at + 2000).search(/\r\n?|\n/)
    const text = end < 0 ? content.slice(at, at + 2000) : content.slice(at, at + end)
    const said = line === 1 ? /^"?sep=([;,|\t])"?\s*$/i.exec(text) : null
    if (end < 0 || (text.trim() !== '' && !said)) return { at, line, mark }
    if (said) mark = said[1] ?? null
    at += end + (content.startsWith('\r\n', at + end) ? 2 : 1)
    line++
  }
}

/**
 * Reads comma-, semicolon-, tab- or pipe-separated text (RFC 4180 quoting), with or without a byte-order mark, a line
 * `sep=;` and blank lines before the headings. Blank lines do not count. `rowsMost` reads only the beginning. A row
 * with more cells than there are headings, or with broken quoting, is kept and marked; a file that holds no text, or
 * more columns than any table has, is refused whole.
 */
export function readCsv(content: string, rowsMost = Infinity): CsvTable {
  const refused = (problem: string): CsvTable => ({ problem, delimiter: ',', headings: [], rows: [] })
  if (content.includes('\0'))
    return refused('The file holds characters that no text has. Save the sheet as CSV and choose that file.')
  const { at, line, mark } = beginning(content)
  const text = at === 0 ? content : content.slice(at)
  const parsed = Papa.parse<string[]>(text, {
    skipEmptyLines: false,
    delimiter: mark ?? delimiterOf(text),
    ...(Number.isFinite(rowsMost) ? { preview: rowsMost + 1 } : {}),
  })
  const broken = new Map<number, string>()
  for (const error of parsed.errors) {
    const words = QUOTE_WORDS[error.code]
    if (words && error.row !== undefined) broken.set(error.row, words)
  }
  const [head, ...rest] = parsed.data
  const headings = (head ?? []).map((cell) => cell.trim())
  if (headings.length > COLUMNS_MOST)
    return refused(`The file has ${headings.length} columns. No more than ${COLUMNS_MOST} can be imported.`)
  const rows = rest.map((cells, i): CsvRow => {
    const extra = cells.slice(headings.length).some((cell) => cell.trim() !== '')
    const reason = broken.get(i + 1) ?? (extra ? `${cells.length} cells, but ${headings.length} columns.` : null)
    return { row: i + line + 1, cells: headings.map((_, column) => cells[column] ?? ''), broken: reason }
  })
  return {
    problem: null,
    delimiter: parsed.meta.delimiter,
    headings,
    rows: rows.filter((row) => row.broken !== null || row.cells.some((cell) => cell.trim() !== '')),
  }
}
