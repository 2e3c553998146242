import { describe, expect, it } from 'vitest'
import { OPERATORS } from '../conditions/operators'
import { linkedSentence, sayLinked } from '../conditions/linked'
import { OBJECTS, OBJECT_WORDS } from '../records/kinds'
import { coded, NUMBERS, old, wrongIn } from './messages'
import { catalogue, names } from './setting'
import { STEPS } from '../rules/steps'
import { TRIGGERS } from '../rules/triggers'
import { count, countOrNone, figure, listOf, listSome, nounOf, percent, plural } from '../language/counts'
import { PARAM_LABELS } from '../language/labels'
import { MISSING } from '../language/missing'
import { article, capital, NOUNS, type Noun } from '../language/nouns'
import { sayProblem, type Problem } from '../language/problems'
import type { Refusal } from '../language/refusals'
import { sayFail, saySkip, sayStop, type FailReason, type SkipReason, type StopReason } from '../language/reasons'
import { extra, foldUsual, plainSentence, say, usualWords, word } from '../language/sentence'
import { sayInUse } from '../language/uses'

const KINDS = ['deal', 'contact', 'company'] as const

const letters = (n: number): readonly string[] => Array.from({ length: Math.min(n, 20) }, (_, i) => `c${i}`)
const raw = [{ raw: 'plenty' }, { raw: 'x'.repeat(200) }]

/** Every message with every number, by code. */
const problems = coded<Exclude<Problem, Refusal>>({
  notANumber: raw,
  notADate: raw,
  notAnInstant: raw,
  notYesNo: raw,
  notAnEmail: raw,
  notAPhone: raw,
  notALink: raw,
  tooLong: NUMBERS.map((n) => ({ length: n + 1, most: n })),
  notAChoice: NUMBERS.map((n) => ({ raw: 'x', choices: letters(n) })),
  unknownPerson: raw,
  unknownStage: NUMBERS.map((n) => ({ raw: 'x', stages: letters(Math.max(1, n)) })),
  severalStages: [{ raw: 'Quoted', pipelines: ['Hire', 'Renewals'] }],
  unknownPipeline: raw,
  wrongType: [{ type: 'email' }, { type: 'text' }],
  unknownField: [{ field: 'colour' }],
  unknownActivity: [{ name: 'visit' }],
  dateAndTime: [{ time: 'Created' }],
  cannotCompare: [{ field: 'Margin', other: 'Name' }],
  readOnly: [{ field: 'Pipeline', keptBy: 'set from the stage' }],
  required: [{ field: 'Name' }],
  unknownOperator: [{ op: 'is more than', type: 'text' }],
  missing: (Object.keys(MISSING) as (keyof typeof MISSING)[]).map((what) => ({ what })),
  noAnswers: [{ question: 'Why?' }],
  limit: NUMBERS.flatMap((most) => (Object.keys(NOUNS) as Noun[]).map((what) => ({ what, most }))),
  notFor: KINDS.map((object) => ({ what: 'create a task', object })),
  notLinked: KINDS.map((object) => ({ object, to: 'company' })),
  noMain: KINDS.map((object) => ({ object, to: 'deal' })),
  notADateField: [{ field: 'Amount' }],
  noTimeOfDay: [{ field: 'Expected close' }],
  noTimeLimit: [{}],
  cannotWait: [{ why: 'linked' }, { why: 'deleted' }],
  noOrder: [{ row: 1, field: 'Kind' }],
  notInColumn: [{ row: 1, raw: 'much', type: 'number' }],
  cannotAdd: [{ type: 'choice' }],
  noRate: [{ currency: 'SEK' }],
  notTrueOrFalse: [{ gives: 'a number' }],
  resultMisfit: [{ gives: 'a number', field: 'Kind', type: 'choice' }],
  notComparable: [{ one: 'Email', other: 'Amount' }],
  compareBy: [{ one: 'Email', other: 'Domain', by: ['the domain', 'the whole'] }],
  otherSegment: KINDS.map((of) => ({ segment: 'Large', of, object: 'deal' })),
  noTeam: [{ team: 'Hire' }],
  noTerritories: [{}],
  noQueue: [{}],
  unknownMerge: [{ name: 'deal.x' }],
  brokenMerge: [{ raw: '{{deal.name}' }],
  sameRow: NUMBERS.map((row) => ({ row })),
  severalRecords: NUMBERS.map((n) => ({ name: 'Lund', count: n })),
  unknownRecord: [{ object: 'deal', raw: 'Lund' }],
  unknownZone: [{ raw: 'Lisbon time' }],
  noOwner: [{}],
  onePerson: [{}],
  brokenRow: [{ detail: 'The row has 3 cells instead of 4.' }],
})
const skips = coded<SkipReason>({
  alreadyThere: [{ stage: 'Terms' }],
  otherPipeline: [{ stage: 'Talking', pipeline: 'Enquiries' }],
  backwards: [{ from: 'Terms', to: 'Sized' }],
  openBeside: [{ deal: 'Two rooms' }, { deal: 'Two rooms', of: 'contact' }, { deal: 'Two rooms', of: 'either' }],
  sameValue: [{ field: 'Amount' }],
  setByHand: [{ field: 'Amount', value: '€4' }],
  nobody: [{ field: 'Owner' }],
  left: [{ person: 'Piet' }],
  noPerson: [{ person: 'gone' }],
  allAway: [{}],
  noCompany: [{}],
  noTerritory: [{ company: 'Lund' }],
  inQueue: [{}],
  owned: [{ person: 'Jude' }],
  stillOpen: [{ title: 'Call' }],
  openThere: [{ deal: 'Two rooms' }],
  linkedAlready: [{ name: 'Lund' }],
  hasLink: KINDS.map((to) => ({ to })),
  nothingToMatch: [{ field: 'Email' }],
  ignored: [{ form: 'post.example' }],
  noMatch: KINDS.map((to) => ({ to, form: 'lund.example' })),
  severalMatch: KINDS.flatMap((to) => NUMBERS.map((n) => ({ to, form: 'lund.example', count: n, names: ['A', 'B'] }))),
  nothingCame: [{ field: 'Margin' }],
  noLinks: KINDS.map((to) => ({ to })),
  noneMeets: KINDS.flatMap((to) => NUMBERS.map((n) => ({ to, count: n }))),
  noRecordType: [{}],
  noPath: [{}],
  noRow: [{ saw: 'amount €5' }],
  emptyField: [{ field: 'Expected close' }],
  onlyOwn: [{}],
  recordDeleted: [{}],
  noAddress: [{ name: 'Odile Marchand', field: 'email' }],
  bounced: [{ address: 'odile@lund.example' }],
  own: [{ say: 'the quote is old' }],
})
const fails = coded<FailReason>({
  unknownField: [{ field: 'x' }],
  unknownStage: [{ stage: 'x' }],
  unknownPerson: [{ person: 'x' }],
  noRecordType: [{}],
  severalRows: [{ rows: [1, 2], saw: 'amount €5' }],
  recordDeleted: [{}],
  notCreated: [{}],
  refused: [{ reason: 'Name is required.' }],
  cannotWait: [{ why: 'linked' }, { why: 'deleted' }],
  notDelivered: [{ recipient: 'jude@harbour.example', reason: 'the mailbox is full' }],
  formula: (
    [
      { code: 'dividedByZero' },
      { code: 'outOfRange' },
      ...NUMBERS.map((most) => ({ code: 'tooLong', most }) as const),
      { code: 'unfit', name: 'date()', given: 'a number' },
    ] as const
  ).map((fault) => ({ field: 'Margin', fault })),
  unexpected: [{ reason: 'x' }],
})
const stops = coded<StopReason>({
  conditions: [{}],
  repeats: [{ say: 'it already went through this rule' }],
  circle: [{ runId: 5 }],
  sameChange: [{ runId: 5 }],
  tooDeep: NUMBERS.map((depth) => ({ depth })),
  recordGone: [{}],
  missed: [{ atMs: 0, say: 'it was due on 10 Dec 2026, 8:30 while the server was down' }],
  calledOff: [{ say: 'Ines Calloway ended it' }],
  leftAlone: [{}],
  noLonger: [{}],
  ended: [{ say: 'the customer answered' }],
  unreadable: [{}],
})

describe('messages', () => {
  it('say every problem as one whole sentence', () => {
    for (const problem of problems) {
      const said = sayProblem(problem)
      expect([said, wrongIn(said)]).toEqual([said, null])
      // What is missing is told beside its place, as a label tells it: without a full stop.
      const ends = problem.code === 'missing' || problem.code === 'noAnswers' ? /[^.]$/ : /[.]$/
      expect(said).toMatch(ends)
      expect(said).toMatch(/^[\p{Lu}“\d]/u)
    }
  })
  it('say every reason without the state that is put in front of it', () => {
    for (const said of [...skips.map(saySkip), ...fails.map(sayFail), ...stops.map(sayStop)]) {
      expect([said, wrongIn(said)]).toEqual([said, null])
      expect(said).not.toMatch(/^(skipped|failed|stopped|ended|missed)\b|\.$(?<!required\.)/)
    }
  })
  it('take the state off reasons that were kept with it', () => {
    expect(sayStop({ code: 'ended', say: 'missed: it was due' })).toBe('it was due')
    expect(sayStop({ code: 'missed', atMs: 0, say: 'ended: missed: it was due' })).toBe('it was due')
  })
  it('say what uses something, for one, several and many', () => {
    expect(sayInUse('Fit tier', 'archived', { rules: ['X'] })).toBe(
      '“Fit tier” can’t be archived: it is used by rule “X”. Remove it there first.',
    )
    expect(sayInUse('Fit tier', 'archived', { rules: ['X', 'Y'] })).toContain('used by rules “X” and “Y”.')
    expect(sayInUse('Sized', 'removed', { rules: Array.from({ length: 9 }, (_, i) => `R${i}`) })).toContain(
      'and 4 more.',
    )
    for (const by of [{ segment: 'S' }, { territory: 'T' }, { scorecard: 'C' }, { field: 'F' }])
      expect(wrongIn(sayInUse('x', 'deleted', by))).toBeNull()
  })
})

describe('counts', () => {
  it.each(Object.keys(NOUNS) as Noun[])('agree for %s', (noun) => {
    const { one, many } = NOUNS[noun]
    expect(NUMBERS.map((n) => count(n, noun))).toEqual([`0 ${many}`, `1 ${one}`, `2 ${many}`, `1,000 ${many}`])
    expect(countOrNone(0, noun)).toBe(`No ${many}`)
    expect(NUMBERS.map((n) => nounOf(n, noun))).toEqual([many, one, many, many])
  })
  it('write figures, shares, verbs and lists', () => {
    expect([figure(1204), percent(0.62), percent(0)]).toEqual(['1,204', '62%', '0%'])
    expect(NUMBERS.map((n) => plural(n, 'meets', 'meet'))).toEqual(['meet', 'meets', 'meet', 'meet'])
    expect([listOf([]), listOf(['a']), listOf(['a', 'b']), listOf(['a', 'b', 'c'], 'or')]).toEqual([
      '',
      'a',
      'a and b',
      'a, b or c',
    ])
    expect([listSome(['a', 'b', 'c']), listSome(['a', 'b', 'c', 'd', 'e'])]).toEqual([
      'a, b and c',
      'a, b, c and 2 more',
    ])
  })
  it('put the article by the sound', () => {
    for (const [noun, said] of [
      ['deal', 'a deal'],
      ['email', 'an email'],
      ['appointment', 'an appointment'],
      ['hour', 'an hour'],
      ['unit', 'a unit'],
      ['user', 'a user'],
      ['open task', 'an open task'],
    ] as const)
      expect(article(noun)).toBe(said)
    expect(capital('close date')).toBe('Close date')
  })
})

describe('sentences', () => {
  it('of every step and trigger read right for each kind of record, folded and whole', () => {
    for (const object of OBJECTS)
      for (const kind of [...Object.values(STEPS), ...Object.values(TRIGGERS)]) {
        if (!kind.objects.includes(object)) continue
        const parts = kind.sentence(kind.start, names(object))
        const whole = parts.map((part) => ('text' in part ? part.text : ' ')).join('')
        for (const said of [plainSentence(parts), plainSentence(foldUsual(parts))]) {
          expect([said, /undefined|null|NaN| {2}|,,| ,|^[,;]|[,;]$/.exec(said)?.[0]]).toEqual([said, undefined])
          expect(old(said)).toBeNull()
        }
        expect(old(whole)).toBeNull()
        for (const one of usualWords(parts)) expect(plainSentence(parts)).not.toContain(`, ${one}`)
      }
  })
  it('have a label for every word that can be set', () => {
    const params = [
      ...[...Object.values(STEPS), ...Object.values(TRIGGERS)].flatMap((kind) => Object.keys(kind.form)),
      ...Object.values(OPERATORS).flatMap((operator) => Object.keys(operator.form)),
    ]
    expect(params.filter((param) => !(param in PARAM_LABELS))).toEqual([])
  })
  it('fold what is usual with the comma that led to it, and never what differs', () => {
    const sentence = (usual: boolean) => [
      say('create a task'),
      say(', '),
      extra('priority', 'normal priority', usual),
      say(', '),
      extra('remind', 'no reminder', true),
      { break: true } as const,
      say('“'),
      word('title', 'Call', ''),
      say('”'),
      { break: true } as const,
      extra('notes', 'add notes', true),
    ]
    expect(plainSentence(sentence(true))).toBe('create a task. “Call”')
    expect(plainSentence(sentence(false))).toBe('create a task, normal priority. “Call”')
    expect(usualWords(sentence(true))).toEqual(['normal priority', 'no reminder', 'add notes'])
  })
  it('ask linked records of 0, 1, 2 and 1,000', () => {
    const group = { kind: 'group', id: 'c1', mode: 'all', items: [] } as const
    for (const object of OBJECTS)
      for (const how of ['any', 'none', 'every', 'main', 'atLeast'] as const)
        for (const n of NUMBERS) {
          const linked = { kind: 'linked', id: 'c0', how, count: n, object, group } as const
          const said = plainSentence(linkedSentence(linked, 'deal', catalogue))
          expect([said, wrongIn(said)]).toEqual([said, null])
          expect(sayLinked(linked, 0, n)).toContain(n === 0 ? `no ${OBJECT_WORDS[object].many}` : count(n, object))
        }
  })
})
