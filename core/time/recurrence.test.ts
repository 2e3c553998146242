import { describe, expect, it } from 'vitest'
import { workCalendar } from './calendar'
import { localMinute } from './dates'
import { nextRecurrence, readPlain, toRule, wrongRule, type Recurrence } from './recurrence'
import './recurrence-days'

const calendar = workCalendar({ workdays: [1, 2, 3, 4, 5], holidays: [{ date: '2027-01-01' }] })
const some = (given: Partial<Recurrence>, afterIso: string, zone = 'Europe/Lisbon', count = 3): readonly string[] => {
  const found: string[] = []
  let at: number | null = Date.parse(afterIso)
  for (let i = 0; i < count && at !== null; i++) {
    at = nextRecurrence(
      { rule: 'FREQ=DAILY', from: '2026-11-02', minute: 510, offDays: 'keep', ...given },
      at,
      zone,
      calendar,
    )
    if (at !== null) found.push(localMinute(at, zone))
  }
  return found
}

describe('what comes again', () => {
  it('comes every day at half past eight', () =>
    expect(some({}, '2026-11-24T08:30:00Z')).toEqual(['2026-11-25T08:30', '2026-11-26T08:30', '2026-11-27T08:30']))
  it('comes every Thursday', () =>
    expect(some({ rule: 'FREQ=WEEKLY;BYDAY=TH', minute: 930 }, '2026-11-24T12:00:00Z')).toEqual([
      '2026-11-26T15:30',
      '2026-12-03T15:30',
      '2026-12-10T15:30',
    ]))
  it('comes every second week from the first', () =>
    expect(some({ rule: 'FREQ=WEEKLY;INTERVAL=2;BYDAY=MO' }, '2026-11-24T12:00:00Z')).toEqual([
      '2026-11-30T08:30',
      '2026-12-14T08:30',
      '2026-12-28T08:30',
    ]))
  it('comes on the first working day of each month', () =>
    expect(some({ rule: 'FREQ=MONTHLY;BYMONTHDAY=1', offDays: 'next' }, '2026-11-24T12:00:00Z')).toEqual([
      '2026-12-01T08:30',
      '2027-01-04T08:30',
      '2027-02-01T08:30',
    ]))
  it('comes on the last working day of each month', () =>
    expect(
      some(
        { rule: toRule({ every: 'month', interval: 1, weekdays: [], day: 31 }), offDays: 'before' },
        '2026-11-24T12:00:00Z',
        'Europe/Lisbon',
        4,
      ),
    ).toEqual(['2026-11-30T08:30', '2026-12-31T08:30', '2027-01-29T08:30', '2027-02-26T08:30']))
  it('leaves days out on which nobody works', () =>
    expect(some({ offDays: 'skip' }, '2026-12-31T12:00:00Z')).toEqual([
      '2027-01-04T08:30',
      '2027-01-05T08:30',
      '2027-01-06T08:30',
    ]))
  it('comes behind the gap of daylight saving, and once in the hour that comes twice', () => {
    expect(some({ minute: 90 }, '2027-03-27T12:00:00Z', 'Europe/Lisbon', 2)).toEqual([
      '2027-03-28T02:00',
      '2027-03-29T01:30',
    ])
    expect(some({ minute: 90, from: '2026-10-01' }, '2026-10-24T12:00:00Z', 'Europe/Lisbon', 2)).toEqual([
      '2026-10-25T01:30',
      '2026-10-26T01:30',
    ])
  })
  it('ends with its rule', () =>
    expect(some({ rule: 'FREQ=DAILY;COUNT=2' }, '2026-11-02T12:00:00Z')).toEqual(['2026-11-03T08:30']))
})

it('what people set is read back from the rule, and no more than that', () => {
  for (const plain of [
    { every: 'day', interval: 3, weekdays: [], day: 1 },
    { every: 'week', interval: 1, weekdays: ['MO', 'FR'], day: 1 },
    { every: 'month', interval: 2, weekdays: [], day: 31 },
    { every: 'month', interval: 1, weekdays: [], day: 15 },
  ] as const)
    expect(readPlain(toRule(plain))).toEqual(plain)
  expect(readPlain('FREQ=MONTHLY;BYDAY=-1FR')).toBeNull()
})

it('a rule that cannot be used is refused with the reason', () => {
  expect(wrongRule('FREQ=WEEKLY;BYDAY=TH', '2026-11-02')).toBeNull()
  expect(wrongRule('every day', '2026-11-02')).toContain('This is not a recurrence rule. Example: FREQ=WEEKLY;BYDAY=TH')
  expect(wrongRule('FREQ=DAILY;BYHOUR=4', '2026-11-02')).toContain('Remove the time; it is set separately.')
  expect(wrongRule('FREQ=HOURLY', '2026-11-02')).toContain(
    'This is not a recurrence rule. Example: FREQ=WEEKLY;BYDAY=TH',
  )
  expect(wrongRule('FREQ=MONTHLY;BYMONTHDAY=99', '2026-11-02')).toBe('BYMONTHDAY=99 is not supported.')
  expect(wrongRule('FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30', '2026-11-02')).toBe('This date never occurs.')
})

it.each([
  ['FREQ=DAILY;UNTIL=20261201T120000Z', 'UNTIL must be a day, for example UNTIL=20261231. The time is set separately.'],
  ['FREQ=DAILY;UNTIL=2026', 'UNTIL=2026 is not supported.'],
  ['FREQ=DAILY;COUNT=3;UNTIL=20261231', 'Use COUNT or UNTIL, not both.'],
  ['FREQ=YEARLY;BYYEARDAY=100;BYDAY=MO', 'BYYEARDAY can’t be combined with other days. Use it alone.'],
  ['FREQ=MONTHLY;BYYEARDAY=100', 'BYYEARDAY needs FREQ=YEARLY.'],
  ['FREQ=YEARLY;BYYEARDAY=400', 'BYYEARDAY=400 is not supported.'],
  ['FREQ=YEARLY;BYWEEKNO=20', 'BYWEEKNO needs BYDAY: say which day of the week.'],
  ['FREQ=MONTHLY;BYWEEKNO=20;BYDAY=MO', 'BYWEEKNO needs FREQ=YEARLY.'],
  ['FREQ=YEARLY;BYWEEKNO=60;BYDAY=MO', 'BYWEEKNO=60 is not supported.'],
  ['FREQ=WEEKLY;BYMONTHDAY=3', 'BYMONTHDAY can’t be used with FREQ=WEEKLY.'],
  ['FREQ=WEEKLY;BYDAY=2MO', 'Numbered weekdays need FREQ=MONTHLY or FREQ=YEARLY.'],
  ['FREQ=MONTHLY;BYSETPOS=1', 'BYSETPOS needs days to choose from.'],
  ['FREQ=DAILY;EVERY=2', 'EVERY=2 is not supported.'],
  ['FREQ=DAILY;INTERVAL=2;INTERVAL=3', 'A part of the rule stands in it twice.'],
])('is refused where it can be read in two ways: %s', (rule, why) => {
  expect(wrongRule(rule, '2026-11-02')).toBe(why)
})

it.each([
  ['FREQ=DAILY;UNTIL=20261127', ['2026-11-25T08:30', '2026-11-26T08:30', '2026-11-27T08:30']],
  ['FREQ=YEARLY;BYYEARDAY=1,-1', ['2026-12-31T08:30', '2027-01-01T08:30', '2027-12-31T08:30']],
  ['FREQ=YEARLY;BYWEEKNO=2;BYDAY=MO', ['2027-01-11T08:30', '2028-01-10T08:30', '2029-01-08T08:30']],
  ['FREQ=MONTHLY;BYDAY=-1FR', ['2026-11-27T08:30', '2026-12-25T08:30', '2027-01-29T08:30']],
  ['FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-1', ['2026-11-30T08:30', '2026-12-31T08:30', '2027-01-29T08:30']],
  ['FREQ=WEEKLY;INTERVAL=2;WKST=SU;BYDAY=SU,MO', ['2026-11-29T08:30', '2026-11-30T08:30', '2026-12-13T08:30']],
])('is what RFC 5545 says: %s', (rule, days) => {
  expect(wrongRule(rule, '2026-11-02')).toBeNull()
  expect(some({ rule }, '2026-11-24T12:00:00Z')).toEqual(days)
})
