import '../language/refusals/of-server'
import ICAL from 'ical.js'
import { bad, good, type Result } from '../language/problems'

export interface Holiday {
  readonly date: string
  readonly name: string
}

export interface HolidaysRead {
  /** In order, each day once. */
  readonly holidays: readonly Holiday[]
  /** Entries with a time of day, which are no holidays. */
  readonly passed: number
  /** Entries that were over before last year began. */
  readonly over: number
}

/** Holidays are taken from the beginning of last year for so many years. */
const YEARS = 12
/** A closure that is longer is a mistake. */
const DAYS_MOST = 366
/** So often one entry comes at the most before the years that are looked at end: once a week since 1950 is less. */
const TIMES_MOST = 5_000
const HOLIDAYS_MOST = 5_000
const REPEATS = ['YEARLY', 'MONTHLY', 'WEEKLY', 'DAILY']

/** What keeps an entry from being read, in words for whoever chose the file. */
class Unreadable extends Error {}

/**
 * Holidays of an iCalendar file (RFC 5545), which may hold several calendars: the whole days of its entries from last
 * year on, each as often as it comes (RRULE, RDATE), without what was taken out of it (EXDATE) or cancelled (STATUS),
 * and with what was moved (RECURRENCE-ID) where it is now. Refuses what it cannot read with the entry and the reason.
 *
 * @param today a day of the year that is looked from, as YYYY-MM-DD
 */
export function readHolidays(text: string, today: string): Result<HolidaysRead> {
  const plain = text.replace(/^\uFEFF/, '').trimStart()
  try {
    if (!/^BEGIN:VCALENDAR/i.test(plain)) throw new Error('it does not begin with BEGIN:VCALENDAR')
    const parsed = ICAL.parse(plain) as readonly unknown[]
    const calendars = (typeof parsed[0] === 'string' ? [parsed] : parsed) as [string, unknown[], unknown[]][]
    return good(
      daysOf(
        calendars.map((one) => new ICAL.Component(one)),
        Number(today.slice(0, 4)) - 1,
      ),
    )
  } catch (error) {
    const why = error instanceof Error ? error.message : String(error)
    return bad({ code: error instanceof Unreadable ? 'entry' : 'notCalendar', said: why })
  }
}

/** An entry with the times at which it is otherwise than its rule says. */
interface Series {
  readonly own: ICAL.Component | null
  readonly others: ICAL.Component[]
}

function daysOf(calendars: readonly ICAL.Component[], from: number): HolidaysRead {
  const found = new Map<string, string>()
  let [passed, over] = [0, 0]
  for (const calendar of calendars) {
    for (const { own, others } of seriesOf(calendar)) {
      const taken = own ? daysOfSeries(own, others, from) : others.flatMap((one) => daysOfOne(one, startOf(one)) ?? [])
      if (taken === null) passed++
      else if (taken.every(({ date }) => Number(date.slice(0, 4)) < from)) over += taken.length > 0 ? 1 : 0
      else for (const { date, name } of taken) if (Number(date.slice(0, 4)) >= from) found.set(date, name)
      if (found.size > HOLIDAYS_MOST)
        throw new Unreadable(`The file has more than ${HOLIDAYS_MOST.toLocaleString('en')} holidays.`)
    }
  }
  const holidays = [...found].map(([date, name]) => ({ date, name })).sort((a, b) => a.date.localeCompare(b.date))
  return { holidays, passed, over }
}

/** Entries by their UID, those that change one time of another beside it. */
function seriesOf(calendar: ICAL.Component): readonly Series[] {
  const byUid = new Map<string, Series>()
  const alone: Series[] = []
  for (const entry of calendar.getAllSubcomponents('vevent')) {
    const uid = textOf(entry, 'uid')
    const isOther = entry.hasProperty('recurrence-id')
    const known = uid === '' ? undefined : byUid.get(uid)
    if (isOther && known) known.others.push(entry)
    else if (!isOther && known && known.own === null) byUid.set(uid, { own: entry, others: known.others })
    else {
      const series: Series = isOther ? { own: null, others: [entry] } : { own: entry, others: [] }
      if (uid === '' || known) alone.push(series)
      else byUid.set(uid, series)
    }
  }
  return [...byUid.values(), ...alone]
}

const textOf = (entry: ICAL.Component, name: string): string => String(entry.getFirstPropertyValue(name) ?? '').trim()
const nameOf = (entry: ICAL.Component): string => textOf(entry, 'summary') || 'Holiday'
const isCancelled = (entry: ICAL.Component): boolean => textOf(entry, 'status').toUpperCase() === 'CANCELLED'
const dayOf = (time: ICAL.Time): string =>
  `${String(time.year).padStart(4, '0')}-${String(time.month).padStart(2, '0')}-${String(time.day).padStart(2, '0')}`

function startOf(entry: ICAL.Component): ICAL.Time {
  const start = entry.getFirstPropertyValue('dtstart')
  if (!(start instanceof ICAL.Time)) throw new Unreadable(`“${nameOf(entry)}” has no day on which it begins (DTSTART).`)
  return start
}

/** How many whole days an entry takes; `null` for one that goes by the time of day. */
function lengthOf(entry: ICAL.Component): number | null {
  const start = startOf(entry)
  const end = entry.getFirstPropertyValue('dtend')
  const lasts = entry.getFirstPropertyValue('duration')
  const seconds =
    end instanceof ICAL.Time
      ? end.subtractDate(start).toSeconds()
      : lasts instanceof ICAL.Duration
        ? lasts.toSeconds()
        : start.isDate
          ? 86_400
          : 0
  const days = Math.round(seconds / 86_400)
  // Some calendars write a whole day from midnight to midnight.
  const isWhole = start.isDate || (start.hour === 0 && start.minute === 0 && days > 0 && seconds % 86_400 === 0)
  if (!isWhole) return null
  if (days > DAYS_MOST)
    throw new Unreadable(`“${nameOf(entry)}” lasts ${days} days. A closure can last a year at most.`)
  return Math.max(1, days)
}

/** The days of an entry that begins then; `null` for one that goes by the time of day. */
function daysOfOne(entry: ICAL.Component, start: ICAL.Time): readonly Holiday[] | null {
  if (isCancelled(entry)) return []
  const days = lengthOf(entry)
  if (days === null) return null
  return Array.from({ length: days }, (_, i) => {
    const at = start.clone()
    at.adjust(i, 0, 0, 0)
    return { date: dayOf(at), name: nameOf(entry) }
  })
}

function daysOfSeries(
  entry: ICAL.Component,
  others: readonly ICAL.Component[],
  from: number,
): readonly Holiday[] | null {
  refuseRules(entry, others)
  if (lengthOf(entry) === null) return null
  if (isCancelled(entry)) return []
  const otherwise = new Map(
    others.map((one) => [dayOf(one.getFirstPropertyValue('recurrence-id') as unknown as ICAL.Time), one]),
  )
  // Exceptions are looked after here: the library would go through all entries again for each of them.
  const event = new ICAL.Event(entry, { exceptions: [] })
  if (!event.isRecurring()) return daysOfOne(entry, startOf(entry))
  const found: Holiday[] = []
  // Without a rule the library takes the dates that are listed, and not the one with which it begins (RFC 5545,
  // 3.8.5.2).
  if (!entry.hasProperty('rrule') && !leavesOut(entry, dayOf(startOf(entry))))
    found.push(...(daysOfOne(entry, startOf(entry)) ?? []))
  const iterator = event.iterator()
  for (let n = 0, at = iterator.next(); at && at.year < from + YEARS; n++, at = iterator.next()) {
    if (n > TIMES_MOST)
      throw new Unreadable(`“${nameOf(entry)}” comes more than ${TIMES_MOST.toLocaleString('en')} times.`)
    const other = otherwise.get(dayOf(at))
    found.push(...((other ? daysOfOne(other, startOf(other)) : at.year >= from - 1 ? daysOfOne(entry, at) : []) ?? []))
    // What was over long ago is not even made, but told apart from what never comes.
    if (found.length === 0 && at.year < from - 1) found.push({ date: dayOf(at), name: nameOf(entry) })
  }
  return found
}

const leavesOut = (entry: ICAL.Component, day: string): boolean =>
  entry
    .getAllProperties('exdate')
    .some((one) => one.getValues().some((time) => time instanceof ICAL.Time && dayOf(time) === day))

/** Refuses what would be read as something else. */
function refuseRules(entry: ICAL.Component, others: readonly ICAL.Component[]): void {
  const name = nameOf(entry)
  if (entry.hasProperty('exrule'))
    throw new Unreadable(
      `“${name}” leaves days out by a rule (EXRULE), which calendars no longer do. List them instead.`,
    )
  for (const rule of entry.getAllProperties('rrule')) {
    const { freq } = rule.getFirstValue() as unknown as { readonly freq: string }
    if (!REPEATS.includes(freq))
      throw new Unreadable(`“${name}” repeats ${freq.toLowerCase()}. Holidays repeat by day, week, month or year.`)
  }
  for (const other of others)
    if (other.getFirstProperty('recurrence-id')?.getParameter('range'))
      throw new Unreadable(`“${name}” is another one from some time on (RANGE). Save it as two entries.`)
}
