import type { Catalogue } from '../fields/catalogue'
import type { Field } from '../fields/field'
import type { RecordSnapshot } from '../records/record'
import { addDays, addMonths, dateAt, weekday } from '../time/dates'
import { addWorkdays, isWorkday } from '../time/calendar'
import {
  anniversary,
  fromInstant,
  instantAt,
  monthly,
  sayCount,
  shiftDays,
  type DayUnit,
  type Leap,
  type MomentUnit,
} from '../time/moments'
import { sayDate } from '../time/say'
import {
  calendarOf,
  ZONE_FIELD,
  zoneOf,
  type ClockRecords,
  type ClockStart,
  type ClockTrigger,
  type ZoneOf,
} from './clock'
import { fieldWord } from '../fields/say-value'

/** The moments that a date field has: once for what it holds, or every month or year from then on. */
export interface DateMoments {
  readonly field: Field
  /** Negative before the date. */
  readonly count: number
  readonly unit: MomentUnit
  /** Minutes from midnight; of an instant `null` for its own time of day. */
  readonly minute: number | null
  readonly every: 'once' | 'month' | 'year'
  readonly leap: Leap
  readonly zone: ZoneOf
  /** 1 to 12, and ISO weekdays, of the day on which it is; empty for any. */
  readonly months: readonly number[]
  readonly weekdays: readonly number[]
}

/** No date of a person or a firm lies before it. */
const FIRST_YEAR = 1900
/** So many days ahead are looked through for the next moment; behind them it is looked again. */
const AHEAD_DAYS = 400
/**
 * Working days and months are looked for this many days around where they would be without holidays and short months.
 */
const AROUND = 40
const PAGE = 500
const DAY_MS = 86_400_000

/** How long a unit is on the whole; working days without the days off between them. */
const ABOUT_DAYS: { readonly [U in MomentUnit]: number } = {
  minutes: 1 / 1440,
  hours: 1 / 24,
  days: 1,
  weeks: 7,
  months: 30.5,
  workdays: 1.4,
}

const exact = (unit: MomentUnit): unit is 'minutes' | 'hours' => unit === 'minutes' || unit === 'hours'

const allows = ({ months, weekdays }: DateMoments, day: string): boolean =>
  (months.length === 0 || months.includes(Number(day.slice(5, 7)))) &&
  (weekdays.length === 0 || weekdays.includes(weekday(day)))

/** The days that, shifted, come to a day. Several do where months are short or nobody works; sometimes none does. */
function unshifted(day: string, count: number, unit: DayUnit, catalogue: Catalogue): readonly string[] {
  if (unit === 'days') return [addDays(day, -count)]
  if (unit === 'weeks') return [addDays(day, -7 * count)]
  const calendar = calendarOf(catalogue)
  if (unit === 'months') {
    const middle = addMonths(day, -count)
    return Array.from({ length: 9 }, (_, i) => addDays(middle, i - 4)).filter((one) => addMonths(one, count) === day)
  }
  if (!isWorkday(day, calendar)) return []
  // Counting passes over days off: those beside the working day that is reached come to the same.
  const found = [count === 0 ? day : addWorkdays(day, -count, calendar)]
  const step = count > 0 ? 1 : -1
  for (let one = addDays(found[0] ?? day, step); !isWorkday(one, calendar); one = addDays(one, step)) found.push(one)
  return found
}

const isLeapYear = (year: number): boolean => (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0

/** The dates of some years whose day in a year, or in each month, is this one; not before the date itself. */
function datesOn(on: string, every: 'month' | 'year', leap: Leap, firstYear: number): readonly string[] {
  const year = Number(on.slice(0, 4))
  const years = Array.from({ length: Math.max(0, year - firstYear + 1) }, (_, i) => firstYear + i)
  if (every === 'year') {
    const moved = !isLeapYear(year) && on.slice(5) === (leap === 'feb28' ? '02-28' : '03-01')
    return years.flatMap((y) => [
      ...(on.slice(5) === '02-29' && !isLeapYear(y) ? [] : [`${y}${on.slice(4)}`]),
      ...(moved && isLeapYear(y) ? [`${y}-02-29`] : []),
    ])
  }
  // The last day of a month stands for those that it lacks.
  const days = addDays(on, 1).endsWith('-01')
    ? Array.from({ length: 32 - Number(on.slice(8)) }, (_, i) => Number(on.slice(8)) + i)
    : [Number(on.slice(8))]
  return years.flatMap((y) =>
    Array.from({ length: 12 }, (_, m) => m + 1).flatMap((m) =>
      days.flatMap((d) => {
        const value = `${y}-${String(m).padStart(2, '0')}-${String(d).padStart(2, '0')}`
        return value <= on && d <= monthLength(y, m) ? [value] : []
      }),
    ),
  )
}

const monthLength = (year: number, month: number): number =>
  month === 2 ? (isLeapYear(year) ? 29 : 28) : [4, 6, 9, 11].includes(month) ? 30 : 31

/** For a date that holds no time of day. */
function ofDates(moments: DateMoments, field: Field): ClockTrigger {
  const { count, every, leap } = moments
  const unit = exact(moments.unit) ? 'days' : moments.unit
  const minute = moments.minute ?? 0
  const { object, key } = field
  const byRecord = moments.zone !== 'workspace'

  /** Values whose moment falls on a day, wherever that day is. */
  const valuesFor = (records: ClockRecords, day: string): readonly string[] => {
    if (!allows(moments, day)) return []
    const days = unshifted(day, count, unit, records.catalogue())
    if (every === 'once') return days
    const least = records.least(object, key, `${FIRST_YEAR}-01-01`)
    if (typeof least !== 'string') return []
    return days.flatMap((on) => datesOn(on, every, leap, Number(least.slice(0, 4))))
  }
  const zoneFor = (records: ClockRecords, record: RecordSnapshot): string =>
    zoneOf(moments.zone, record, (ref, of) => records.related(ref, of), records.catalogue())
  /** The days on which a value has moments around a day. */
  const daysOf = (
    value: string,
    around: string,
    catalogue: Catalogue,
  ): readonly { readonly day: string; readonly on: string }[] => {
    const calendar = calendarOf(catalogue)
    // Those years and months are looked at whose days, shifted, lie around it, however far they are shifted.
    const from = addDays(around, -Math.round(count * ABOUT_DAYS[unit]))
    const year = Number(from.slice(0, 4))
    const on =
      every === 'once'
        ? [value]
        : every === 'year'
          ? Array.from({ length: 5 }, (_, i) => anniversary(value, year - 2 + i, leap))
          : Array.from({ length: 27 }, (_, i) =>
              monthly(value, addMonths(`${from.slice(0, 7)}-01`, i - 13).slice(0, 7)),
            )
    return on
      .filter((one) => one >= value)
      .map((one) => ({ on: one, day: shiftDays(one, count, unit, calendar) }))
      .filter(({ day }) => allows(moments, day))
  }
  const startOf = (records: ClockRecords, record: RecordSnapshot, day: string): ClockStart | null => {
    const value = record.values[key]
    if (typeof value !== 'string') return null
    const found = daysOf(value, day, records.catalogue()).find((one) => one.day === day)
    return found
      ? {
          ref: { object, id: record.id },
          occurrence: `date:${key}:${value}:${count}${unit}${every === 'once' ? '' : `:${found.on}`}`,
          because: sayCome(moments, found.on),
          coming: sayCome(moments, found.on, true),
        }
      : null
  }
  const momentOf: ClockTrigger['momentOf'] = (records, record, afterMs) => {
    const value = record.values[key]
    if (typeof value !== 'string') return null
    const zone = zoneFor(records, record)
    const found = daysOf(value, dateAt(afterMs, zone), records.catalogue())
      .map(({ day }) => instantAt(day, minute, zone))
      .filter((at) => at > afterMs)
    return found.length > 0 ? Math.min(...found) : null
  }
  function* all(records: ClockRecords, values: readonly string[], afterId = 0): Generator<RecordSnapshot> {
    for (let id = afterId; ;) {
      const some = records.holding(object, key, values, id, PAGE)
      yield* some
      const last = some.at(-1)
      if (!last || some.length < PAGE) return
      id = last.id
    }
  }

  return {
    fields: fieldsOf(moments),
    zone: moments.zone,
    momentOf,
    next(records, afterMs) {
      const zone = records.catalogue().workspace.zone
      const today = dateAt(afterMs, zone)
      const end = addDays(today, AHEAD_DAYS)
      /** Each day is looked at up to three times: its records are read once. */
      const read = new Map<string, readonly RecordSnapshot[]>()
      const recordsOn = (on: string): readonly RecordSnapshot[] => {
        const found = read.get(on) ?? [...all(records, valuesFor(records, on))]
        read.set(on, found)
        return found
      }
      // By a record's own clock a day begins up to a day earlier or later than by the workspace's.
      for (let day = addDays(today, -1); day <= end; day = addDays(day, 1)) {
        if (every === 'once') {
          // Days on which nothing can be are leapt over by the value that comes next.
          const [from] = unshifted(day, count, unit, records.catalogue())
          const least = from === undefined ? null : records.least(object, key, addDays(from, -AROUND))
          if (from !== undefined && least === null) return null
          if (typeof least === 'string' && from !== undefined) {
            const to = shiftDays(addDays(least, -AROUND), count, unit, calendarOf(records.catalogue()))
            if (to > end) return instantAt(end, minute, zone)
            if (to > day) day = to
          }
        }
        if (!byRecord) {
          const at = instantAt(day, minute, zone)
          if (at > afterMs && records.holding(object, key, valuesFor(records, day), 0, 1).length > 0) return at
          continue
        }
        let best: number | null = null
        // Only the moments of these days: what has been is there again in a year, and that is not the next one.
        let found = 0
        for (const more of [0, 1, 2]) {
          const on = addDays(day, more)
          for (const record of recordsOn(on)) {
            const at = instantAt(on, minute, zoneFor(records, record))
            if (at > afterMs && (best === null || at < best)) [best, found] = [at, more]
          }
        }
        read.delete(day)
        // East of the last of these days the next one may have begun already: it is looked at before this one counts.
        if (found === 2) continue
        if (best !== null) return best
      }
      return instantAt(end, minute, zone)
    },
    due(records, atMs, afterId, limit) {
      const { zone: own } = records.catalogue().workspace
      const middle = dateAt(atMs, byRecord ? 'UTC' : own)
      // Where the clock skips the hour before midnight, a moment of the day before comes at the beginning of this one.
      const days = byRecord
        ? [-1, 0, 1].map((more) => addDays(middle, more))
        : [-1, 0].map((more) => addDays(middle, more)).filter((day) => instantAt(day, minute, own) === atMs)
      const found = records.holding(
        object,
        key,
        days.flatMap((day) => valuesFor(records, day)),
        afterId,
        limit,
      )
      const starts = found.flatMap((record) =>
        days.flatMap((day) => {
          const zone = byRecord ? zoneFor(records, record) : own
          return instantAt(day, minute, zone) === atMs ? (startOf(records, record, day) ?? []) : []
        }),
      )
      return { starts, last: found.length < limit ? null : (found.at(-1)?.id ?? null) }
    },
  }
}

/** What of a record moves its moments. */
const fieldsOf = ({ field, zone }: DateMoments): readonly string[] => [
  field.key,
  ...(zone === 'owner' ? ['owner'] : zone === 'contact' ? [ZONE_FIELD] : []),
]

/** For a date with a time of day. */
function ofInstants(moments: DateMoments, field: Field): ClockTrigger {
  const { count, unit, minute } = moments
  const { object, key } = field
  const about = Math.round(count * ABOUT_DAYS[unit] * DAY_MS)
  /** Between what the calendar gives and the rough reckoning lies no more than this. */
  const leeway = exact(unit) ? 0 : Math.abs(about) * 0.5 + 20 * DAY_MS
  const momentFor = (records: ClockRecords, record: RecordSnapshot): number | null => {
    const value = record.values[key]
    if (typeof value !== 'number') return null
    const zone = zoneOf(moments.zone, record, (ref, of) => records.related(ref, of), records.catalogue())
    const at = fromInstant(value, { count, unit, minute }, zone, calendarOf(records.catalogue()))
    return allows(moments, dateAt(at, zone)) ? at : null
  }
  return {
    fields: fieldsOf(moments),
    zone: moments.zone,
    momentOf(records, record, afterMs) {
      const at = momentFor(records, record)
      return at !== null && at > afterMs ? at : null
    },
    next(records, afterMs) {
      let best: number | null = null
      for (let from = afterMs - about - leeway; ;) {
        const value = records.least(object, key, from)
        // What lies later than the best by more than both can be off is no better.
        if (typeof value !== 'number' || (best !== null && value + about - leeway > best)) return best
        for (let id = 0; ;) {
          const some = records.holding(object, key, [value], id, PAGE)
          for (const record of some) {
            const at = momentFor(records, record)
            if (at !== null && at > afterMs && (best === null || at < best)) best = at
          }
          const last = some.at(-1)
          // Of those with one value every one has the same moment, unless it goes by their own clocks.
          if (!last || some.length < PAGE || moments.zone === 'workspace') break
          id = last.id
        }
        from = value + 1
      }
    },
    due(records, atMs, afterId, limit) {
      const found = records.between(object, key, atMs - about - leeway, atMs - about + leeway, afterId, limit)
      const starts = found.flatMap((record): readonly ClockStart[] => {
        if (momentFor(records, record) !== atMs) return []
        const on = dateAt(Number(record.values[key]), records.catalogue().workspace.zone)
        return [
          {
            ref: { object, id: record.id },
            occurrence: `date:${key}:${String(record.values[key])}:${count}${unit}`,
            because: sayCome(moments, on),
            coming: sayCome(moments, on, true),
          },
        ]
      })
      return { starts, last: found.length < limit ? null : (found.at(-1)?.id ?? null) }
    },
  }
}

/** "its expected close was 3 days away, 15 Dec 2026"; "… is then …" while the moment is still to come. */
function sayCome({ field, count, unit, every }: DateMoments, on: string, ahead = false): string {
  const name = `its ${fieldWord(field) ?? ''}${every === 'once' ? '' : every === 'year' ? ', each year,' : ', each month,'}`
  const day = sayDate(on)
  if (count === 0) return `${name} ${ahead ? 'comes' : 'came'}, ${day}`
  const is = ahead ? 'is then' : 'was'
  return count < 0
    ? `${name} ${is} ${sayCount(-count, unit)} away, ${day}`
    : `${name} ${is} ${sayCount(count, unit)} ago, ${day}`
}

export const clockOfDate = (moments: DateMoments): ClockTrigger =>
  moments.field.type === 'dateTime' ? ofInstants(moments, moments.field) : ofDates(moments, moments.field)
