import { describe, expect, it } from 'vitest'
import { OPERATORS } from '../conditions/operators'
import { linkedSentence, sayLinked } from '../conditions/linked'
import { OBJECTS, OBJECT_WORDS } from '../records/kinds'
import { catalogue, names } from './setting'
import { STEPS } from '../rules/steps'
import { TRIGGERS } from '../rules/triggers'
import { count, countOrNone, figure, listOf, listSome, nounOf, percent, plural } from '../language/counts'
import { PARAM_LABELS } from '../language/labels'
import { MISSING } from '../language/missing'
import { article, capital, NOUNS, type Noun } from '../language/nouns'
import { sayProblem, type Problem } from '../language/problems'
import { sayFail, saySkip, sayStop, type FailReason, type SkipReason, type StopReason } from '../language/reasons'
import { extra, foldUsual, plainSentence, say, usualWords, word } from '../language/sentence'
import { sayInUse } from '../language/uses'

const NUMBERS = [0, 1, 2, 1000]
const KINDS = ['deal', 'contact', 'company'] as const
/** Words that went: each has a plain one in its place. */
const OLD =
  /\b(somebody|nobody|anybody|everybody|worked out|hardly meant|let it stand|such that|counts as open|put away|take it out|still to be chosen|holds no|names it|stands twice|the firm)\b/i

/** Every message with every number, by code. */
const problems: readonly Problem[] = [
  ...(
    [
      'notANumber',
      'notADate',
      'notAnInstant',
      'notYesNo',
      'notAnEmail',
      'notAPhone',
      'notALink',
      'unknownPerson',
    ] as const
  ).map((code) => ({ code, raw: 'plenty' })),
  { code: 'unknownPipeline', raw: 'plenty' },
  ...NUMBERS.flatMap((n): Problem[] => [
    { code: 'tooLong', length: n + 1, most: n },
    { code: 'limit', what: 'row', most: n },
    { code: 'severalRecords', name: 'Lund', count: n },
    { code: 'sameRow', row: n },
    { code: 'notAChoice', raw: 'x', choices: Array.from({ length: Math.min(n, 20) }, (_, i) => `c${i}`) },
  ]),
  { code: 'unknownStage', raw: 'x', stages: ['Sized', 'Quoted'] },
  { code: 'severalStages', raw: 'Quoted', pipelines: ['Hire', 'Renewals'] },
  { code: 'wrongType', type: 'email' },
  { code: 'unknownField', field: 'colour' },
  { code: 'dateAndTime', time: 'Created' },
  { code: 'cannotCompare', field: 'Margin', other: 'Name' },
  { code: 'readOnly', field: 'Pipeline', keptBy: 'set from the stage' },
  { code: 'required', field: 'Name' },
  { code: 'unknownOperator', op: 'is more than', type: 'text' },
  ...(Object.keys(MISSING) as (keyof typeof MISSING)[]).map((what): Problem => ({ code: 'missing', what })),
  { code: 'noAnswers', question: 'Why?' },
  { code: 'brokenMerge', raw: '{{deal.name}' },
  { code: 'unknownMerge', name: 'deal.x' },
  { code: 'unknownRecord', object: 'deal', raw: 'Lund' },
  { code: 'unknownZone', raw: 'Lisbon time' },
  { code: 'noOwner' },
  { code: 'onePerson' },
  ...KINDS.flatMap((object): Problem[] => [
    { code: 'notFor', what: 'create a task', object },
    { code: 'notLinked', object, to: 'company' },
    { code: 'noMain', object, to: 'deal' },
    { code: 'otherSegment', segment: 'Large', of: object, object: 'deal' },
  ]),
  { code: 'notADateField', field: 'Amount' },
  { code: 'noTimeOfDay', field: 'Expected close' },
  { code: 'noTimeLimit' },
  { code: 'noOrder', row: 1, field: 'Kind' },
  { code: 'notInColumn', row: 1, raw: 'much', type: 'number' },
  { code: 'cannotAdd', type: 'choice' },
  { code: 'resultMisfit', gives: 'a number', field: 'Kind', type: 'choice' },
  { code: 'notComparable', one: 'Email', other: 'Amount' },
  { code: 'compareBy', one: 'Email', other: 'Domain', by: ['the domain', 'the whole'] },
  { code: 'noTeam', team: 'Hire' },
  { code: 'noTerritories' },
  { code: 'noQueue' },
]
const skips: readonly SkipReason[] = [
  { code: 'alreadyThere', stage: 'Terms' },
  { code: 'otherPipeline', stage: 'Talking', pipeline: 'Enquiries' },
  { code: 'backwards', from: 'Terms', to: 'Sized' },
  { code: 'openBeside', deal: 'Two rooms' },
  { code: 'sameValue', field: 'Amount' },
  { code: 'setByHand', field: 'Amount', value: '€4' },
  { code: 'nobody', field: 'Owner' },
  { code: 'left', person: 'Piet' },
  { code: 'noPerson', person: 'gone' },
  { code: 'allAway' },
  { code: 'noCompany' },
  { code: 'noTerritory', company: 'Lund' },
  { code: 'inQueue' },
  { code: 'owned', person: 'Jude' },
  { code: 'stillOpen', title: 'Call' },
  { code: 'openThere', deal: 'Two rooms' },
  { code: 'linkedAlready', name: 'Lund' },
  { code: 'nothingToMatch', field: 'Email' },
  { code: 'ignored', form: 'post.example' },
  { code: 'noRecordType' },
  { code: 'noPath' },
  { code: 'noRow', saw: 'amount €5' },
  { code: 'emptyField', field: 'Expected close' },
  { code: 'onlyOwn' },
  { code: 'recordDeleted' },
  ...KINDS.flatMap((to): SkipReason[] => [
    { code: 'hasLink', to },
    { code: 'noLinks', to },
    { code: 'noMatch', to, form: 'lund.example' },
    ...NUMBERS.map((n): SkipReason => ({ code: 'noneMeets', to, count: n })),
    ...NUMBERS.map((n): SkipReason => ({
      code: 'severalMatch',
      to,
      form: 'lund.example',
      count: n,
      names: ['A', 'B'],
    })),
  ]),
]
const fails: readonly FailReason[] = [
  { code: 'unknownField', field: 'x' },
  { code: 'unknownStage', stage: 'x' },
  { code: 'unknownPerson', person: 'x' },
  { code: 'noRecordType' },
  { code: 'severalRows', rows: [1, 2], saw: 'amount €5' },
  { code: 'recordDeleted' },
  { code: 'notCreated' },
  { code: 'refused', reason: 'Name is required.' },
  { code: 'unexpected', reason: 'x' },
]
const stops: readonly StopReason[] = [
  { code: 'conditions' },
  { code: 'circle', runId: 5 },
  ...NUMBERS.map((depth): StopReason => ({ code: 'tooDeep', depth })),
  { code: 'recordGone' },
  { code: 'noLonger' },
  { code: 'missed', atMs: 0, say: 'it was due on 10 Dec 2026, 8:30 while the server was down' },
]

/** What is wrong with a message, if anything: a part is missing, a blank or a prefix is doubled, a word went. */
function wrongIn(text: string): string | null {
  if (/undefined|null|NaN|\[object|\$\{/.test(text)) return 'a part is missing'
  if (/ {2}|\.\.|,,| [.,;:]/.test(text)) return 'blanks or marks are doubled'
  if (/(^|: )(\w+): \2:/.test(text)) return 'a prefix is doubled'
  if (OLD.test(text)) return `an old word: ${OLD.exec(text)?.[0] ?? ''}`
  if (/\b1 (?!of)(\w+ )?(rows|records|deals|companies|changes|characters)\b/.test(text)) return 'one of several'
  if (/(?<![\d,])1 \w+ (are|match|have)\b/.test(text)) return 'a verb that does not agree'
  return null
}

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
          expect(OLD.test(said)).toBe(false)
        }
        expect(OLD.test(whole)).toBe(false)
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
