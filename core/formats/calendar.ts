import ICAL from 'ical.js'
import { instantOf, startOfDate } from '../time/dates'

/** One appointment as a calendar has it. */
export interface CalendarEvent {
  /** The same for ever, whatever changes (RFC 5545, 3.8.4.7). */
  readonly uid: string
  /** Grows with every change (3.8.7.4). */
  readonly sequence: number
  readonly summary: string
  readonly startMs: number
  readonly endMs: number
  readonly place: string
  readonly notes: string
  readonly cancelled: boolean
  readonly changedMs: number
  readonly organizer: Attendee | null
  readonly attendees: readonly Attendee[]
}

export interface Attendee {
  readonly name: string
  readonly email: string
}

const utc = (atMs: number): ICAL.Time => ICAL.Time.fromJSDate(new Date(atMs), true)

function person(name: 'organizer' | 'attendee', { name: called, email }: Attendee): ICAL.Property {
  const property = new ICAL.Property(name)
  property.setParameter('cn', called)
  property.setValue(`mailto:${email}`)
  return property
}

function component(event: CalendarEvent, nowMs: number): ICAL.Component {
  const made = new ICAL.Component('vevent')
  made.addPropertyWithValue('uid', event.uid)
  made.addPropertyWithValue('sequence', event.sequence)
  made.addPropertyWithValue('dtstamp', utc(nowMs))
  made.addPropertyWithValue('last-modified', utc(event.changedMs))
  made.addPropertyWithValue('dtstart', utc(event.startMs))
  made.addPropertyWithValue('dtend', utc(Math.max(event.endMs, event.startMs)))
  made.addPropertyWithValue('summary', event.summary)
  if (event.place !== '') made.addPropertyWithValue('location', event.place)
  if (event.notes !== '') made.addPropertyWithValue('description', event.notes)
  made.addPropertyWithValue('status', event.cancelled ? 'CANCELLED' : 'CONFIRMED')
  if (event.organizer) made.addProperty(person('organizer', event.organizer))
  for (const one of event.attendees) made.addProperty(person('attendee', one))
  return made
}

/**
 * Appointments as an iCalendar file (RFC 5545), times in UTC.
 *
 * @param nowMs when it is made (ms)
 */
export function calendarText(name: string, events: readonly CalendarEvent[], nowMs: number): string {
  const calendar = new ICAL.Component(['vcalendar', [], []])
  calendar.addPropertyWithValue('prodid', '-//Sky Lever//EN')
  calendar.addPropertyWithValue('version', '2.0')
  calendar.addPropertyWithValue('x-wr-calname', name)
  for (const event of events) calendar.addSubcomponent(component(event, nowMs))
  return `${calendar.toString()}\r\n`
}

/** An appointment as it is read from a file. */
export type ReadEvent = Pick<
  CalendarEvent,
  'uid' | 'summary' | 'startMs' | 'endMs' | 'place' | 'notes' | 'cancelled'
> & {
  /** The addresses of who takes part, in small letters. */
  readonly emails: readonly string[]
}

const EVENTS_MOST = 2000
/** So often one that comes again and again is taken, at the most. */
const TIMES_MOST = 100

/**
 * The instant (ms) of a time in a file; one that names no zone, or one that the file does not describe, is of `zone`.
 */
function instant(time: ICAL.Time, zone: string): number {
  if (time.zone && time.zone !== ICAL.Timezone.localTimezone) return time.toJSDate().getTime()
  const two = (n: number): string => String(n).padStart(2, '0')
  return instantOf(`${time.year}-${two(time.month)}-${two(time.day)}`, time.hour, time.minute, zone)
}

/** The zone that a time is said in, where the file names one that is known by its name alone. */
function zoneNamed(component: ICAL.Component, own: string): string {
  const name: unknown = component.getFirstProperty('dtstart')?.getParameter('tzid')
  try {
    return typeof name === 'string' && startOfDate('2026-01-01', name) > 0 ? name : own
  } catch {
    return own
  }
}

const mailOf = (value: unknown): string | null =>
  /^mailto:(.+@.+)$/i.exec(typeof value === 'string' ? value : '')?.[1]?.toLowerCase() ?? null

/**
 * Reads appointments from an iCalendar file (RFC 5545): those with a time of day, each that comes again as often as it
 * comes between two instants. `passed` counts whole days, which are no appointments. Refuses what is no such file.
 *
 * @param fromMs what begins before it is left out (ms)
 * @param own the zone of times that name none
 */
export function readCalendar(
  text: string,
  fromMs: number,
  toMs: number,
  own: string,
): { readonly events: readonly ReadEvent[]; readonly passed: number } | { readonly problem: string } {
  const plain = text.replace(/^\uFEFF/, '').trimStart()
  if (!/^BEGIN:VCALENDAR/i.test(plain)) return { problem: 'It does not begin with BEGIN:VCALENDAR.' }
  const events: ReadEvent[] = []
  let passed = 0
  try {
    const calendar = new ICAL.Component(ICAL.parse(plain) as unknown[])
    for (const zone of calendar.getAllSubcomponents('vtimezone')) ICAL.TimezoneService.register(new ICAL.Timezone(zone))
    for (const component of calendar.getAllSubcomponents('vevent')) {
      const event = new ICAL.Event(component)
      if (!event.startDate || event.startDate.isDate) {
        passed++
        continue
      }
      const zone = zoneNamed(component, own)
      const long = event.endDate ? instant(event.endDate, zone) - instant(event.startDate, zone) : 3_600_000
      const take = (uid: string, startMs: number): void => {
        if (startMs < fromMs || startMs > toMs || events.length >= EVENTS_MOST) return
        events.push({
          uid,
          summary: event.summary?.trim() || 'Appointment',
          startMs,
          endMs: startMs + Math.max(0, long),
          place: event.location ?? '',
          notes: event.description ?? '',
          cancelled: component.getFirstPropertyValue('status') === 'CANCELLED',
          emails: component.getAllProperties('attendee').flatMap((one) => mailOf(one.getFirstValue()) ?? []),
        })
      }
      const uid = event.uid || `${event.summary} ${event.startDate.toString()}`
      if (!event.isRecurring()) take(uid, instant(event.startDate, zone))
      else {
        const times = event.iterator()
        for (let n = 0, at = times.next() as ICAL.Time | undefined; at && n < TIMES_MOST; at = times.next()) {
          const startMs = instant(at, zone)
          if (startMs > toMs) break
          if (startMs >= fromMs) n++
          take(`${uid} ${at.toString()}`, startMs)
        }
      }
    }
    return { events, passed }
  } catch (error) {
    return { problem: error instanceof Error ? error.message.slice(0, 300) : 'It can’t be read.' }
  }
}
