import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { CALL_ENDS, CALL_OUTCOMES, nextTry, triesAgain, type CallAsks } from '../asks/call'
import type { Question } from '../asks/question'
import type { TaskAsks } from '../asks'
import { catalogue } from '../testing/setting'
import { readAnswered } from './answered'
import { zQuestions } from './questions'

const CALL: CallAsks = {
  about: 'call',
  contact: { object: 'contact', id: 3 },
  name: 'Mila',
  number: '+351912000123',
  script: 'Good morning.',
  automatic: false,
  attempt: 1,
  most: 3,
  pauseMs: 3_600_000,
  notBeforeMs: null,
}
const APPROVAL: TaskAsks = { about: 'approval', facts: [{ label: 'Amount', value: '€70,000' }] }
const question = (key: string, type: Question['type'], more: Partial<Question> = {}): Question => ({
  key,
  label: `The ${key}`,
  type,
  choices: [],
  required: false,
  ...more,
})
const QUESTIONS: TaskAsks = {
  about: 'questions',
  facts: [],
  questions: [
    question('units', 'number', { required: true }),
    question('when', 'date'),
    question('why', 'text'),
    question('rush', 'yesNo'),
    question('room', 'choice', { choices: ['Walk-in', 'Trailer'] }),
  ],
}
const read = (asks: TaskAsks, given: Readonly<Record<string, unknown>>) => readAnswered(asks, given, 'deal', catalogue)
/** The places of what is wrong; none where it is taken. */
const places = (asks: TaskAsks, given: Readonly<Record<string, unknown>>): readonly string[] => {
  const answer = read(asks, given)
  return 'problems' in answer ? answer.problems.map(({ path }) => path) : []
}

describe('what came of a call', () => {
  it('is one of its outcomes, with how it ended only where somebody was talked to', () => {
    for (const { id, label } of CALL_OUTCOMES) {
      const answer = read(CALL, { outcome: id, notes: '  two units  ' })
      expect(answer).toEqual({
        answered: {
          values: { outcome: id, ended: null, notes: 'two units', minutes: null },
          said: `${label}. two units`,
        },
      })
      for (const end of CALL_ENDS)
        expect(places(CALL, { outcome: id, ended: end.id })).toEqual(id === 'finished' ? [] : ['ended'])
    }
    expect(read(CALL, { outcome: 'finished', ended: 'interested', minutes: 1 })).toMatchObject({
      answered: { said: 'Talked, 1 minute: Interested' },
    })
  })

  it.each([
    [{}, 'outcome'],
    [{ outcome: 'nonsense' }, 'outcome'],
    [{ outcome: 'finished', ended: 'nonsense' }, 'ended'],
    [{ outcome: 'busy', minutes: -1 }, 'minutes'],
    [{ outcome: 'busy', minutes: 1441 }, 'minutes'],
    [{ outcome: 'busy', notes: 'x'.repeat(4001) }, 'notes'],
    [{ outcome: 'busy', notes: 7 }, 'notes'],
  ])('%o is refused at its place', (given, place) => expect(places(CALL, given)).toEqual([place]))

  it('is tried again while tries are left, and never where somebody was reached', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...CALL_OUTCOMES.map(({ id }) => id)),
        fc.integer({ min: 1, max: 9 }),
        (outcome, most) => {
          let asks: CallAsks | null = { ...CALL, most }
          let tries = 0
          while (asks && tries < 20) {
            tries++
            const next: CallAsks | null = nextTry(asks, outcome, 1000 * tries)
            if (next) expect(next).toEqual({ ...asks, attempt: asks.attempt + 1, notBeforeMs: 1000 * tries })
            asks = next
          }
          expect(tries).toBe(triesAgain(outcome) ? most : 1)
        },
      ),
    )
  })
})

describe('a decision', () => {
  it('needs a reason where it is declined', () => {
    expect(read(APPROVAL, { decision: 'approved' })).toEqual({
      answered: { values: { decision: 'approved', reason: null }, said: 'Approved' },
    })
    expect(read(APPROVAL, { decision: 'declined', reason: ' too high ' })).toEqual({
      answered: { values: { decision: 'declined', reason: 'too high' }, said: 'Declined: too high' },
    })
    for (const given of [{ decision: 'declined' }, { decision: 'declined', reason: '   ' }])
      expect(places(APPROVAL, given)).toEqual(['reason'])
    expect(places(APPROVAL, { decision: 'maybe' })).toEqual(['decision'])
    expect(places(APPROVAL, { decision: 'approved', reason: 'x'.repeat(1001) })).toEqual(['reason'])
  })
})

describe('answers to questions', () => {
  it('are kept in their types and said in words; what was not answered is not said', () => {
    expect(read(QUESTIONS, { units: 2, when: '2026-12-01', room: 'Trailer', rush: true, why: null })).toEqual({
      answered: {
        values: { units: 2, when: '2026-12-01', room: 'Trailer', rush: true, why: null },
        said: 'The units 2 · The when 1 Dec 2026 · The rush yes · The room Trailer',
      },
    })
  })

  it.each([
    [{}, ['units']],
    [{ units: 'two' }, ['units']],
    [{ units: 1, when: 'tomorrow' }, ['when']],
    [{ units: 1, room: 'Cellar' }, ['room']],
    [{ units: 1, rush: 'yes please' }, ['rush']],
    [{ units: 1, colour: 'red' }, ['colour']],
    [{ when: 'never', room: 'Cellar' }, ['units', 'when', 'room']],
  ])('%o is refused, each part at its place', (given, wrong) => {
    expect([...places(QUESTIONS, given)].sort()).toEqual([...wrong].sort())
  })

  it('questions have keys of their own', () => {
    expect(zQuestions.safeParse(QUESTIONS.questions).success).toBe(true)
    const twice = zQuestions.safeParse([question('a', 'text'), question('a', 'number')])
    expect(twice.success).toBe(false)
    expect(twice.error?.issues[0]?.path).toEqual([1, 'key'])
    expect(zQuestions.safeParse([question('7', 'text')]).success).toBe(false)
    expect(zQuestions.safeParse([question('a', 'text', { label: '  ' })]).success).toBe(false)
  })
})
