import { exportColumns, exportHead, exportRows, seenColumns, type ExportRow } from '../../core/formats/csv/export'
import { OTHER_TARGETS } from '../../core/formats/csv/import'
import type { ObjectKind } from '../../core/records/kinds'
import { listPage, type ListQuery } from './record-list'
import type { Workspace } from './workspace'

const TOGETHER = 1000

/** What is seen of a table as a CSV file: the records that the filter lets through, in its order, with its columns. */
export function exportSeen(
  workspace: Workspace,
  query: Omit<ListQuery, 'offset' | 'limit'> & { readonly columns: readonly string[] },
): string {
  const catalogue = workspace.catalogue()
  const columns = seenColumns(query.object, catalogue, query.columns)
  return workspace.db.atSameMoment(() => {
    const parts = [exportHead(columns)]
    for (let offset = 0; ; offset += TOGETHER) {
      const { rows } = listPage(workspace, { ...query, offset, limit: TOGETHER })
      parts.push(
        exportRows(
          rows.map(({ id, values }) => ({ id, values, company: null, contact: null })),
          columns,
          query.object,
          catalogue,
        ),
      )
      if (rows.length < TOGETHER) return parts.join('')
    }
  })
}

/** All records of a kind as a CSV file, as they are in one moment. */
export function exportFile(workspace: Workspace, object: ObjectKind): string {
  const catalogue = workspace.catalogue()
  const { records, links } = workspace.store
  const columns = exportColumns(object, catalogue)
  const linked = (id: number, to: 'company' | 'contact') => {
    const found = OTHER_TARGETS[object].includes(to) ? links.main({ object, id }, to) : null
    return found === null ? null : records.read({ object: to, id: found })
  }
  const rowOf = (id: number, values: ExportRow['values']): ExportRow => {
    const contact = linked(id, 'contact')
    const company = linked(id, 'company')
    const { email } = contact?.values ?? {}
    return {
      id,
      values,
      company: company ? String(company.values.name) : null,
      contact: contact ? { name: String(contact.values.name), email: typeof email === 'string' ? email : null } : null,
    }
  }
  return workspace.db.atSameMoment(() => {
    const parts = [exportHead(columns)]
    let rows: ExportRow[] = []
    for (const { id, values } of records.scan(
      object,
      catalogue.fields(object).map((field) => field.key),
    )) {
      rows.push(rowOf(id, values))
      if (rows.length < TOGETHER) continue
      parts.push(exportRows(rows, columns, object, catalogue))
      rows = []
    }
    return [...parts, exportRows(rows, columns, object, catalogue)].join('')
  })
}
