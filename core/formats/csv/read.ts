import Papa from 'papaparse'

export interface CsvRow {
  /** As a spreadsheet counts: the headings are row 1. */
  readonly row: number
  readonly cells: readonly string[]
  /** Why the row cannot be read as it stands, or `null`. */
  readonly broken: string | null
}

export interface CsvTable {
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

/**
 * Reads comma-, semicolon-, tab- or pipe-separated text (RFC 4180 quoting), with or without a byte-order mark. Blank
 * lines do not count. `rowsMost` reads only the beginning. A row with more cells than there are headings, or with
 * broken quoting, is kept and marked.
 */
export function readCsv(content: string, rowsMost = Infinity): CsvTable {
  const text = content.replace(/^\ufeff/, '')
  const parsed = Papa.parse<string[]>(text, {
    skipEmptyLines: false,
    delimiter: delimiterOf(text),
    ...(Number.isFinite(rowsMost) ? { preview: rowsMost + 1 } : {}),
  })
  const broken = new Map<number, string>()
  for (const error of parsed.errors) {
    const words = QUOTE_WORDS[error.code]
    if (words && error.row !== undefined) broken.set(error.row, words)
  }
  const [head, ...rest] = parsed.data
  const headings = (head ?? []).map((cell) => cell.trim())
  const rows = rest.map((cells, i): CsvRow => {
    const extra = cells.slice(headings.length).some((cell) => cell.trim() !== '')
    const reason = broken.get(i + 1) ?? (extra ? `${cells.length} cells, but ${headings.length} columns.` : null)
    return { row: i + 2, cells: headings.map((_, column) => cells[column] ?? ''), broken: reason }
  })
  return {
    delimiter: parsed.meta.delimiter,
    headings,
    rows: rows.filter((row) => row.broken !== null || row.cells.some((cell) => cell.trim() !== '')),
  }
}
