import ICAL from 'ical.js'

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
