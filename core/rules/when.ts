import type { SkipReason } from '../language/reasons'
import { z } from 'zod'
import type { Catalogue } from '../fields/catalogue'
import type { Field } from '../fields/field'
import type { Values } from '../language/value'
import type { Problem } from '../language/problems'
import { type ObjectKind, oneOf } from '../records/kinds'
import {
  fromInstant,
  fromValue,
  MOMENT_UNITS,
  nextWithin,
  sayCount,
  sayMinute,
  sayZone,
  type MomentUnit,
} from '../time/moments'
import { fieldWord } from '../fields/say-value'
import type { Moment } from '../conditions/moment'

/** A later moment, as a step names it. */

export const zMinute = z.int().min(0).max(1439)
export const zCount = z.strictObject({ count: z.int().min(0).max(100_000), unit: z.enum(MOMENT_UNITS) })
export const SIDES = ['before', 'on', 'after'] as const
export type Side = (typeof SIDES)[number]

export const zWhen = z.discriminatedUnion('at', [
  /** Counted from now; `minute` is the time of day at which it is then, for days and more. */
  z.strictObject({ at: z.literal('after'), amount: zCount, minute: zMinute.nullable() }),
  /** Counted from a date that the record holds; it moves when that does. */
  z.strictObject({
    at: z.literal('field'),
    field: z.string().max(100).nullable(),
    side: z.enum(SIDES),
    amount: zCount,
    minute: zMinute.nullable(),
  }),
  /** Now, when it is within these hours; otherwise when they next begin. */
  z.strictObject({ at: z.literal('hours'), from: zMinute, to: zMinute, workdays: z.boolean() }),
])
export type When = z.infer<typeof zWhen>
export const WHEN_WAYS = ['after', 'field', 'hours'] as const

const isDated = ({ type }: Field): boolean => type === 'date' || type === 'dateTime'
const exact = (unit: MomentUnit): boolean => unit === 'minutes' || unit === 'hours'

/**
 * "4 working days, until 9:00 (Lisbon)", "2 days before the contract end, at 9:00 (Lisbon)"; `null` while
 * a part is still to be chosen.
 * `joined` is said before the time of a day: one waits until it, and a task comes at it.
 */
export function sayWhen(
  when: When,
  object: ObjectKind,
  catalogue: Catalogue,
  joined: 'until' | 'at' = 'until',
): string | null {
  const place = ` (${sayZone(catalogue.workspace.zone)})`
  switch (when.at) {
    case 'after': {
      const at = when.minute === null || exact(when.amount.unit) ? '' : `, ${joined} ${sayMinute(when.minute)}${place}`
      return `${sayCount(when.amount.count, when.amount.unit)}${at}`
    }
    case 'field': {
      const name = when.field === null ? null : fieldWord(catalogue.field(object, when.field))
      if (name === null) return null
      const at = when.minute === null ? '' : `, at ${sayMinute(when.minute)}${place}`
      return when.side === 'on'
        ? `the ${oneOf(object)}’s ${name}${at}`
        : `${sayCount(when.amount.count, when.amount.unit)} ${when.side} the ${oneOf(object)}’s ${name}${at}`
    }
    case 'hours':
      return `it is between ${sayMinute(when.from)} and ${sayMinute(when.to)}${place}${when.workdays ? ' on a working day' : ''}`
  }
}

export function checkWhen(when: When, object: ObjectKind, catalogue: Catalogue): Problem | null {
  if (when.at === 'hours') return when.from < when.to ? null : { code: 'endBeforeStart' }
  if (when.at === 'after') return null
  if (when.field === null) return { code: 'missing', what: 'dateField' }
  const field = catalogue.field(object, when.field)
  if (!field) return { code: 'unknownField', field: when.field }
  if (!isDated(field)) return { code: 'notADateField', field: field.label }
  if (field.type === 'date' && when.side !== 'on' && exact(when.amount.unit))
    return { code: 'noTimeOfDay', field: field.label }
  return null
}

/** The moment it is, in ms UTC, for a record with these values; or why there is none. It may lie in the past. */
export function whenAt(
  when: When,
  values: Values,
  object: ObjectKind,
  { nowMs, zone, calendar }: Moment,
  catalogue: Catalogue,
): number | { readonly none: SkipReason } {
  switch (when.at) {
    case 'after':
      return fromInstant(nowMs, { ...when.amount, minute: when.minute }, zone, calendar)
    case 'field': {
      const field = when.field === null ? null : catalogue.field(object, when.field)
      const value = field && values[field.key]
      if (!field || !isDated(field) || (typeof value !== 'string' && typeof value !== 'number'))
        return { none: { code: 'emptyField', field: catalogue.field(object, when.field ?? '')?.label ?? 'The date' } }
      const count = when.side === 'on' ? 0 : when.side === 'before' ? -when.amount.count : when.amount.count
      return fromValue(
        value,
        { count, unit: when.side === 'on' ? 'days' : when.amount.unit, minute: when.minute },
        zone,
        calendar,
      )
    }
    case 'hours':
      return nextWithin(nowMs, when.from, when.to, when.workdays, zone, calendar)
  }
}

/** As short as it can be said, for the line of time: "+ 4 days", "2 days before", "9:00–17:00". */
export function shortWhen(when: When): string {
  switch (when.at) {
    case 'after':
      return `after ${sayCount(when.amount.count, when.amount.unit)}`
    case 'field':
      return when.side === 'on' ? 'on the date' : `${sayCount(when.amount.count, when.amount.unit)} ${when.side}`
    case 'hours':
      return `${sayMinute(when.from)}–${sayMinute(when.to)}`
  }
}

/** The field it is counted from. */
export const anchorOf = (when: When): string | null => (when.at === 'field' ? when.field : null)
