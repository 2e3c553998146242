import type { RetentionKind } from '../../core/records/retention'
import type { Db } from '../db/connect'
import { retention } from '../db/schema/catalogue'
import { KEPT_KINDS } from './kept'

export type RetentionRow = typeof retention.$inferSelect

/** So many rows are looked at in one commit. */
const PIECE = 1000

/** How long things are kept, how much room they take, and the deleting of what is too old. */
export class RetentionStore {
  constructor(private readonly db: Db) {}

  /** What was said of each kind, and how far it was gone through; kinds nobody touched are left out. */
  all(): ReadonlyMap<RetentionKind, RetentionRow> {
    return new Map(
      this.db.orm
        .select()
        .from(retention)
        .all()
        .map((row) => [row.kind, row]),
    )
  }

  /** `row` has what changes; the rest stays, or is what it is where nobody said anything. */
  set(kind: RetentionKind, row: Partial<Omit<RetentionRow, 'kind'>>): void {
    this.db.orm
      .insert(retention)
      .values({ kind, said: false, days: null, personId: null, cutMs: null, sweptAt: null, ...row })
      .onConflictDoUpdate({ target: retention.kind, set: row })
      .run()
  }

  /** How many rows there are. */
  count(kind: RetentionKind): number {
    return this.number(`SELECT count(*) AS n FROM ${KEPT_KINDS[kind].table}`)
  }

  oldest(kind: RetentionKind): number | null {
    return (this.db.sqlite.prepare(KEPT_KINDS[kind].oldest).get() as { at: number | null } | undefined)?.at ?? null
  }

  /** How many rows would go if nothing from before an instant had to be kept. Looks at every row. */
  older(kind: RetentionKind, beforeMs: number): number {
    const { table, gone } = KEPT_KINDS[kind]
    return this.number(`SELECT count(*) AS n FROM ${table} AS one WHERE ${gone}`, { before: beforeMs })
  }

  private number(sql: string, bound: { readonly before?: number } = {}): number {
    return (this.db.sqlite.prepare(sql).get(bound) as { n: number }).n
  }

  /**
   * Deletes what may go among the next rows behind a key. Belongs into a transaction of its own. Answers how many went,
   * and the key it has come to; `null` at the end. `going` hears which rows go, in SQL over `one`, before they do.
   */
  drop(
    kind: RetentionKind,
    beforeMs: number,
    after: number,
    going?: (only: string, bound: object) => void,
  ): { readonly deleted: number; readonly at: number | null } {
    const { table, key, gone, young, with: first } = KEPT_KINDS[kind]
    const { sqlite } = this.db
    const { to } = sqlite
      .prepare(`SELECT max(k) AS "to" FROM (SELECT ${key} AS k FROM ${table} WHERE ${key} > ? ORDER BY ${key} LIMIT ?)`)
      .get(after, PIECE) as { to: number | null }
    if (to === null) return { deleted: 0, at: null }
    const bound = { from: after, to, before: beforeMs }
    going?.(`one.${key} > @after AND one.${key} <= @until AND (${gone})`, { ...bound, after, until: to })
    if (first !== undefined) sqlite.prepare(first).run(bound)
    const { changes } = sqlite
      .prepare(`DELETE FROM ${table} AS one WHERE one.${key} > @from AND one.${key} <= @to AND (${gone})`)
      .run(bound)
    const ends =
      young !== null &&
      sqlite
        .prepare(`SELECT 1 FROM ${table} AS one WHERE one.${key} > @from AND one.${key} <= @to AND ${young} LIMIT 1`)
        .get(bound) !== undefined
    return { deleted: changes, at: ends ? null : to }
  }

  /**
   * Bytes that the tables of each kind take, those of the whole file, and those of it that are free. Reads all of it.
   */
  sizes(): {
    readonly file: number
    readonly free: number
    readonly kinds: Readonly<Record<RetentionKind, number>>
  } {
    const { sqlite } = this.db
    const pages = sqlite
      .prepare(
        'SELECT m.tbl_name AS name, sum(s.pgsize) AS bytes FROM dbstat AS s JOIN sqlite_schema AS m ON m.name = s.name WHERE s.aggregate = TRUE GROUP BY m.tbl_name',
      )
      .all() as { name: string; bytes: number }[]
    const byTable = new Map(pages.map((one) => [one.name, one.bytes]))
    const size = Number(sqlite.pragma('page_size', { simple: true }))
    const kinds = Object.fromEntries(
      Object.values(KEPT_KINDS).map(({ kind, tables }) => [
        kind,
        tables.reduce((sum, table) => sum + (byTable.get(table) ?? 0), 0),
      ]),
    ) as Record<RetentionKind, number>
    return {
      file: size * Number(sqlite.pragma('page_count', { simple: true })),
      free: size * Number(sqlite.pragma('freelist_count', { simple: true })),
      kinds,
    }
  }
}
