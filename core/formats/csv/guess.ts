import type { Catalogue } from '../../fields/catalogue'
import type { ReadStyle } from '../../fields/kind'
import { FIELD_TYPES } from '../../fields/types'
import { readNumber } from '../../fields/types/number'
import { foldText } from '../../language/value'
import { readDate } from '../../time/dates'
import { OBJECTS, type RecordKind } from '../../records/kinds'
import { exportColumns } from './export'
import { importFields, OTHER_TARGETS, type ImportMapping, type Target } from './import'
import { ID_HEADING, isIdHeading, uncover } from './own-file'
import type { CsvTable } from './read'

/** Headings as people write them, beside the labels of the fields themselves. */
const ALSO: { readonly [target: string]: readonly string[] } = {
  owner: ['owner', 'responsible', 'rep', 'salesperson', 'seller', 'handled by', 'responsavel'],
  stage: ['stage', 'phase', 'step', 'status', 'fase'],
  pipeline: ['pipeline', 'process'],
  amount: ['amount', 'value', 'sum', 'total', 'price', 'net', 'worth', 'valor', 'betrag'],
  closeDate: ['expected close', 'close date', 'closing', 'close', 'expected', 'due'],
  quoteSentOn: ['quote sent', 'quoted on', 'quote date', 'offer date'],
  reference: ['reference', 'ref', 'number', 'id', 'deal id', 'external id'],
  notes: ['notes', 'note', 'comment', 'comments', 'remarks', 'description'],
  company: [
    'company',
    'customer',
    'customer name',
    'account',
    'organisation',
    'organization',
    'firm',
    'client',
    'empresa',
  ],
  contact: ['contact', 'contact name', 'person', 'main contact'],
  contactEmail: ['email', 'e mail', 'contact email', 'mail'],
}

const NAMES: { readonly [O in RecordKind]: readonly string[] } = {
  deal: ['deal', 'deal name', 'title', 'subject', 'opportunity', 'negocio'],
  contact: ['contact', 'contact name', 'full name', 'person', 'nome'],
  company: ['company', 'company name', 'firm', 'organisation', 'organization', 'empresa'],
  appointment: ['appointment', 'meeting', 'subject', 'title'],
}

/** A heading with one of these is of something about a company or contact, and not its name: “Company domain”. */
const NOT_A_NAME =
  /\b(domain|website|web|url|mail|email|phone|mobile|fax|id|number|code|type|kind|size|sector|industry|country|city|address|zip|region|owner|date|since|status|revenue|employees|role|title|language|birthday)\b/

const tidy = (text: string): string =>
  foldText(text)
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim()

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
function fitOf(
  table: CsvTable,
  column: number,
  object: RecordKind,
  fieldKey: string,
  style: ReadStyle,
  catalogue: Catalogue,
): number {
  const field = catalogue.field(object, fieldKey)
  const filled = table.rows
    .map((row) => row.cells[column] ?? '')
    .filter((cell) => cell.trim() !== '')
    .slice(0, 200)
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
  const words = filled.filter(
    (cell) => readNumber(cell, style.decimal) === null && readDate(cell, style.dateOrder) === null,
  )
  return (
    filled.length > table.rows.length / 2 &&
    words.length > filled.length * 0.8 &&
    new Set(filled).size > filled.length * 0.6
  )
}

/** The words that a heading for a target may be, the field's own first. */
function namesOf(object: RecordKind, target: string, catalogue: Catalogue): readonly string[] {
  const field = catalogue.field(object, target)
  const also = target === 'name' ? NAMES[object] : target === 'email' ? (ALSO.contactEmail ?? []) : (ALSO[target] ?? [])
  return [...(field ? [tidy(field.label), tidy(field.key)] : []), ...also]
}

const targetsOf = (object: RecordKind, catalogue: Catalogue): readonly string[] => [
  ...importFields(object, catalogue).map((field) => field.key),
  ...OTHER_TARGETS[object].filter((to) => to !== 'id'),
]

/** What the rows of a file are, judged by how many of its headings fit; deals when in doubt. */
export function guessObject(table: CsvTable, catalogue: Catalogue): RecordKind {
  const fit = (object: RecordKind): number => {
    const names = new Set(targetsOf(object, catalogue).flatMap((target) => namesOf(object, target, catalogue)))
    // Fields that other kinds of records have as well say little.
    return table.headings.filter((heading) => names.has(tidy(heading))).length
  }
  return OBJECTS.reduce((best, object) => (fit(object) > fit(best) ? object : best))
}

/** Guesses where each column goes, by its heading first and by what stands in it second. Everything can be changed. */
export function guessMapping(
  table: CsvTable,
  catalogue: Catalogue,
  object: RecordKind = guessObject(table, catalogue),
): ImportMapping {
  if (table.headings.some(isIdHeading)) {
    // A file of ours: nothing needs to be guessed.
    const own = new Map(exportColumns(object, catalogue).map((column) => [column.heading, column.target]))
    return {
      object,
      knownBy: null,
      targets: table.headings.map(
        (heading) => own.get(isIdHeading(heading) ? ID_HEADING : uncover(heading)) ?? { to: 'skip' },
      ),
      decimal: 'point',
      dateOrder: 'dayFirst',
    }
  }
  const style = guessStyle(table)
  const fields = importFields(object, catalogue)
  const free = new Set(targetsOf(object, catalogue))
  const targets: (Target | null)[] = table.headings.map(() => null)
  const take = (column: number, name: string): void => {
    free.delete(name)
    targets[column] = catalogue.field(object, name)
      ? { to: 'field', field: name }
      : { to: name as 'company' | 'contact' | 'contactEmail' }
  }

  const isOtherList = (column: number, target: string): boolean =>
    catalogue.field(object, target)?.type === 'choice' && fitOf(table, column, object, target, style, catalogue) === 0
  table.headings.forEach((heading, column) => {
    const wanted = tidy(heading)
    const found = [...free].filter((target) => namesOf(object, target, catalogue).includes(wanted))
    // “Customer” over names of firms is no list of choices, though a field of that name has one.
    const other = found.find((target) => !isOtherList(column, target)) ?? found[0]
    if (wanted !== '' && other) take(column, other)
  })
  table.headings.forEach((heading, column) => {
    if (targets[column]) return
    const wanted = ` ${tidy(heading)} `
    const found = [...free].find((target) =>
      namesOf(object, target, catalogue).some((name) => name.length > 3 && wanted.includes(` ${name} `)),
    )
    const fits = found && (catalogue.field(object, found) || !NOT_A_NAME.test(wanted))
    if (
      found &&
      fits &&
      (!catalogue.field(object, found) || fitOf(table, column, object, found, style, catalogue) > 0.5)
    )
      take(column, found)
  })
  // What stands in a column tells only where hardly anything else could stand there.
  table.headings.forEach((_, column) => {
    if (targets[column]) return
    const found = fields.find(
      (field) =>
        free.has(field.key) &&
        ['stage', 'person', 'choice'].includes(field.type) &&
        fitOf(table, column, object, field.key, style, catalogue) > 0.6,
    )
    if (found) take(column, found.key)
  })
  // A record is known by its name: without a heading that says so, it is the first column of texts that hardly repeat.
  if (free.has('name')) {
    const column = table.headings.findIndex((_, i) => !targets[i] && looksLikeNames(table, i, style))
    if (column >= 0) take(column, 'name')
  }
  return {
    object,
    knownBy: null,
    targets: targets.map((target) => target ?? { to: 'skip' }),
    decimal: style.decimal,
    dateOrder: style.dateOrder,
  }
}

/** The headings in one order, with the columns they stand over: files with the same headings are of one kind. */
const inOrder = (headings: readonly string[]): readonly (readonly [heading: string, column: number])[] =>
  headings
    .map((heading, column) => [foldText(heading), column] as const)
    .sort(([a, i], [b, j]) => (a < b ? -1 : a > b ? 1 : i - j))

/** What files with the same headings are known by, whatever the order of their columns. */
export const headingKey = (headings: readonly string[]): string =>
  JSON.stringify(inOrder(headings).map(([heading]) => heading))

/** A mapping with its columns in the order of `headingKey`, to be kept; `fromKept` brings it to the order of a file. */
export const toKept = (mapping: ImportMapping, headings: readonly string[]): ImportMapping => ({
  ...mapping,
  targets: inOrder(headings).map(([, column]) => mapping.targets[column] ?? { to: 'skip' }),
})

export function fromKept(kept: ImportMapping, headings: readonly string[]): ImportMapping {
  const targets: Target[] = headings.map(() => ({ to: 'skip' }))
  inOrder(headings).forEach(([, column], i) => {
    targets[column] = kept.targets[i] ?? { to: 'skip' }
  })
  return { ...kept, targets }
}
