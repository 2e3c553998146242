import Papa from 'papaparse'
import type { Catalogue } from '../../fields/catalogue'
import type { Field } from '../../fields/field'
import { PLAIN_STYLE } from '../../fields/kind'
import { FIELD_TYPES } from '../../fields/types'
import { isEmpty, sameValue, type Value, type Values } from '../../language/value'
import type { ObjectKind } from '../../records/kinds'
import { importFields, OTHER_TARGETS, type Target } from './import'
import { cover, ID_HEADING } from './own-file'

/** A record to be written, with the names of what it is linked to. */
export interface ExportRow {
  readonly id: number
  readonly values: Values
  readonly company: string | null
  readonly contact: { readonly name: string; readonly email: string | null } | null
}

export interface ExportColumn {
  readonly heading: string
  readonly target: Target
}

const OTHER_HEADINGS = {
  id: ID_HEADING,
  company: 'Company',
  contact: 'Contact',
  contactEmail: 'Contact email',
} as const

/** The columns of a file of ours, each with where it goes when the file is brought in. No heading stands twice. */
export function exportColumns(object: ObjectKind, catalogue: Catalogue): readonly ExportColumn[] {
  const columns: ExportColumn[] = [
    ...OTHER_TARGETS[object].filter((to) => to === 'id').map((to) => ({ heading: OTHER_HEADINGS[to], target: { to } })),
    ...importFields(object, catalogue).map((field) => ({
      heading: field.label,
      target: { to: 'field' as const, field: field.key },
    })),
    ...OTHER_TARGETS[object].filter((to) => to !== 'id').map((to) => ({ heading: OTHER_HEADINGS[to], target: { to } })),
  ]
  const seen = new Set<string>()
  return columns.map(({ heading, target }) => {
    let own = heading
    for (let n = 2; seen.has(own); n++) own = `${heading} (${n})`
    seen.add(own)
    return { heading: own, target }
  })
}

/** The columns that somebody looks at, in their order, and before them the id, by which the file can come in again. */
export const seenColumns = (
  object: ObjectKind,
  catalogue: Catalogue,
  keys: readonly string[],
): readonly ExportColumn[] => {
  const all = exportColumns(object, catalogue)
  return [
    ...all.filter(({ target }) => target.to === 'id'),
    ...keys.flatMap(
      (key) =>
        all.find(({ target }) => target.to === 'field' && target.field === key) ??
        catalogue
          .fields(object)
          .filter((field) => field.key === key)
          .map((field) => ({ heading: field.label, target: { to: 'field' as const, field: key } })),
    ),
  ]
}

/**
 * The value as words that are read as the same value again: as people know it when that is certain, else as it is kept.
 */
function cellOf(value: Value, field: Field, catalogue: Catalogue, values: Values): string {
  if (isEmpty(value)) return ''
  const type = FIELD_TYPES[field.type]
  const context = {
    catalogue,
    field,
    style: PLAIN_STYLE,
    pipelineId: typeof values.pipeline === 'string' ? values.pipeline : null,
  }
  const kept = Array.isArray(value)
    ? value.join('; ')
    : type.widget === 'dateTime'
      ? new Date(Number(value)).toISOString()
      : typeof value === 'boolean'
        ? type.write(value, { catalogue, field, currency: null })
        : String(value)
  const named =
    type.widget === 'choice' || type.widget === 'person' || type.widget === 'stage' || type.widget === 'pipeline'
      ? type.write(value, { catalogue, field, currency: null })
      : Array.isArray(value)
        ? value.map((id) => field.choices.find((choice) => choice.id === id)?.label ?? id).join('; ')
        : kept
  const read = type.read(named, context)
  const words = read.ok && sameValue(read.value, value) ? named : kept
  // Numbers and dates begin with a sign as well; what is made of letters is marked when it would be run.
  const isNumber = type.widget === 'number' || type.widget === 'date' || type.widget === 'dateTime'
  return isNumber || field.type === 'phone' ? words : cover(words)
}

/** A head of the file, with a byte-order mark so that spreadsheets read it as UTF-8. */
export const exportHead = (columns: readonly ExportColumn[]): string =>
  `\ufeff${Papa.unparse([columns.map((column) => cover(column.heading))])}\r\n`

/** Some rows of the file. Brought in again they change nothing. */
export function exportRows(
  rows: readonly ExportRow[],
  columns: readonly ExportColumn[],
  object: ObjectKind,
  catalogue: Catalogue,
): string {
  if (rows.length === 0) return ''
  const cell = (row: ExportRow, target: Target): string => {
    switch (target.to) {
      case 'id':
        return String(row.id)
      case 'company':
        return cover(row.company ?? '')
      case 'contact':
        return cover(row.contact?.name ?? '')
      case 'contactEmail':
        return cover(row.contact?.email ?? '')
      case 'skip':
        return ''
      case 'field': {
        const field = catalogue.field(object, target.field)
        return field ? cellOf(row.values[field.key] ?? null, field, catalogue, row.values) : ''
      }
    }
  }
  return `${Papa.unparse(
    rows.map((row) => columns.map(({ target }) => cell(row, target))),
    { newline: '\r\n' },
  )}\r\n`
}
