import { all, condition, document, enters, task } from '../core/testing/rules'

/** A request that somebody could send to stop a server, or to make it very large. */
export interface Hostile {
  readonly name: string
  readonly method: 'GET' | 'POST' | 'PUT' | 'PATCH'
  readonly path: string
  /** As it goes over the wire; JSON unless `type` says otherwise. */
  readonly body?: string
  readonly type?: string
  /** So many at once. */
  readonly times?: number
  /** Without the cookie of somebody who signed in. */
  readonly stranger?: true
}

const post = (name: string, path: string, body: unknown, more: Partial<Hostile> = {}): Hostile => ({
  name,
  method: 'POST',
  path,
  body: typeof body === 'string' ? body : JSON.stringify(body),
  ...more,
})
const get = (name: string, path: string, more: Partial<Hostile> = {}): Hostile => ({
  name,
  method: 'GET',
  path,
  ...more,
})

const keys = (count: number): { readonly [key: string]: number } =>
  Object.fromEntries(Array.from({ length: count }, (_, i) => [`key${i}`, i]))
const nested = (open: string, close: string, depth: number): string => open.repeat(depth) + close.repeat(depth)
const yamlKeys = (count: number): string => Array.from({ length: count }, (_, i) => `key${i}: ${i}`).join('\n')

const many = (count: number) =>
  all(...Array.from({ length: count }, (_, i) => condition('name', 'contains', { value: `x${i}` }, false, `c${i}`)))
/** Written out here: so deep a thing cannot be made into text at all. */
const deep = (depth: number): string => {
  const [open, close] = ['{"kind":"group","id":"g","mode":"all","items":[', ']}']
  return JSON.stringify({ document: rule(all()) }).replace(JSON.stringify(all()), nested(open, close, depth))
}
const linkedDeep = (depth: number): object => {
  let group: object = all()
  for (let i = 0; i < depth; i++) {
    const object = (depth - i) % 2 ? 'company' : 'deal'
    group = all({ kind: 'linked', id: `l${i}`, object, how: 'any', count: 1, group: group as ReturnType<typeof all> })
  }
  return group
}
const filter = (group: object): string => encodeURIComponent(JSON.stringify(group))
const rule = (onlyIf: object) => ({
  ...document({ when: [enters('hp-quoted')], then: [task('Ring')] }),
  conditions: onlyIf,
})
const formula = (name: string, text: string): Hostile =>
  post(`formula: ${name}`, '/derived-fields/preview', {
    object: 'deal',
    type: 'text',
    made: { by: 'formula', text },
  })
const holidays = (name: string, ...lines: readonly string[]): Hostile =>
  post(`holidays: ${name}`, '/hours/holidays', {
    text: ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//Larkmoor//EN', ...lines, 'END:VCALENDAR'].join('\r\n'),
  })
const event = (...lines: readonly string[]): readonly string[] => ['BEGIN:VEVENT', 'UID:1', ...lines, 'END:VEVENT']
const again = (text: string) =>
  document({
    when: [['recurring', { rule: { rule: text, from: '2026-01-01' }, minute: 540, offDays: 'keep' }]],
    then: [task('Ring')],
  })

const hundred = 'for a in 1..100 return a'
/** A text that is a thousand times as long with every step, in few letters. */
const growing = (steps: number): string => {
  let text = 'a'
  for (let i = steps; i > 0; i--)
    text = `string join(for ${'abcdefgh'[i]} in [string join(for z in 1..1000 return ${'abcdefgh'[i - 1]}, "")] return ${text}, "")`
  return `string join(for a in ["0123456789"] return ${text.replace(/return a, ""\)$/, `return ${'abcdefgh'[steps]}, "")`)}, "")`
}
/** The same with lists. */
const listsOf = (steps: number): string =>
  Array.from({ length: steps }).reduce<string>((inner, _, i) => `for ${'bcdefgh'[i]} in [a, a, a] return ${inner}`, 'a')

export const HOSTILE: readonly Hostile[] = [
  post(
    'a password of 900 kB',
    '/session',
    { email: 'ines@larkmoor.example', password: 'x'.repeat(900_000) },
    { stranger: true },
  ),
  ...Array.from({ length: 12 }, (_, i) =>
    post(
      `wrong passwords, name ${i}`,
      '/session',
      { email: `n${i}@larkmoor.example`, password: 'guess guess' },
      {
        stranger: true,
        times: 4,
      },
    ),
  ),
  post('a body of 40 MB to a stranger’s door', '/session', `{"email":"${'x'.repeat(40_000_000)}"}`, { stranger: true }),
  post('a body of 40 MB', '/records/deal', `{"values":{"name":"${'x'.repeat(40_000_000)}"}}`),
  post('10,000 plain keys', '/records/deal', { values: keys(10_000) }),
  post('140,000 plain keys', '/records/deal', { values: keys(140_000) }),
  post('140,000 keys nobody knows', '/evidence', { document: { ...rule(all()), ...keys(140_000) } }),
  post('an array 100,000 deep', '/records/deal', nested('[', ']', 100_000)),
  post('objects 50,000 deep', '/evidence', `${'{"a":'.repeat(50_000)}1${'}'.repeat(50_000)}`),
  post('YAML with 10,000 keys', '/rules/files', { text: yamlKeys(10_000) }),
  post('YAML with 60,000 keys', '/rules/files', { text: yamlKeys(60_000) }),
  post('YAML 30,000 deep', '/rules/files', { text: nested('[', ']', 30_000) }),
  post('YAML of aliases', '/rules/files', { text: 'a: &a [x, x]\nb: &b [*a, *a]\nc: &c [*b, *b]\nd: [*c, *c]' }),
  post('a rule file of 1 MB of blanks', '/rules/files', { text: `a: ${' '.repeat(900_000)}b` }),
  get('ahead of 270,000 years', `/ahead?from=0&to=${8.64e15}`),
  get('ahead of the past', `/ahead?from=${-8.64e15}&to=0`),
  get('a filter with 5,000 conditions', `/record-lists/deal?filter=${filter(many(5000)).slice(0, 15_000)}`),
  get('a filter with 150 conditions', `/record-lists/deal?filter=${filter(many(150)).slice(0, 60_000)}`),
  post('evidence with 5,000 conditions', '/evidence', { document: rule(many(5000)) }),
  post('evidence with groups 3,000 deep', '/evidence', deep(3000)),
  post('evidence with links 12 deep', '/evidence', { document: rule(linkedDeep(12)) }),
  post('evidence with links 400 deep', '/evidence', { document: rule(linkedDeep(400)) }),
  formula('four loops', `count(for a in 1..100, b in 1..100, c in 1..100, d in 1..100 return a)`),
  formula('loops in loops', `count(${'for a in 1..9000 return count('.repeat(8)}1..9000${')'.repeat(8)})`),
  formula('a text that grows', growing(4)),
  formula('lists of lists', `for a in [1..9000] return ${listsOf(7)}`),
  formula('texts that grow', `${'string join(for a in 1..9000 return '.repeat(4)}"abc"${', "")'.repeat(4)}`),
  formula('a text in every item', `for a in 1..9000 return string join(for b in 1..9000 return "abcdefghij", "")`),
  formula('sorted by comparing', `sort(for a in 1..9999 return 10000 - a, function(x, y) x < y)`),
  formula('lists put together', `count(flatten(for a in 1..9000 return ${hundred}))`),
  formula('some in some', `some a in 1..10000 satisfies some b in 1..10000 satisfies a + b < 0`),
  formula('a power', '9 ** 99999999'),
  formula('a range without end', 'count(1..999999999999)'),
  formula('brackets', nested('(', ')', 480)),
  formula('filters in filters', `count((1..10000)[count((1..10000)[item > 1]) > 1])`),
  post(
    'a CSV of one line of 15 MB',
    '/imports',
    { fileName: 'a.csv', content: `name\n${'x'.repeat(15_000_000)}` },
    { times: 2 },
  ),
  post('a CSV of 400,000 lines', '/imports', { fileName: 'b.csv', content: `name,amount\n${'a,1\n'.repeat(400_000)}` }),
  post('a CSV of quotes', '/imports', { fileName: 'c.csv', content: `name\n${'"'.repeat(2_000_001)}` }),
  post('a CSV of 100,000 columns', '/imports', { fileName: 'd.csv', content: `${'a,'.repeat(100_000)}\n1` }),
  holidays('every second', ...event('DTSTART:19700101T000000Z', 'RRULE:FREQ=SECONDLY', 'SUMMARY:x')),
  holidays(
    'every day of all years',
    ...event('DTSTART;VALUE=DATE:00010101', 'RRULE:FREQ=DAILY;COUNT=99999999', 'SUMMARY:x'),
  ),
  holidays('never', ...event('DTSTART;VALUE=DATE:19000101', 'RRULE:FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30', 'SUMMARY:x')),
  holidays(
    '20,000 events',
    ...Array.from({ length: 20_000 }, () => event('DTSTART;VALUE=DATE:20270101', 'SUMMARY:x')).flat(),
  ),
  holidays('one of 10,000 years', ...event('DTSTART;VALUE=DATE:00010101', 'DTEND;VALUE=DATE:99990101', 'SUMMARY:x')),
  post('evidence of a rule that never comes', '/evidence', {
    document: again('FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30;BYHOUR=9'),
  }),
  post('evidence of a rule every second', '/evidence', { document: again('FREQ=SECONDLY;BYSETPOS=366;BYSECOND=1') }),
  post('rates of 200,000 lines', '/rates/preview', { text: `Date,CAD\n${'2026-01-01,1.5\n'.repeat(60_000)}` }),
  post('1,000 activities', '/activities', {
    activities: Array.from({ length: 1000 }, (_, i) => ({
      ref: { object: 'contact', id: 1 + (i % 50) },
      kind: 'visit',
      about: `/prices/${i}`,
    })),
  }),
  post('a file of 20,000 activities', '/activities/files', {
    text: `kind,about,contact\n${Array.from({ length: 20_000 }, (_, i) => `visit,/p${i},${1 + (i % 50)}`).join('\n')}`,
  }),
  get('10,000 words', `/find?words=${'a%20'.repeat(5000)}`),
  get('a list far behind', '/record-lists/deal?offset=10000000&limit=500'),
  get('lists', '/record-lists/deal?limit=500', { times: 60 }),
  get('streams', '/live', { times: 100 }),
  get('a cursor of 100 kB', `/records/deal?cursor=${'x'.repeat(100_000)}`),
  {
    name: 'a body that is no UTF-8',
    method: 'POST',
    path: '/records/deal',
    body: '\u0000\uDC00',
    type: 'application/json',
  },
]
