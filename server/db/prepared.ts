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
  const columns = getTableColumns(table)
  const chosen = keys.map((key) => {
    const column = columns[key]
    if (!column) throw new RangeError(`there is no column ${key}`)
    return { key, name: column.keyAsName ? toSnakeCase(key) : column.name, encode: encoderOf(column.dataType) }
  })
  const statement: Statement = sqlite.prepare(
    `INSERT INTO ${getTableConfig(table).name} (${chosen.map((one) => one.name).join(', ')}) VALUES (${chosen.map(() => '?').join(', ')})${onConflict === 'nothing' ? ' ON CONFLICT DO NOTHING' : ''}`,
  )
  const { length } = chosen
  return (row) => {
    const bound = new Array<Bound>(length)
    for (let i = 0; i < length; i++) {
      const one = chosen[i]
      const value: unknown = one ? row[one.key] : null
      bound[i] = value === null || value === undefined ? null : one?.encode ? one.encode(value) : (value as Bound)
    }
    return statement.run(bound)
  }
}
