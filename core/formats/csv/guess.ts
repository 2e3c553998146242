import type { Catalogue } from '../../fields/catalogue'
import type { ReadStyle } from '../../fields/kind'
import { FIELD_TYPES } from '../../fields/types'
import { readNumber } from '../../fields/types/number'
import { foldText } from '../../fields/value'
import { readDate } from '../../time/dates'
import { importFields, type ImportMapping, type Target } from './import'
import type { CsvTable } from './read'

/** Headings as people write them, beside the labels of the fields themselves. */
const ALSO: { readonly [target: string]: readonly string[] } = {
  name: ['deal', 'deal name', 'title', 'subject', 'opportunity', 'negocio'],
  owner: ['owner', 'responsible', 'rep', 'salesperson', 'seller', 'handled by', 'responsavel'],
  stage: ['stage', 'phase', 'step', 'status', 'fase'],
  pipeline: ['pipeline', 'process'],
  amount: ['amount', 'value', 'sum', 'total', 'price', 'net', 'worth', 'valor', 'betrag'],
  closeDate: ['expected close', 'close date', 'closing', 'close', 'expected', 'due'],
  quoteSentOn: ['quote sent', 'quoted on', 'quote date', 'offer date'],
  reference: ['reference', 'ref', 'number', 'id', 'deal id', 'external id'],
  notes: ['notes', 'note', 'comment', 'comments', 'remarks', 'description'],
  company: ['company', 'customer name', 'account', 'organisation', 'organization', 'firm', 'client', 'empresa'],
  contact: ['contact', 'contact name', 'person', 'main contact'],
  contactEmail: ['email', 'e mail', 'contact email', 'mail'],
}

const tidy = (text: string): string => foldText(text).replace(/[^\p{L}\p{N}]+/gu, ' ').trim()

/** How numbers and dates are written in the file, judged by those cells that can mean only one thing. */
export function guessStyle(table: CsvTable): ReadStyle {
  let [comma, point, dayFirst, monthFirst] = [0, 0, 0, 0]
  for (const { cells } of table.rows) {
    for (const cell of cells) {
      const text = cell.trim()
      if (text.length > 40) continue
      if (/\d,\d{1,2}(?:\D*)$/.test(text) && readNumber(text, 'comma') !== null) comma++
      if (/\d\.\d{1,2}(?:\D*)$/.test(text) && readNumber(text, 'point') !== null) point++
      const date = /^(\d{1,2})[/-](\d{1,2})[/-]\d{2,4}$/.exec(text)
      if (date && Number(date[1]) > 12) dayFirst++
      if (date && Number(date[2]) > 12) monthFirst++
    }
  }
  return { decimal: comma > point ? 'comma' : 'point', dateOrder: monthFirst > dayFirst ? 'monthFirst' : 'dayFirst' }
}

/** The share of filled cells of a column that a field can read; 0 when there are none. */
function fitOf(table: CsvTable, column: number, fieldKey: string, style: ReadStyle, catalogue: Catalogue): number {
  const field = catalogue.field('deal', fieldKey)
  const filled = table.rows.map((row) => row.cells[column] ?? '').filter((cell) => cell.trim() !== '').slice(0, 200)
  if (!field || filled.length === 0) return 0
  const context = { catalogue, field, style, pipelineId: null }
  const read = filled.filter((cell) => {
    const result = FIELD_TYPES[field.type].read(cell, context)
    return result.ok || result.problem.code === 'severalStages'
  })
  return read.length / filled.length
}

function looksLikeNames(table: CsvTable, column: number, style: ReadStyle): boolean {
  const filled = table.rows.map((row) => (row.cells[column] ?? '').trim()).filter(Boolean)
  const words = filled.filter((cell) => readNumber(cell, style.decimal) === null && readDate(cell, style.dateOrder) === null)
  return filled.length > table.rows.length / 2 && words.length > filled.length * 0.8 && new Set(filled).size > filled.length * 0.6
}

/** Guesses where each column goes, by its heading first and by what stands in it second. Everything can be changed. */
export function guessMapping(table: CsvTable, catalogue: Catalogue): ImportMapping {
  const style = guessStyle(table)
  const fields = importFields(catalogue)
  const free = new Set<string>([...fields.map((field) => field.key), 'company', 'contact', 'contactEmail'])
  const targets: (Target | null)[] = table.headings.map(() => null)
  const take = (column: number, name: string): void => {
    free.delete(name)
    targets[column] = name === 'company' || name === 'contact' || name === 'contactEmail' ? { to: name } : { to: 'field', field: name }
  }
  const namesOf = (target: string): readonly string[] => {
    const field = catalogue.field('deal', target)
    return [...(field ? [tidy(field.label), tidy(field.key)] : []), ...(ALSO[target] ?? [])]
  }

  table.headings.forEach((heading, column) => {
    const wanted = tidy(heading)
    const found = [...free].find((target) => namesOf(target).includes(wanted))
    if (wanted !== '' && found) take(column, found)
  })
  table.headings.forEach((heading, column) => {
    if (targets[column]) return
    const wanted = ` ${tidy(heading)} `
    const found = [...free].find((target) => namesOf(target).some((name) => name.length > 3 && wanted.includes(` ${name} `)))
    if (found && (!catalogue.field('deal', found) || fitOf(table, column, found, style, catalogue) > 0.5)) take(column, found)
  })
  // What stands in a column tells only where hardly anything else could stand there.
  table.headings.forEach((_, column) => {
    if (targets[column]) return
    const found = fields.find((field) => free.has(field.key) && ['stage', 'person', 'choice'].includes(field.type) && fitOf(table, column, field.key, style, catalogue) > 0.6)
    if (found) take(column, found.key)
  })
  // A deal is known by its name: without a heading that says so, it is the first column of texts that hardly repeat.
  if (free.has('name')) {
    const column = table.headings.findIndex((_, i) => !targets[i] && looksLikeNames(table, i, style))
    if (column >= 0) take(column, 'name')
  }
  return { targets: targets.map((target) => target ?? { to: 'skip' }), decimal: style.decimal, dateOrder: style.dateOrder }
}
