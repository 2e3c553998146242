import { formulaThere } from '../../core/formulas/asked'
import { seesRecord, type Scope } from '../../core/access/scope'
import type { Moment } from '../../core/conditions/moment'
import type { Catalogue } from '../../core/fields/catalogue'
import { worthKeys } from '../../core/money/worth'
import type { Field } from '../../core/fields/field'
import { FIELD_TYPES } from '../../core/fields/types'
import type { Value } from '../../core/language/value'
import type { ObjectKind, RecordRef } from '../../core/records/kinds'
import { LINKABLE, type RecordSnapshot } from '../../core/records/record'
import type { RollUp } from '../../core/derived/making'
import type { MatchPart } from '../../core/linking/link-by'
import type { Bound, CompiledSql, Sql } from './conditions'
import type { Survey } from './sets'
import { RecordColumns, TABLES, columnOf, keyColumnOf, type Cell, encode, decode } from './record-columns'

/** How a page of records is ordered; records without a value come last, whichever way. */
export interface PageOrder {
  readonly field: Field
  readonly down: boolean
  /** For values that are ids: all that occur, in the order of their words. */
  readonly ranks: readonly string[] | null
}

/** Questions about many records: pages, matches, counts, and what a field holds most. */
export class RecordQueries extends RecordColumns {
  read({ object, id }: RecordRef): RecordSnapshot | null {
    const shape = this.shape(object)
    const row = shape.read.get(id)
    return row ? this.snapshot(object, row, shape.fields) : null
  }

  readAll(object: ObjectKind, ids: readonly number[]): readonly RecordSnapshot[] {
    return ids.flatMap((id) => this.read({ object, id }) ?? [])
  }

  /** What a query comes to on all records of a kind, with the first that match and those that are nearest to it. */
  survey(object: ObjectKind, where: CompiledSql, limit: number): Survey {
    return this.sets.survey(TABLES[object], where, limit)
  }

  /** How many records match, and the first of them. */
  counted(
    object: ObjectKind,
    where: Pick<CompiledSql, 'test'>,
  ): { readonly count: number; readonly first: number | null } {
    return this.statement(
      `SELECT count(*) AS count, min(id) AS first FROM ${TABLES[object]} WHERE ${where.test.text}`,
    ).get(...where.test.bound) as { count: number; first: number | null }
  }

  /** How many of those that match got a value of the field by a change after they had been created. */
  filledLater(
    object: ObjectKind,
    fieldId: number,
    where: Pick<CompiledSql, 'test'>,
  ): { readonly count: number; readonly first: number | null } {
    const table = TABLES[object]
    return this.statement(
      `SELECT count(*) AS count, min(id) AS first FROM ${table} WHERE ${where.test.text} AND EXISTS (
      SELECT 1 FROM history AS h JOIN events AS e ON e.seq = h.event_seq WHERE h.object = ? AND h.record_id = ${table}.id AND h.field_id = ? AND e.kind = 'changed')`,
    ).get(...where.test.bound, object, fieldId) as { count: number; first: number | null }
  }

  /** Ids of records that match behind an id, in their order. */
  matchingAfter(object: ObjectKind, where: Pick<CompiledSql, 'test'>, after: number, limit: number): readonly number[] {
    return (
      this.statement(`SELECT id FROM ${TABLES[object]} WHERE id > ? AND ${where.test.text} ORDER BY id LIMIT ?`).all(
        after,
        ...where.test.bound,
        limit,
      ) as { id: number }[]
    ).map((row) => row.id)
  }

  matching(object: ObjectKind, where: Pick<CompiledSql, 'test'>, limit: number): readonly RecordSnapshot[] {
    return this.readAll(object, this.sets.matching(TABLES[object], where, limit))
  }

  /**
   * One page of all records (of certain owners and of nobody, when `owners` is given), ordered by the database; `null`
   * when the order is one that it cannot make. `fits` lets only some of them through. Offsets are fine here: what is
   * skipped is read from an index or sorted anyway.
   */
  page(
    object: ObjectKind,
    order: PageOrder | null,
    owners: Scope,
    offset: number,
    limit: number,
    fits: readonly Sql[] = [],
  ): { readonly total: number; readonly matched: number; readonly records: readonly RecordSnapshot[] } | null {
    const { fields, keyed } = this.shape(object)
    const orderBy = order === null ? 'id' : this.orderBy(order, keyed)
    const visible = this.visible(object, owners)
    if (orderBy === null || (owners !== null && !visible)) return null
    const seen: readonly Sql[] = visible ? [visible] : []
    const ranks = order?.ranks ?? []
    const columns = ['id', 'version', ...fields.map((field) => columnOf(field.id))].join(', ')
    const whereOf = (parts: readonly Sql[]): string =>
      parts.length === 0 ? '' : `WHERE ${parts.map((part) => part.text).join(' AND ')}`
    const boundOf = (parts: readonly Sql[]): readonly Bound[] => parts.flatMap((part) => part.bound)
    const asked = [...seen, ...fits]
    // Sorted by ids alone: a sort that carries every column of every record along costs several times as much.
    const picked = `SELECT id FROM ${TABLES[object]} ${whereOf(asked)} ORDER BY ${orderBy} LIMIT ? OFFSET ?`
    const rows = this.rows(`SELECT ${columns} FROM ${TABLES[object]} WHERE id IN (${picked}) ORDER BY ${orderBy}`).all(
      ...boundOf(asked),
      ...ranks,
      limit,
      offset,
      ...ranks,
    )
    const count = (parts: readonly Sql[]): number =>
      (
        this.statement(`SELECT count(*) AS n FROM ${TABLES[object]} ${whereOf(parts)}`).get(...boundOf(parts)) as {
          n: number
        }
      ).n
    const total = count(seen)
    return {
      total,
      matched: fits.length === 0 ? total : count(asked),
      records: rows.map((row) => this.snapshot(object, row, fields)),
    }
  }

  /** A test that only records within a scope pass. */
  within(object: ObjectKind, scope: Scope, test: Sql): Sql {
    const visible = this.visible(object, scope)
    return visible ? { text: `(${visible.text} AND ${test.text})`, bound: [...visible.bound, ...test.bound] } : test
  }

  /** Records in the order of their ids, from the one behind `after` on; of certain owners and of nobody, when given. */
  *from(object: ObjectKind, after: number, owners: Scope): Generator<RecordSnapshot> {
    const { fields } = this.shape(object)
    const visible = this.visible(object, owners)
    const where = visible ? `AND ${visible.text}` : ''
    const columns = ['id', 'version', ...fields.map((field) => columnOf(field.id))].join(', ')
    const rows = this.rows(`SELECT ${columns} FROM ${TABLES[object]} WHERE id > ? ${where} ORDER BY id`)
    for (const row of rows.iterate(after, ...(visible?.bound ?? []))) yield this.snapshot(object, row, fields)
  }

  /** Whether the name contains words, already folded. */
  named(object: ObjectKind, folded: string): Sql {
    const field = this.shape(object).byKey.get('name')
    return field
      ? {
          text: `instr(${this.shape(object).keyed.has(field.id) && field.synonyms === null ? keyColumnOf(field.id) : `fold(${columnOf(field.id)})`}, ?) > 0`,
          bound: [folded],
        }
      : { text: '0', bound: [] }
  }

  protected orderBy({ field, down, ranks }: PageOrder, keyed: ReadonlySet<number>): string | null {
    const way = down ? 'DESC' : 'ASC'
    const { widget } = FIELD_TYPES[field.type]
    if (keyed.has(field.id)) {
      const key = keyColumnOf(field.id)
      // A required text is never empty, and its index alone gives the order.
      return field.required ? `${key} ${way}, id` : `${key} IS NULL, ${key} ${way}, id`
    }
    const column = this.worthOf(field)
    // Downwards the empty ones come last by themselves; written like this an index gives the order either way.
    if (widget === 'number' || widget === 'date' || widget === 'dateTime')
      return down ? `${column} DESC, id` : `${column} ASC NULLS LAST, id`
    if (ranks === null || ranks.length > 500) return null
    return ranks.length === 0
      ? 'id'
      : `${column} IS NULL, CASE ${column} ${ranks.map((_, rank) => `WHEN ? THEN ${rank}`).join(' ')} ELSE ${ranks.length} END ${way}, id`
  }

  /** The smallest value of a date field that is not below this one. */
  least(object: ObjectKind, key: string, from: string | number): string | number | null {
    const column = this.dateColumn(object, key)
    return column === null
      ? null
      : (
          this.statement(`SELECT min(${column}) AS value FROM ${TABLES[object]} WHERE ${column} >= ?`).get(from) as {
            value: string | number | null
          }
        ).value
  }

  /** Records whose date field holds one of these values, by their numbers, behind one of them. */
  holding(
    object: ObjectKind,
    key: string,
    values: readonly (string | number)[],
    afterId: number,
    limit: number,
  ): readonly RecordSnapshot[] {
    const column = this.dateColumn(object, key)
    if (column === null || values.length === 0) return []
    const [table, [only]] = [TABLES[object], values]
    // Several as one, so that the statement is the same however many there are. The signs keep SQLite at the index of
    // the dates: in the order of the numbers it would look at every record of a small table.
    const rows = (
      values.length === 1
        ? this.statement(`SELECT id FROM ${table} WHERE ${column} = ? AND id > ? ORDER BY id LIMIT ?`).all(
            only,
            afterId,
            limit,
          )
        : this.statement(
            `SELECT id FROM ${table} WHERE ${column} IN (SELECT value FROM json_each(?)) AND +id > ? ORDER BY +id LIMIT ?`,
          ).all(JSON.stringify(values), afterId, limit)
    ) as { id: number }[]
    return this.readAll(
      object,
      rows.map((row) => row.id),
    )
  }

  /** Records whose date field lies between two instants, both included. */
  between(
    object: ObjectKind,
    key: string,
    from: number,
    to: number,
    afterId: number,
    limit: number,
  ): readonly RecordSnapshot[] {
    const column = this.dateColumn(object, key)
    if (column === null) return []
    const rows = this.statement(
      `SELECT id FROM ${TABLES[object]} WHERE ${column} BETWEEN ? AND ? AND id > ? ORDER BY id LIMIT ?`,
    ).all(from, to, afterId, limit) as { id: number }[]
    return this.readAll(
      object,
      rows.map((row) => row.id),
    )
  }

  /** Records of a kind behind a number, in their order. */
  behind(object: ObjectKind, afterId: number, limit: number): readonly RecordSnapshot[] {
    const { fields } = this.shape(object)
    const columns = ['id', 'version', ...fields.map((field) => columnOf(field.id))].join(', ')
    return this.rows(`SELECT ${columns} FROM ${TABLES[object]} WHERE id > ? ORDER BY id LIMIT ?`)
      .all(afterId, limit)
      .map((row) => this.snapshot(object, row, fields))
  }

  /** What a roll-up comes to over the records linked to one; `where` are those that count. */
  rollUp(
    { object, id }: RecordRef,
    { over, what, field: key, order: orderKey, down }: RollUp,
    where: Pick<CompiledSql, 'test'>,
  ): Value {
    const table = TABLES[over]
    const { byKey } = this.shape(over)
    const forward = LINKABLE.some((pair) => pair.from === object && pair.to === over)
    // By the links of the one record, whatever SQLite knows or does not know of how values are spread: counted from the
    // other side, it would go through all links there are, and through an index of a field for each of them.
    const [mine, theirs, index] = forward ? ['from', 'to', 'links_pair'] : ['to', 'from', 'links_to']
    const from = `FROM links AS own INDEXED BY ${index} CROSS JOIN ${table} NOT INDEXED ON ${table}.id = own.${theirs}_id
      WHERE own.${mine}_object = ? AND own.${mine}_id = ? AND own.${theirs}_object = ? AND (${where.test.text})`
    const bound: readonly Bound[] = [object, id, over, ...where.test.bound]
    const one = (sql: string): Cell => (this.statement(sql).get(...bound) as { value: Cell } | undefined)?.value ?? null
    if (what === 'count') return one(`SELECT count(*) AS value ${from}`)
    const field = key === null ? undefined : byKey.get(key)
    if (!field) return null
    const column = this.worthOf(field)
    if (what === 'first') {
      const order = orderKey === null ? null : byKey.get(orderKey)
      if (order === undefined) return null
      const by = order === null ? null : this.worthOf(order)
      const way = down ? 'DESC' : 'ASC'
      return decode(
        one(
          `SELECT ${column} AS value ${from}${by === null ? '' : ` AND ${by} IS NOT NULL`} ORDER BY ${by === null ? `${table}.id ${way}` : `${by} ${way}, ${table}.id`} LIMIT 1`,
        ),
        field,
      )
    }
    if (what === 'sum') {
      const sum = one(`SELECT sum(${column}) AS value ${from}`)
      return typeof sum === 'number' ? Number(sum.toFixed(6)) + 0 : null
    }
    return one(`SELECT ${what === 'least' || what === 'earliest' ? 'min' : 'max'}(${column}) AS value ${from}`)
  }

  /** How the records linked to one are read; whoever opens the store says it. */
  linkedTo: (ref: RecordRef, object: ObjectKind) => readonly RecordSnapshot[] = () => []

  protected meeting(
    text: string,
    object: ObjectKind,
    catalogue: Catalogue,
    moment: Moment,
    scope: Scope,
  ): readonly number[] {
    const read = formulaThere(text, object, catalogue)
    if (!read.ok) return []
    const { uses, value } = read.formula
    const keys = [...uses.own].flatMap((key) => {
      const field = catalogue.field(object, key)
      return field ? worthKeys(field) : []
    })
    const found: number[] = []
    for (const record of this.scan(object, [...new Set(keys)])) {
      const linked = (other: ObjectKind): readonly RecordSnapshot[] =>
        this.linkedTo(record, other).filter(({ values }) => seesRecord(scope, values))
      if (value({ values: record.values, linked }, moment) === true) found.push(record.id)
    }
    return found
  }

  /** The names of records of a kind, by their numbers; those that are not there are left out. */
  namesOf(object: ObjectKind, ids: readonly number[]): ReadonlyMap<number, string> {
    const field = this.shape(object).byKey.get('name')
    if (!field || ids.length === 0) return new Map()
    const rows = this.rows(
      `SELECT id, version, ${columnOf(field.id)} FROM ${TABLES[object]} WHERE id IN (SELECT value FROM json_each(?))`,
    ).all(JSON.stringify(ids))
    return new Map(rows.flatMap(([id, , name]) => (typeof name === 'string' ? [[id, name] as const] : [])))
  }

  /** Goes through all records of a kind in the order of their ids, with only the fields that are asked for. */
  *scan(object: ObjectKind, keys: readonly string[]): Generator<RecordSnapshot> {
    const shape = this.shape(object)
    const fields = keys.flatMap((key) => shape.byKey.get(key) ?? [])
    const columns = ['id', 'version', ...fields.map((field) => columnOf(field.id))].join(', ')
    for (const row of this.rows(`SELECT ${columns} FROM ${TABLES[object]} ORDER BY id`).iterate()) {
      yield this.snapshot(object, row, fields)
    }
  }

  /** Records where a field holds exactly this stored value; uses the column's index when it has one. */
  findBy(object: ObjectKind, key: string, value: Value): readonly RecordSnapshot[] {
    const shape = this.shape(object)
    const field = shape.byKey.get(key)
    if (!field) return []
    const columns = ['id', 'version', ...shape.fields.map((one) => columnOf(one.id))].join(', ')
    const rows = this.rows(`SELECT ${columns} FROM ${TABLES[object]} WHERE ${columnOf(field.id)} = ? ORDER BY id`).all(
      encode(value),
    )
    return rows.map((row) => this.snapshot(object, row, shape.fields))
  }

  /**
   * Records that may hold this form in the part of a field that is compared, the oldest first: all that do, and some
   * that do not. Domains in indexed texts and whole values are looked up by the index.
   */
  alike(field: Field, part: MatchPart, form: string): readonly RecordSnapshot[] {
    const { fields, keyed } = this.shape(field.object)
    const column = columnOf(field.id)
    const compared = keyed.has(field.id)
      ? keyColumnOf(field.id)
      : field.type === 'text'
        ? `fold(${column})`
        : `lowered(${column})`
    const where = (): Sql => {
      if (part === 'whole') return { text: `${compared} = ?`, bound: [form] }
      if (part === 'digits')
        return field.type === 'phone'
          ? { text: `${column} = ?`, bound: [`+${form}`] }
          : { text: `${column} IS NOT NULL`, bound: [] }
      if (field.type !== 'text' || field.synonyms !== null)
        return { text: `instr(lowered(${column}), ?) > 0`, bound: [form] }
      const spelled = ['', 'www.', 'http://', 'https://', 'http://www.', 'https://www.'].flatMap((start) => [
        `${start}${form}`,
        `${start}${form}/`,
      ])
      return { text: `${compared} IN (${spelled.map(() => '?').join(', ')})`, bound: spelled }
    }
    const { text, bound } = where()
    const columns = ['id', 'version', ...fields.map((one) => columnOf(one.id))].join(', ')
    return this.rows(`SELECT ${columns} FROM ${TABLES[field.object]} WHERE ${text} ORDER BY id`)
      .all(...bound)
      .map((row) => this.snapshot(field.object, row, fields))
  }

  /** How many records have something in a field; also of one that was put away. */
  filled(field: Field): number {
    return (
      this.statement(`SELECT count(${columnOf(field.id)}) AS n FROM ${TABLES[field.object]}`).get() as { n: number }
    ).n
  }

  /** The values of a field that occur most; where none occurs twice, some of them. */
  commonest(field: Field, limit: number): readonly { readonly value: Value; readonly count: number }[] {
    const column = columnOf(field.id)
    const rows = this.statement(
      `SELECT ${column} AS value, count(*) AS n FROM ${TABLES[field.object]} WHERE ${column} IS NOT NULL GROUP BY ${column} ORDER BY n DESC, value LIMIT ?`,
    ).all(limit) as { value: Cell; n: number }[]
    return rows.map(({ value, n }) => ({ value: decode(value, field), count: n }))
  }

  /** How many records hold each choice of a field, by the choice's id. */
  choiceCounts(field: Field): Readonly<Record<string, number>> {
    const column = columnOf(field.id)
    const table = TABLES[field.object]
    const rows = this.statement(
      field.type === 'choices'
        ? `SELECT one.value AS id, count(*) AS n FROM ${table}, json_each(${column}) AS one GROUP BY one.value`
        : `SELECT ${column} AS id, count(*) AS n FROM ${table} WHERE ${column} IS NOT NULL GROUP BY ${column}`,
    ).all() as { id: string; n: number }[]
    return Object.fromEntries(rows.map(({ id, n }) => [id, n]))
  }

  count(object: ObjectKind): number {
    const row = this.statement(`SELECT count(*) AS n FROM ${TABLES[object]}`).get() as { n: number }
    return row.n
  }

  times({ object, id }: RecordRef): { readonly createdAt: number; readonly updatedAt: number } | null {
    const row = this.statement(`SELECT created_at, updated_at FROM ${TABLES[object]} WHERE id = ?`).get(id) as
      { created_at: number; updated_at: number } | undefined
    return row ? { createdAt: row.created_at, updatedAt: row.updated_at } : null
  }
}
