import type { Statement } from 'better-sqlite3'
import type { Field } from '../../core/fields/field'
import { FIELD_TYPES } from '../../core/fields/types'
import type { Value, Values } from '../../core/language/value'
import type { ObjectKind, RecordRef } from '../../core/records/kinds'
import { LINKABLE, type FieldChange, type RecordSnapshot } from '../../core/records/record'
import type { RollUp } from '../../core/derived/making'
import type { Group } from '../../core/conditions/document'
import type { Catalogue } from '../../core/fields/catalogue'
import type { Db } from '../db/connect'
import type { MatchPart } from '../../core/linking/link-by'
import { compileSql, type Bound, type CompiledSql, type Places, type Sql } from './conditions'
import { SetStore, type Survey } from './sets'
import type { Moment } from '../../core/conditions/moment'

const TABLES: { readonly [K in ObjectKind]: string } = { deal: 'deals', contact: 'contacts', company: 'companies' }

/** The names of value columns are made from ids alone: no text of a user ever gets into a statement. */
const columnOf = (fieldId: number): string => `c_${fieldId}`
/** Beside an indexed text stands the form in which it is compared and sorted, without case, accents and blanks. */
const keyColumnOf = (fieldId: number): string => `k_${fieldId}`
const hasKey = (field: Field): boolean => field.type === 'text' || field.type === 'email'

/** How a page of records is ordered; records without a value come last, whichever way. */
export interface PageOrder {
  readonly field: Field
  readonly down: boolean
  /** For values that are ids: all that occur, in the order of their words. */
  readonly ranks: readonly string[] | null
}

/** So many statements are kept prepared: filters are written anew again and again. */
const KEPT_MOST = 500

type Cell = string | number | null
/** Id, version, and the cells of the fields asked for, in their order: an object a row would cost more than its query. */
type Row = readonly [id: number, version: number, ...cells: Cell[]]

function encode(value: Value): Cell {
  if (typeof value === 'boolean') return value ? 1 : 0
  return Array.isArray(value) ? JSON.stringify(value) : (value as Cell)
}

function decode(cell: Cell, field: Field): Value {
  if (cell === null) return null
  if (field.type === 'yesNo') return cell === 1
  return field.type === 'choices' ? (JSON.parse(String(cell)) as string[]) : cell
}

interface Shape {
  readonly fields: readonly Field[]
  readonly byKey: ReadonlyMap<string, Field>
  /** Ids of the fields that have a column for their compared form. */
  readonly keyed: ReadonlySet<number>
  readonly read: Statement<[number], Row>
}

/**
 * Records of every kind, in one table a kind with a real column a field, which measures best for filters, sorting and
 * updates up to about a hundred fields. This module alone knows the columns; it adds them as fields come.
 */
export class RecordStore {
  private catalogue: Catalogue | null = null
  private shapes = new Map<ObjectKind, Shape>()
  private readonly updates = new Map<string, Statement>()
  private readonly queries = new Map<string, Statement<unknown[], Row>>()

  private readonly sets: SetStore

  constructor(private readonly db: Db) {
    this.sets = new SetStore(db)
  }

  /** Brings the tables to the fields: adds the columns and indexes that are missing. Call after every change of fields. */
  useFields(catalogue: Catalogue, indexed: ReadonlySet<number>): void {
    this.catalogue = catalogue
    const { fields } = catalogue.data
    const { sqlite } = this.db
    this.shapes = new Map()
    this.updates.clear()
    this.queries.clear()
    this.sets.clear()
    this.addColumns(fields, indexed)
    for (const object of Object.keys(TABLES) as ObjectKind[]) {
      const own = fields.filter((field) => field.object === object)
      const columns = ['id', 'version', ...own.map((field) => columnOf(field.id))].join(', ')
      this.shapes.set(object, {
        fields: own,
        byKey: new Map(own.map((field) => [field.key, field])),
        keyed: new Set(own.filter((field) => indexed.has(field.id) && hasKey(field)).map((field) => field.id)),
        read: sqlite.prepare<[number], Row>(`SELECT ${columns} FROM ${TABLES[object]} WHERE id = ?`).raw(),
      })
    }
  }

  /**
   * Adds the columns and indexes that are missing. Other threads and processes do the same for the same fields: what is
   * missing is looked for again once nobody else can write, so that two never add one column.
   */
  private addColumns(fields: readonly Field[], indexed: ReadonlySet<number>): void {
    if (this.missingColumns(fields, indexed).length === 0) return
    this.db.together(() => {
      for (const add of this.missingColumns(fields, indexed)) add()
    })
  }

  /** What is to be done so that each field has its columns and indexes, in order. */
  private missingColumns(fields: readonly Field[], indexed: ReadonlySet<number>): readonly (() => void)[] {
    const { sqlite } = this.db
    const work: (() => void)[] = []
    for (const object of Object.keys(TABLES) as ObjectKind[]) {
      const table = TABLES[object]
      const names = (pragma: 'table_info' | 'index_list') =>
        new Set((sqlite.pragma(`${pragma}(${table})`) as { name: string }[]).map(({ name }) => name))
      const [columns, indexes] = [names('table_info'), names('index_list')]
      for (const field of fields) {
        if (field.object !== object) continue
        const [name, key] = [columnOf(field.id), keyColumnOf(field.id)]
        if (!columns.has(name))
          work.push(() =>
            sqlite.exec(`ALTER TABLE ${table} ADD COLUMN ${name} ${FIELD_TYPES[field.type].storage.toUpperCase()}`),
          )
        if (!indexed.has(field.id)) continue
        if (!indexes.has(`${table}_${name}`))
          work.push(() => sqlite.exec(`CREATE INDEX ${table}_${name} ON ${table} (${name})`))
        if (!hasKey(field)) continue
        if (!columns.has(key)) work.push(() => this.addKeyColumn(table, field))
        if (!indexes.has(`${table}_${key}`))
          work.push(() => sqlite.exec(`CREATE INDEX ${table}_${key} ON ${table} (${key}, id)`))
      }
    }
    return work
  }

  /** Adds the column of compared forms and fills it for the records that are there. */
  private addKeyColumn(table: string, field: Field): void {
    const { sqlite } = this.db
    this.db.together(() => {
      sqlite.exec(`ALTER TABLE ${table} ADD COLUMN ${keyColumnOf(field.id)} TEXT`)
      const fill = sqlite.prepare(`UPDATE ${table} SET ${keyColumnOf(field.id)} = ? WHERE id = ?`)
      const rows = sqlite
        .prepare(`SELECT id, ${columnOf(field.id)} AS value FROM ${table} WHERE ${columnOf(field.id)} IS NOT NULL`)
        .all() as { id: number; value: string }[]
      for (const { id, value } of rows) fill.run(this.keyOf(value, field), id)
    })
  }

  private keyOf(value: Value, field: Field): Cell {
    return value === null || !this.catalogue ? null : this.catalogue.compared(field, value)
  }

  /** Works the compared forms of a field out anew for all records, after what counts as the same has changed. */
  compareAnew(field: Field): void {
    if (!this.shape(field.object).keyed.has(field.id)) return
    const table = TABLES[field.object]
    this.db.together(() => {
      const set = this.db.sqlite.prepare(
        `UPDATE ${table} SET ${keyColumnOf(field.id)} = ? WHERE ${columnOf(field.id)} = ?`,
      )
      const values = this.db.sqlite
        .prepare(`SELECT DISTINCT ${columnOf(field.id)} AS value FROM ${table} WHERE ${columnOf(field.id)} IS NOT NULL`)
        .all() as { value: string }[]
      this.db.sqlite.exec(
        `CREATE INDEX IF NOT EXISTS ${table}_${columnOf(field.id)} ON ${table} (${columnOf(field.id)})`,
      )
      for (const { value } of values) set.run(this.keyOf(value, field), value)
    })
  }

  /** Puts a field's columns aside, as its values are: the next reading of the fields makes new ones. */
  unmake(field: Field): void {
    const { sqlite } = this.db
    const table = TABLES[field.object]
    const [column, key] = [columnOf(field.id), keyColumnOf(field.id)]
    sqlite.exec(`DROP INDEX IF EXISTS ${table}_${column}; DROP INDEX IF EXISTS ${table}_${key}`)
    const there = new Set((sqlite.pragma(`table_info(${table})`) as { name: string }[]).map((one) => one.name))
    if (there.has(key)) sqlite.exec(`ALTER TABLE ${table} DROP COLUMN ${key}`)
    sqlite.exec(`ALTER TABLE ${table} RENAME COLUMN ${column} TO old_${column}`)
  }

  /** Fills a field's new columns from those that were put aside, value by value, and drops them. */
  refill(field: Field, values: readonly { readonly old: Value; readonly next: Value }[]): void {
    const { sqlite } = this.db
    const table = TABLES[field.object]
    const column = columnOf(field.id)
    const keyed = this.shape(field.object).keyed.has(field.id)
    const set = sqlite.prepare(
      `UPDATE ${table} SET ${column} = ?${keyed ? `, ${keyColumnOf(field.id)} = ?` : ''} WHERE old_${column} = ?`,
    )
    for (const { old, next } of values) set.run(encode(next), ...(keyed ? [this.keyOf(next, field)] : []), encode(old))
    sqlite.exec(`ALTER TABLE ${table} DROP COLUMN old_${column}`)
  }

  /** Where the values of fields lie, for queries over whole tables. */
  private readonly places: Places = {
    table: (object) => TABLES[object],
    columns: (field) => ({
      column: columnOf(field.id),
      key: this.shape(field.object).keyed.has(field.id) ? keyColumnOf(field.id) : null,
    }),
  }

  /** A group of conditions as a query over the records of a kind. */
  where(group: Group, object: ObjectKind, catalogue: Catalogue, moment: Moment): CompiledSql {
    return compileSql(group, object, catalogue, moment, this.places)
  }

  /** What a query comes to on all records of a kind, with the first that match and those that are nearest to it. */
  survey(object: ObjectKind, where: CompiledSql, limit: number): Survey {
    return this.sets.survey(TABLES[object], where, limit)
  }

  /** How many records match, and the first of them. */
  counted(
    object: ObjectKind,
    where: Pick<CompiledSql, 'test'>,
  ): { readonly count: number; readonly first: number | null } {
    return this.statement(
      `SELECT count(*) AS count, min(id) AS first FROM ${TABLES[object]} WHERE ${where.test.text}`,
    ).get(...where.test.bound) as { count: number; first: number | null }
  }

  /** How many of those that match got a value of the field by a change after they had been created. */
  filledLater(
    object: ObjectKind,
    fieldId: number,
    where: Pick<CompiledSql, 'test'>,
  ): { readonly count: number; readonly first: number | null } {
    const table = TABLES[object]
    return this.statement(
      `SELECT count(*) AS count, min(id) AS first FROM ${table} WHERE ${where.test.text} AND EXISTS (
      SELECT 1 FROM history AS h JOIN events AS e ON e.seq = h.event_seq WHERE h.object = ? AND h.record_id = ${table}.id AND h.field_id = ? AND e.kind = 'changed')`,
    ).get(...where.test.bound, object, fieldId) as { count: number; first: number | null }
  }

  /** Ids of records that match behind an id, in their order. */
  matchingAfter(object: ObjectKind, where: Pick<CompiledSql, 'test'>, after: number, limit: number): readonly number[] {
    return (
      this.statement(`SELECT id FROM ${TABLES[object]} WHERE id > ? AND ${where.test.text} ORDER BY id LIMIT ?`).all(
        after,
        ...where.test.bound,
        limit,
      ) as { id: number }[]
    ).map((row) => row.id)
  }

  matching(object: ObjectKind, where: Pick<CompiledSql, 'test'>, limit: number): readonly RecordSnapshot[] {
    return this.readAll(object, this.sets.matching(TABLES[object], where, limit))
  }

  readAll(object: ObjectKind, ids: readonly number[]): readonly RecordSnapshot[] {
    return ids.flatMap((id) => this.read({ object, id }) ?? [])
  }

  private shape(object: ObjectKind): Shape {
    const shape = this.shapes.get(object)
    if (!shape) throw new Error('the fields have not been read yet')
    return shape
  }

  read({ object, id }: RecordRef): RecordSnapshot | null {
    const shape = this.shape(object)
    const row = shape.read.get(id)
    return row ? this.snapshot(object, row, shape.fields) : null
  }

  private snapshot(object: ObjectKind, row: Row, fields: readonly Field[]): RecordSnapshot {
    const values: Record<string, Value> = {}
    fields.forEach((field, i) => {
      const cell = row[i + 2] ?? null
      values[field.key] = cell === null ? null : decode(cell, field)
    })
    return { object, id: row[0], version: row[1], values }
  }

  /** The columns that values go to, each with its cell. */
  private cells(
    object: ObjectKind,
    values: readonly (readonly [key: string, value: Value])[],
  ): readonly (readonly [column: string, cell: Cell])[] {
    const { byKey, keyed } = this.shape(object)
    return values.flatMap(([key, value]) => {
      const field = byKey.get(key)
      if (!field) return []
      const own = [columnOf(field.id), encode(value)] as const
      return keyed.has(field.id) ? [own, [keyColumnOf(field.id), this.keyOf(value, field)] as const] : [own]
    })
  }

  /**
   * One page of all records (of certain owners and of nobody, when `owners` is given), ordered by the database; `null`
   * when the order is one that it cannot make. `fits` lets only some of them through. Offsets are fine here: what is
   * skipped is read from an index or sorted anyway.
   */
  page(
    object: ObjectKind,
    order: PageOrder | null,
    owners: ReadonlySet<string> | null,
    offset: number,
    limit: number,
    fits: readonly Sql[] = [],
  ): { readonly total: number; readonly matched: number; readonly records: readonly RecordSnapshot[] } | null {
    const { byKey, fields, keyed } = this.shape(object)
    const orderBy = order === null ? 'id' : this.orderBy(order, keyed)
    const owner = byKey.get('owner')
    if (orderBy === null || (owners !== null && !owner)) return null
    const seen: readonly Sql[] =
      owners === null || !owner
        ? []
        : [
            {
              text: `(${columnOf(owner.id)} IS NULL OR ${columnOf(owner.id)} IN (${[...owners].map(() => '?').join(', ')}))`,
              bound: [...owners],
            },
          ]
    const ranks = order?.ranks ?? []
    const columns = ['id', 'version', ...fields.map((field) => columnOf(field.id))].join(', ')
    const whereOf = (parts: readonly Sql[]): string =>
      parts.length === 0 ? '' : `WHERE ${parts.map((part) => part.text).join(' AND ')}`
    const boundOf = (parts: readonly Sql[]): readonly Bound[] => parts.flatMap((part) => part.bound)
    const asked = [...seen, ...fits]
    // Sorted by ids alone: a sort that carries every column of every record along costs several times as much.
    const picked = `SELECT id FROM ${TABLES[object]} ${whereOf(asked)} ORDER BY ${orderBy} LIMIT ? OFFSET ?`
    const rows = this.rows(`SELECT ${columns} FROM ${TABLES[object]} WHERE id IN (${picked}) ORDER BY ${orderBy}`).all(
      ...boundOf(asked),
      ...ranks,
      limit,
      offset,
      ...ranks,
    )
    const count = (parts: readonly Sql[]): number =>
      (
        this.statement(`SELECT count(*) AS n FROM ${TABLES[object]} ${whereOf(parts)}`).get(...boundOf(parts)) as {
          n: number
        }
      ).n
    const total = count(seen)
    return {
      total,
      matched: fits.length === 0 ? total : count(asked),
      records: rows.map((row) => this.snapshot(object, row, fields)),
    }
  }

  /** Records in the order of their ids, from the one behind `after` on; of certain owners and of nobody, when given. */
  *from(object: ObjectKind, after: number, owners: ReadonlySet<string> | null): Generator<RecordSnapshot> {
    const { byKey, fields } = this.shape(object)
    const owner = byKey.get('owner')
    const where =
      owners === null || !owner
        ? ''
        : `AND (${columnOf(owner.id)} IS NULL OR ${columnOf(owner.id)} IN (${[...owners].map(() => '?').join(', ')}))`
    const columns = ['id', 'version', ...fields.map((field) => columnOf(field.id))].join(', ')
    const rows = this.rows(`SELECT ${columns} FROM ${TABLES[object]} WHERE id > ? ${where} ORDER BY id`)
    for (const row of rows.iterate(after, ...(owners === null ? [] : owners))) yield this.snapshot(object, row, fields)
  }

  /** Whether the name contains words, already folded. */
  named(object: ObjectKind, folded: string): Sql {
    const field = this.shape(object).byKey.get('name')
    return field
      ? {
          text: `instr(${this.shape(object).keyed.has(field.id) && field.synonyms === null ? keyColumnOf(field.id) : `fold(${columnOf(field.id)})`}, ?) > 0`,
          bound: [folded],
        }
      : { text: '0', bound: [] }
  }

  private orderBy({ field, down, ranks }: PageOrder, keyed: ReadonlySet<number>): string | null {
    const way = down ? 'DESC' : 'ASC'
    const { widget } = FIELD_TYPES[field.type]
    if (keyed.has(field.id)) {
      const key = keyColumnOf(field.id)
      // A required text is never empty, and its index alone gives the order.
      return field.required ? `${key} ${way}, id` : `${key} IS NULL, ${key} ${way}, id`
    }
    const column = columnOf(field.id)
    // Downwards the empty ones come last by themselves; written like this an index gives the order either way.
    if (widget === 'number' || widget === 'date' || widget === 'dateTime')
      return down ? `${column} DESC, id` : `${column} ASC NULLS LAST, id`
    if (ranks === null || ranks.length > 500) return null
    return ranks.length === 0
      ? 'id'
      : `${column} IS NULL, CASE ${column} ${ranks.map((_, rank) => `WHEN ? THEN ${rank}`).join(' ')} ELSE ${ranks.length} END ${way}, id`
  }

  insert(object: ObjectKind, values: Values, nowMs: number): number {
    const given = this.cells(object, Object.entries(values))
    const names = ['version', 'created_at', 'updated_at', ...given.map(([name]) => name)]
    const statement = this.statement(
      `INSERT INTO ${TABLES[object]} (${names.join(', ')}) VALUES (${names.map(() => '?').join(', ')})`,
    )
    return Number(statement.run(1, nowMs, nowMs, ...given.map(([, cell]) => cell)).lastInsertRowid)
  }

  private dateColumn(object: ObjectKind, key: string): string | null {
    const field = this.shape(object).byKey.get(key)
    return field && (field.type === 'date' || field.type === 'dateTime') ? columnOf(field.id) : null
  }

  /** The smallest value of a date field that is not below this one. */
  least(object: ObjectKind, key: string, from: string | number): string | number | null {
    const column = this.dateColumn(object, key)
    return column === null
      ? null
      : (
          this.statement(`SELECT min(${column}) AS value FROM ${TABLES[object]} WHERE ${column} >= ?`).get(from) as {
            value: string | number | null
          }
        ).value
  }

  /** Records whose date field holds one of these values, by their numbers, behind one of them. */
  holding(
    object: ObjectKind,
    key: string,
    values: readonly (string | number)[],
    afterId: number,
    limit: number,
  ): readonly RecordSnapshot[] {
    const column = this.dateColumn(object, key)
    if (column === null || values.length === 0) return []
    const [table, [only]] = [TABLES[object], values]
    // Several as one, so that the statement is the same however many there are. The signs keep SQLite at the index of
    // the dates: in the order of the numbers it would look at every record of a small table.
    const rows = (
      values.length === 1
        ? this.statement(`SELECT id FROM ${table} WHERE ${column} = ? AND id > ? ORDER BY id LIMIT ?`).all(
            only,
            afterId,
            limit,
          )
        : this.statement(
            `SELECT id FROM ${table} WHERE ${column} IN (SELECT value FROM json_each(?)) AND +id > ? ORDER BY +id LIMIT ?`,
          ).all(JSON.stringify(values), afterId, limit)
    ) as { id: number }[]
    return this.readAll(
      object,
      rows.map((row) => row.id),
    )
  }

  /** Records whose date field lies between two instants, both included. */
  between(
    object: ObjectKind,
    key: string,
    from: number,
    to: number,
    afterId: number,
    limit: number,
  ): readonly RecordSnapshot[] {
    const column = this.dateColumn(object, key)
    if (column === null) return []
    const rows = this.statement(
      `SELECT id FROM ${TABLES[object]} WHERE ${column} BETWEEN ? AND ? AND id > ? ORDER BY id LIMIT ?`,
    ).all(from, to, afterId, limit) as { id: number }[]
    return this.readAll(
      object,
      rows.map((row) => row.id),
    )
  }

  /** Records of a kind behind a number, in their order. */
  behind(object: ObjectKind, afterId: number, limit: number): readonly RecordSnapshot[] {
    const { fields } = this.shape(object)
    const columns = ['id', 'version', ...fields.map((field) => columnOf(field.id))].join(', ')
    return this.rows(`SELECT ${columns} FROM ${TABLES[object]} WHERE id > ? ORDER BY id LIMIT ?`)
      .all(afterId, limit)
      .map((row) => this.snapshot(object, row, fields))
  }

  /** What a roll-up comes to over the records linked to one; `where` are those that count. */
  rollUp(
    { object, id }: RecordRef,
    { over, what, field: key, order: orderKey, down }: RollUp,
    where: Pick<CompiledSql, 'test'>,
  ): Value {
    const table = TABLES[over]
    const { byKey } = this.shape(over)
    const forward = LINKABLE.some((pair) => pair.from === object && pair.to === over)
    const among = forward
      ? 'SELECT to_id FROM links WHERE from_object = ? AND from_id = ? AND to_object = ?'
      : 'SELECT from_id FROM links WHERE to_object = ? AND to_id = ? AND from_object = ?'
    const from = `FROM ${table} WHERE id IN (${among}) AND (${where.test.text})`
    const bound: readonly Bound[] = [object, id, over, ...where.test.bound]
    const one = (sql: string): Cell => (this.statement(sql).get(...bound) as { value: Cell } | undefined)?.value ?? null
    if (what === 'count') return one(`SELECT count(*) AS value ${from}`)
    const field = key === null ? undefined : byKey.get(key)
    if (!field) return null
    const column = columnOf(field.id)
    if (what === 'first') {
      const order = orderKey === null ? null : byKey.get(orderKey)
      if (order === undefined) return null
      const by = order === null ? null : columnOf(order.id)
      const way = down ? 'DESC' : 'ASC'
      return decode(
        one(
          `SELECT ${column} AS value ${from}${by === null ? '' : ` AND ${by} IS NOT NULL`} ORDER BY ${by === null ? `id ${way}` : `${by} ${way}, id`} LIMIT 1`,
        ),
        field,
      )
    }
    if (what === 'sum') {
      const sum = one(`SELECT sum(${column}) AS value ${from}`)
      return typeof sum === 'number' ? Number(sum.toFixed(6)) + 0 : null
    }
    return one(`SELECT ${what === 'least' || what === 'earliest' ? 'min' : 'max'}(${column}) AS value ${from}`)
  }

  /** Writes one field of many records as it is worked out: no change of theirs, and nothing that anybody hears of. */
  fill(field: Field, values: readonly (readonly [id: number, value: Value])[]): void {
    for (const [id, value] of values) {
      const given = this.cells(field.object, [[field.key, value]])
      this.statement(
        `UPDATE ${TABLES[field.object]} SET ${given.map(([name]) => `${name} = ?`).join(', ')} WHERE id = ?`,
      ).run(...given.map(([, cell]) => cell), id)
    }
  }

  /** Writes whether each record meets conditions. */
  fillTest(field: Field, where: Pick<CompiledSql, 'test'>): void {
    this.statement(
      `UPDATE ${TABLES[field.object]} SET ${columnOf(field.id)} = CASE WHEN ${where.test.text} THEN 1 ELSE 0 END`,
    ).run(...where.test.bound)
  }

  /** Takes the column of a field away for good. */
  dropColumn(field: Field): void {
    const table = TABLES[field.object]
    this.db.sqlite.exec(`DROP INDEX IF EXISTS ${table}_${columnOf(field.id)}`)
    this.db.sqlite.exec(`ALTER TABLE ${table} DROP COLUMN ${columnOf(field.id)}`)
  }

  /** Takes a record out of its table. Its number is never given again. */
  remove({ object, id }: RecordRef): void {
    this.statement(`DELETE FROM ${TABLES[object]} WHERE id = ?`).run(id)
  }

  /** Puts a record back under the number that it had. */
  putBack({ object, id }: RecordRef, version: number, values: Values, createdMs: number, nowMs: number): void {
    const given = this.cells(object, Object.entries(values))
    const names = ['id', 'version', 'created_at', 'updated_at', ...given.map(([name]) => name)]
    this.statement(
      `INSERT INTO ${TABLES[object]} (${names.join(', ')}) VALUES (${names.map(() => '?').join(', ')})`,
    ).run(id, version, createdMs, nowMs, ...given.map(([, cell]) => cell))
  }

  /** Without `counts` the version stays as it is: what is worked out is in nobody's way. */
  update({ object, id }: RecordRef, changes: readonly FieldChange[], nowMs: number, counts = true): void {
    const given = this.cells(
      object,
      changes.map((change) => [change.field, change.new] as const),
    )
    const set = given.map(([name]) => `${name} = ?`).join(', ')
    this.statement(
      `UPDATE ${TABLES[object]} SET version = version + ${counts ? 1 : 0}, updated_at = ?, ${set} WHERE id = ?`,
    ).run(nowMs, ...given.map(([, cell]) => cell), id)
  }

  private rows(sql: string): Statement<unknown[], Row> {
    const known = this.queries.get(sql)
    if (known) return known
    if (this.queries.size > KEPT_MOST) this.queries.clear()
    const made = this.db.sqlite.prepare<unknown[], Row>(sql).raw()
    this.queries.set(sql, made)
    return made
  }

  private statement(sql: string): Statement {
    const known = this.updates.get(sql)
    if (known) return known
    if (this.updates.size > KEPT_MOST) this.updates.clear()
    const made = this.db.sqlite.prepare(sql)
    this.updates.set(sql, made)
    return made
  }

  /** Goes through all records of a kind in the order of their ids, with only the fields that are asked for. */
  *scan(object: ObjectKind, keys: readonly string[]): Generator<RecordSnapshot> {
    const shape = this.shape(object)
    const fields = keys.flatMap((key) => shape.byKey.get(key) ?? [])
    const columns = ['id', 'version', ...fields.map((field) => columnOf(field.id))].join(', ')
    for (const row of this.rows(`SELECT ${columns} FROM ${TABLES[object]} ORDER BY id`).iterate()) {
      yield this.snapshot(object, row, fields)
    }
  }

  /** Records where a field holds exactly this stored value; uses the column's index when it has one. */
  findBy(object: ObjectKind, key: string, value: Value): readonly RecordSnapshot[] {
    const shape = this.shape(object)
    const field = shape.byKey.get(key)
    if (!field) return []
    const columns = ['id', 'version', ...shape.fields.map((one) => columnOf(one.id))].join(', ')
    const rows = this.rows(`SELECT ${columns} FROM ${TABLES[object]} WHERE ${columnOf(field.id)} = ? ORDER BY id`).all(
      encode(value),
    )
    return rows.map((row) => this.snapshot(object, row, shape.fields))
  }

  /**
   * Records that may hold this form in the part of a field that is compared, the oldest first: all that do, and some
   * that do not. Domains in indexed texts and whole values are looked up by the index.
   */
  alike(field: Field, part: MatchPart, form: string): readonly RecordSnapshot[] {
    const { fields, keyed } = this.shape(field.object)
    const column = columnOf(field.id)
    const compared = keyed.has(field.id)
      ? keyColumnOf(field.id)
      : field.type === 'text'
        ? `fold(${column})`
        : `lowered(${column})`
    const where = (): Sql => {
      if (part === 'whole') return { text: `${compared} = ?`, bound: [form] }
      if (part === 'digits')
        return field.type === 'phone'
          ? { text: `${column} = ?`, bound: [`+${form}`] }
          : { text: `${column} IS NOT NULL`, bound: [] }
      if (field.type !== 'text' || field.synonyms !== null)
        return { text: `instr(lowered(${column}), ?) > 0`, bound: [form] }
      const spelled = ['', 'www.', 'http://', 'https://', 'http://www.', 'https://www.'].flatMap((start) => [
        `${start}${form}`,
        `${start}${form}/`,
      ])
      return { text: `${compared} IN (${spelled.map(() => '?').join(', ')})`, bound: spelled }
    }
    const { text, bound } = where()
    const columns = ['id', 'version', ...fields.map((one) => columnOf(one.id))].join(', ')
    return this.rows(`SELECT ${columns} FROM ${TABLES[field.object]} WHERE ${text} ORDER BY id`)
      .all(...bound)
      .map((row) => this.snapshot(field.object, row, fields))
  }

  /** How many records have something in a field; also of one that was put away. */
  filled(field: Field): number {
    return (
      this.statement(`SELECT count(${columnOf(field.id)}) AS n FROM ${TABLES[field.object]}`).get() as { n: number }
    ).n
  }

  /** The values of a field that occur most; where none occurs twice, some of them. */
  commonest(field: Field, limit: number): readonly { readonly value: Value; readonly count: number }[] {
    const column = columnOf(field.id)
    const rows = this.statement(
      `SELECT ${column} AS value, count(*) AS n FROM ${TABLES[field.object]} WHERE ${column} IS NOT NULL GROUP BY ${column} ORDER BY n DESC, value LIMIT ?`,
    ).all(limit) as { value: Cell; n: number }[]
    return rows.map(({ value, n }) => ({ value: decode(value, field), count: n }))
  }

  /** How many records hold each choice of a field, by the choice's id. */
  choiceCounts(field: Field): Readonly<Record<string, number>> {
    const column = columnOf(field.id)
    const table = TABLES[field.object]
    const rows = this.statement(
      field.type === 'choices'
        ? `SELECT one.value AS id, count(*) AS n FROM ${table}, json_each(${column}) AS one GROUP BY one.value`
        : `SELECT ${column} AS id, count(*) AS n FROM ${table} WHERE ${column} IS NOT NULL GROUP BY ${column}`,
    ).all() as { id: string; n: number }[]
    return Object.fromEntries(rows.map(({ id, n }) => [id, n]))
  }

  count(object: ObjectKind): number {
    const row = this.statement(`SELECT count(*) AS n FROM ${TABLES[object]}`).get() as { n: number }
    return row.n
  }

  times({ object, id }: RecordRef): { readonly createdAt: number; readonly updatedAt: number } | null {
    const row = this.statement(`SELECT created_at, updated_at FROM ${TABLES[object]} WHERE id = ?`).get(id) as
      { created_at: number; updated_at: number } | undefined
    return row ? { createdAt: row.created_at, updatedAt: row.updated_at } : null
  }
}
