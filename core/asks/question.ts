export const QUESTION_TYPES = ['text', 'number', 'date', 'yesNo', 'choice'] as const

/** What somebody is asked: whoever presses the button of a rule, or is asked by one of its steps. */
export interface Question {
  /** How steps name the answer; letters and digits, permanent. */
  readonly key: string
  readonly label: string
  readonly type: (typeof QUESTION_TYPES)[number]
  /** For a choice: what can be answered. */
  readonly choices: readonly string[]
  readonly required: boolean
}

/** Something about the record, shown beside the questions. */
export interface Fact {
  readonly label: string
  readonly value: string
}
