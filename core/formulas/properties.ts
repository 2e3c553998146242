import { Temporal } from 'temporal-polyfill'
import type { Env } from './build'
import { civilOf, DAY_MS, weekdayOf } from './calendar'
import { NUMBER, type FeelType, type FeelValue } from './types'

interface Property {
  readonly type: FeelType
  readonly read: (value: FeelValue, env: Env) => FeelValue
}

const number = (read: (value: number, env: Env) => number): Property => ({
  type: NUMBER,
  read: (value, env) => read(Number(value), env) + 0,
})
const zoned = (atMs: number, zone: string): Temporal.ZonedDateTime =>
  Temporal.Instant.fromEpochMilliseconds(atMs).toZonedDateTimeISO(zone)

/** What values have behind a point (DMN 1.3, table 65). */
const PROPERTIES: { readonly [K in FeelType['is']]?: { readonly [name: string]: Property } } = {
  date: {
    year: number((day) => civilOf(day).year),
    month: number((day) => civilOf(day).month),
    day: number((day) => civilOf(day).day),
    weekday: number(weekdayOf),
  },
  dateTime: {
    year: number((ms, { zone }) => zoned(ms, zone).year),
    month: number((ms, { zone }) => zoned(ms, zone).month),
    day: number((ms, { zone }) => zoned(ms, zone).day),
    weekday: number((ms, { zone }) => zoned(ms, zone).dayOfWeek),
    hour: number((ms, { zone }) => zoned(ms, zone).hour),
    minute: number((ms, { zone }) => zoned(ms, zone).minute),
    second: number((ms, { zone }) => zoned(ms, zone).second),
  },
  days: {
    days: number((ms) => Math.trunc(ms / DAY_MS)),
    hours: number((ms) => Math.trunc(ms / 3_600_000) % 24),
    minutes: number((ms) => Math.trunc(ms / 60_000) % 60),
    seconds: number((ms) => (ms / 1000) % 60),
  },
  months: { years: number((months) => Math.trunc(months / 12)), months: number((months) => months % 12) },
}

export const propertyOf = (of: FeelType, name: string): Property | null => {
  const own = PROPERTIES[of.is]
  return own && Object.hasOwn(own, name) ? (own[name] ?? null) : null
}
