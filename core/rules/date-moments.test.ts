import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { Catalogue } from '../fields/catalogue'
import type { Value } from '../language/value'
import type { ObjectKind } from '../records/kinds'
import type { RecordSnapshot } from '../records/record'
import { FACTS, PEOPLE } from '../testing/firm'
import { catalogue, NOW_MS, TODAY } from '../testing/setting'
import { addDays, dateAt, startOfDate, weekday } from '../time/dates'
import { fromDate, fromInstant, MOMENT_UNITS } from '../time/moments'
import { calendarOf, isZone, ZONE_OF, type ClockRecords } from './clock'
import { clockOfDate, type DateMoments } from './date-moments'

const DAY = 86_400_000
const ZONES = ['Europe/Lisbon', 'America/Halifax', 'Asia/Kathmandu', 'Pacific/Auckland', 'Pacific/Niue']
const firm = new Catalogue({
  ...catalogue.data,
  workspace: { ...FACTS, holidays: [...FACTS.holidays, { date: addDays(TODAY, 7), name: 'Fair' }] },
  people: PEOPLE.map((one, i) => ({ ...one, zone: i % 2 === 0 ? (ZONES[i % ZONES.length] ?? null) : null })),
})
const field = (object: ObjectKind, key: string) => {
  const found = firm.field(object, key)
  if (!found) throw new Error(`no field ${key}`)
  return found
}

/** Records in memory, found by going through all of them. */
function recordsOf(all: readonly RecordSnapshot[]): ClockRecords {
  const of = (object: ObjectKind) => all.filter((one) => one.object === object)
  const some = (found: readonly RecordSnapshot[], afterId: number, limit: number) =>
    found.filter(({ id }) => id > afterId).slice(0, limit)
  return {
    catalogue: () => firm,
    read: ({ object, id }) => of(object).find((one) => one.id === id) ?? null,
    related: () => null,
    least: (object, key, from) =>
      of(object).reduce<string | number | null>((least, { values }) => {
        const value = values[key]
        if ((typeof value !== 'string' && typeof value !== 'number') || typeof value !== typeof from) return least
        return value >= from && (least === null || value < least) ? value : least
      }, null),
    holding: (object, key, values, afterId, limit) =>
      some(
        of(object).filter((one) => (values as readonly Value[]).includes(one.values[key] ?? null)),
        afterId,
        limit,
      ),
    between: (object, key, from, to, afterId, limit) =>
      some(
        of(object).filter(({ values }) => Number(values[key] ?? NaN) >= from && Number(values[key]) <= to),
        afterId,
        limit,
      ),
    matching: () => [],
  }
}

const zoneFor = ({ zone }: DateMoments, { values }: RecordSnapshot): string => {
  const own =
    zone === 'owner' ? firm.person(String(values.owner))?.zone : zone === 'contact' ? values.zone : firm.workspace.zone
  return isZone(own) ? own : firm.workspace.zone
}

/** So far moments are shifted at the most: five years and what is looked at. */
const LAST_YEAR = 2040

/** The dates from which the moments of one date count, written down year by year and month by month. */
function datesOf(value: string, { every, leap }: DateMoments): readonly string[] {
  if (every === 'once') return [value]
  const [year, month, day] = value.split('-').map(Number) as [number, number, number]
  const last = (y: number, m: number) => new Date(Date.UTC(y, m, 0)).getUTCDate()
  const text = (y: number, m: number, d: number) => new Date(Date.UTC(y, m - 1, d)).toISOString().slice(0, 10)
  if (every === 'month')
    return Array.from({ length: 12 * (LAST_YEAR - year) }, (_, i) => {
      const [y, m] = [year + Math.floor((month - 1 + i) / 12), ((month - 1 + i) % 12) + 1]
      return text(y, m, Math.min(day, last(y, m)))
    })
  return Array.from({ length: LAST_YEAR - year }, (_, i) => {
    const y = year + i
    // Where a year lacks the day, the one before or behind it stands for it.
    return text(y, month, month === 2 && day === 29 && last(y, 2) === 28 && leap === 'feb28' ? 28 : day)
  })
}

/** All moments that a record has between two instants, the first one excluded. */
function momentsOf(moments: DateMoments, record: RecordSnapshot, fromMs: number, toMs: number): readonly number[] {
  const value = record.values[moments.field.key] ?? null
  const zone = zoneFor(moments, record)
  const calendar = calendarOf(firm)
  const { count, unit, minute } = moments
  const found =
    typeof value === 'number'
      ? [fromInstant(value, { count, unit, minute }, zone, calendar)]
      : typeof value === 'string'
        ? datesOf(value, moments).map((on) =>
            fromDate(
              on,
              { count, unit: unit === 'minutes' || unit === 'hours' ? 'days' : unit, minute },
              zone,
              calendar,
            ),
          )
        : []
  return found
    .filter((at) => at > fromMs && at <= toMs)
    .filter((at) => {
      const day = dateAt(at, zone)
      return (
        (moments.months.length === 0 || moments.months.includes(Number(day.slice(5, 7)))) &&
        (moments.weekdays.length === 0 || moments.weekdays.includes(weekday(day)))
      )
    })
    .sort((a, b) => a - b)
}

interface Started {
  readonly id: number
  readonly atMs: number
  readonly occurrence: string
}

/** Goes from moment to moment as the clock does, two records at a time. */
function walk(moments: DateMoments, records: ClockRecords, fromMs: number, toMs: number): readonly Started[] {
  const trigger = clockOfDate(moments)
  const started: Started[] = []
  for (let atMs = trigger.next(records, fromMs); atMs !== null && atMs <= toMs; atMs = trigger.next(records, atMs)) {
    for (let after: number | null = 0; after !== null;) {
      const { starts, last } = trigger.due(records, atMs, after, 2)
      for (const { ref, occurrence } of starts) started.push({ id: ref.id, atMs, occurrence })
      after = last
    }
  }
  return started
}

const some = <T>(list: readonly T[], most: number) =>
  fc.oneof(fc.constant<T[]>([]), fc.subarray([...list], { maxLength: most }))
const settings = {
  count: fc.oneof(fc.integer({ min: -20, max: 20 }), fc.integer({ min: -60, max: 60 })),
  zone: fc.constantFrom(...ZONE_OF),
  leap: fc.constantFrom('feb28' as const, 'mar1' as const),
  months: some([1, 2, 3, 11, 12], 4),
  weekdays: some([1, 2, 3, 4, 5, 6, 7], 6),
}
const contact = (key: string, values: fc.Arbitrary<Value>) =>
  fc
    .array(
      fc.record({
        [key]: values,
        owner: fc.constantFrom(...firm.people.map(({ id }) => id)),
        zone: fc.constantFrom<Value>(...ZONES, 'nowhere', null),
      }),
      { maxLength: 6 },
    )
    .map((all) => all.map((given, i): RecordSnapshot => ({ object: 'contact', id: i + 1, version: 1, values: given })))

const near = fc.integer({ min: -60, max: 60 }).map((by) => addDays(TODAY, by))
const long = fc
  .integer({ min: 1, max: 12_000 })
  .map((by) => addDays(TODAY, -by))
  .filter((day) => day >= '1994-01-01')
const awkward = fc.constantFrom('2000-02-29', '2024-02-29', '2025-01-31', '2025-12-31', '2026-08-30', TODAY)
const SPAN = 45

/** Walks through a month and a half, and compares it with what was written down; answers what was started. */
function borneOut(moments: DateMoments, all: readonly RecordSnapshot[]): readonly Started[] {
  const toMs = NOW_MS + SPAN * DAY
  const said = (id: number, atMs: number) => `${id} ${new Date(atMs).toISOString()}`
  const expected = all.flatMap((record) => momentsOf(moments, record, NOW_MS, toMs).map((at) => said(record.id, at)))
  const started = walk(moments, recordsOf(all), NOW_MS, toMs)
  expect(started.map(({ id, atMs }) => said(id, atMs)).sort()).toEqual([...new Set(expected)].sort())
  return started
}

describe('the moments of a date', () => {
  const ofDates = fc.record({
    ...settings,
    unit: fc.constantFrom(...MOMENT_UNITS.filter((unit) => unit !== 'minutes' && unit !== 'hours')),
    minute: fc.constantFrom(0, 90, 510, 1439),
    every: fc.constantFrom('once' as const, 'month' as const, 'year' as const),
  })
  const days = fc.option(fc.oneof(near, long, awkward), { nil: null, freq: 8 })

  it('are gone through one after the other, each of each record once and none besides', () => {
    fc.assert(
      fc.property(ofDates, contact('birthday', days), (given, all) => {
        const moments: DateMoments = { ...given, field: field('contact', 'birthday') }
        const started = borneOut(moments, all)
        // No moment of a record has the name of another one.
        expect(new Set(started.map(({ id, occurrence }) => `${id} ${occurrence}`)).size).toBe(started.length)
      }),
      { numRuns: 40 },
    )
  })

  it('are told of a single record as they come', () => {
    fc.assert(
      fc.property(ofDates, contact('birthday', days), (given, all) => {
        const moments: DateMoments = { ...given, field: field('contact', 'birthday') }
        const trigger = clockOfDate(moments)
        for (const record of all) {
          const [expected] = momentsOf(moments, record, NOW_MS, NOW_MS + 300 * DAY)
          const found = trigger.momentOf(recordsOf(all), record, NOW_MS)
          if (expected !== undefined) expect(found).toBe(expected)
          else if (found !== null) expect(found).toBeGreaterThan(NOW_MS + 300 * DAY)
        }
      }),
      { numRuns: 150 },
    )
  })
})

describe('the moments of a date with a time of day', () => {
  const ofInstants = fc.record({
    ...settings,
    unit: fc.constantFrom(...MOMENT_UNITS),
    minute: fc.constantFrom(null, 0, 510, 1439),
    every: fc.constant('once' as const),
  })
  const instants = fc.option(
    fc.tuple(near, fc.nat(DAY - 1)).map(([day, ms]) => startOfDate(day, 'UTC') + ms),
    { nil: null, freq: 8 },
  )

  it('are gone through one after the other, each of each record once and none besides', () => {
    fc.assert(
      fc.property(ofInstants, contact('createdAt', instants), (given, all) => {
        const moments: DateMoments = { ...given, field: field('contact', 'createdAt') }
        borneOut(moments, all)
      }),
      { numRuns: 150 },
    )
  })
})

describe('why it starts', () => {
  const told = (given: Partial<DateMoments>, value: Value, at: string) => {
    const moments: DateMoments = {
      field: field('contact', 'birthday'),
      count: 0,
      unit: 'days',
      minute: 510,
      every: 'once',
      leap: 'feb28',
      zone: 'workspace',
      months: [],
      weekdays: [],
      ...given,
    }
    const records = recordsOf([{ object: 'contact', id: 1, version: 1, values: { birthday: value } }])
    const { starts } = clockOfDate(moments).due(
      records,
      fromDate(at, { count: 0, unit: 'days', minute: 510 }, 'Europe/Lisbon', calendarOf(firm)),
      0,
      9,
    )
    return starts.map(({ because, coming }) => [because, coming])
  }

  it.each<readonly [Partial<DateMoments>, string, string, string, string]>([
    [{}, '2026-11-30', '2026-11-30', 'its birthday came, 30 Nov 2026', 'its birthday comes, 30 Nov 2026'],
    [
      { count: -3 },
      '2026-11-30',
      '2026-11-27',
      'its birthday was 3 days away, 30 Nov 2026',
      'its birthday is then 3 days away, 30 Nov 2026',
    ],
    [
      { count: 1 },
      '2026-11-30',
      '2026-12-01',
      'its birthday was 1 day ago, 30 Nov 2026',
      'its birthday is then 1 day ago, 30 Nov 2026',
    ],
    [
      { count: 2, unit: 'weeks' },
      '2026-11-30',
      '2026-12-14',
      'its birthday was 2 weeks ago, 30 Nov 2026',
      'its birthday is then 2 weeks ago, 30 Nov 2026',
    ],
    [
      { every: 'year' },
      '1984-11-30',
      '2026-11-30',
      'its birthday, each year, came, 30 Nov 2026',
      'its birthday, each year, comes, 30 Nov 2026',
    ],
    [
      { every: 'month' },
      '2026-01-31',
      '2026-11-30',
      'its birthday, each month, came, 30 Nov 2026',
      'its birthday, each month, comes, 30 Nov 2026',
    ],
  ])('%j of %s on %s', (given, value, at, because, coming) => {
    expect(told(given, value, at)).toEqual([[because, coming]])
  })

  it('is nothing on any other day, nor without a date', () => {
    expect(told({}, '2026-11-30', '2026-12-01')).toEqual([])
    expect(told({ every: 'year' }, '2027-11-30', '2026-11-30')).toEqual([])
    expect(told({}, null, '2026-11-30')).toEqual([])
  })
})
