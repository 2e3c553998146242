import { compileGroup } from '../../core/conditions/compile'
import type { Group } from '../../core/conditions/document'
import { FIELD_TYPES } from '../../core/fields/types'
import { foldText, isEmpty, type Value, type Values } from '../../core/fields/value'
import type { ObjectKind } from '../../core/records/kinds'
import { seesRecord, type Scope } from '../auth/scope'
import type { Workspace } from '../engine/workspace'

export interface LedgerQuery {
  readonly object: ObjectKind
  readonly scope: Scope
  readonly filter: Group
  /** Words the name must contain. */
  readonly words: string
  readonly sort: string
  readonly down: boolean
  readonly offset: number
  readonly limit: number
}

export interface LedgerPage {
  readonly total: number
  readonly matched: number
  readonly rows: readonly { readonly id: number; readonly values: Values }[]
}

/** The order people expect of a column: by the value's own order, texts by letter, empty ones last either way. */
function compare(a: Value, b: Value, key: (value: Value) => string | number, down: boolean): number {
  if (isEmpty(a) || isEmpty(b)) return isEmpty(a) ? (isEmpty(b) ? 0 : 1) : -1
  const [x, y] = [key(a), key(b)]
  const order = typeof x === 'number' && typeof y === 'number' ? x - y : String(x) < String(y) ? -1 : String(x) > String(y) ? 1 : 0
  return down ? -order : order
}

/** One page of the records that a filter lets through, with how many there are. */
export function ledgerPage(workspace: Workspace, query: LedgerQuery): LedgerPage {
  const { records } = workspace.store
  const catalogue = workspace.catalogue()
  const group = compileGroup(query.filter, query.object, catalogue)
  const moment = workspace.moment()
  const words = foldText(query.words)
  const sortField = catalogue.field(query.object, query.sort)
  const keys = [...new Set(['name', 'owner', ...group.fields, ...(sortField ? [sortField.key] : [])])]
  let total = 0
  const found: { id: number; sort: Value }[] = []
  for (const record of records.scan(query.object, keys)) {
    if (!seesRecord(query.scope, record.values)) continue
    total++
    if (words !== '' && !foldText(String(record.values.name ?? '')).includes(words)) continue
    if (group.test(record.values, moment)) found.push({ id: record.id, sort: sortField ? (record.values[sortField.key] ?? null) : null })
  }
  if (sortField) {
    const { key, widget, write } = FIELD_TYPES[sortField.type]
    // Stages, people and choices sort as they read, not by their ids.
    const order = widget === 'number' || widget === 'date' || widget === 'dateTime' ? key
      : (value: Value) => foldText(write(value, { catalogue, field: sortField, currency: null }))
    found.sort((a, b) => compare(a.sort, b.sort, order, query.down) || a.id - b.id)
  } else if (query.down) found.reverse()
  const rows = found.slice(query.offset, query.offset + query.limit).flatMap(({ id }) => {
    const record = records.read({ object: query.object, id })
    return record ? [{ id, values: record.values }] : []
  })
  return { total, matched: found.length, rows }
}
