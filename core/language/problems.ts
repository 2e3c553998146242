import { count, figure, listOf, listSome, plural } from './counts'
import { MISSING, type Missing } from './missing'
import { article, capital, NOUNS, type CountedObject, type Noun } from './nouns'
import { sayRefusal, type Refusal } from './refusals'

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
  | { readonly code: 'unknownActivity'; readonly name: string }
  /** A date beside a point in time. */
  | { readonly code: 'dateAndTime'; readonly time: string }
  | { readonly code: 'cannotCompare'; readonly field: string; readonly other: string }
  | { readonly code: 'readOnly'; readonly field: string; readonly keptBy: string }
  | { readonly code: 'required'; readonly field: string }
  | { readonly code: 'unknownOperator'; readonly op: string; readonly type: string }
  | { readonly code: 'missing'; readonly what: Missing }
  | { readonly code: 'noAnswers'; readonly question: string }
  | { readonly code: 'limit'; readonly what: Noun; readonly most: number }
  | { readonly code: 'notFor'; readonly what: string; readonly object: CountedObject }
  | { readonly code: 'notLinked'; readonly object: CountedObject; readonly to: CountedObject }
  | { readonly code: 'noMain'; readonly object: CountedObject; readonly to: CountedObject }
  | { readonly code: 'notADateField'; readonly field: string }
  | { readonly code: 'noTimeOfDay'; readonly field: string }
  | { readonly code: 'noTimeLimit' }
  | { readonly code: 'cannotWait'; readonly why: CannotWait }
  | { readonly code: 'noOrder'; readonly row: number; readonly field: string }
  | { readonly code: 'notInColumn'; readonly row: number; readonly raw: string; readonly type: string }
  | { readonly code: 'cannotAdd'; readonly type: string }
  | { readonly code: 'noRate'; readonly currency: string }
  | { readonly code: 'notTrueOrFalse'; readonly gives: string }
  | { readonly code: 'resultMisfit'; readonly gives: string; readonly field: string; readonly type: string }
  | { readonly code: 'notComparable'; readonly one: string; readonly other: string }
  | { readonly code: 'compareBy'; readonly one: string; readonly other: string; readonly by: readonly string[] }
  | {
      readonly code: 'otherSegment'
      readonly segment: string
      readonly of: CountedObject
      readonly object: CountedObject
    }
  | { readonly code: 'noTeam'; readonly team: string }
  | { readonly code: 'noTerritories' }
  | { readonly code: 'noQueue' }
  | { readonly code: 'unknownMerge'; readonly name: string }
  | { readonly code: 'brokenMerge'; readonly raw: string }
  | { readonly code: 'sameRow'; readonly row: number }
  | { readonly code: 'severalRecords'; readonly name: string; readonly count: number }
  | { readonly code: 'unknownRecord'; readonly object: string; readonly raw: string }
  | { readonly code: 'unknownZone'; readonly raw: string }
  | { readonly code: 'noOwner' }
  | { readonly code: 'onePerson' }
  | { readonly code: 'brokenRow'; readonly detail: string }
  | Refusal

/** Where a run cannot wait: at a linked record, or for a record that was deleted. */
export type CannotWait = 'linked' | 'deleted'
export const CANNOT_WAIT: { readonly [W in CannotWait]: string } = {
  linked: 'A run can’t wait inside “for each linked”. Put the wait before it, or make a rule for the linked records.',
  deleted: 'A run that starts when a record is deleted can’t wait.',
}

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

/** The problem as one whole sentence, without its place. */
export function sayProblem(problem: Problem): string {
  switch (problem.code) {
    case 'notANumber':
      return `${quote(problem.raw)} is not a number.`
    case 'notADate':
      return `${quote(problem.raw)} is not a date. Use 24 Nov 2026 or 2026-11-24.`
    case 'notAnInstant':
      return `${quote(problem.raw)} is not a date and time. Use 2026-11-24 9:30.`
    case 'notYesNo':
      return `${quote(problem.raw)} is not an answer here. Enter yes or no.`
    case 'notAnEmail':
      return `${quote(problem.raw)} is not an email address.`
    case 'notAPhone':
      return `${quote(problem.raw)} is not a valid phone number. Include the country code, for example +351 210 000 123.`
    case 'notALink':
      return `${quote(problem.raw)} is not a web address.`
    case 'tooLong':
      return `Too long: ${figure(problem.length)} of ${count(problem.most, 'character')}.`
    case 'notAChoice':
      return problem.choices.length === 0
        ? `${quote(problem.raw)} is not a choice. There are no choices yet.`
        : `${quote(problem.raw)} is not a choice. Choices: ${listSome(problem.choices, 8)}.`
    case 'unknownPerson':
      return `No person named ${quote(problem.raw)}.`
    case 'unknownStage':
      return `${quote(problem.raw)} is not a stage. Stages: ${listSome(problem.stages, 12)}.`
    case 'severalStages':
      return `${quote(problem.raw)} is a stage in ${listOf(problem.pipelines)}. Add the pipeline.`
    case 'unknownPipeline':
      return `${quote(problem.raw)} is not a pipeline.`
    case 'wrongType':
      return `This value can’t be used in ${article(problem.type)} field.`
    case 'unknownField':
      return `Field ${quote(problem.field)} does not exist.`
    case 'unknownActivity':
      return `There is no activity ${quote(problem.name)} to choose any more.`
    case 'dateAndTime':
      return `${quote(problem.time)} has a time of day, the other field is a date only. Calculate its day in a formula field with date(…) and compare with that.`
    case 'cannotCompare':
      return `${quote(problem.field)} can’t be compared with ${quote(problem.other)}.`
    case 'readOnly':
      return `“${problem.field}” is read-only: ${problem.keptBy}.`
    case 'required':
      return `${problem.field} is required.`
    case 'unknownOperator':
      return `“${problem.op}” is not available for ${problem.type} fields.`
    case 'missing':
      return MISSING[problem.what]
    case 'noAnswers':
      return `Add choices for ${quote(problem.question)}`
    case 'limit':
      return `No more than ${count(problem.most, problem.what)}.`
    case 'notFor':
      return `${quote(capital(problem.what))} is not available for ${NOUNS[problem.object].many}.`
    case 'notLinked':
      return `${capital(NOUNS[problem.object].many)} can’t be linked to ${NOUNS[problem.to].many}.`
    case 'noMain':
      return `${capital(NOUNS[problem.object].many)} have no main ${problem.to}.`
    case 'notADateField':
      return `“${problem.field}” is not a date field.`
    case 'noTimeOfDay':
      return `“${problem.field}” has no time. Use days or longer.`
    case 'cannotWait':
      return CANNOT_WAIT[problem.why]
    case 'noTimeLimit':
      return 'This path is never taken: the wait has no time limit.'
    case 'noOrder':
      return `Row ${problem.row}: ${problem.field} can’t be compared by size.`
    case 'notInColumn':
      return `Row ${problem.row}: ${quote(problem.raw)} is not ${article(problem.type)}.`
    case 'notTrueOrFalse':
      return `A condition needs a formula that is true or false. This one gives ${problem.gives}.`
    case 'noRate':
      return `There is no rate for ${problem.currency}.`
    case 'cannotAdd':
      return `You can’t add to ${article(problem.type)} field.`
    case 'resultMisfit':
      return `The formula gives ${problem.gives}. “${problem.field}” needs ${article(problem.type)}.`
    case 'notComparable':
      return `“${problem.one}” and “${problem.other}” can’t be compared.`
    case 'compareBy':
      return `Compare “${problem.one}” and “${problem.other}” by ${listOf(problem.by, 'or')} value.`
    case 'otherSegment':
      return `Segment “${problem.segment}” is for ${NOUNS[problem.of].many}. Choose one for ${NOUNS[problem.object].many}.`
    case 'noTeam':
      return `Team ${quote(problem.team)} does not exist.`
    case 'noTerritories':
      return 'Create a territory first.'
    case 'noQueue':
      return 'Only tasks can go to a queue.'
    case 'brokenMerge':
      return `${quote(problem.raw)} is not a merge field and would be sent as it is. Type “{{” to choose one.`
    case 'unknownMerge':
      return `Merge field {{${problem.name}}} does not exist.`
    case 'sameRow':
      return `Same record as row ${problem.row}.`
    case 'severalRecords':
      return `${count(problem.count, 'record')} ${plural(problem.count, 'is', 'are')} named ${quote(problem.name)}. Add the reference or the company.`
    case 'noOwner':
      return 'The rule is about no record, so there is no owner. Choose a person or a team.'
    case 'onePerson':
      return 'Only one person can get this. Choose a person.'
    case 'unknownZone':
      return `“${problem.raw}” is not a time zone. Use a name such as Europe/Lisbon or America/Halifax.`
    case 'unknownRecord':
      return `No ${problem.object} named ${quote(problem.raw)}.`
    case 'brokenRow':
      return problem.detail
    default:
      return sayRefusal(problem)
  }
}

/** Either a value or the reason why there is none. */
export type Result<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly problem: Problem }

export const good = <T>(value: T): Result<T> => ({ ok: true, value })
export const bad = (problem: Problem): Result<never> => ({ ok: false, problem })
