/**
 * Everything that can be wrong with what somebody typed, sent or imported. Problems are values: they carry a
 * code and the facts; the wording lives in `sayProblem`, so that a screen, the API and a log say the same.
 */
export type Problem =
  | { readonly code: 'notANumber'; readonly raw: string }
  | { readonly code: 'notADate'; readonly raw: string }
  | { readonly code: 'notAnInstant'; readonly raw: string }
  | { readonly code: 'notYesNo'; readonly raw: string }
  | { readonly code: 'notAnEmail'; readonly raw: string }
  | { readonly code: 'notAPhone'; readonly raw: string }
  | { readonly code: 'notALink'; readonly raw: string }
  | { readonly code: 'tooLong'; readonly length: number; readonly most: number }
  | { readonly code: 'notAChoice'; readonly raw: string; readonly choices: readonly string[] }
  | { readonly code: 'unknownPerson'; readonly raw: string }
  | { readonly code: 'unknownStage'; readonly raw: string; readonly stages: readonly string[] }
  | { readonly code: 'severalStages'; readonly raw: string; readonly pipelines: readonly string[] }
  | { readonly code: 'unknownPipeline'; readonly raw: string }
  | { readonly code: 'wrongType'; readonly type: string }
  | { readonly code: 'unknownField'; readonly field: string }
  | { readonly code: 'readOnly'; readonly field: string; readonly keptBy: string }
  | { readonly code: 'required'; readonly field: string }
  | { readonly code: 'unknownOperator'; readonly op: string; readonly type: string }
  | { readonly code: 'missing'; readonly what: string }
  | { readonly code: 'limit'; readonly what: string; readonly most: number }
  | { readonly code: 'unknownMerge'; readonly name: string }
  | { readonly code: 'sameRow'; readonly row: number }
  | { readonly code: 'severalRecords'; readonly name: string; readonly count: number }
  | { readonly code: 'unknownRecord'; readonly object: string; readonly raw: string }
  | { readonly code: 'brokenRow'; readonly detail: string }
  | { readonly code: 'shape'; readonly detail: string }

/** A problem with the place it was found: a field key, a path into a document, or a column heading. */
export interface PlacedProblem {
  readonly path: string
  readonly problem: Problem
}

/** Texts from outside are quoted short, so that a cell of thousands of letters does not drown the reason. */
function quote(raw: string): string {
  const line = raw.replace(/\s+/g, ' ').trim()
  return line.length > 60 ? `“${line.slice(0, 57)}…”` : `“${line}”`
}

function listSome(items: readonly string[], most = 8): string {
  return items.length > most ? `${items.slice(0, most).join(', ')} and ${items.length - most} more` : items.join(', ')
}

/** The problem in words, without its place. */
export function sayProblem(problem: Problem): string {
  switch (problem.code) {
    case 'notANumber':
      return `${quote(problem.raw)} is not a number`
    case 'notADate':
      return `${quote(problem.raw)} is not a date`
    case 'notAnInstant':
      return `${quote(problem.raw)} is not a date with a time`
    case 'notYesNo':
      return `${quote(problem.raw)} is neither yes nor no`
    case 'notAnEmail':
      return `${quote(problem.raw)} is not an email address`
    case 'notAPhone':
      return `${quote(problem.raw)} is not a phone number with its country code`
    case 'notALink':
      return `${quote(problem.raw)} is not a web address`
    case 'tooLong':
      return `${problem.length.toLocaleString('en')} characters are too many; at most ${problem.most.toLocaleString('en')} fit`
    case 'notAChoice':
      return `${quote(problem.raw)} is not one of ${listSome(problem.choices)}`
    case 'unknownPerson':
      return `nobody here is called ${quote(problem.raw)}`
    case 'unknownStage':
      return `${quote(problem.raw)} is not a stage; there are ${listSome(problem.stages, 12)}`
    case 'severalStages':
      return `${quote(problem.raw)} is a stage of ${problem.pipelines.join(' and of ')}; say which pipeline`
    case 'unknownPipeline':
      return `${quote(problem.raw)} is not a pipeline`
    case 'wrongType':
      return `this value does not fit a field of the type ${problem.type}`
    case 'unknownField':
      return `there is no field ${quote(problem.field)}`
    case 'readOnly':
      return `${problem.field} cannot be written: ${problem.keptBy}`
    case 'required':
      return `${problem.field} must not be empty`
    case 'unknownOperator':
      return `“${problem.op}” cannot be asked of a field of the type ${problem.type}`
    case 'missing':
      return `${problem.what} is still to be chosen`
    case 'limit':
      return `at most ${problem.most} ${problem.what}`
    case 'unknownMerge':
      return `there is no merge field {{${problem.name}}}`
    case 'sameRow':
      return `the same record stands in row ${problem.row} already`
    case 'severalRecords':
      return `${problem.count} records are called ${quote(problem.name)}; give the reference or the company`
    case 'unknownRecord':
      return `there is no ${problem.object} ${quote(problem.raw)}`
    case 'brokenRow':
      return problem.detail
    case 'shape':
      return problem.detail
  }
}

/** Either a value or the reason why there is none. */
export type Result<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly problem: Problem }

export const good = <T>(value: T): Result<T> => ({ ok: true, value })
export const bad = (problem: Problem): Result<never> => ({ ok: false, problem })
