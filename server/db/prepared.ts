import type { Database, RunResult, Statement } from 'better-sqlite3'
import { getTableColumns } from 'drizzle-orm'
import { toSnakeCase } from 'drizzle-orm/casing'
import { getTableConfig, type SQLiteTable } from 'drizzle-orm/sqlite-core'

type Bound = string | number | null

/** How a column's value is given to SQLite; `null` where it goes as it is. */
type Encode = ((value: unknown) => Bound) | null

function encoderOf(dataType: string): Encode {
  if (dataType === 'json') return (value) => JSON.stringify(value)
  if (dataType === 'boolean') return (value) => (value ? 1 : 0)
  return null
}

/**
 * An insert into a table of the schema, prepared once, for the paths on which a query builder would cost more than the
 * database does. Names and types of the columns are the schema's own. Give every key of `keys` with each row; `null`
 * is stored for what is left out.
 */
export function prepareInsert<T extends SQLiteTable, K extends keyof T['$inferInsert'] & string>(
  sqlite: Database,
  table: T,
  keys: readonly K[],
  onConflict: 'fail' | 'nothing' = 'fail',
): (row: Pick<T['$inferInsert'], K>) => RunResult {
  const chosen = chosenOf(table, keys)
  const statement = sqlite.prepare(insertText(table, chosen, 1, onConflict))
  return (row) => {
    const bound = new Array<Bound>(chosen.length)
    bind(bound, 0, chosen, row)
    return statement.run(bound)
  }
}

/** So many rows go into one statement at the most. */
const ROWS_MOST = 16

/** As `prepareInsert`, for several rows at once: a statement for each number of rows, made when it is first needed. */
export function prepareInserts<T extends SQLiteTable, K extends keyof T['$inferInsert'] & string>(
  sqlite: Database,
  table: T,
  keys: readonly K[],
): (rows: readonly Pick<T['$inferInsert'], K>[]) => void {
  const chosen = chosenOf(table, keys)
  const statements = new Map<number, Statement>()
  return (rows) => {
    for (let from = 0; from < rows.length; from += ROWS_MOST) {
      const count = Math.min(ROWS_MOST, rows.length - from)
      let statement = statements.get(count)
      if (!statement) statements.set(count, (statement = sqlite.prepare(insertText(table, chosen, count, 'fail'))))
      const bound = new Array<Bound>(count * chosen.length)
      for (let i = 0; i < count; i++) bind(bound, i * chosen.length, chosen, rows[from + i] ?? {})
      statement.run(bound)
    }
  }
}

interface Chosen {
  readonly key: string
  readonly name: string
  readonly encode: Encode
}

function chosenOf(table: SQLiteTable, keys: readonly string[]): readonly Chosen[] {
  const columns = getTableColumns(table)
  return keys.map((key) => {
    const column = columns[key]
    if (!column) throw new RangeError(`there is no column ${key}`)
    return { key, name: column.keyAsName ? toSnakeCase(key) : column.name, encode: encoderOf(column.dataType) }
  })
}

const insertText = (
  table: SQLiteTable,
  chosen: readonly Chosen[],
  rows: number,
  onConflict: 'fail' | 'nothing',
): string => {
  const row = `(${chosen.map(() => '?').join(', ')})`
  return `INSERT INTO ${getTableConfig(table).name} (${chosen.map((one) => one.name).join(', ')}) VALUES ${Array.from({ length: rows }, () => row).join(', ')}${onConflict === 'nothing' ? ' ON CONFLICT DO NOTHING' : ''}`
}

function bind(bound: Bound[], at: number, chosen: readonly Chosen[], row: { readonly [key: string]: unknown }): void {
  for (let i = 0; i < chosen.length; i++) {
    const one = chosen[i]
    const value = one ? row[one.key] : null
    bound[at + i] = value === null || value === undefined ? null : one?.encode ? one.encode(value) : (value as Bound)
  }
}
