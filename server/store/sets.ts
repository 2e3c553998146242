import type { Statement } from 'better-sqlite3'
import type { Db } from '../db/connect'
import { negated, type Bound, type CompiledSql, type Shape, type Sql } from './conditions'

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

/** JavaScript shifts 32-bit numbers, the topmost bit being the sign. */
const BITS = 30

/** What a group says when the bits are the conditions that hold, and how many items at its top fail. */
function answer(shape: Shape, mask: number): { readonly holds: boolean; readonly failing: number } {
  const tops = shape.items.map((item) => (typeof item === 'number' ? ((mask >> item) & 1) === 1 : answer(item, mask).holds))
  const failing = tops.filter((holds) => !holds).length
  switch (shape.mode) {
    case 'all': return { holds: failing === 0, failing }
    case 'any': return { holds: tops.length === 0 || failing < tops.length, failing }
    case 'none': return { holds: failing === tops.length, failing }
  }
}

/** Counts and picks over whole tables, where one query says what a look at every record would. */
export class SetStore {
  private readonly statements = new Map<string, Statement<unknown[], Record<string, Bound | null>>>()

  constructor(private readonly db: Db) {}

  private prepared(text: string, form: 'rows' | 'pluck' = 'rows'): Statement<unknown[], Record<string, Bound | null>> {
    const known = this.statements.get(text)
    if (known) return known
    if (this.statements.size > 200) this.statements.clear()
    const made = this.db.sqlite.prepare<unknown[], Record<string, Bound | null>>(text)
    if (form === 'pluck') made.pluck()
    this.statements.set(text, made)
    return made
  }

  /** Columns may be others after a change of fields. */
  clear(): void {
    this.statements.clear()
  }

  /**
   * One pass over the table in which each condition is asked once: every record answers with a number whose bits are
   * the conditions that hold. There are few different ones, and what follows from each is worked out once.
   */
  counts(table: string, { test, each, shape }: CompiledSql, nearOnes: boolean): SetCounts {
    if (each.length > BITS) return this.countsOne(table, test, each)
    const bits = all(each.map(({ test: one }, i): Sql => ({ text: `(coalesce(${one.text}, 0) << ${i})`, bound: one.bound })), ' | ')
    const seen = new Map<number, number>()
    for (const row of this.prepared(`SELECT ${each.length === 0 ? '0' : bits.text} AS bits FROM ${table}`, 'pluck').all(...bits.bound) as unknown as readonly number[]) seen.set(row, (seen.get(row) ?? 0) + 1)
    let [total, matched, near] = [0, 0, 0]
    const alone = each.map(() => 0)
    for (const [mask, count] of seen) {
      const { holds, failing } = answer(shape, mask)
      total += count
      if (holds) matched += count
      if (nearOnes && failing === 1) near += count
      for (let i = 0; i < alone.length; i++) if ((mask >> i) & 1) alone[i] = (alone[i] ?? 0) + count
    }
    return { total, matched, near, alone: new Map(each.map(({ id }, i) => [id, alone[i] ?? 0])) }
  }

  /** The same for more conditions than a number has bits; just missed are not counted then. */
  private countsOne(table: string, test: Sql, each: CompiledSql['each']): SetCounts {
    const query = all([{ text: 'count(*) AS total', bound: [] }, { text: `sum(${test.text}) AS matched`, bound: test.bound }, ...each.map(({ test: one }, i): Sql => ({ text: `sum(${one.text}) AS a${i}`, bound: one.bound }))], ', ')
    const row = this.prepared(`SELECT ${query.text} FROM ${table}`).get(...query.bound)
    const n = (name: string): number => Number(row?.[name] ?? 0)
    return { total: n('total'), matched: n('matched'), near: 0, alone: new Map(each.map(({ id }, i) => [id, n(`a${i}`)])) }
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
