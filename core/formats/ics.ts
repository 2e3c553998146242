import ICAL from 'ical.js'
import { bad, good, type Result } from '../language/problems'

export interface Holiday {
  readonly date: string
  readonly name: string
}

/** So many days of one entry are taken at the most; a holiday that repeats for ever is taken for some years. */
const DAYS_MOST = 31
const REPEATS_MOST = 10

/**
 * Holidays of an iCalendar file (RFC 5545): each whole day of its entries, in order; those with a time of day are
 * passed
 * over and counted. Entries that come every year are taken for the next ten.
 */
export function readHolidays(text: string): Result<{ readonly holidays: readonly Holiday[]; readonly passed: number }> {
  try {
    if (!/^\s*BEGIN:VCALENDAR/i.test(text)) throw new Error('it does not begin with BEGIN:VCALENDAR')
    return good(daysOf(new ICAL.Component(ICAL.parse(text) as [string, unknown[], unknown[]])))
  } catch (error) {
    return bad({
      code: 'shape',
      detail: `This is not an iCalendar file: ${error instanceof Error ? error.message : String(error)}`,
    })
  }
}

function daysOf(calendar: ICAL.Component): { readonly holidays: readonly Holiday[]; readonly passed: number } {
  const found = new Map<string, string>()
  let passed = 0
  for (const component of calendar.getAllSubcomponents('vevent')) {
    const event = new ICAL.Event(component)
    if (!event.startDate?.isDate) {
      passed++
      continue
    }
    const days = Math.min(DAYS_MOST, Math.max(1, Math.round(event.duration.toSeconds() / 86_400)))
    const iterator = event.isRecurring() ? event.iterator() : null
    for (
      let n = 0, start: ICAL.Time | null = iterator ? iterator.next() : event.startDate;
      start && n < REPEATS_MOST;
      n++, start = iterator ? iterator.next() : null
    ) {
      for (let day = 0; day < days; day++) {
        const at = start.clone()
        at.adjust(day, 0, 0, 0)
        found.set(
          `${at.year}-${String(at.month).padStart(2, '0')}-${String(at.day).padStart(2, '0')}`,
          event.summary ?? '',
        )
      }
    }
  }
  return {
    holidays: [...found].map(([date, name]) => ({ date, name })).sort((a, b) => a.date.localeCompare(b.date)),
    passed,
  }
}
