import fc from 'fast-check'
import rrule from 'rrule'
import { describe, expect, it } from 'vitest'
import { workCalendar } from './calendar'
import { addDays, dateAt } from './dates'
import { nextRecurrence, wrongRule } from './recurrence'
import './recurrence-days'

const calendar = workCalendar({ workdays: [1, 2, 3, 4, 5, 6, 7], holidays: [] })
const { RRule } = rrule
const ZONE = 'America/New_York'

/** The first days of a rule, from the one on which it begins. */
function days(rule: string, from: string, count: number): readonly string[] {
  const found: string[] = []
  let at: number | null = Date.parse(`${addDays(from, -1)}T22:00:00Z`)
  while (found.length < count) {
    at = nextRecurrence({ rule, from, minute: 540, offDays: 'keep' }, at, ZONE, calendar)
    if (at === null) break
    found.push(dateAt(at, ZONE))
  }
  return found
}

/** "1997 Sep 2,9-11; Oct 3; 1998 Jan 1" as dates. */
function written(text: string): readonly string[] {
  const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']
  let year = ''
  return text.split(';').flatMap((part) => {
    const [, given, month = '', list = ''] = /^\s*(?:(\d{4}) )?([A-Z][a-z]{2}) ([\d,-]+)$/.exec(part) ?? []
    year = given ?? year
    return list.split(',').flatMap((one) => {
      const [from = 0, to = from] = one.split('-').map(Number)
      return Array.from(
        { length: to - from + 1 },
        (_, i) => `${year}-${String(MONTHS.indexOf(month) + 1).padStart(2, '0')}-${String(from + i).padStart(2, '0')}`,
      )
    })
  })
}
const everyOther = (from: string, until: string): string => {
  const found: string[] = []
  for (let day = from; day <= until; day = addDays(day, 2)) found.push(day)
  return found.join(' ')
}

/** RFC 5545, section 3.8.5.3: every example that goes by days, with what stands under it; `UNTIL` as a day. */
const EXAMPLES: readonly (readonly [rule: string, from: string, dates: string])[] = [
  ['FREQ=DAILY;COUNT=10', '1997-09-02', '1997 Sep 2-11'],
  ['FREQ=DAILY;UNTIL=19971223', '1997-09-02', '1997 Sep 2-30; Oct 1-31; Nov 1-30; Dec 1-23'],
  ['FREQ=DAILY;INTERVAL=10;COUNT=5', '1997-09-02', '1997 Sep 2,12,22; Oct 2,12'],
  [
    'FREQ=YEARLY;UNTIL=20000131;BYMONTH=1;BYDAY=SU,MO,TU,WE,TH,FR,SA',
    '1998-01-01',
    '1998 Jan 1-31; 1999 Jan 1-31; 2000 Jan 1-31',
  ],
  ['FREQ=DAILY;UNTIL=20000131;BYMONTH=1', '1998-01-01', '1998 Jan 1-31; 1999 Jan 1-31; 2000 Jan 1-31'],
  ['FREQ=WEEKLY;COUNT=10', '1997-09-02', '1997 Sep 2,9,16,23,30; Oct 7,14,21,28; Nov 4'],
  ['FREQ=WEEKLY;UNTIL=19971223', '1997-09-02', '1997 Sep 2,9,16,23,30; Oct 7,14,21,28; Nov 4,11,18,25; Dec 2,9,16,23'],
  [
    'FREQ=WEEKLY;INTERVAL=2;WKST=SU',
    '1997-09-02',
    '1997 Sep 2,16,30; Oct 14,28; Nov 11,25; Dec 9,23; 1998 Jan 6,20; Feb 3,17',
  ],
  ['FREQ=WEEKLY;UNTIL=19971006;WKST=SU;BYDAY=TU,TH', '1997-09-02', '1997 Sep 2,4,9,11,16,18,23,25,30; Oct 2'],
  ['FREQ=WEEKLY;COUNT=10;WKST=SU;BYDAY=TU,TH', '1997-09-02', '1997 Sep 2,4,9,11,16,18,23,25,30; Oct 2'],
  [
    'FREQ=WEEKLY;INTERVAL=2;UNTIL=19971223;WKST=SU;BYDAY=MO,WE,FR',
    '1997-09-01',
    '1997 Sep 1,3,5,15,17,19,29; Oct 1,3,13,15,17,27,29,31; Nov 10,12,14,24,26,28; Dec 8,10,12,22',
  ],
  ['FREQ=WEEKLY;INTERVAL=2;COUNT=8;WKST=SU;BYDAY=TU,TH', '1997-09-02', '1997 Sep 2,4,16,18,30; Oct 2,14,16'],
  [
    'FREQ=MONTHLY;COUNT=10;BYDAY=1FR',
    '1997-09-05',
    '1997 Sep 5; Oct 3; Nov 7; Dec 5; 1998 Jan 2; Feb 6; Mar 6; Apr 3; May 1; Jun 5',
  ],
  ['FREQ=MONTHLY;UNTIL=19971223;BYDAY=1FR', '1997-09-05', '1997 Sep 5; Oct 3; Nov 7; Dec 5'],
  [
    'FREQ=MONTHLY;INTERVAL=2;COUNT=10;BYDAY=1SU,-1SU',
    '1997-09-07',
    '1997 Sep 7,28; Nov 2,30; 1998 Jan 4,25; Mar 1,29; May 3,31',
  ],
  ['FREQ=MONTHLY;COUNT=6;BYDAY=-2MO', '1997-09-22', '1997 Sep 22; Oct 20; Nov 17; Dec 22; 1998 Jan 19; Feb 16'],
  ['FREQ=MONTHLY;BYMONTHDAY=-3', '1997-09-28', '1997 Sep 28; Oct 29; Nov 28; Dec 29; 1998 Jan 29; Feb 26'],
  ['FREQ=MONTHLY;COUNT=10;BYMONTHDAY=2,15', '1997-09-02', '1997 Sep 2,15; Oct 2,15; Nov 2,15; Dec 2,15; 1998 Jan 2,15'],
  [
    'FREQ=MONTHLY;COUNT=10;BYMONTHDAY=1,-1',
    '1997-09-30',
    '1997 Sep 30; Oct 1,31; Nov 1,30; Dec 1,31; 1998 Jan 1,31; Feb 1',
  ],
  ['FREQ=MONTHLY;INTERVAL=18;COUNT=10;BYMONTHDAY=10,11,12,13,14,15', '1997-09-10', '1997 Sep 10-15; 1999 Mar 10-13'],
  [
    'FREQ=MONTHLY;INTERVAL=2;BYDAY=TU',
    '1997-09-02',
    '1997 Sep 2,9,16,23,30; Nov 4,11,18,25; 1998 Jan 6,13,20,27; Mar 3,10,17,24,31',
  ],
  [
    'FREQ=YEARLY;COUNT=10;BYMONTH=6,7',
    '1997-06-10',
    '1997 Jun 10; Jul 10; 1998 Jun 10; Jul 10; 1999 Jun 10; Jul 10; 2000 Jun 10; Jul 10; 2001 Jun 10; Jul 10',
  ],
  [
    'FREQ=YEARLY;INTERVAL=2;COUNT=10;BYMONTH=1,2,3',
    '1997-03-10',
    '1997 Mar 10; 1999 Jan 10; Feb 10; Mar 10; 2001 Jan 10; Feb 10; Mar 10; 2003 Jan 10; Feb 10; Mar 10',
  ],
  [
    'FREQ=YEARLY;INTERVAL=3;COUNT=10;BYYEARDAY=1,100,200',
    '1997-01-01',
    '1997 Jan 1; Apr 10; Jul 19; 2000 Jan 1; Apr 9; Jul 18; 2003 Jan 1; Apr 10; Jul 19; 2006 Jan 1',
  ],
  ['FREQ=YEARLY;BYDAY=20MO', '1997-05-19', '1997 May 19; 1998 May 18; 1999 May 17'],
  ['FREQ=YEARLY;BYWEEKNO=20;BYDAY=MO', '1997-05-12', '1997 May 12; 1998 May 11; 1999 May 17'],
  ['FREQ=YEARLY;BYMONTH=3;BYDAY=TH', '1997-03-13', '1997 Mar 13,20,27; 1998 Mar 5,12,19,26; 1999 Mar 4,11,18,25'],
  [
    'FREQ=YEARLY;BYDAY=TH;BYMONTH=6,7,8',
    '1997-06-05',
    '1997 Jun 5,12,19,26; Jul 3,10,17,24,31; Aug 7,14,21,28; 1998 Jun 4,11,18,25; Jul 2,9,16,23,30; Aug 6,13,20,27; 1999 Jun 3,10,17,24; Jul 1,8,15,22,29; Aug 5,12,19,26',
  ],
  ['FREQ=MONTHLY;BYDAY=FR;BYMONTHDAY=13', '1997-09-02', '1998 Feb 13; Mar 13; Nov 13; 1999 Aug 13; 2000 Oct 13'],
  [
    'FREQ=MONTHLY;BYDAY=SA;BYMONTHDAY=7,8,9,10,11,12,13',
    '1997-09-13',
    '1997 Sep 13; Oct 11; Nov 8; Dec 13; 1998 Jan 10; Feb 7; Mar 7; Apr 11; May 9; Jun 13',
  ],
  [
    'FREQ=YEARLY;INTERVAL=4;BYMONTH=11;BYDAY=TU;BYMONTHDAY=2,3,4,5,6,7,8',
    '1996-11-05',
    '1996 Nov 5; 2000 Nov 7; 2004 Nov 2',
  ],
  ['FREQ=MONTHLY;COUNT=3;BYDAY=TU,WE,TH;BYSETPOS=3', '1997-09-04', '1997 Sep 4; Oct 7; Nov 6'],
  [
    'FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-2',
    '1997-09-29',
    '1997 Sep 29; Oct 30; Nov 27; Dec 30; 1998 Jan 29; Feb 26; Mar 30',
  ],
  ['FREQ=WEEKLY;INTERVAL=2;COUNT=4;BYDAY=TU,SU;WKST=MO', '1997-08-05', '1997 Aug 5,10,19,24'],
  ['FREQ=WEEKLY;INTERVAL=2;COUNT=4;BYDAY=TU,SU;WKST=SU', '1997-08-05', '1997 Aug 5,17,19,31'],
  ['FREQ=MONTHLY;BYMONTHDAY=15,30;COUNT=5', '2007-01-15', '2007 Jan 15,30; Feb 15; Mar 15,30'],
]

describe('the examples of RFC 5545, section 3.8.5.3', () => {
  it.each(EXAMPLES)('%s from %s', (rule, from, dates) => {
    const wanted = written(dates)
    expect(wrongRule(rule, from)).toBeNull()
    const ends = /COUNT|UNTIL/.test(rule)
    expect(days(rule, from, wanted.length + (ends ? 1 : 0))).toEqual(wanted)
  })

  it('every other day, for as long as one likes', () =>
    expect(days('FREQ=DAILY;INTERVAL=2', '1997-09-02', 47).join(' ')).toBe(everyOther('1997-09-02', '1997-12-03')))

  // The time of day stands beside a rule here, and what ends within a day has no day.
  it.each([
    'FREQ=DAILY;UNTIL=19971224T000000Z',
    'FREQ=WEEKLY;UNTIL=19971007T000000Z;WKST=SU;BYDAY=TU,TH',
    'FREQ=HOURLY;INTERVAL=3;UNTIL=19970902T170000Z',
    'FREQ=MINUTELY;INTERVAL=15;COUNT=6',
    'FREQ=MINUTELY;INTERVAL=90;COUNT=4',
    'FREQ=DAILY;BYHOUR=9,10,11,12,13,14,15,16;BYMINUTE=0,20,40',
    'FREQ=MINUTELY;INTERVAL=20;BYHOUR=9,10,11,12,13,14,15,16',
  ])('%s is refused', (rule) => expect(wrongRule(rule, '1997-09-02')).not.toBeNull())
})

/** `SKY_LEVER_CASES=2000 npx vitest run core/time/recurrence-standard` tries more of them. */
const CASES = Number(process.env.SKY_LEVER_CASES ?? 400)

const numbers = (least: number, most: number, count = 3): fc.Arbitrary<string> =>
  fc
    .uniqueArray(
      fc.integer({ min: least, max: most }).filter((n) => n !== 0),
      { minLength: 1, maxLength: count },
    )
    .map((some) => some.join(','))
const weekday = fc.constantFrom('MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU')
const plainDays = fc.uniqueArray(weekday, { minLength: 1, maxLength: 4 }).map((some) => some.join(','))
const countedDays = fc
  .uniqueArray(
    fc.tuple(fc.constantFrom(1, 2, 3, 4, -1, -2), weekday).map(([n, day]) => `${n}${day}`),
    { minLength: 1, maxLength: 2 },
  )
  .map((some) => some.join(','))
const part = (name: string, list: fc.Arbitrary<string>): fc.Arbitrary<string> => list.map((one) => `${name}=${one}`)
const maybe = (one: fc.Arbitrary<string>): fc.Arbitrary<string> => fc.option(one, { nil: '' })
const built = (freq: string, ...parts: readonly fc.Arbitrary<string>[]): fc.Arbitrary<string> =>
  fc
    .tuple(maybe(part('INTERVAL', numbers(1, 4, 1))), ...parts)
    .map((some) => [`FREQ=${freq}`, ...some.filter((one) => one !== '')].join(';'))
const months = maybe(part('BYMONTH', numbers(1, 12)))
const position = maybe(part('BYSETPOS', numbers(-2, 2, 1)))
const rules = fc.oneof(
  built('DAILY', months, maybe(part('BYDAY', plainDays))),
  built('WEEKLY', months, maybe(part('BYDAY', plainDays)), maybe(fc.constantFrom('WKST=SU', 'WKST=MO', 'WKST=WE'))),
  built('MONTHLY', months, part('BYMONTHDAY', numbers(-31, 31))),
  // The other library miscounts months that lack one of the days to choose from.
  built('MONTHLY', months, part('BYMONTHDAY', numbers(-28, 28)), position),
  built('MONTHLY', months, part('BYDAY', fc.oneof(plainDays, countedDays)), position),
  built('YEARLY', months, part('BYMONTHDAY', numbers(-10, 28))),
  built('YEARLY', part('BYMONTH', numbers(1, 12)), part('BYDAY', fc.oneof(plainDays, countedDays))),
  built('YEARLY', part('BYYEARDAY', numbers(-366, 366))),
  built('YEARLY', part('BYWEEKNO', numbers(1, 53)), part('BYDAY', plainDays)),
)

/** What the other library says; `null` where it refuses the rule. */
function theirs(rule: string, from: string, count: number): readonly string[] | null {
  try {
    const other = new RRule({ ...RRule.parseString(rule), dtstart: new Date(`${from}T00:00:00Z`) })
    const found: string[] = []
    other.all((date) => {
      found.push(date.toISOString().slice(0, 10))
      return found.length < count && date.getUTCFullYear() < 2060
    })
    return found
  } catch {
    return null
  }
}

describe('recurrence beside another library (rrule)', () => {
  it('comes on the same days', () => {
    let both = 0
    fc.assert(
      fc.property(rules, fc.integer({ min: 0, max: 1500 }), (rule, start) => {
        const begun = addDays('2026-01-01', start)
        if (wrongRule(rule, begun) !== null) return
        // A rule that begins on a day that is not its own is undefined (3.8.5.3): it begins with its first.
        const [from] = days(rule, begun, 1)
        if (from === undefined) return
        const other = theirs(rule, from, 12)
        if (other === null || other.length === 0) return
        both++
        expect([rule, from, days(rule, from, other.length)]).toEqual([rule, from, other])
      }),
      { seed: 8, numRuns: CASES },
    )
    expect(both).toBeGreaterThan(CASES / 2)
  })
})
