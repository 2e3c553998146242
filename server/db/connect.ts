import { mkdirSync } from 'node:fs'
import { ownFile } from './own-file'
import { dirname } from 'node:path'
import Database from 'better-sqlite3'
import { drizzle, type BetterSQLite3Database } from 'drizzle-orm/better-sqlite3'
import { migrate } from 'drizzle-orm/better-sqlite3/migrator'
import { foldText } from '../../core/language/value'
import * as schema from './schema'

export type Orm = BetterSQLite3Database<typeof schema>

/** Told before and after each transaction that writes, so that threads on one file can let each other in. */
export interface Turns {
  before(): void
  after(): void
}

export interface Db {
  readonly sqlite: Database.Database
  readonly orm: Orm
  /** All or nothing. Inside another one it is a savepoint, so that a part can fail by itself. */
  atomically<T>(work: () => T): T
  /**
   * As `atomically`, for what may be done once more after a power cut and is harmless then: nothing waits for the disk.
   * It survives a crash of the process, and a power cut as soon as anything was written after it by `atomically`.
   */
  unhurriedly<T>(work: () => T): T
  /** Reads everything as it is at one moment, whatever others commit meanwhile; writes nothing and holds nobody up. */
  atSameMoment<T>(work: () => T): T
  /** All or nothing, but as a part of the transaction that is open, when there is one: for what never fails alone. */
  together<T>(work: () => T): T
  /**
   * Works while the bulk worker holds its next batch back: for whatever writes without a transaction of its own.
   * Without it such a write waits for a gap between two batches, and fails when it finds none in `busy_timeout`.
   * Nothing can be awaited meanwhile: a promise is given back with the turn over.
   */
  inTurn<T>(work: () => T): T
  /**
   * Does something once what is being written is committed, at once when nothing is; never when it is dropped. For
   * whatever others shall find written.
   */
  afterwards(work: () => void): void
  /**
   * Names what reads can be kept for: a new number with each transaction and with each part that is dropped. `null`
   * outside of a transaction, where another thread may write between two reads.
   */
  transactionId(): number | null
  /** Lets SQLite look how values are spread, where that has changed much: it chooses better ways through links then. */
  analyze(): void
  /** What another connection found out about that is read only when somebody asks. */
  rereadStock(): void
  close(): void
}

function prepare(sqlite: Database.Database, migrationsFolder: string): Orm {
  sqlite.pragma('journal_mode = WAL')
  sqlite.pragma('synchronous = FULL')
  sqlite.pragma('foreign_keys = ON')
  sqlite.pragma('busy_timeout = 5000')
  sqlite.pragma('wal_autocheckpoint = 20000')
  // 64 MiB: with the 2 MiB that are usual, a batch over a dozen indexes throws its own pages out and reads them again.
  sqlite.pragma('cache_size = -65536')
  // What texts are compared as, for columns that do not keep it beside them.
  sqlite.function('fold', { deterministic: true }, (text: unknown) => (text === null ? null : foldText(String(text))))
  sqlite.function('lowered', { deterministic: true }, (text: unknown) =>
    text === null ? null : String(text).toLowerCase(),
  )
  const orm = drizzle(sqlite, { schema, casing: 'snake_case' })
  // A table that is made anew is away for a moment while others point at it; inside the migration's transaction this
  // cannot be said.
  sqlite.pragma('foreign_keys = OFF')
  migrate(orm, { migrationsFolder })
  sqlite.pragma('foreign_keys = ON')
  return orm
}

/** How values are spread is looked at where there are at least so many. */
const STOCK_LEAST = 1_000

/**
 * Opens the database file, makes it when it is not there, and brings it to the newest migration. Write-ahead log so
 * that readers never wait for the writer; `synchronous = FULL` so that what was answered survives a power cut.
 */
export function openDb(file: string, migrationsFolder: string, turns: Turns | null = null): Db {
  if (file !== ':memory:') {
    mkdirSync(dirname(file), { recursive: true })
    ownFile(file)
  }
  const sqlite = new Database(file)
  let orm: Orm
  try {
    orm = prepare(sqlite, migrationsFolder)
  } catch (error) {
    // What failed is undone by SQLite; the file is as it was, and must not be held open.
    sqlite.close()
    const said =
      error instanceof Error ? [error, error.cause].flatMap((one) => (one instanceof Error ? one.message : [])) : []
    const why = said.filter(Boolean).join(': ') || String(error)
    throw new Error(`Could not open the database ${file}: ${why}`, { cause: error })
  }
  // Immediate: a writer that finds out only at its first write that another holds the lock could not be retried.
  const whole = {
    begin: sqlite.prepare('BEGIN IMMEDIATE'),
    keep: sqlite.prepare('COMMIT'),
    drop: [sqlite.prepare('ROLLBACK')],
  }
  const part = {
    begin: sqlite.prepare('SAVEPOINT part'),
    keep: sqlite.prepare('RELEASE part'),
    drop: [sqlite.prepare('ROLLBACK TO part'), sqlite.prepare('RELEASE part')],
  }
  const reading = { begin: sqlite.prepare('BEGIN DEFERRED'), end: sqlite.prepare('COMMIT') }
  let transactionId = 0
  let inside = false
  let later: (() => void)[] = []
  const atomically = <T>(work: () => T): T => {
    const outer = !inside
    const { begin, keep, drop } = outer ? whole : part
    // A part of a transaction that SQLite has ended itself would be committed alone.
    if (!outer && !sqlite.inTransaction) throw new Error('the transaction has been ended by the database')
    if (outer) turns?.before()
    try {
      begin.run()
      if (outer) transactionId++
      inside = true
      const result = work()
      keep.run()
      return result
    } catch (error) {
      transactionId++
      if (outer) later = []
      // SQLite ends the transaction by itself when the disk is full or broken; there is nothing left to drop then.
      if (sqlite.inTransaction) for (const statement of drop) statement.run()
      throw error
    } finally {
      if (outer) {
        inside = false
        turns?.after()
        const due = later
        later = []
        for (const one of due) one()
      }
    }
  }
  return {
    sqlite,
    orm,
    atomically,
    unhurriedly: (work) => {
      if (inside) return atomically(work)
      sqlite.pragma('synchronous = NORMAL')
      try {
        return atomically(work)
      } finally {
        sqlite.pragma('synchronous = FULL')
      }
    },
    atSameMoment: (work) => {
      if (inside) return work()
      reading.begin.run()
      try {
        return work()
      } finally {
        reading.end.run()
      }
    },
    inTurn: (work) => {
      turns?.before()
      try {
        return work()
      } finally {
        turns?.after()
      }
    },
    together: (work) => (inside ? work() : atomically(work)),
    afterwards: (work) => {
      if (inside) later.push(work)
      else work()
    },
    transactionId: () => (inside ? transactionId : null),
    analyze: () => {
      // A look at some entries of each index is enough, and quick; tables that were never looked at are looked at as
      // well.
      sqlite.pragma('analysis_limit = 1000')
      sqlite.pragma('optimize = 0x10002')
      // Of a table that was nearly empty when it was looked at, SQLite reads all, however much comes into it later.
      // What is taken for large is read by its indexes, which is never far wrong.
      const known = sqlite.prepare("SELECT 1 FROM sqlite_schema WHERE name = 'sqlite_stat1'").get()
      if (known) sqlite.prepare('DELETE FROM sqlite_stat1 WHERE CAST(stat AS INTEGER) < ?').run(STOCK_LEAST)
      sqlite.exec('ANALYZE sqlite_schema')
    },
    rereadStock: () => {
      sqlite.exec('ANALYZE sqlite_schema')
    },
    close: () => sqlite.close(),
  }
}
