/** Everything that is counted or named in a text, with what goes before one of it. */
interface Forms {
  readonly one: string
  readonly many: string
}

const regular = <const N extends string>(one: N) => ({ one, many: `${one}s` }) satisfies Forms

export const NOUNS = {
  deal: regular('deal'),
  contact: regular('contact'),
  company: { one: 'company', many: 'companies' },
  appointment: regular('appointment'),
  /** What a rule about no record runs for. */
  none: { one: 'workspace', many: 'workspaces' },
  record: regular('record'),
  field: regular('field'),
  value: regular('value'),
  choice: regular('choice'),
  link: regular('link'),
  label: regular('label'),
  point: regular('point'),
  rule: regular('rule'),
  trigger: regular('trigger'),
  condition: regular('condition'),
  step: regular('step'),
  path: regular('path'),
  row: regular('row'),
  gap: regular('gap'),
  column: regular('column'),
  run: regular('run'),
  waitingRun: regular('waiting run'),
  time: regular('time'),
  change: regular('change'),
  task: regular('task'),
  openTask: regular('open task'),
  reminder: regular('reminder'),
  notification: regular('notification'),
  email: regular('email'),
  message: regular('message'),
  event: regular('event'),
  activity: { one: 'activity', many: 'activities' },
  address: { one: 'address', many: 'addresses' },
  visitor: regular('visitor'),
  problem: regular('problem'),
  warning: regular('warning'),
  testCase: regular('test case'),
  person: { one: 'person', many: 'people' },
  holiday: regular('holiday'),
  segment: regular('segment'),
  territory: { one: 'territory', many: 'territories' },
  scorecard: regular('scorecard'),
  pipeline: regular('pipeline'),
  stage: regular('stage'),
  character: regular('character'),
  cell: regular('cell'),
  input: regular('input'),
  result: regular('result'),
  item: regular('item'),
  level: regular('level'),
  minute: regular('minute'),
  hour: regular('hour'),
  day: regular('day'),
  workingDay: regular('working day'),
  week: regular('week'),
  month: regular('month'),
  year: regular('year'),
  second: regular('second'),
  entry: { one: 'entry', many: 'entries' },
} as const satisfies Readonly<Record<string, Forms>>

export type Noun = keyof typeof NOUNS

/** The kinds of records, by the nouns that they are counted with. */
export type CountedObject = 'deal' | 'contact' | 'company' | 'appointment' | 'none'

/**
 * "a deal", "an email": by the sound that the words begin with; nouns that sound otherwise than they look are none
 * here.
 */
export const article = (words: string): string =>
  `${/^[aeio]/i.test(words) || /^(u[^ns]|un[^i]|hour)/i.test(words) ? 'an' : 'a'} ${words}`

/** "Close date": for labels, titles and the start of a sentence. */
export const capital = (text: string): string => text.charAt(0).toLocaleUpperCase('en') + text.slice(1)
