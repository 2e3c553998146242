import ICAL from 'ical.js'
import { convertIcsCalendar } from 'ts-ics'
import { describe, expect, it } from 'vitest'
import { calendarText, type CalendarEvent } from './calendar'

const NOW = Date.UTC(2026, 10, 24, 9, 12)
const event = (more: Partial<CalendarEvent> = {}): CalendarEvent => ({
  uid: 'appointment-7@sky-lever',
  sequence: 3,
  summary: 'Site visit; two units, with a very long name that has to be folded over several lines of the file',
  startMs: Date.UTC(2026, 11, 1, 10),
  endMs: Date.UTC(2026, 11, 1, 11),
  place: 'Rua do Cais 7, Porto',
  notes: 'First line\nSecond \\ line',
  cancelled: false,
  changedMs: NOW,
  organizer: { name: 'Rosa Amara', email: 'rosa@larkmoor.example' },
  attendees: [{ name: 'Ada "A" Lind: boss', email: 'ada@x.example' }],
  ...more,
})

describe('a calendar file', () => {
  it('says the same to two readers', () => {
    const text = calendarText('Larkmoor', [event(), event({ uid: 'b', cancelled: true, place: '', notes: '' })], NOW)
    expect(text.split('\r\n').every((line) => Buffer.byteLength(line) <= 75)).toBe(true)
    const one = new ICAL.Component(ICAL.parse(text) as unknown[])
      .getAllSubcomponents('vevent')
      .map((found) => new ICAL.Event(found))
    expect(
      one.map((found) => [found.uid, found.summary, found.startDate.toJSDate().getTime(), found.sequence]),
    ).toEqual([
      ['appointment-7@sky-lever', event().summary, event().startMs, 3],
      ['b', event().summary, event().startMs, 3],
    ])
    const two = convertIcsCalendar(undefined, text)
    expect(
      two.events?.map((found) => [
        found.uid,
        found.summary,
        found.start.date.getTime(),
        found.end?.date.getTime(),
        found.status,
      ]),
    ).toEqual([
      ['appointment-7@sky-lever', event().summary, event().startMs, event().endMs, 'CONFIRMED'],
      ['b', event().summary, event().startMs, event().endMs, 'CANCELLED'],
    ])
    expect(one[0]?.location).toBe('Rua do Cais 7, Porto')
    expect(one[0]?.description).toBe('First line\nSecond \\ line')
    expect(two.events?.[0]?.attendees?.[0]?.email).toBe('ada@x.example')
  })
})
