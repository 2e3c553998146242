import { expect, it } from 'vitest'
import { readHolidays } from './ics'

const file = (...events: readonly string[]): string =>
  [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//Larkmoor//Holidays//EN',
    ...events.flatMap((event) => ['BEGIN:VEVENT', ...event.split('\n'), 'END:VEVENT']),
    'END:VCALENDAR',
  ].join('\r\n')

it('takes the whole days of an iCalendar file', () => {
  const read = readHolidays(
    file(
      'UID:1\nDTSTART;VALUE=DATE:20261224\nDTEND;VALUE=DATE:20261227\nSUMMARY:Midwinter',
      'UID:2\nDTSTART:20261201T090000Z\nDTEND:20261201T100000Z\nSUMMARY:Meeting',
      'UID:3\nDTSTART;VALUE=DATE:20260501\nRRULE:FREQ=YEARLY;COUNT=2\nSUMMARY:May day',
    ),
  )
  expect(read).toEqual({
    ok: true,
    value: {
      passed: 1,
      holidays: [
        { date: '2026-05-01', name: 'May day' },
        { date: '2026-12-24', name: 'Midwinter' },
        { date: '2026-12-25', name: 'Midwinter' },
        { date: '2026-12-26', name: 'Midwinter' },
        { date: '2027-05-01', name: 'May day' },
      ],
    },
  })
})

it.each(['hello', '', 'BEGIN:VCALENDAR\nBEGIN:VEVENT\nDTSTART;VALUE=DATE:2026'])(
  'refuses what is no such file, with the reason: %j',
  (text) =>
    expect(readHolidays(text)).toMatchObject({
      ok: false,
      problem: {
        detail: expect.stringContaining('This is not an iCalendar file') as string,
      },
    }),
)
