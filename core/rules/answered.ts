import type { TaskAsks } from '../asks'
import { decisionValues, sayDecision, zDecision } from '../asks/approval'
import { callValues, sayCall, zCallResult } from '../asks/call'
import type { Catalogue } from '../fields/catalogue'
import { sayValue } from '../fields/say-value'
import type { PlacedProblem } from '../language/problems'
import { isEmpty, type Values } from '../language/value'
import type { ObjectKind } from '../records/kinds'
import { questionField, readAnswers } from './questions'

/** What was answered, as steps behind it find it, and in words. */
export interface Answered {
  readonly values: Values
  readonly said: string
}

type Given = Readonly<Record<string, unknown>>

/** Reads what somebody answered when they finished a task; each part that is missing or does not fit with its place. */
export function readAnswered(
  asks: TaskAsks,
  given: Given,
  object: ObjectKind,
  catalogue: Catalogue,
): { readonly answered: Answered } | { readonly problems: readonly PlacedProblem[] } {
  switch (asks.about) {
    case 'call': {
      const read = zCallResult.safeParse(given)
      return read.success
        ? { answered: { values: callValues(read.data), said: sayCall(read.data) } }
        : { problems: problemsOf(read.error.issues) }
    }
    case 'approval': {
      const read = zDecision.safeParse(given)
      return read.success
        ? { answered: { values: decisionValues(read.data), said: sayDecision(read.data) } }
        : { problems: problemsOf(read.error.issues) }
    }
    case 'questions': {
      const { values, problems } = readAnswers(asks.questions, given as Values, object, catalogue)
      if (problems.length > 0) return { problems }
      const said = asks.questions.flatMap((question) => {
        const value = values[question.key] ?? null
        return isEmpty(value)
          ? []
          : [`${question.label} ${sayValue(value, questionField(question, object), catalogue)}`]
      })
      return { answered: { values, said: said.join(' · ') } }
    }
  }
}

const problemsOf = (
  issues: readonly { readonly path: readonly PropertyKey[]; readonly message: string }[],
): readonly PlacedProblem[] =>
  issues.map(({ path, message }) => ({ path: path.join('.'), problem: { code: 'shape', at: '', said: message } }))
