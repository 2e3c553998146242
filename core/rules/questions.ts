import { z } from 'zod'
import { QUESTION_TYPES, type Fact, type Question } from '../asks/question'
import { FIELD_TYPES } from '../fields/types'
import { PLAIN_STYLE } from '../fields/kind'
import type { Field } from '../fields/field'
import type { Catalogue } from '../fields/catalogue'
import type { PlacedProblem } from '../language/problems'
import { listOf } from '../language/counts'
import { extra, type SentencePart } from '../language/sentence'
import { isEmpty, type Value, type Values } from '../language/value'
import { fieldWord, sayValue } from '../fields/say-value'
import type { Names } from '../fields/names'
import type { StepProblem } from './step'
import type { ObjectKind } from '../records/kinds'
import type { ResultSpec } from './result-spec'

/** Questions that rules ask of people, and their answers. */

const QUESTIONS_MOST = 20
export const FACTS_MOST = 20
export { QUESTION_TYPES, type Question }

export const zQuestion: z.ZodType<Question> = z.strictObject({
  key: z.string().regex(/^[A-Za-z][A-Za-z\d]{0,39}$/),
  label: z.string().trim().min(1).max(200),
  type: z.enum(QUESTION_TYPES),
  choices: z.array(z.string().trim().min(1).max(100)).max(50),
  required: z.boolean(),
})

export const zQuestions = z
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
    .map((key) => ({ path: key, problem: { code: 'noSuchQuestion' } }))
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

/** Some fields of a record, to be read beside the questions. */
export const factsOf = (
  keys: readonly string[],
  object: ObjectKind,
  values: Values,
  catalogue: Catalogue,
): readonly Fact[] =>
  keys.flatMap((key) => {
    const field = catalogue.field(object, key)
    const value = values[key] ?? null
    return field
      ? [{ label: field.label, value: isEmpty(value) ? '–' : sayValue(value, field, catalogue, values) }]
      : []
  })

/** "amount and stage", or that there are none; behind "who sees its". */
export function sayFacts(facts: readonly string[], { catalogue, object }: Names): SentencePart {
  const shown = facts.map((key) => fieldWord(catalogue.field(object, key)) ?? key)
  return extra('facts', shown.length > 0 ? listOf(shown) : 'no facts shown', shown.length === 0)
}

/** The questions in their order; behind "is asked". */
export const sayQuestions = (questions: readonly Question[]): SentencePart => ({
  param: 'questions',
  text: questions.length > 0 ? listOf(questions.map((one) => `“${one.label}”`)) : 'no questions',
  usual: questions.length === 0,
})

export function checkQuestions(
  facts: readonly string[],
  questions: readonly Question[],
  { catalogue, object }: Names,
): readonly StepProblem[] {
  const gone = facts.find((key) => !catalogue.field(object, key))
  const bare = questions.find((one) => one.type === 'choice' && one.choices.length === 0)
  return [
    ...(gone === undefined ? [] : [{ param: 'facts', problem: { code: 'unknownField' as const, field: gone } }]),
    ...(bare ? [{ param: 'questions', problem: { code: 'noAnswers' as const, question: bare.label } }] : []),
  ]
}
