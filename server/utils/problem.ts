import { sayDenial, type Denial } from '../../core/language/answers'
import type { AnswerPlace } from '../../core/language/answers/answer'
import type { PlacedProblem } from '../../core/language/problems'
import { sayProblem } from '../../core/language/problems'

/**
 * An answer that is a refusal, as RFC 9457 problem details: what happened, where, and how to mend it. Its words go by
 * its code, so that programs can tell one from another; `places` are those that only whoever refuses knows.
 */
export class ProblemError extends Error {
  readonly code: Denial['code']
  readonly status: number
  readonly title: string
  readonly detail: string
  readonly places: readonly AnswerPlace[]
  constructor(denial: Denial, places: readonly AnswerPlace[] = []) {
    const { status, title, detail, places: own = [] } = sayDenial(denial)
    super(detail)
    this.code = denial.code
    this.status = status
    this.title = title
    this.detail = detail
    this.places = [...own, ...places]
  }
}

/** What a database says that cannot be written, by the beginning of its code (SQLite, "Result and Error Codes"). */
const STORAGE = [
  ['SQLITE_FULL', 'diskFull'],
  ['SQLITE_READONLY', 'databaseReadOnly'],
  ['SQLITE_BUSY', 'databaseBusy'],
  ['SQLITE_IOERR', 'diskError'],
  ['SQLITE_CORRUPT', 'databaseDamaged'],
] as const

/** A failure of the database as a problem that says what to do; `null` for any other error. */
export function storageProblem(error: unknown): ProblemError | null {
  const failed: unknown = error instanceof Error && 'code' in error ? error.code : null
  const found = typeof failed === 'string' ? STORAGE.find(([start]) => failed.startsWith(start)) : undefined
  return found ? new ProblemError({ code: found[1] }) : null
}

export const notFound = (what: string): ProblemError => new ProblemError({ code: 'notFound', what })

export const placesOf = (problems: readonly PlacedProblem[]): readonly AnswerPlace[] =>
  problems.map(({ path, problem }) => ({ path, text: sayProblem(problem) }))
