import { mkdirSync } from 'node:fs'
import { dirname } from 'node:path'
import Database from 'better-sqlite3'
import { drizzle, type BetterSQLite3Database } from 'drizzle-orm/better-sqlite3'
import { migrate } from 'drizzle-orm/better-sqlite3/migrator'
import * as schema from './schema'

export type Orm = BetterSQLite3Database<typeof schema>

export interface Db {
  readonly sqlite: Database.Database
  readonly orm: Orm
  /** All or nothing. Inside another one it is a savepoint, so that a part can fail by itself. */
  atomically<T>(work: () => T): T
  close(): void
}

/**
 * Opens the database file, makes it when it is not there, and brings it to the newest migration. Write-ahead log so
 * that readers never wait for the writer; `synchronous = FULL` so that what was answered survives a power cut.
 */
export function openDb(file: string, migrationsFolder: string): Db {
  if (file !== ':memory:') mkdirSync(dirname(file), { recursive: true })
  const sqlite = new Database(file)
  sqlite.pragma('journal_mode = WAL')
  sqlite.pragma('synchronous = FULL')
  sqlite.pragma('foreign_keys = ON')
  sqlite.pragma('busy_timeout = 5000')
  sqlite.pragma('wal_autocheckpoint = 20000')
  const orm = drizzle(sqlite, { schema, casing: 'snake_case' })
  migrate(orm, { migrationsFolder })
  return {
    sqlite,
    orm,
    // Immediate: a writer that finds out only at its first write that another holds the lock could not be retried.
    atomically: (work) => (sqlite.inTransaction ? sqlite.transaction(work)() : sqlite.transaction(work).immediate()),
    close: () => sqlite.close(),
  }
}
