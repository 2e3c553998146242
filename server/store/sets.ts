import type { Statement } from 'better-sqlite3'
import type { Db } from '../db/connect'
import type { Bound, CompiledSql, Shape, Sql } from './conditions'

/** What a group of conditions comes to on all records of a table. */
export interface Survey {
  readonly total: number
  readonly matched: number
  /** Records that fail exactly one item at the top; 0 where the group is not an "all" group. */
  readonly near: number
  readonly alone: ReadonlyMap<string, number>
  /** Ids of the first that match. */
  readonly matching: readonly number[]
  /** Those that fail exactly one item, the nearest first, with which one it is. */
  readonly nearest: readonly { readonly id: number; readonly missId: string }[]
}

const all = (parts: readonly Sql[], by: string): Sql => ({
  text: parts.map((part) => part.text).join(by),
  bound: parts.flatMap((part) => part.bound),
})

/**
 * JavaScript counts exactly to 2^53: this leaves room for eight million records with 30 conditions, and for more with
 * fewer.
 */
const BITS = 30

interface Answer {
  readonly holds: boolean
  readonly failing: number
  /** The place of the first item at the top that fails. */
  readonly miss: number
}

/** What a group says when the bits are the conditions that hold, and how many items at its top fail. */
function answer(shape: Shape, mask: number): Answer {
  const tops = shape.items.map((item) =>
    typeof item === 'number' ? ((mask >> item) & 1) === 1 : answer(item, mask).holds,
  )
  const failing = tops.filter((holds) => !holds).length
  const holds = { all: failing === 0, any: tops.length === 0 || failing < tops.length, none: failing === tops.length }[
    shape.mode
  ]
  return { holds, failing, miss: tops.indexOf(false) }
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
   * One pass over the table in which each condition is asked once: every record answers with one number, its id above
   * and below it the bits of the conditions that hold. There are few different bits, and what follows from each is
   * worked out once. `limit` is how many of those that match, and of those just missed, are wanted.
   */
  survey(table: string, compiled: CompiledSql, limit: number): Survey {
    const { each, shape } = compiled
    if (each.length > BITS) return this.surveyMany(table, compiled, limit)
    const width = 2 ** each.length
    const bits = all(
      each.map(({ test: one }, i): Sql => ({ text: `(coalesce(${one.text}, 0) << ${i})`, bound: one.bound })),
      ' | ',
    )
    const answers = new Map<number, Answer & { count: number }>()
    const matching: number[] = []
    /** Ids of the records just missed, by the one item that they fail. */
    const missed = new Map<number, number[]>()
    // All at once: a step of an iterator costs more than the row it brings.
    const rows = this.prepared(
      `SELECT id * ${width}${each.length === 0 ? '' : ` + (${bits.text})`} FROM ${table} ORDER BY id`,
      'pluck',
    ).all(...bits.bound) as unknown as readonly number[]
    for (const row of rows) {
      const mask = row % width
      let known = answers.get(mask)
      if (!known) answers.set(mask, (known = { ...answer(shape, mask), count: 0 }))
      known.count++
      if (known.holds) {
        if (matching.length < limit) matching.push((row - mask) / width)
      } else if (shape.mode === 'all' && known.failing === 1) {
        const ids = missed.get(known.miss)
        if (ids) ids.push((row - mask) / width)
        else missed.set(known.miss, [(row - mask) / width])
      }
    }
    let matched = 0
    const alone = each.map(() => 0)
    for (const [mask, { holds, count }] of answers) {
      if (holds) matched += count
      for (let i = 0; i < alone.length; i++) if ((mask >> i) & 1) alone[i] = (alone[i] ?? 0) + count
    }
    return {
      total: rows.length,
      matched,
      near: [...missed.values()].reduce((sum, ids) => sum + ids.length, 0),
      alone: new Map(each.map(({ id }, i) => [id, alone[i] ?? 0])),
      matching,
      nearest: this.nearest(table, compiled.tops, missed, limit),
    }
  }

  /** The nearest of the records that are just missed: only these are measured, each by the item that it fails. */
  private nearest(
    table: string,
    tops: CompiledSql['tops'],
    missed: ReadonlyMap<number, readonly number[]>,
    limit: number,
  ): Survey['nearest'] {
    return [...missed]
      .flatMap(([miss, ids]) => {
        const top = tops[miss]
        if (!top) return []
        if (top.gap.text === 'NULL') return ids.slice(0, limit).map((id) => ({ id, missId: top.id, gap: Infinity }))
        return this.prepared(
          `SELECT id, ${top.gap.text} AS gap FROM ${table} WHERE id IN (SELECT value FROM json_each(?)) ORDER BY gap IS NULL, gap, id LIMIT ?`,
        )
          .all(...top.gap.bound, JSON.stringify(ids), limit)
          .map((row) => ({ id: Number(row.id), missId: top.id, gap: row.gap === null ? Infinity : Number(row.gap) }))
      })
      .sort((a, b) => (a.gap === b.gap ? a.id - b.id : a.gap - b.gap))
      .slice(0, limit)
      .map(({ id, missId }) => ({ id, missId }))
  }

  /** The same for more conditions than a number has bits; just missed are not looked for then. */
  private surveyMany(table: string, compiled: CompiledSql, limit: number): Survey {
    const { test, each } = compiled
    const query = all(
      [
        { text: 'count(*) AS total', bound: [] },
        { text: `sum(${test.text}) AS matched`, bound: test.bound },
        ...each.map(({ test: one }, i): Sql => ({ text: `sum(${one.text}) AS a${i}`, bound: one.bound })),
      ],
      ', ',
    )
    const row = this.prepared(`SELECT ${query.text} FROM ${table}`).get(...query.bound)
    const n = (name: string): number => Number(row?.[name] ?? 0)
    return {
      total: n('total'),
      matched: n('matched'),
      near: 0,
      alone: new Map(each.map(({ id }, i) => [id, n(`a${i}`)])),
      matching: this.matching(table, compiled, limit),
      nearest: [],
    }
  }

  /** The ids of the first records that fit. */
  matching(table: string, { test }: Pick<CompiledSql, 'test'>, limit: number): readonly number[] {
    return this.prepared(`SELECT id FROM ${table} WHERE ${test.text} ORDER BY id LIMIT ?`)
      .all(...test.bound, limit)
      .map((row) => Number(row.id))
  }
}
