import { formulaThere } from '../formulas/asked'
import type { Group } from '../conditions/document'
import { OPERATORS } from '../conditions/operators'
import type { OtherField } from '../conditions/operators/another-field'
import type { Catalogue } from '../fields/catalogue'
import type { Field } from '../fields/field'
import type { Formula } from '../formulas/formula'
import { isForeign, worthKeys } from '../money/worth'
import type { ObjectKind } from '../records/kinds'

/** What a value hangs on: fields of its own record, of records on the way of some links, what happens, and the day. */
export interface Depends {
  readonly own: Set<string>
  readonly reaches: Reach[]
  /** What happens around the record itself. */
  activities: boolean
  byDay: boolean
  /** What currencies are worth. */
  byRates: boolean
  /** Segments that are asked about. */
  readonly segments: Set<number>
}

/** Records so many links away: `path` is the kinds one goes through, the last of them theirs. */
export interface Reach {
  readonly path: readonly ObjectKind[]
  readonly fields: Set<string>
  activities: boolean
}

export const nothing = (): Depends => ({
  own: new Set(),
  reaches: [],
  activities: false,
  byDay: false,
  byRates: false,
  segments: new Set(),
})

export function reachOf(depends: Depends, path: readonly ObjectKind[]): Reach {
  let found = depends.reaches.find((one) => one.path.join() === path.join())
  if (!found) depends.reaches.push((found = { path, fields: new Set(), activities: false }))
  return found
}

/**
 * Adds what conditions look at; they are asked of the record at the end of `path`, of the record itself when that is
 * empty. `object` is the kind of that record, `within` the segments whose filter this is a part of.
 */
export function addGroup(
  depends: Depends,
  group: Group,
  object: ObjectKind,
  catalogue: Catalogue,
  path: readonly ObjectKind[] = [],
  within: readonly number[] = [],
): void {
  const add = (key: string, at: readonly ObjectKind[]): void =>
    void (at.length === 0 ? depends.own : reachOf(depends, at).fields).add(key)
  for (const item of group.items) {
    switch (item.kind) {
      case 'group':
        addGroup(depends, item, object, catalogue, path, within)
        break
      case 'linked':
        reachOf(depends, [...path, item.object])
        addGroup(depends, item.group, item.object, catalogue, [...path, item.object], within)
        break
      case 'did': {
        if (item.by === object && path.length === 0) depends.activities = true
        else reachOf(depends, item.by === object ? path : [...path, item.by]).activities = true
        if (item.span === 'days') depends.byDay = true
        break
      }
      case 'inSegment': {
        const segment = item.segment === null ? null : catalogue.segment(item.segment)
        if (segment && !within.includes(segment.id)) {
          depends.segments.add(segment.id)
          addGroup(depends, segment.filter, object, catalogue, path, [...within, segment.id])
        }
        break
      }
      case 'formula': {
        const read = formulaThere(item.text, object, catalogue)
        if (read.ok) addFormula(depends, read.formula, path)
        break
      }
      case 'condition': {
        add(item.field, path)
        if (OPERATORS[item.op].byDay) depends.byDay = true
        const { other } = item.params as { readonly other?: OtherField | null }
        if (other) add(other.field, other.via ? [...path, other.via] : path)
      }
    }
  }
}

/** The same of a formula about the record at the end of `path`. */
export function addFormula(depends: Depends, { uses }: Formula, path: readonly ObjectKind[] = []): void {
  const own = path.length === 0 ? depends.own : reachOf(depends, path).fields
  for (const key of uses.own) own.add(key)
  for (const [object, keys] of uses.linked) {
    const reach = reachOf(depends, [...path, object])
    for (const key of keys) reach.fields.add(key)
  }
  if (uses.today || uses.now) depends.byDay = true
}

/**
 * Adds what amounts hang on beside themselves: their currency, and when the record was closed. `kept` is the field that
 * the value goes into.
 */
export function addWorth(depends: Depends, kept: Field, catalogue: Catalogue): void {
  const widen = (keys: Set<string>, object: ObjectKind): void => {
    for (const key of [...keys]) {
      const field = catalogue.field(object, key)
      if (!field || !isForeign(field)) continue
      depends.byRates = true
      for (const one of worthKeys(field)) keys.add(one)
    }
  }
  widen(depends.own, kept.object)
  for (const { path, fields } of depends.reaches) widen(fields, path.at(-1) ?? kept.object)
  if (kept.made?.by !== 'formula' || !isForeign(kept)) return
  depends.byRates = true
  for (const one of worthKeys(kept)) if (one !== kept.key) depends.own.add(one)
}
