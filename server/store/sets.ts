import type { Statement } from 'better-sqlite3'
import type { Db } from '../db/connect'
import { negated, type Bound, type CompiledSql, type Sql } from './conditions'

/** What a group of conditions comes to on all records of a table. */
export interface SetCounts {
  readonly total: number
  readonly matched: number
  /** Records that fail exactly one item at the top; 0 where the group is not an "all" group. */
  readonly near: number
  readonly alone: ReadonlyMap<string, number>
}

const all = (parts: readonly Sql[], by: string): Sql => ({ text: parts.map((part) => part.text).join(by), bound: parts.flatMap((part) => part.bound) })
const misses = (tops: CompiledSql['tops']): Sql => all(tops.map(({ test }) => negated(test)), ' + ')

/** Counts and picks over whole tables, where one query says what a look at every record would. */
export class SetStore {
  private readonly statements = new Map<string, Statement<unknown[], Record<string, Bound | null>>>()

  constructor(private readonly db: Db) {}

  private prepared(text: string): Statement<unknown[], Record<string, Bound | null>> {
    const known = this.statements.get(text)
    if (known) return known
    if (this.statements.size > 200) this.statements.clear()
    const made = this.db.sqlite.prepare<unknown[], Record<string, Bound | null>>(text)
    this.statements.set(text, made)
    return made
  }

  /** Columns may be others after a change of fields. */
  clear(): void {
    this.statements.clear()
  }

  /** One pass over the table. */
  counts(table: string, { test, each, tops }: CompiledSql, nearOnes: boolean): SetCounts {
    const near = nearOnes && tops.length > 0 ? [all([{ text: 'sum((', bound: [] }, misses(tops), { text: ') = 1) AS near', bound: [] }], '')] : []
    const query = all([
      { text: 'count(*) AS total', bound: [] }, { text: `sum(${test.text}) AS matched`, bound: test.bound }, ...near,
      ...each.map(({ test: one }, i): Sql => ({ text: `sum(${one.text}) AS a${i}`, bound: one.bound })),
    ], ', ')
    const row = this.prepared(`SELECT ${query.text} FROM ${table}`).get(...query.bound)
    const n = (name: string): number => Number(row?.[name] ?? 0)
    return { total: n('total'), matched: n('matched'), near: n('near'), alone: new Map(each.map(({ id }, i) => [id, n(`a${i}`)])) }
  }

  /** The ids of the first records that fit. */
  matching(table: string, { test }: CompiledSql, limit: number): readonly number[] {
    return this.prepared(`SELECT id FROM ${table} WHERE ${test.text} ORDER BY id LIMIT ?`).all(...test.bound, limit).map((row) => Number(row.id))
  }

  /** Records that fail exactly one item, the nearest first, with which one it is. */
  nearest(table: string, { tops }: CompiledSql, limit: number): readonly { readonly id: number; readonly missId: string }[] {
    if (tops.length === 0) return []
    const failing = misses(tops)
    const which = all(tops.map(({ test }, i): Sql => ({ text: `WHEN ${negated(test).text} THEN ${i}`, bound: negated(test).bound })), ' ')
    const gap = all(tops.map(({ test, gap: far }): Sql => ({ text: `WHEN ${negated(test).text} THEN ${far.text}`, bound: [...negated(test).bound, ...far.bound] })), ' ')
    const rows = this.prepared(`SELECT id, CASE ${which.text} END AS miss, CASE ${gap.text} END AS gap FROM ${table} WHERE (${failing.text}) = 1 ORDER BY gap IS NULL, gap, id LIMIT ?`)
      .all(...which.bound, ...gap.bound, ...failing.bound, limit)
    return rows.map((row) => ({ id: Number(row.id), missId: tops[Number(row.miss)]?.id ?? '' }))
  }
}
