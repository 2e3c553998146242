import { listOf } from '../../../language/counts'
import { z } from 'zod'
import { FIELD_TYPES } from '../../../fields/types'
import { isEmpty, type Value, type Values } from '../../../language/value'
import { PLAIN_STYLE } from '../../../fields/kind'
import type { Field } from '../../../fields/field'
import type { Catalogue } from '../../../fields/catalogue'
import type { PlacedProblem } from '../../../language/problems'
import { OBJECTS, type ObjectKind, aOne } from '../../../records/kinds'
import { BY_HAND } from '../../../signals/hand'
import { defineTrigger } from '../../trigger'
import { say, word, extra } from '../../../language/sentence'
import { fieldWord } from '../../../fields/say-value'
import type { ResultSpec } from '../../result-spec'

export const QUESTION_TYPES = ['text', 'number', 'date', 'yesNo', 'choice'] as const
export const QUESTIONS_MOST = 20
export const FACTS_MOST = 20

/** What somebody who presses the button is asked. */
export interface Question {
  /** How steps name the answer; letters and digits, permanent. */
  readonly key: string
  readonly label: string
  readonly type: (typeof QUESTION_TYPES)[number]
  /** For a choice: what can be answered. */
  readonly choices: readonly string[]
  readonly required: boolean
}

export interface ByHandParams {
  /** The words on the button. */
  readonly button: string
  /** Fields of the record that are shown beside the questions. */
  readonly facts: readonly string[]
  readonly questions: readonly Question[]
}

const zQuestion: z.ZodType<Question> = z.strictObject({
  key: z.string().regex(/^[A-Za-z][A-Za-z\d]{0,39}$/),
  label: z.string().trim().min(1).max(200),
  type: z.enum(QUESTION_TYPES),
  choices: z.array(z.string().trim().min(1).max(100)).max(50),
  required: z.boolean(),
})

const zQuestions = z
  .array(zQuestion)
  .max(QUESTIONS_MOST)
  .superRefine((questions, context) => {
    const keys = questions.map((one) => one.key)
    const twice = keys.findIndex((key, i) => keys.indexOf(key) !== i)
    if (twice >= 0)
      context.addIssue({ code: 'custom', path: [twice, 'key'], message: `Question “${keys[twice]}” is used twice.` })
  })

/** A question as a field, for its editor and its checks. */
export const questionField = ({ key, label, type, choices, required }: Question, object: ObjectKind): Field => ({
  id: 0,
  object,
  key,
  label,
  type,
  description: '',
  keptBy: null,
  required,
  choices: choices.map((one) => ({ id: one, label: one })),
  currencyKey: null,
  synonyms: null,
})

/** The answers in the form in which steps find them; each that is missing or does not fit with its place. */
export function readAnswers(
  questions: readonly Question[],
  given: Values,
  object: ObjectKind,
  catalogue: Catalogue,
): { readonly values: Values; readonly problems: readonly PlacedProblem[] } {
  const values: Record<string, Value> = {}
  const problems: PlacedProblem[] = Object.keys(given)
    .filter((key) => !questions.some((one) => one.key === key))
    .map((key) => ({ path: key, problem: { code: 'shape', detail: 'There is no such question.' } }))
  for (const question of questions) {
    const field = questionField(question, object)
    const read = FIELD_TYPES[question.type].accept(given[question.key] ?? null, {
      catalogue,
      field,
      style: PLAIN_STYLE,
      pipelineId: null,
    })
    if (!read.ok) problems.push({ path: question.key, problem: read.problem })
    else if (question.required && isEmpty(read.value))
      problems.push({ path: question.key, problem: { code: 'required', field: question.label } })
    else values[question.key] = read.value
  }
  return { values, problems }
}

export const answersOf = (questions: readonly Question[]): readonly ResultSpec[] =>
  questions.map(({ key, label, type, choices }) => ({
    key,
    label,
    type,
    choices: choices.map((one) => ({ id: one, label: one })),
  }))

/** Somebody presses a button: on a record, or for all records of a selection. */
export const byHand = defineTrigger<'byHand', ByHandParams>({
  kind: 'byHand',
  does: 'someone runs it by hand',
  hint: 'Adds a button to records and lists. It can show facts and ask questions; steps can use the answers.',
  objects: OBJECTS,
  params: z.strictObject({
    button: z.string().trim().max(60),
    facts: z.array(z.string().max(100)).max(FACTS_MOST),
    questions: zQuestions,
  }),
  form: {
    button: { widget: 'words', most: 60, label: 'Button label' },
    facts: { widget: 'fields' },
    questions: { widget: 'questions' },
  },
  start: { button: '', facts: [], questions: [] },
  sentence({ button, facts, questions }, { catalogue, object }) {
    const shown = facts.map((key) => fieldWord(catalogue.field(object, key)) ?? key)
    return [
      say('someone presses “'),
      word('button', button, 'button label'),
      say(`” on ${aOne(object)}`),
      say(shown.length > 0 ? ', who sees its ' : ', '),
      extra('facts', shown.length > 0 ? listOf(shown) : 'no facts shown', shown.length === 0),
      say(questions.length > 0 ? ', and is asked ' : ', '),
      {
        param: 'questions',
        text: questions.length > 0 ? listOf(questions.map((one) => `“${one.label}”`)) : 'no questions',
        usual: questions.length === 0,
      },
    ]
  },
  check({ button, facts, questions }, { catalogue, object }) {
    const gone = facts.find((key) => !catalogue.field(object, key))
    const bare = questions.find((one) => one.type === 'choice' && one.choices.length === 0)
    return [
      ...(button === '' ? [{ param: 'button', problem: { code: 'missing' as const, what: 'button' as const } }] : []),
      ...(gone === undefined ? [] : [{ param: 'facts', problem: { code: 'unknownField' as const, field: gone } }]),
      ...(bare
        ? [
            {
              param: 'questions',
              problem: { code: 'noAnswers' as const, question: bare.label },
            },
          ]
        : []),
    ]
  },
  listen: () => [BY_HAND],
  compile: () => (event) => event.kind === 'started',
  gives: ({ questions }) => answersOf(questions),
  because: ({ button }) => `“${button}” was pressed`,
  examples: [
    {
      say: 'a press',
      object: 'deal',
      params: { button: 'Hand over', facts: [], questions: [] },
      event: { kind: 'started', changes: [] },
      starts: true,
    },
    {
      say: 'a change',
      object: 'deal',
      params: {
        button: 'Hand over',
        facts: ['amount'],
        questions: [{ key: 'why', label: 'Why?', type: 'text', choices: [], required: true }],
      },
      event: { kind: 'changed', changes: [{ field: 'amount', old: 1, new: 2 }] },
      starts: false,
    },
  ],
})
