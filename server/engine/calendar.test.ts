import { describe, expect, it } from 'vitest'
import { calendarText } from '../../core/formats/calendar'
import { larkmoor } from '../testing/workspace'
import { refusal } from '../testing/refusal'
import { appointmentsBetween, feedEvents, takeCalendar } from './calendar'

const DAY_MS = 86_400_000

const file = (...lines: readonly string[]): string =>
  ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//Larkmoor//EN', ...lines, 'END:VCALENDAR'].join('\r\n')
const event = (uid: string, ...lines: readonly string[]): readonly string[] => [
  'BEGIN:VEVENT',
  `UID:${uid}`,
  ...lines,
  'END:VEVENT',
]

describe('a calendar file', () => {
  it('becomes appointments of whoever brings it, once, with the contacts who take part', () => {
    const { workspace, clock } = larkmoor()
    const ada = workspace.create('contact', { name: 'Ada', email: 'Ada@x.example' }, [], 'ines').ref
    const one = (start: string) =>
      file(
        ...event(
          'a',
          `DTSTART:${start}`,
          'DTEND:20261201T110000Z',
          'SUMMARY:Site visit',
          'ATTENDEE:MAILTO:ada@x.example',
        ),
        ...event('b', 'DTSTART;VALUE=DATE:20261202', 'SUMMARY:Holiday'),
        ...event(
          'c',
          'DTSTART;TZID=America/Halifax:20261207T090000',
          'DURATION:PT30M',
          'SUMMARY:Weekly',
          'RRULE:FREQ=WEEKLY;COUNT=3',
        ),
      )
    expect(takeCalendar(workspace, one('20261201T100000Z'), 'rosa')).toEqual({
      added: 4,
      changed: 0,
      same: 0,
      passed: 1,
    })
    expect(takeCalendar(workspace, one('20261201T100000Z'), 'rosa')).toEqual({
      added: 0,
      changed: 0,
      same: 4,
      passed: 1,
    })
    expect(takeCalendar(workspace, one('20261201T090000Z'), 'rosa')).toEqual({
      added: 0,
      changed: 1,
      same: 3,
      passed: 1,
    })
    const found = appointmentsBetween(workspace, clock.nowMs(), clock.nowMs() + 60 * DAY_MS)
    expect(found.map(({ values }) => [values.name, values.start, values.owner])).toEqual([
      ['Site visit', Date.UTC(2026, 11, 1, 9), 'rosa'],
      ['Weekly', Date.UTC(2026, 11, 7, 13), 'rosa'],
      ['Weekly', Date.UTC(2026, 11, 14, 13), 'rosa'],
      ['Weekly', Date.UTC(2026, 11, 21, 13), 'rosa'],
    ])
    expect(workspace.world.linked(found[0]!, 'contact').map(({ record }) => record.id)).toEqual([ada.id])
    // What somebody's feed tells, another takes as it is.
    const feed = calendarText('Rosa', feedEvents(workspace, 'rosa'), clock.nowMs())
    expect(takeCalendar(workspace, feed, 'jude')).toMatchObject({ added: 4 })
  })

  it('is refused where it is none', () => {
    const { workspace } = larkmoor()
    expect(refusal(() => takeCalendar(workspace, 'hello', 'rosa'))).toMatch(/BEGIN:VCALENDAR/)
    expect(refusal(() => takeCalendar(workspace, file('BEGIN:VEVENT'), 'rosa'))).toMatch(/text: /)
  })
})
