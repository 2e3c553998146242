/**
 * Dated cases: month ends, 29 February, gaps and overlaps of daylight saving, half-hour zones, working days, dates that
 * move, time in which nothing ran. Each is made into a case file of its own and run through the command line; what is
 * expected was reckoned by hand from the calendar, from the dates of clock changes in the IANA database, or is an
 * example of RFC 5545, section 3.8.5.3.
 */

export interface Dated {
  readonly name: string
  readonly zone: string
  readonly start: string
  readonly until: string
  /** What the date field holds; a number is an instant in ms UTC. */
  readonly value?: string | number
  readonly trigger: object
  /** When it starts, by the clock of the zone. */
  readonly starts: readonly string[]
  readonly states?: readonly string[]
  readonly source?: string
  readonly script?: readonly { readonly at: string; readonly set: object }[]
  readonly clock?: readonly { readonly to: string; readonly down?: boolean }[]
  readonly holidays?: readonly string[]
  readonly workdays?: readonly number[]
  readonly graceHours?: number
  readonly people?: readonly object[]
  readonly values?: object
  readonly object?: 'deal' | 'contact'
}

const LISBON = 'Europe/Lisbon'
const utc = (text: string): number => Date.parse(text)
const date = (side: string, count: number, unit: string, more: object = {}): object => ({
  kind: 'atDate',
  params: {
    field: 'due',
    side,
    amount: { count, unit },
    minute: 510,
    zone: 'workspace',
    every: 'once',
    leap: 'feb28',
    months: [],
    weekdays: [],
    ...more,
  },
})
const on = (minute: number, more: object = {}): object => date('on', 0, 'days', { minute, ...more })
const visit = (side: string, count: number, unit: string, minute: number | null = null): object =>
  date(side, count, unit, { field: 'visit', minute })
const every = (rule: string, from: string, offDays = 'keep', minute = 540): object => ({
  kind: 'recurring',
  params: { rule: { rule, from }, minute, offDays },
})
const one = (
  name: string,
  value: string | number,
  trigger: object,
  starts: readonly string[],
  more: Partial<Dated> = {},
): Dated => ({
  name,
  zone: LISBON,
  start: '2026-11-24T00:00',
  until: '2029-12-31T00:00',
  value,
  trigger,
  starts,
  ...more,
})
const gap = (
  name: string,
  zone: string,
  value: string,
  minute: number,
  starts: string,
  more: Partial<Dated> = {},
): Dated => one(name, value, on(minute), [starts], { zone, ...more })
const rfc = (name: string, rule: string, from: string, until: string, days: readonly string[]): Dated => ({
  name: `RFC 5545: ${name}`,
  zone: 'America/New_York',
  start: `${from}T00:00`,
  until: `${until}T23:00`,
  trigger: every(rule, from),
  starts: days.map((day) => `${day}T09:00`),
  source: 'RFC 5545, section 3.8.5.3',
})

export const DATED: readonly Dated[] = [
  // Month ends.
  one('one month before 31 March', '2027-03-31', date('before', 1, 'months'), ['2027-02-28T08:30']),
  one('one month before 31 March in a leap year', '2028-03-31', date('before', 1, 'months'), ['2028-02-29T08:30']),
  one('one month before 30 March', '2027-03-30', date('before', 1, 'months'), ['2027-02-28T08:30']),
  one('one month before 29 March', '2027-03-29', date('before', 1, 'months'), ['2027-02-28T08:30']),
  one('one month before 28 March', '2027-03-28', date('before', 1, 'months'), ['2027-02-28T08:30']),
  one('one month before 27 March', '2027-03-27', date('before', 1, 'months'), ['2027-02-27T08:30']),
  one('one month after 31 January', '2027-01-31', date('after', 1, 'months'), ['2027-02-28T08:30']),
  one('one month after 31 January in a leap year', '2028-01-31', date('after', 1, 'months'), ['2028-02-29T08:30']),
  one('three months before 31 May', '2027-05-31', date('before', 3, 'months'), ['2027-02-28T08:30']),
  one('six months after 31 August', '2027-08-31', date('after', 6, 'months'), ['2028-02-29T08:30']),
  one('one month after 28 February', '2027-02-28', date('after', 1, 'months'), ['2027-03-28T08:30']),
  one('twelve months before 29 February', '2028-02-29', date('before', 12, 'months'), ['2027-02-28T08:30']),
  one(
    'every month on the 31st',
    '2027-01-31',
    on(510, { every: 'month' }),
    ['2027-01-31T08:30', '2027-02-28T08:30', '2027-03-31T08:30', '2027-04-30T08:30'],
    { until: '2027-05-15T00:00' },
  ),
  one(
    'every month on the 30th',
    '2027-01-30',
    on(510, { every: 'month' }),
    ['2027-01-30T08:30', '2027-02-28T08:30', '2027-03-30T08:30', '2027-04-30T08:30'],
    { until: '2027-05-15T00:00' },
  ),
  one(
    'every month on the 29th in a leap year',
    '2028-01-29',
    on(510, { every: 'month' }),
    ['2028-01-29T08:30', '2028-02-29T08:30', '2028-03-29T08:30'],
    { start: '2028-01-01T00:00', until: '2028-04-15T00:00' },
  ),
  one(
    'two days before the month’s end, every month',
    '2027-01-31',
    date('before', 2, 'days', { every: 'month' }),
    ['2027-01-29T08:30', '2027-02-26T08:30', '2027-03-29T08:30'],
    { until: '2027-04-15T00:00' },
  ),
  // 29 February, and years.
  one('born on 29 February, 28th in common years', '1992-02-29', on(510, { every: 'year' }), [
    '2027-02-28T08:30',
    '2028-02-29T08:30',
    '2029-02-28T08:30',
  ]),
  one('born on 29 February, 1 March in common years', '1992-02-29', on(510, { every: 'year', leap: 'mar1' }), [
    '2027-03-01T08:30',
    '2028-02-29T08:30',
    '2029-03-01T08:30',
  ]),
  one('born on 28 February', '1991-02-28', on(510, { every: 'year' }), [
    '2027-02-28T08:30',
    '2028-02-28T08:30',
    '2029-02-28T08:30',
  ]),
  one('born on 1 March, with 1 March for 29 February', '1991-03-01', on(510, { every: 'year', leap: 'mar1' }), [
    '2027-03-01T08:30',
    '2028-03-01T08:30',
    '2029-03-01T08:30',
  ]),
  one('29 February in 2100, which is no leap year', '2000-02-29', on(510, { every: 'year' }), ['2100-02-28T08:30'], {
    start: '2099-12-01T00:00',
    until: '2100-12-31T00:00',
  }),
  one(
    'three days before New Year, every year',
    '1990-01-01',
    date('before', 3, 'days', { every: 'year' }),
    ['2026-12-29T08:30', '2027-12-29T08:30'],
    { until: '2028-06-01T00:00' },
  ),
  one('an anniversary never comes before the date itself', '2028-06-01', on(510, { every: 'year' }), [
    '2028-06-01T08:30',
    '2029-06-01T08:30',
  ]),
  one(
    'a week after the anniversary, over the year’s end',
    '2020-12-28',
    date('after', 1, 'weeks', { every: 'year' }),
    ['2027-01-04T08:30', '2028-01-04T08:30'],
    { until: '2028-06-01T00:00' },
  ),
  // Gaps: the first moment behind them. Overlaps: the first of the two.
  gap('Lisbon, 1:30 is skipped', LISBON, '2027-03-28', 90, '2027-03-28T02:00'),
  gap('Lisbon, 1:00 is the first that is skipped', LISBON, '2027-03-28', 60, '2027-03-28T02:00'),
  gap('Lisbon, 1:59 is the last that is skipped', LISBON, '2027-03-28', 119, '2027-03-28T02:00'),
  gap('Lisbon, 0:59 is there', LISBON, '2027-03-28', 59, '2027-03-28T00:59'),
  gap('Lisbon, 2:00 is there', LISBON, '2027-03-28', 120, '2027-03-28T02:00'),
  gap('Lisbon, 1:30 comes twice', LISBON, '2027-10-31', 90, '2027-10-31T01:30'),
  gap('New York, 2:30 is skipped', 'America/New_York', '2027-03-14', 150, '2027-03-14T03:00'),
  gap('New York, 1:30 comes twice', 'America/New_York', '2027-11-07', 90, '2027-11-07T01:30'),
  gap('Halifax, 2:30 is skipped', 'America/Halifax', '2027-03-14', 150, '2027-03-14T03:00'),
  gap('Auckland, 2:30 is skipped in September', 'Pacific/Auckland', '2027-09-26', 150, '2027-09-26T03:00'),
  gap('Auckland, 2:30 comes twice in April', 'Pacific/Auckland', '2027-04-04', 150, '2027-04-04T02:30'),
  gap('Sydney, 2:30 is skipped in October', 'Australia/Sydney', '2027-10-03', 150, '2027-10-03T03:00'),
  gap('Lord Howe, half an hour is skipped', 'Australia/Lord_Howe', '2027-10-03', 135, '2027-10-03T02:30'),
  gap('Lord Howe, half an hour comes twice', 'Australia/Lord_Howe', '2027-04-04', 105, '2027-04-04T01:45'),
  gap('Santiago, midnight is skipped', 'America/Santiago', '2027-09-05', 0, '2027-09-05T01:00'),
  gap('Kolkata, half past eight', 'Asia/Kolkata', '2027-01-10', 510, '2027-01-10T08:30'),
  gap('Kathmandu, three quarters of an hour off', 'Asia/Kathmandu', '2027-01-10', 510, '2027-01-10T08:30'),
  gap('Adelaide, half an hour off and daylight saving', 'Australia/Adelaide', '2027-10-03', 150, '2027-10-03T03:00'),
  one('a day later keeps the time of day over a gap', utc('2027-03-27T09:00Z'), visit('after', 1, 'days'), [
    '2027-03-28T09:00',
  ]),
  one('24 hours later do not', utc('2027-03-27T09:00Z'), visit('after', 24, 'hours'), ['2027-03-28T10:00']),
  one('90 minutes before, over a gap', utc('2027-03-28T01:15Z'), visit('before', 90, 'minutes'), ['2027-03-27T23:45']),
  one('a quarter of an hour after a visit ends', utc('2027-01-10T15:00Z'), visit('after', 15, 'minutes'), [
    '2027-01-10T15:15',
  ]),
  one('the day before a visit, at half past eight', utc('2027-01-10T15:00Z'), visit('before', 1, 'days', 510), [
    '2027-01-09T08:30',
  ]),
  one('a month before a visit keeps its time of day', utc('2027-04-30T08:00Z'), visit('before', 1, 'months'), [
    '2027-03-30T09:00',
  ]),
  // Working days, weekends and holidays.
  one(
    'two working days before a Monday, over New Year',
    '2027-01-04',
    date('before', 2, 'workdays'),
    ['2026-12-30T08:30'],
    { holidays: ['2027-01-01'] },
  ),
  one('one working day after a Friday', '2026-12-04', date('after', 1, 'workdays'), ['2026-12-07T08:30']),
  one('the first working day from a Saturday', '2026-12-05', date('after', 0, 'workdays'), ['2026-12-07T08:30']),
  one('five working days before a Monday', '2026-12-14', date('before', 5, 'workdays'), ['2026-12-07T08:30']),
  one(
    'three working days after a Thursday, over two holidays',
    '2026-12-24',
    date('after', 3, 'workdays'),
    ['2026-12-31T08:30'],
    { holidays: ['2026-12-25', '2026-12-28'] },
  ),
  one(
    'one working day after a Friday, in a week of six',
    '2026-12-04',
    date('after', 1, 'workdays'),
    ['2026-12-05T08:30'],
    { workdays: [1, 2, 3, 4, 5, 6] },
  ),
  one('one working day before a Sunday', '2026-12-06', date('before', 1, 'workdays'), ['2026-12-04T08:30']),
  one(
    'ten working days before, over a whole week off',
    '2027-01-15',
    date('before', 10, 'workdays'),
    ['2026-12-24T08:30'],
    { holidays: ['2026-12-25', '2026-12-28', '2026-12-29', '2026-12-30', '2026-12-31', '2027-01-01'] },
  ),
  // Only in some months and on some weekdays.
  one(
    'only in January and March',
    '2026-10-15',
    on(510, { every: 'month', months: [1, 3] }),
    ['2027-01-15T08:30', '2027-03-15T08:30'],
    { until: '2027-12-31T00:00' },
  ),
  one('only on weekdays, and it is a Sunday', '2026-12-06', on(510, { weekdays: [1, 2, 3, 4, 5] }), []),
  one('only in June, and it is in May', '1990-05-20', on(510, { every: 'year', months: [6] }), []),
  // Dates that move.
  one('moved later before it came', '2026-12-10', date('before', 3, 'days'), ['2026-12-17T08:30'], {
    script: [{ at: '2026-12-01T10:00', set: { due: '2026-12-20' } }],
  }),
  one('moved to where its moment has passed', '2026-12-10', date('before', 3, 'days'), [], {
    script: [{ at: '2026-12-01T10:00', set: { due: '2026-12-02' } }],
  }),
  one('emptied before it came', '2026-12-10', date('before', 3, 'days'), [], {
    script: [{ at: '2026-12-01T10:00', set: { due: null } }],
  }),
  one('moved away and back before it came', '2026-12-10', date('before', 3, 'days'), ['2026-12-07T08:30'], {
    script: [
      { at: '2026-12-01T10:00', set: { due: '2027-02-01' } },
      { at: '2026-12-02T10:00', set: { due: '2026-12-10' } },
    ],
  }),
  one('moved away and back after it came', '2026-12-10', date('before', 3, 'days'), ['2026-12-07T08:30'], {
    script: [
      { at: '2026-12-07T10:00', set: { due: '2027-02-01' } },
      { at: '2026-12-07T11:00', set: { due: '2026-12-10' } },
    ],
  }),
  one('moved on after it came', '2026-12-10', date('before', 3, 'days'), ['2026-12-07T08:30', '2027-01-29T08:30'], {
    script: [{ at: '2026-12-07T10:00', set: { due: '2027-02-01' } }],
  }),
  one('emptied after it came, and filled in again', '2026-12-10', date('before', 3, 'days'), ['2026-12-07T08:30'], {
    script: [
      { at: '2026-12-07T10:00', set: { due: null } },
      { at: '2026-12-07T11:00', set: { due: '2026-12-10' } },
    ],
  }),
  one('filled in on its own day before the hour', '2027-06-01', on(510), ['2026-12-10T08:30'], {
    script: [{ at: '2026-12-10T08:29', set: { due: '2026-12-10' } }],
  }),
  one('filled in on its own day after the hour', '2027-06-01', on(510), [], {
    until: '2027-01-01T00:00',
    script: [{ at: '2026-12-10T08:31', set: { due: '2026-12-10' } }],
  }),
  // Time in which nothing ran.
  one('made up for after twenty hours', '2026-12-10', on(510), ['2026-12-11T04:30'], {
    clock: [{ to: '2026-12-11T04:30', down: true }, { to: '2026-12-20T00:00' }],
  }),
  one('missed after three days', '2026-12-10', on(510), ['2026-12-13T08:31'], {
    states: ['it was due on 10 Dec 2026, 8:30 while the server was down'],
    clock: [{ to: '2026-12-13T08:31', down: true }, { to: '2026-12-20T00:00' }],
  }),
  one('made up for after three days where the rule says so', '2026-12-10', on(510), ['2026-12-13T08:31'], {
    graceHours: 100,
    states: ['done'],
    clock: [{ to: '2026-12-13T08:31', down: true }, { to: '2026-12-20T00:00' }],
  }),
  one('missed after two hours where the rule says so', '2026-12-10', on(510), ['2026-12-10T10:30'], {
    graceHours: 1,
    states: ['it was due on 10 Dec 2026, 8:30 while the server was down'],
    clock: [{ to: '2026-12-10T10:30', down: true }, { to: '2026-12-20T00:00' }],
  }),
  one('moved by somebody while nothing ran', '2026-12-10', on(510), ['2026-12-15T08:30'], {
    clock: [{ to: '2026-12-12T08:00', down: true }, { to: '2026-12-20T00:00' }],
    script: [{ at: '2026-12-09T12:00', set: { due: '2026-12-15' } }],
  }),
  one(
    'each month, with two of them missed or made up',
    '2026-11-30',
    on(510, { every: 'month' }),
    ['2027-01-30T20:00', '2027-01-30T20:00', '2027-02-28T08:30'],
    {
      start: '2026-12-01T00:00',
      states: ['it was due on 30 Dec 2026, 8:30 while the server was down', 'done', 'done'],
      clock: [{ to: '2027-01-30T20:00', down: true }, { to: '2027-03-15T00:00' }],
    },
  ),
  // By other clocks.
  one('owner’s local time', '2027-01-10', on(510, { zone: 'owner' }), ['2027-01-09T19:30'], {
    people: [{ id: 'kiri', zone: 'Pacific/Auckland' }],
    values: { owner: 'kiri' },
  }),
  one('contact’s local time', '2027-01-10', on(510, { zone: 'contact' }), ['2027-01-10T16:30'], {
    object: 'contact',
    values: { zone: 'America/Vancouver' },
  }),
  one('by the contact’s clock, which nobody knows', '2027-01-10', on(510, { zone: 'contact' }), ['2027-01-10T08:30'], {
    object: 'contact',
  }),
  // Again and again.
  {
    name: 'every Thursday, or the working day behind it',
    zone: LISBON,
    start: '2026-11-24T00:00',
    until: '2026-12-12T00:00',
    trigger: every('FREQ=WEEKLY;BYDAY=TH', '2026-01-01', 'next', 930),
    starts: ['2026-11-26T15:30', '2026-12-04T15:30', '2026-12-10T15:30'],
    holidays: ['2026-12-03'],
  },
  {
    name: 'the first working day of each month',
    zone: LISBON,
    start: '2026-11-24T00:00',
    until: '2027-02-10T00:00',
    trigger: every('FREQ=MONTHLY;BYMONTHDAY=1', '2026-01-01', 'next', 510),
    starts: ['2026-12-01T08:30', '2027-01-04T08:30', '2027-02-01T08:30'],
    holidays: ['2027-01-01'],
  },
  {
    name: 'every day at a time that is skipped once',
    zone: LISBON,
    start: '2027-03-26T12:00',
    until: '2027-03-30T00:00',
    trigger: every('FREQ=DAILY', '2027-01-01', 'keep', 90),
    starts: ['2027-03-27T01:30', '2027-03-28T02:00', '2027-03-29T01:30'],
  },
  rfc(
    'daily for 10 occurrences',
    'FREQ=DAILY;COUNT=10',
    '1997-09-02',
    '1997-12-01',
    Array.from({ length: 10 }, (_, i) => `1997-09-${String(i + 2).padStart(2, '0')}`),
  ),
  rfc(
    'every other week on Monday, Wednesday and Friday',
    'FREQ=WEEKLY;INTERVAL=2;WKST=SU;BYDAY=MO,WE,FR',
    '1997-09-01',
    '1997-10-15',
    ['01', '03', '05', '15', '17', '19', '29']
      .map((day) => `1997-09-${day}`)
      .concat(['1997-10-01', '1997-10-03', '1997-10-13', '1997-10-15']),
  ),
  rfc('monthly on the first Friday', 'FREQ=MONTHLY;COUNT=10;BYDAY=1FR', '1997-09-05', '1998-12-31', [
    '1997-09-05',
    '1997-10-03',
    '1997-11-07',
    '1997-12-05',
    '1998-01-02',
    '1998-02-06',
    '1998-03-06',
    '1998-04-03',
    '1998-05-01',
    '1998-06-05',
  ]),
  rfc('Monday of week 20', 'FREQ=YEARLY;BYWEEKNO=20;BYDAY=MO', '1997-05-12', '1999-12-31', [
    '1997-05-12',
    '1998-05-11',
    '1999-05-17',
  ]),
  rfc('every Friday the 13th', 'FREQ=MONTHLY;BYDAY=FR;BYMONTHDAY=13', '1997-09-02', '2000-12-31', [
    '1998-02-13',
    '1998-03-13',
    '1998-11-13',
    '1999-08-13',
    '2000-10-13',
  ]),
  rfc('the last weekday of the month', 'FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-1', '1997-09-29', '1998-03-31', [
    '1997-09-30',
    '1997-10-31',
    '1997-11-28',
    '1997-12-31',
    '1998-01-30',
    '1998-02-27',
    '1998-03-31',
  ]),
]

/** A row as the file that the command line takes. */
export function caseOf(row: Dated): object {
  const object = row.object ?? 'deal'
  const field = typeof row.value === 'number' ? 'visit' : 'due'
  return {
    format: 1,
    name: row.name,
    ...(row.source ? { source: row.source } : {}),
    zone: row.zone,
    start: row.start,
    ...(row.clock ? { clock: row.clock } : { until: row.until }),
    ...(row.holidays ? { holidays: row.holidays } : {}),
    ...(row.workdays ? { workdays: row.workdays } : {}),
    ...(row.people ? { people: row.people } : {}),
    fields: [
      { object, key: 'due', label: 'Due', type: 'date' },
      { object, key: 'visit', label: 'Visit', type: 'dateTime' },
      { object: 'contact', key: 'zone', label: 'Time zone', type: 'text' },
    ],
    records: [
      { record: `${object} 1`, values: { ...(row.value === undefined ? {} : { [field]: row.value }), ...row.values } },
    ],
    rules: [
      {
        format: 1,
        name: row.name.slice(0, 200),
        description: '',
        object,
        triggers: [{ id: 't1', ...row.trigger }],
        conditions: { kind: 'group', id: 'c0', mode: 'all', items: [] },
        ...(row.graceHours === undefined ? {} : { graceHours: row.graceHours }),
        steps: [{ id: 's1', kind: 'stop', params: { because: 'it came' } }],
      },
    ],
    ...(row.script ? { script: row.script.map(({ at, set }) => ({ at, record: `${object} 1`, set })) } : {}),
    expect: {
      starts: row.starts.map((at) => ({ record: `${object} 1`, at })),
      ...(row.states ? { states: row.states } : {}),
    },
  }
}
