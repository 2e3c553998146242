import { sayProblem } from '../language/problems'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { addDays } from '../time/dates'
import { readHolidays } from './ics'

const TODAY = '2026-11-24'
const calendar = (...events: readonly string[]): string =>
  [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//Larkmoor//Holidays//EN',
    ...events.flatMap((event) => ['BEGIN:VEVENT', ...event.split('\n'), 'END:VEVENT']),
    'END:VCALENDAR',
  ].join('\r\n')
const read = (text: string) => {
  const found = readHolidays(text, TODAY)
  if (!found.ok) throw new Error(sayProblem(found.problem))
  return found.value
}
const days = (text: string): readonly string[] => read(text).holidays.map(({ date }) => date)

describe('holidays of an iCalendar file', () => {
  it('are the whole days of its entries', () => {
    expect(
      read(
        calendar(
          'UID:1\nDTSTART;VALUE=DATE:20261224\nDTEND;VALUE=DATE:20261227\nSUMMARY:Midwinter',
          'UID:2\nDTSTART:20261201T090000Z\nDTEND:20261201T100000Z\nSUMMARY:Meeting',
          'UID:3\nDTSTART;VALUE=DATE:20260501\nRRULE:FREQ=YEARLY;COUNT=2\nSUMMARY:May day',
          'UID:4\nDTSTART;VALUE=DATE:20190501\nSUMMARY:Long ago',
          'UID:5\nDTSTART:20270104T000000\nDTEND:20270105T000000\nSUMMARY:Midnight to midnight',
        ),
      ),
    ).toEqual({
      passed: 1,
      over: 1,
      holidays: [
        { date: '2026-05-01', name: 'May day' },
        { date: '2026-12-24', name: 'Midwinter' },
        { date: '2026-12-25', name: 'Midwinter' },
        { date: '2026-12-26', name: 'Midwinter' },
        { date: '2027-01-04', name: 'Midnight to midnight' },
        { date: '2027-05-01', name: 'May day' },
      ],
    })
  })

  it('that come every year since long ago are those of the years to come', () => {
    const found = days(calendar('UID:1\nDTSTART;VALUE=DATE:19000101\nRRULE:FREQ=YEARLY\nSUMMARY:New year'))
    expect(found).toEqual(Array.from({ length: 12 }, (_, i) => `${2025 + i}-01-01`))
    expect(
      read(calendar('UID:1\nDTSTART;VALUE=DATE:19000101\nRRULE:FREQ=YEARLY;UNTIL=19500101\nSUMMARY:Past')),
    ).toEqual({
      holidays: [],
      passed: 0,
      over: 1,
    })
    expect(
      days(
        calendar('UID:1\nDTSTART;VALUE=DATE:19700101\nRRULE:FREQ=YEARLY;BYMONTH=11;BYDAY=4TH\nSUMMARY:Fourth Thursday'),
      ),
    ).toContain('2026-11-26')
  })

  it('are those of a program with ten years of them, with exceptions', () => {
    const found = read(
      calendar(
        'UID:spring\nDTSTART;VALUE=DATE:20200501\nRRULE:FREQ=YEARLY;COUNT=10\nEXDATE;VALUE=DATE:20270501\nSUMMARY:Spring',
        'UID:spring\nRECURRENCE-ID;VALUE=DATE:20280501\nDTSTART;VALUE=DATE:20280502\nSUMMARY:Spring (moved)',
        'UID:spring\nRECURRENCE-ID;VALUE=DATE:20290501\nDTSTART;VALUE=DATE:20290501\nSTATUS:CANCELLED\nSUMMARY:Spring',
        'UID:fair\nDTSTART;VALUE=DATE:20260906\nRDATE;VALUE=DATE:20270905,20281001\nSUMMARY:Fair',
        'UID:off\nDTSTART;VALUE=DATE:20261230\nSTATUS:CANCELLED\nSUMMARY:Called off',
      ),
    )
    expect(found.holidays).toEqual([
      { date: '2025-05-01', name: 'Spring' },
      { date: '2026-05-01', name: 'Spring' },
      { date: '2026-09-06', name: 'Fair' },
      { date: '2027-09-05', name: 'Fair' },
      { date: '2028-05-02', name: 'Spring (moved)' },
      { date: '2028-10-01', name: 'Fair' },
    ])
  })

  it('may last for weeks, and stand in several calendars behind a byte-order mark', () => {
    const one = calendar('UID:1\nDTSTART;VALUE=DATE:20270802\nDTEND;VALUE=DATE:20270830\nSUMMARY:Works closed')
    const two = calendar('UID:1\nDTSTART;VALUE=DATE:20270101\nDURATION:P2D\nSUMMARY:New year')
    const found = days(`\uFEFF${one}\r\n${two}\r\n`)
    expect(found).toHaveLength(30)
    expect([found[0], found[2], found.at(-1)]).toEqual(['2027-01-01', '2027-08-02', '2027-08-29'])
  })

  it('are each day of an entry, however it is written', () => {
    const compact = (date: string) => date.replaceAll('-', '')
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 3000 }),
        fc.integer({ min: 1, max: 60 }),
        fc.boolean(),
        (from, long, ends) => {
          const start = addDays('2025-01-01', from)
          const end = ends ? `DTEND;VALUE=DATE:${compact(addDays(start, long))}` : `DURATION:P${long}D`
          expect(days(calendar(`UID:1\nDTSTART;VALUE=DATE:${compact(start)}\n${end}\nSUMMARY:x`))).toEqual(
            Array.from({ length: long }, (_, i) => addDays(start, i)),
          )
        },
      ),
      { seed: 4, numRuns: 200 },
    )
  })

  it('are read in one go, however many there are', () => {
    const many = Array.from(
      { length: 4000 },
      (_, i) => `UID:${i}\nDTSTART;VALUE=DATE:${20270101 + (i % 28)}\nSUMMARY:x`,
    )
    expect(days(calendar(...many))).toHaveLength(28)
  })
})

describe('what is no holiday file', () => {
  it.each(['hello', '', 'BEGIN:VCALENDAR\nBEGIN:VEVENT\nDTSTART;VALUE=DATE:2026'])('is refused: %j', (text) =>
    expect(() => read(text)).toThrow('This is not an iCalendar file'),
  )

  it.each([
    ['UID:1\nSUMMARY:Nowhere', '“Nowhere” has no day on which it begins'],
    ['UID:1\nDTSTART;VALUE=DATE:20260101\nRRULE:FREQ=HOURLY\nSUMMARY:Bells', '“Bells” repeats hourly'],
    ['UID:1\nDTSTART;VALUE=DATE:20260101\nDTEND;VALUE=DATE:20290101\nSUMMARY:Shut', '“Shut” lasts 1096 days'],
    ['UID:1\nDTSTART;VALUE=DATE:20260101\nRRULE:FREQ=YEARLY\nEXRULE:FREQ=YEARLY\nSUMMARY:Old', '(EXRULE)'],
    ['UID:1\nDTSTART;VALUE=DATE:00010101\nRRULE:FREQ=DAILY\nSUMMARY:Always', 'more than 5,000 times'],
  ])('is refused with the entry and the reason: %s', (event, reason) =>
    expect(() => read(calendar(event))).toThrow(reason),
  )

  it('is one that is another from some time on', () => {
    const text = calendar(
      'UID:1\nDTSTART;VALUE=DATE:20260101\nRRULE:FREQ=YEARLY\nSUMMARY:Fair',
      'UID:1\nRECURRENCE-ID;VALUE=DATE;RANGE=THISANDFUTURE:20280101\nDTSTART;VALUE=DATE:20280102\nSUMMARY:Fair',
    )
    expect(() => read(text)).toThrow('“Fair” is another one from some time on')
  })

  it('is one with a holiday on nearly every day of all years', () => {
    const events = Array.from(
      { length: 14 },
      (_, i) => `UID:${i}\nDTSTART;VALUE=DATE:${2025 + i}0101\nDURATION:P366D\nSUMMARY:x`,
    )
    expect(() => read(calendar(...events))).toThrow('more than 5,000 holidays')
  })
})
