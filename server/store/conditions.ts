import { checkAsk } from '../../core/conditions/asks'
import type { Ask, Condition, Did, Group, Leaf, Linked } from '../../core/conditions/document'
import { canAskDid, didSince } from '../../core/conditions/did'
import { canAsk } from '../../core/conditions/linked'
import { OPERATORS } from '../../core/conditions/operators'
import type { Reading } from '../../core/conditions/reading'
import type { Catalogue } from '../../core/fields/catalogue'
import type { Field } from '../../core/fields/field'
import { FIELD_TYPES } from '../../core/fields/types'
import type { ObjectKind } from '../../core/records/kinds'
import { LINKABLE } from '../../core/records/record'
import { addDays, startOfDate } from '../../core/time/dates'
import type { Moment } from '../../core/conditions/moment'

export type Bound = string | number

/** A piece of a statement with what is bound to its marks, in order. No text of a user ever stands in it. */
export interface Sql {
  readonly text: string
  readonly bound: readonly Bound[]
}

/** Where the values of a field lie. */
export interface FieldColumns {
  readonly column: string
  /** The column of its compared form, when it has one. */
  readonly key: string | null
  /** Its values as they meet others: the column, and for amounts what they are worth in the workspace's currency. */
  readonly worth: string
}

const raw = (text: string, ...bound: Bound[]): Sql => ({ text, bound })
const join = (parts: readonly Sql[], by: string): Sql => ({
  text: parts.map((part) => part.text).join(by),
  bound: parts.flatMap((part) => part.bound),
})
const around = (before: string, part: Sql, after: string): Sql => ({
  text: `${before}${part.text}${after}`,
  bound: part.bound,
})
const marks = (some: readonly unknown[]): string => some.map(() => '?').join(', ')
export const NEVER = raw('0')
export const ALWAYS = raw('1')

/** Turns an answer round; what cannot be answered, because nothing is there, counts as no. */
export const negated = (part: Sql): Sql => around('(NOT coalesce(', part, ', 0))')

/** The column in which a text stands as it is compared; functions of ours stand in where there is no such column. */
function comparedColumn(field: Field, { column, key, worth }: FieldColumns): string {
  if (key !== null) return key
  if (field.type === 'text' || field.type === 'longText') return `fold(${column})`
  return FIELD_TYPES[field.type].widget === 'text' ? `lowered(${column})` : worth
}

/** The reading as an expression that is 1, 0 or, where the field is empty, NULL. */
function readingSql(reading: Reading, field: Field, place: At, places: Places, moment: Moment): Sql {
  const columns = places.columns(field)
  const { column, worth } = columns
  switch (reading.is) {
    case 'empty':
      return raw(`${column} IS NULL`)
    case 'never':
      return NEVER
    case 'oneOf': {
      const compared = comparedColumn(field, columns)
      if (reading.keys.length === 0) return NEVER
      return reading.keys.length === 1
        ? raw(`${compared} = ?`, ...reading.keys)
        : raw(`${compared} IN (${marks(reading.keys)})`, ...reading.keys)
    }
    case 'range':
      return between(worth, reading.from, reading.to, reading.ends)
    case 'days': {
      if (field.type === 'date') return between(column, reading.from, reading.to, true)
      // An instant lies on a day from its first moment to before the first moment of the next one, in the workspace's
      // zone.
      const { from, to } = reading
      const ends = [
        ...(from === null ? [] : [raw(`${column} >= ?`, startOfDate(from, moment.zone))]),
        ...(to === null ? [] : [raw(`${column} < ?`, startOfDate(addDays(to, 1), moment.zone))]),
      ]
      return ends.length === 0 ? raw(`${column} IS NOT NULL`) : around('(', join(ends, ' AND '), ')')
    }
    case 'field': {
      const mark = { same: '=', above: '>', below: '<' }[reading.relation]
      return around(
        `${comparedColumn(field, columns)} ${mark} `,
        otherSql(
          comparedColumn(reading.other, places.columns(reading.other)),
          field.object,
          reading.via,
          place,
          places,
        ),
        '',
      )
    }
    // Spellings that count as one value have one compared form; what they contain is asked of the spelling.
    case 'contains':
      return raw(
        `instr(${columns.key !== null && field.type === 'text' && field.synonyms === null ? columns.key : `fold(${column})`}, ?) > 0`,
        reading.folded,
      )
    case 'includes':
      return reading.ids.length === 0
        ? NEVER
        : raw(
            `CASE WHEN ${column} IS NULL THEN NULL ELSE EXISTS (SELECT 1 FROM json_each(${column}) WHERE value IN (${marks(reading.ids)})) END`,
            ...reading.ids,
          )
  }
}

function between(column: string, from: Bound | null, to: Bound | null, ends: boolean): Sql {
  const parts = [
    ...(from === null ? [] : [raw(`${column} ${ends ? '>=' : '>'} ?`, from)]),
    ...(to === null ? [] : [raw(`${column} ${ends ? '<=' : '<'} ?`, to)]),
  ]
  return parts.length === 0 ? raw(`${column} IS NOT NULL`) : around('(', join(parts, ' AND '), ')')
}

/** How far the value is from the reading; NULL where that cannot be measured. */
function gapSql(reading: Reading, field: Field, { column, worth }: FieldColumns, { zone }: Moment): Sql {
  const far = (from: Sql | null, to: Sql | null): Sql =>
    around('max(', join([raw('0'), ...(from ? [from] : []), ...(to ? [to] : [])], ', '), ')')
  if (reading.is === 'range')
    return far(
      reading.from === null ? null : raw(`? - ${worth}`, reading.from),
      reading.to === null ? null : raw(`${worth} - ?`, reading.to),
    )
  if (reading.is !== 'days') return raw('NULL')
  if (field.type === 'date')
    return far(
      reading.from === null ? null : raw(`julianday(?) - julianday(${column})`, reading.from),
      reading.to === null ? null : raw(`julianday(${column}) - julianday(?)`, reading.to),
    )
  const DAY_MS = 86_400_000
  return far(
    reading.from === null ? null : raw(`(? - ${column}) / ${DAY_MS}.0`, startOfDate(reading.from, zone)),
    reading.to === null ? null : raw(`(${column} - ?) / ${DAY_MS}.0`, startOfDate(addDays(reading.to, 1), zone)),
  )
}

/** How a group is built: its conditions by their place in reading order. */
export interface Shape {
  readonly mode: Group['mode']
  readonly items: readonly (number | Shape)[]
}

/** A condition or group as an expression; NULL counts as no. */
export interface CompiledSql {
  readonly test: Sql
  /** Each condition by itself, in reading order. */
  readonly each: readonly { readonly id: string; readonly test: Sql }[]
  readonly shape: Shape
  /** The items at the top, each with how far a record is from it. */
  readonly tops: readonly { readonly id: string; readonly test: Sql; readonly gap: Sql }[]
}

/** Where records of each kind and the fields of all of them lie. Columns of different fields never share a name. */
export interface Places {
  readonly table: (object: ObjectKind) => string
  readonly columns: (field: Field) => FieldColumns
  /** Whether a linked record may be seen by whoever asks; `null` where everything may. */
  readonly visible: (object: ObjectKind, alias: string) => Sql | null
  /** The numbers of the records for which a formula is true. */
  readonly meeting: (text: string, object: ObjectKind, catalogue: Catalogue, moment: Moment) => readonly number[]
}

interface At {
  readonly object: ObjectKind
  /** How the id of the record that is asked is written here. */
  readonly id: string
  readonly depth: number
}

/** A group of conditions as a query: lets through exactly the records that `compileGroup` lets through. */
export function compileSql(
  group: Group,
  object: ObjectKind,
  catalogue: Catalogue,
  moment: Moment,
  places: Places,
): CompiledSql {
  return compileAt(group, { object, id: `${places.table(object)}.id`, depth: 0 }, catalogue, moment, places)
}

/** `within` are the segments whose filter this is a part of. */
function compileAt(
  group: Group,
  place: At,
  catalogue: Catalogue,
  moment: Moment,
  places: Places,
  within: readonly number[] = [],
): CompiledSql {
  const each: { id: string; test: Sql }[] = []
  const own = (condition: Condition): { readonly test: Sql; readonly gap: Sql } => {
    const field = catalogue.field(place.object, condition.field)
    const operator = OPERATORS[condition.op]
    const asked =
      field !== null && operator.types.includes(field.type) && operator.missing(condition.params).length === 0
    const reading = asked ? operator.read(condition.params, field, moment, catalogue) : null
    const plain = reading && field ? readingSql(reading, field, place, places, moment) : NEVER
    // An unfinished condition holds for nothing, whichever way round it is asked.
    const test = reading && condition.not ? negated(plain) : plain
    return {
      test,
      gap: reading && field && !condition.not ? gapSql(reading, field, places.columns(field), moment) : raw('NULL'),
    }
  }
  const whole = (ask: Ask): Sql => {
    if (checkAsk(ask, place.object, catalogue)) return NEVER
    const plain =
      ask.kind === 'formula'
        ? raw(
            `${place.id} IN (SELECT value FROM json_each(?))`,
            JSON.stringify(places.meeting(ask.text, place.object, catalogue, moment)),
          )
        : segmentSql(ask.segment)
    if (plain === null) return NEVER
    return ask.not ? negated(plain) : plain
  }
  const segmentSql = (id: number | null): Sql | null => {
    const segment = id === null ? null : catalogue.segment(id)
    if (!segment || within.includes(segment.id)) return null
    return around(
      'coalesce(',
      compileAt(segment.filter, place, catalogue, moment, places, [...within, segment.id]).test,
      ', 0)',
    )
  }
  const leaf = (item: Leaf): { readonly test: Sql; readonly gap: Sql } => {
    const made =
      item.kind === 'condition'
        ? own(item)
        : {
            test:
              item.kind === 'linked'
                ? linkedSql(item, place, catalogue, moment, places, within)
                : item.kind === 'did'
                  ? didSql(item, place, catalogue, moment, places)
                  : whole(item),
            gap: raw('NULL'),
          }
    each.push({ id: item.id, test: made.test })
    return made
  }
  const build = (node: Group): { readonly test: Sql; readonly tops: CompiledSql['tops']; readonly shape: Shape } => {
    const items: (number | Shape)[] = []
    const tops = node.items.map((item) => {
      if (item.kind !== 'group') {
        items.push(each.length)
        return { id: item.id, ...leaf(item) }
      }
      const inner = build(item)
      items.push(inner.shape)
      return { id: item.id, test: inner.test, gap: raw('NULL') }
    })
    return {
      test: combine(
        node.mode,
        tops.map((top) => top.test),
      ),
      tops,
      shape: { mode: node.mode, items },
    }
  }
  const { test, tops, shape } = build(group)
  return { test, each, tops, shape }
}

/**
 * A question about linked records. The records that answer yes are found once for the whole query, by a set that does
 * not hang on the record asked, and not once a record.
 */
function linkedSql(
  linked: Linked,
  { object, id, depth }: At,
  catalogue: Catalogue,
  moment: Moment,
  places: Places,
  within: readonly number[],
): Sql {
  if (!canAsk(linked, object)) return NEVER
  const [link, other] = [`l${depth}`, `r${depth}`]
  const forward = LINKABLE.some((pair) => pair.from === object && pair.to === linked.object)
  const [mine, theirs] = forward ? ['from', 'to'] : ['to', 'from']
  const { test } = compileAt(
    linked.group,
    { object: linked.object, id: `${other}.id`, depth: depth + 1 },
    catalogue,
    moment,
    places,
    within,
  )
  const visible = places.visible(linked.object, other)
  const such = (fit: Sql, more = ''): Sql =>
    around(
      `SELECT ${link}.${mine}_id FROM links AS ${link} JOIN ${places.table(linked.object)} AS ${other} ON ${other}.id = ${link}.${theirs}_id WHERE ${link}.${mine}_object = '${object}' AND ${link}.${theirs}_object = '${linked.object}' AND `,
      visible ? join([visible, fit], ' AND ') : fit,
      more,
    )
  const among = (set: Sql): Sql => around(`${id} IN (`, set, ')')
  switch (linked.how) {
    case 'any':
      return among(such(test))
    case 'none':
      return negated(among(such(test)))
    case 'main':
      return among(such(around(`${link}.main = 1 AND `, test, '')))
    case 'every':
      return around('(', join([among(such(ALWAYS)), negated(among(such(negated(test))))], ' AND '), ')')
    case 'atLeast':
      return among({
        ...such(test, ` GROUP BY ${link}.${mine}_id HAVING count(*) >= ?`),
        bound: [...such(test).bound, linked.count],
      })
  }
}

/** Where the values of an activity lie: its text and time in columns, the rest in its data. */
function activityColumns(alias: string): Places['columns'] {
  return ({ key }) => {
    const name = key.slice(key.indexOf('.') + 1)
    const column =
      name === 'about'
        ? `nullif(${alias}.about, '')`
        : name === 'atMs'
          ? `${alias}.at_ms`
          : `json_extract(${alias}.data, '$.${name}')`
    return { column, key: null, worth: column }
  }
}

/**
 * A question about what people did. As with linked records, who answers yes is found once for the whole query. Where no
 * run asks, what started it is the last one, and it begins now.
 */
function didSql(did: Did, { object, id, depth }: At, catalogue: Catalogue, moment: Moment, places: Places): Sql {
  if (!canAskDid(did, object) || did.activity === null) return NEVER
  const [h, link, other] = [`h${depth}`, `l${depth}`, `r${depth}`]
  const { test } = compileAt(did.group, { object: did.by, id: `${h}.id`, depth: depth + 1 }, catalogue, moment, {
    ...places,
    columns: activityColumns(h),
  })
  const since = didSince(did, moment, null)
  const ofKind = join(
    [
      raw(`${h}.object = '${did.by}' AND ${h}.kind = ? AND ${h}.at_ms <= ?`, did.activity, moment.nowMs),
      ...(since === null ? [] : [raw(`${h}.at_ms >= ?`, since)]),
    ],
    ' AND ',
  )
  const forward = LINKABLE.some((pair) => pair.from === object && pair.to === did.by)
  const [mine, theirs] = forward ? ['from', 'to'] : ['to', 'from']
  const visible = did.by === object ? null : places.visible(did.by, other)
  const who = did.by === object ? `${h}.record_id` : `${link}.${mine}_id`
  const from =
    did.by === object
      ? `activities AS ${h} WHERE `
      : `activities AS ${h} JOIN links AS ${link} ON ${link}.${theirs}_object = '${did.by}' AND ${link}.${theirs}_id = ${h}.record_id AND ${link}.${mine}_object = '${object}'${visible ? ` JOIN ${places.table(did.by)} AS ${other} ON ${other}.id = ${h}.record_id` : ''} WHERE `
  const all = visible ? join([ofKind, visible], ' AND ') : ofKind
  const such = (fit: Sql): Sql => around(`SELECT ${who} FROM ${from}`, join([all, fit], ' AND '), '')
  const among = (set: Sql): Sql => around(`${id} IN (`, set, ')')
  switch (did.how) {
    case 'any':
      return among(such(test))
    case 'none':
      return negated(among(such(test)))
    case 'atLeast': {
      const set = around('', such(test), ` GROUP BY ${who} HAVING count(*) >= ?`)
      return among({ ...set, bound: [...set.bound, did.count] })
    }
    case 'last':
    case 'this': {
      const newest = around(
        `SELECT ${who} AS who, ${h}.*, row_number() OVER (PARTITION BY ${who} ORDER BY ${h}.at_ms DESC, ${h}.id DESC) AS place FROM ${from}`,
        all,
        '',
      )
      return among(join([around('SELECT who FROM (', newest, `) AS ${h} WHERE ${h}.place = 1`), test], ' AND '))
    }
  }
}

/** What the other field of a comparison holds for the record asked. */
function otherSql(column: string, object: ObjectKind, via: ObjectKind | null, { id, depth }: At, places: Places): Sql {
  if (via === null) return raw(column)
  const visible = places.visible(via, `n${depth}`)
  return around(
    `(SELECT ${column} FROM links AS m${depth} JOIN ${places.table(via)} AS n${depth} ON n${depth}.id = m${depth}.to_id WHERE m${depth}.from_object = '${object}' AND m${depth}.from_id = ${id} AND m${depth}.to_object = '${via}' AND m${depth}.main = 1`,
    visible ? around(' AND ', visible, '') : raw(''),
    ')',
  )
}

function combine(mode: Group['mode'], tests: readonly Sql[]): Sql {
  if (tests.length === 0) return ALWAYS
  switch (mode) {
    case 'all':
      return around('(', join(tests, ' AND '), ')')
    case 'any':
      return around('(', join(tests, ' OR '), ')')
    case 'none':
      return negated(around('(', join(tests, ' OR '), ')'))
  }
}
