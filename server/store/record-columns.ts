import type { Statement } from 'better-sqlite3'
import type { Field } from '../../core/fields/field'
import { FIELD_TYPES } from '../../core/fields/types'
import type { Value } from '../../core/language/value'
import type { ObjectKind } from '../../core/records/kinds'
import { NO_RECORD, type RecordSnapshot } from '../../core/records/record'
import type { Group } from '../../core/conditions/document'
import type { Catalogue } from '../../core/fields/catalogue'
import { isForeign, worthNow } from '../../core/money/worth'
import type { Db } from '../db/connect'
import type { Scope } from '../../core/access/scope'
import { compileSql, type CompiledSql, type Places, type Sql } from './conditions'
import { SetStore } from './sets'
import type { Moment } from '../../core/conditions/moment'

export const TABLES: { readonly [K in ObjectKind]: string } = {
  deal: 'deals',
  contact: 'contacts',
  company: 'companies',
  appointment: 'appointments',
  // One row without fields: what a rule about no record runs for.
  none: 'no_records',
}

/** The names of value columns are made from ids alone: no text of a user ever gets into a statement. */
export const columnOf = (fieldId: number): string => `c_${fieldId}`

/** Beside an indexed text stands the form in which it is compared and sorted, without case, accents and blanks. */
export const keyColumnOf = (fieldId: number): string => `k_${fieldId}`

export const hasKey = (field: Field): boolean => field.type === 'text' || field.type === 'email'

/** So many statements are kept prepared: filters are written anew again and again. */
export const KEPT_MOST = 500

export type Cell = string | number | null

/**
 * Id, version, and the cells of the fields asked for, in their order: an object a row would cost more than its query.
 */
export type Row = readonly [id: number, version: number, ...cells: Cell[]]

export function encode(value: Value): Cell {
  if (typeof value === 'boolean') return value ? 1 : 0
  return Array.isArray(value) ? JSON.stringify(value) : (value as Cell)
}

export function decode(cell: Cell, field: Field): Value {
  if (cell === null) return null
  if (field.type === 'yesNo') return cell === 1
  return field.type === 'choices' ? (JSON.parse(String(cell)) as string[]) : cell
}

export interface Shape {
  readonly fields: readonly Field[]
  readonly byKey: ReadonlyMap<string, Field>
  /** Ids of the fields that have a column for their compared form. */
  readonly keyed: ReadonlySet<number>
  readonly read: Statement<[number], Row>
}

/**
 * The tables of records with a column a field: adds columns as fields come, and reads rows back into records. Nobody
 * but this and what stands on it knows a column’s name.
 */
export abstract class RecordColumns {
  protected catalogue: Catalogue | null = null
  protected shapes = new Map<ObjectKind, Shape>()
  protected readonly updates = new Map<string, Statement>()
  protected readonly queries = new Map<string, Statement<unknown[], Row>>()

  protected readonly sets: SetStore

  constructor(private readonly db: Db) {
    this.sets = new SetStore(db)
    this.money()
  }

  /**
   * Brings the tables to the fields: adds the columns and indexes that are missing. Call after every change of fields.
   */
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
  protected addColumns(fields: readonly Field[], indexed: ReadonlySet<number>): void {
    if (this.missingColumns(fields, indexed).length === 0) return
    this.db.together(() => {
      for (const add of this.missingColumns(fields, indexed)) add()
    })
  }

  /** What is to be done so that each field has its columns and indexes, in order. */
  protected missingColumns(fields: readonly Field[], indexed: ReadonlySet<number>): readonly (() => void)[] {
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
  protected addKeyColumn(table: string, field: Field): void {
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

  protected keyOf(value: Value, field: Field): Cell {
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
  protected readonly places = (scope: Scope): Places => ({
    table: (object) => TABLES[object],
    columns: (field) => ({
      column: columnOf(field.id),
      key: this.shape(field.object).keyed.has(field.id) ? keyColumnOf(field.id) : null,
      worth: this.worthOf(field),
    }),
    visible: (object, alias) => this.visible(object, scope, alias),
    meeting: (text, object, catalogue, moment) => this.meeting(text, object, catalogue, moment, scope),
  })

  /** Whether a record is within a scope; `null` where all are. */
  protected visible(object: ObjectKind, scope: Scope, alias?: string): Sql | null {
    const owner = this.shape(object).byKey.get('owner')
    if (scope === null || !owner) return null
    const column = `${alias === undefined ? '' : `${alias}.`}${columnOf(owner.id)}`
    return { text: `(${column} IS NULL OR ${column} IN (${[...scope].map(() => '?').join(', ')}))`, bound: [...scope] }
  }

  /** The values of a field as they are compared, ordered and added up: amounts in the workspace's currency. */
  protected worthOf(field: Field): string {
    const column = columnOf(field.id)
    const { byKey } = this.shape(field.object)
    const code = field.currencyKey === null ? undefined : byKey.get(field.currencyKey)
    if (!isForeign(field) || !code) return column
    const [stage, since] = ['stage', 'stageSince'].map((key) => byKey.get(key))
    const closed = stage && since ? `${columnOf(stage.id)}, ${columnOf(since.id)}` : 'NULL, NULL'
    // Most amounts are in the workspace's own: those are not asked about.
    return `CASE WHEN ${columnOf(code.id)} IS NULL OR upper(${columnOf(code.id)}) = own_currency() THEN ${column} ELSE worth(${column}, ${columnOf(code.id)}, ${closed}) END`
  }

  /** What SQLite asks about amounts. */
  private money(): void {
    const { sqlite } = this.db
    sqlite.function('own_currency', { deterministic: true }, () => this.catalogue?.workspace.currency ?? '')
    sqlite.function('worth', (amount: unknown, code: unknown, stage: unknown, since: unknown) =>
      typeof amount !== 'number' || !this.catalogue
        ? null
        : worthNow(
            amount,
            String(code).toUpperCase(),
            { stage: stage as Value, stageSince: since as Value },
            this.catalogue,
          ),
    )
  }

  /** The numbers of the records of a kind for which a formula is true. */
  protected abstract meeting(
    text: string,
    object: ObjectKind,
    catalogue: Catalogue,
    moment: Moment,
    scope: Scope,
  ): readonly number[]

  /** A group of conditions as a query over the records of a kind; of linked records, those within the scope count. */
  where(group: Group, object: ObjectKind, catalogue: Catalogue, moment: Moment, scope: Scope = null): CompiledSql {
    return compileSql(group, object, catalogue, moment, this.places(scope))
  }

  protected shape(object: ObjectKind): Shape {
    const shape = this.shapes.get(object)
    if (!shape) throw new Error('the fields have not been read yet')
    return shape
  }

  protected snapshot(object: ObjectKind, row: Row, fields: readonly Field[]): RecordSnapshot {
    if (object === 'none') return NO_RECORD
    const values: Record<string, Value> = {}
    fields.forEach((field, i) => {
      const cell = row[i + 2] ?? null
      values[field.key] = cell === null ? null : decode(cell, field)
    })
    return { object, id: row[0], version: row[1], values }
  }

  /** The columns that values go to, each with its cell. */
  protected cells(
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

  protected rows(sql: string): Statement<unknown[], Row> {
    const known = this.queries.get(sql)
    if (known) return known
    if (this.queries.size > KEPT_MOST) this.queries.clear()
    const made = this.db.sqlite.prepare<unknown[], Row>(sql).raw()
    this.queries.set(sql, made)
    return made
  }

  protected statement(sql: string): Statement {
    const known = this.updates.get(sql)
    if (known) return known
    if (this.updates.size > KEPT_MOST) this.updates.clear()
    const made = this.db.sqlite.prepare(sql)
    this.updates.set(sql, made)
    return made
  }

  protected dateColumn(object: ObjectKind, key: string): string | null {
    const field = this.shape(object).byKey.get(key)
    return field && (field.type === 'date' || field.type === 'dateTime') ? columnOf(field.id) : null
  }

  /** Takes the column of a field away for good. */
  dropColumn(field: Field): void {
    const table = TABLES[field.object]
    this.db.sqlite.exec(`DROP INDEX IF EXISTS ${table}_${columnOf(field.id)}`)
    this.db.sqlite.exec(`ALTER TABLE ${table} DROP COLUMN ${columnOf(field.id)}`)
  }
}
