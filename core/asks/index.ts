import type { ApprovalAsks } from './approval'
import type { CallAsks } from './call'
import type { Fact, Question } from './question'

/** What somebody is asked for when they finish a task: it is done with the answer, and not before. */

export interface QuestionsAsks {
  readonly about: 'questions'
  readonly facts: readonly Fact[]
  readonly questions: readonly Question[]
}

export type TaskAsks = QuestionsAsks | ApprovalAsks | CallAsks
