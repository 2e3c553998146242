import type { Statement } from 'better-sqlite3'
import type { Field } from '../../core/fields/field'
import { FIELD_TYPES } from '../../core/fields/types'
import type { Value, Values } from '../../core/fields/value'
import type { ObjectKind, RecordRef } from '../../core/records/kinds'
import type { FieldChange, RecordSnapshot } from '../../core/records/record'
import type { Db } from '../db/connect'

const TABLES: { readonly [K in ObjectKind]: string } = { deal: 'deals', contact: 'contacts', company: 'companies' }

/** The names of value columns are made from ids alone: no text of a user ever gets into a statement. */
const columnOf = (fieldId: number): string => `c_${fieldId}`

type Cell = string | number | null
type Row = Record<string, Cell>

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
  readonly read: Statement<[number], Row>
}

/**
 * Records of every kind, in one table a kind with a real column a field, which measures best for filters, sorting and
 * updates up to about a hundred fields. This module alone knows the columns; it adds them as fields come.
 */
export class RecordStore {
  private shapes = new Map<ObjectKind, Shape>()
  private readonly updates = new Map<string, Statement>()

  constructor(private readonly db: Db) {}

  /** Brings the tables to the fields: adds the columns and indexes that are missing. Call after every change of fields. */
  useFields(fields: readonly Field[], indexed: ReadonlySet<number>): void {
    const { sqlite } = this.db
    this.shapes = new Map()
    this.updates.clear()
    for (const object of Object.keys(TABLES) as ObjectKind[]) {
      const table = TABLES[object]
      const own = fields.filter((field) => field.object === object)
      const there = new Set((sqlite.pragma(`table_info(${table})`) as { name: string }[]).map((column) => column.name))
      for (const field of own) {
        const name = columnOf(field.id)
        if (!there.has(name)) sqlite.exec(`ALTER TABLE ${table} ADD COLUMN ${name} ${FIELD_TYPES[field.type].storage.toUpperCase()}`)
        if (indexed.has(field.id)) sqlite.exec(`CREATE INDEX IF NOT EXISTS ${table}_${name} ON ${table} (${name})`)
      }
      const columns = ['id', 'version', ...own.map((field) => columnOf(field.id))].join(', ')
      this.shapes.set(object, {
        fields: own,
        byKey: new Map(own.map((field) => [field.key, field])),
        read: sqlite.prepare(`SELECT ${columns} FROM ${table} WHERE id = ?`),
      })
    }
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
    for (const field of fields) {
      const cell = row[columnOf(field.id)] ?? null
      values[field.key] = cell === null ? null : decode(cell, field)
    }
    return { object, id: Number(row.id), version: Number(row.version), values }
  }

  insert(object: ObjectKind, values: Values, nowMs: number): number {
    const { byKey } = this.shape(object)
    const given = Object.entries(values).flatMap(([key, value]) => {
      const field = byKey.get(key)
      return field ? [[columnOf(field.id), encode(value)] as const] : []
    })
    const names = ['version', 'created_at', 'updated_at', ...given.map(([name]) => name)]
    const statement = this.statement(`INSERT INTO ${TABLES[object]} (${names.join(', ')}) VALUES (${names.map(() => '?').join(', ')})`)
    return Number(statement.run(1, nowMs, nowMs, ...given.map(([, cell]) => cell)).lastInsertRowid)
  }

  update({ object, id }: RecordRef, changes: readonly FieldChange[], nowMs: number): void {
    const { byKey } = this.shape(object)
    const given = changes.flatMap((change) => {
      const field = byKey.get(change.field)
      return field ? [[columnOf(field.id), encode(change.new)] as const] : []
    })
    const set = given.map(([name]) => `${name} = ?`).join(', ')
    this.statement(`UPDATE ${TABLES[object]} SET version = version + 1, updated_at = ?, ${set} WHERE id = ?`)
      .run(nowMs, ...given.map(([, cell]) => cell), id)
  }

  private statement(sql: string): Statement {
    const known = this.updates.get(sql)
    if (known) return known
    const made = this.db.sqlite.prepare(sql)
    this.updates.set(sql, made)
    return made
  }

  /** Goes through all records of a kind in the order of their ids, with only the fields that are asked for. */
  *scan(object: ObjectKind, keys: readonly string[]): Generator<RecordSnapshot> {
    const shape = this.shape(object)
    const fields = keys.flatMap((key) => shape.byKey.get(key) ?? [])
    const columns = ['id', 'version', ...fields.map((field) => columnOf(field.id))].join(', ')
    for (const row of this.statement(`SELECT ${columns} FROM ${TABLES[object]} ORDER BY id`).iterate()) {
      yield this.snapshot(object, row as Row, fields)
    }
  }

  /** Records where a field holds exactly this stored value; uses the column's index when it has one. */
  findBy(object: ObjectKind, key: string, value: Value): readonly RecordSnapshot[] {
    const shape = this.shape(object)
    const field = shape.byKey.get(key)
    if (!field) return []
    const columns = ['id', 'version', ...shape.fields.map((one) => columnOf(one.id))].join(', ')
    const rows = this.statement(`SELECT ${columns} FROM ${TABLES[object]} WHERE ${columnOf(field.id)} = ? ORDER BY id`).all(encode(value))
    return rows.map((row) => this.snapshot(object, row as Row, shape.fields))
  }

  count(object: ObjectKind): number {
    const row = this.statement(`SELECT count(*) AS n FROM ${TABLES[object]}`).get() as { n: number }
    return row.n
  }

  times({ object, id }: RecordRef): { readonly createdAt: number; readonly updatedAt: number } | null {
    const row = this.statement(`SELECT created_at, updated_at FROM ${TABLES[object]} WHERE id = ?`).get(id) as { created_at: number; updated_at: number } | undefined
    return row ? { createdAt: row.created_at, updatedAt: row.updated_at } : null
  }
}
