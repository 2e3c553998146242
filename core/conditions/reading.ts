import { dayOf } from '../fields/types/date'
import type { Catalogue } from '../fields/catalogue'
import type { ObjectKind } from '../records/kinds'
import type { Field } from '../fields/field'
import { foldText, type Value } from '../language/value'
import { worthIn } from '../money/worth'
import { daysBetween } from '../time/dates'
import type { Moment, Test } from './moment'

/**
 * What a question comes to at one moment, as data: the predicate for one record and the query for all of them are
 * both made from it, so that they cannot disagree. `null` at an end leaves it open.
 */
export type Reading =
  /** Nothing is there. */
  | { readonly is: 'empty' }
  /** Its compared form is one of these. */
  | { readonly is: 'oneOf'; readonly keys: readonly (string | number)[] }
  /** A number between two ends; whether each end counts. */
  | { readonly is: 'range'; readonly from: number | null; readonly to: number | null; readonly ends: boolean }
  /** Its day lies from one to the other, both counted. */
  | { readonly is: 'days'; readonly from: string | null; readonly to: string | null }
  /** It reads as containing this, already folded. */
  | { readonly is: 'contains'; readonly folded: string }
  /** A list that holds at least one of these. */
  | { readonly is: 'includes'; readonly ids: readonly string[] }
  /** Compares with what another field holds: of the same record, or of its main linked one of a kind. */
  | { readonly is: 'field'; readonly relation: Relation; readonly other: Field; readonly via: ObjectKind | null }
  /** Holds for nothing, because it is not finished. */
  | { readonly is: 'never' }

export type Relation = 'same' | 'above' | 'below'

/** The reading as a predicate; the value is never empty, but for "empty". */
export function predicateOf(reading: Reading, field: Field, catalogue: Catalogue): Test {
  switch (reading.is) {
    case 'empty':
      return (value) => value === null
    case 'never':
      return () => false
    case 'oneOf': {
      const wanted = new Set(reading.keys)
      return (value) => value !== null && wanted.has(catalogue.compared(field, value))
    }
    case 'range': {
      const { from, to, ends } = reading
      return (value) => {
        const given = Number(value)
        return (
          (from === null || (ends ? given >= from : given > from)) && (to === null || (ends ? given <= to : given < to))
        )
      }
    }
    case 'days': {
      const { from, to } = reading
      return (value, moment) => {
        const day = dayOf(typeof value === 'number' ? value : String(value), moment.zone)
        return (from === null || day >= from) && (to === null || day <= to)
      }
    }
    case 'contains':
      return (value) => foldText(String(value)).includes(reading.folded)
    case 'field': {
      const { other, relation, via } = reading
      const worth = worthIn(other, catalogue)
      return (value, _moment, subject) => {
        const from = via === null ? subject : subject.linked(via).find((one) => one.main)
        const against = from ? worth(from.values) : null
        if (value === null || against === null) return false
        const [a, b] = [catalogue.compared(field, value), catalogue.compared(other, against)]
        return relation === 'same' ? a === b : relation === 'above' ? a > b : a < b
      }
    }
    case 'includes': {
      const wanted = new Set(reading.ids)
      return (value) => Array.isArray(value) && value.some((id: string) => wanted.has(id))
    }
  }
}

/**
 * How far a value is from the reading, at least 0; `null` when that cannot be measured. For showing the nearest first.
 */
export function gapOf(reading: Reading, value: Value, moment: Moment): number | null {
  if (reading.is === 'range') {
    const given = Number(value)
    return Math.max((reading.from ?? given) - given, given - (reading.to ?? given), 0)
  }
  if (reading.is === 'days') {
    const day = dayOf(typeof value === 'number' ? value : String(value), moment.zone)
    return Math.max(
      reading.from === null ? 0 : daysBetween(day, reading.from),
      reading.to === null ? 0 : daysBetween(reading.to, day),
      0,
    )
  }
  return null
}
