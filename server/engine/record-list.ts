import type { Catalogue } from '../../core/fields/catalogue'
import type { Field } from '../../core/fields/field'
import { compileGroup } from '../../core/conditions/compile'
import type { Group } from '../../core/conditions/document'
import { worthIn, worthKeys } from '../../core/money/worth'
import { FIELD_TYPES } from '../../core/fields/types'
import { foldText, isEmpty, type Value, type Values } from '../../core/language/value'
import type { ObjectKind } from '../../core/records/kinds'
import type { RecordSnapshot } from '../../core/records/record'
import type { Scope } from '../../core/access/scope'
import { goesByVeiled } from '../../core/access/seen-world'
import { seenBy } from './seen'
import type { Workspace } from './workspace'

export interface ListQuery {
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

export interface ListPage {
  readonly total: number
  readonly matched: number
  readonly rows: readonly { readonly id: number; readonly values: Values }[]
}

/** So many records are looked at for one page, at the most. */
const LOOKED_AT_MOST = 5_000

/**
 * The records behind the id `after` that a filter lets through, in the order of their ids. A page is short, and `next`
 * leads on, when it would have to look at too many of them.
 */
export function recordsAfter(
  workspace: Workspace,
  query: Pick<ListQuery, 'object' | 'scope' | 'filter' | 'words' | 'limit'> & { readonly after: number },
): {
  readonly rows: readonly { readonly id: number; readonly version: number; readonly values: Values }[]
  readonly next: number | null
} {
  const group = compileGroup(query.filter, query.object, workspace.catalogue())
  const moment = workspace.moment()
  const words = foldText(query.words)
  const seen = seenBy(workspace, query.scope)
  const rows: { readonly id: number; readonly version: number; readonly values: Values }[] = []
  let looked = 0
  let last = query.after
  for (const record of workspace.store.records.from(query.object, query.after, query.scope)) {
    const { id, version, values } = record
    if (rows.length === query.limit || looked === LOOKED_AT_MOST) return { rows, next: last }
    looked++
    last = id
    if (words !== '' && !foldText(String(values.name ?? '')).includes(words)) continue
    const fits = group.test(seen ? seen.subject(record) : workspace.subject(record), moment)
    if (fits) rows.push({ id, version, values: seen ? seen.shown(record).values : values })
  }
  return { rows, next: null }
}

/** The order people expect of a column: by the value's own order, texts by letter, empty ones last either way. */
function compare(a: Value, b: Value, key: (value: Value) => string | number, down: boolean): number {
  if (isEmpty(a) || isEmpty(b)) return isEmpty(a) ? (isEmpty(b) ? 0 : 1) : -1
  const [x, y] = [key(a), key(b)]
  const order =
    typeof x === 'number' && typeof y === 'number' ? x - y : String(x) < String(y) ? -1 : String(x) > String(y) ? 1 : 0
  return down ? -order : order
}

/** The ids a field can hold, in the order of their words; `null` when its values are not ids. */
function ranksOf(field: Field, catalogue: Catalogue): readonly string[] | null {
  const byWords = (items: readonly { readonly id: string; readonly words: string }[]) =>
    [...items].sort((a, b) => (a.words < b.words ? -1 : a.words > b.words ? 1 : 0)).map((item) => item.id)
  switch (FIELD_TYPES[field.type].widget) {
    case 'choice':
      return byWords(field.choices.map(({ id, label }) => ({ id, words: foldText(label) })))
    case 'person':
      return byWords(catalogue.people.map(({ id, name }) => ({ id, words: foldText(name) })))
    case 'stage':
      return byWords(catalogue.allStages().map(({ id, name }) => ({ id, words: foldText(name) })))
    case 'pipeline':
      return byWords(catalogue.pipelines.map(({ id, name }) => ({ id, words: foldText(name) })))
    default:
      return null
  }
}

/**
 * Two ids with the same words (stages of two pipelines) must sort as one; the database's ranks would keep them apart.
 */
const distinctWords = (field: Field, catalogue: Catalogue): boolean =>
  FIELD_TYPES[field.type].widget !== 'stage' ||
  new Set(catalogue.allStages().map((stage) => foldText(stage.name))).size === catalogue.allStages().length

/** One page of the records that a filter lets through, with how many there are. */
export function listPage(workspace: Workspace, query: ListQuery): ListPage {
  const { records } = workspace.store
  const catalogue = workspace.catalogue()
  const { object, scope, down, offset, limit } = query
  const by = catalogue.field(object, query.sort)
  // What hangs on records that are hidden cannot be asked of the database: there it stands as it is for all.
  if (scope !== null && goesByVeiled(query.filter, object, catalogue, by ? [by.key] : []))
    return sortedHere(workspace, query, by)
  const seen = seenBy(workspace, scope)
  const where = records.where(query.filter, object, catalogue, workspace.moment(), scope)
  const words = foldText(query.words)
  const fits = [
    ...(query.filter.items.length > 0 ? [where.test] : []),
    ...(words === '' ? [] : [records.named(object, words)]),
  ]
  const page =
    by && !distinctWords(by, catalogue)
      ? null
      : records.page(object, by && { field: by, down, ranks: ranksOf(by, catalogue) }, scope, offset, limit, fits)
  if (page && (by || !down))
    return {
      total: page.total,
      matched: page.matched,
      rows: page.records.map((one) => ({ id: one.id, values: (seen ? seen.shown(one) : one).values })),
    }
  return sortedHere(workspace, query, by)
}

/** The records that a filter, words and a scope let through, in the order of their ids. */
export function matchingRecords(
  workspace: Workspace,
  query: Pick<ListQuery, 'object' | 'scope' | 'filter' | 'words'>,
  limit: number,
): readonly RecordSnapshot[] {
  const { records } = workspace.store
  const catalogue = workspace.catalogue()
  if (query.scope !== null && goesByVeiled(query.filter, query.object, catalogue)) {
    const found: RecordSnapshot[] = []
    for (const record of fitting(workspace, query)) {
      if (found.length === limit) break
      found.push(record)
    }
    return found
  }
  const where = records.where(query.filter, query.object, catalogue, workspace.moment(), query.scope)
  const words = foldText(query.words)
  return (
    records.page(query.object, null, query.scope, 0, limit, [
      ...(query.filter.items.length > 0 ? [where.test] : []),
      ...(words === '' ? [] : [records.named(query.object, words)]),
    ])?.records ?? []
  )
}

/** The records within a scope that a filter and words let through, one by one as they are, by their ids. */
function* fitting(
  workspace: Workspace,
  query: Pick<ListQuery, 'object' | 'scope' | 'filter' | 'words'> & { readonly after?: number },
): Generator<RecordSnapshot> {
  const group = compileGroup(query.filter, query.object, workspace.catalogue())
  const moment = workspace.moment()
  const words = foldText(query.words)
  const seen = seenBy(workspace, query.scope)
  for (const record of workspace.store.records.from(query.object, query.after ?? 0, query.scope)) {
    if (words !== '' && !foldText(String(record.values.name ?? '')).includes(words)) continue
    if (group.test(seen ? seen.subject(record) : workspace.subject(record), moment)) yield record
  }
}

/** The ids of the records within a scope that conditions let through, behind one of them. */
export function fittingAfter(
  workspace: Workspace,
  { object, filter, scope }: Pick<ListQuery, 'object' | 'scope' | 'filter'>,
  after: number,
  limit: number,
): readonly number[] {
  const { records } = workspace.store
  const catalogue = workspace.catalogue()
  if (scope === null || !goesByVeiled(filter, object, catalogue)) {
    const { test } = records.where(filter, object, catalogue, workspace.moment(), scope)
    return records.matchingAfter(object, { test: records.within(object, scope, test) }, after, limit)
  }
  const found: number[] = []
  for (const { id } of fitting(workspace, { object, filter, scope, words: '', after })) {
    if (found.length === limit) break
    found.push(id)
  }
  return found
}

/** The same in an order that the database cannot make: every record that fits is looked at. */
function sortedHere(workspace: Workspace, query: ListQuery, sortField: Field | null): ListPage {
  const { records } = workspace.store
  const catalogue = workspace.catalogue()
  const { object, scope } = query
  const seen = seenBy(workspace, scope)
  const group = compileGroup(query.filter, object, catalogue)
  const moment = workspace.moment()
  const words = foldText(query.words)
  const worth = sortField && worthIn(sortField, catalogue)
  const fields = [
    ...group.fields.flatMap((key) => catalogue.field(object, key) ?? []),
    ...(sortField ? [sortField] : []),
  ]
  const keys = [...new Set(['name', 'owner', ...fields.flatMap(worthKeys)])]
  let total = 0
  const found: { id: number; sort: Value }[] = []
  // What is worked out for somebody needs the whole record.
  for (const one of seen ? records.from(object, 0, scope) : records.scan(object, keys)) {
    total++
    if (words !== '' && !foldText(String(one.values.name ?? '')).includes(words)) continue
    const record = seen ? seen.shown(one) : one
    if (group.test(seen ? seen.subject(one) : workspace.subject(one), moment))
      found.push({ id: record.id, sort: worth ? worth(record.values) : null })
  }
  if (sortField) {
    const { key, widget, write } = FIELD_TYPES[sortField.type]
    // Stages, people and choices sort as they read, not by their ids.
    const order =
      widget === 'number' || widget === 'date' || widget === 'dateTime'
        ? key
        : (value: Value) => foldText(write(value, { catalogue, field: sortField, currency: null }))
    found.sort((a, b) => compare(a.sort, b.sort, order, query.down) || a.id - b.id)
  } else if (query.down) found.reverse()
  const rows = found.slice(query.offset, query.offset + query.limit).flatMap(({ id }) => {
    const record = records.read({ object, id })
    return record ? [{ id, values: (seen ? seen.shown(record) : record).values }] : []
  })
  return { total, matched: found.length, rows }
}
