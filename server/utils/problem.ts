import type { PlacedProblem } from '../../core/language/problems'
import { sayProblem } from '../../core/language/problems'

export interface ProblemPlace {
  readonly path: string
  readonly text: string
}

/** An answer that is a refusal, as RFC 9457 problem details: what happened, where, and how to mend it. */
export class ProblemError extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    readonly detail: string,
    readonly places: readonly ProblemPlace[] = [],
  ) {
    super(detail)
  }
}

/** What a database says that cannot be written, by the beginning of its code (SQLite, "Result and Error Codes"). */
const STORAGE: readonly (readonly [code: string, status: number, title: string, detail: string])[] = [
  ['SQLITE_FULL', 507, 'The disk is full', 'Nothing was written. Make room where the database lies, then try again.'],
  ['SQLITE_READONLY', 503, 'The database cannot be written', 'Nothing was written. Its file or folder is read-only.'],
  ['SQLITE_BUSY', 503, 'The database is held by another program', 'Nothing was written. Try again in a moment.'],
  ['SQLITE_IOERR', 503, 'The disk failed', 'Nothing was written. Look at the disk where the database lies.'],
  [
    'SQLITE_CORRUPT',
    503,
    'The database is damaged',
    'Nothing was written. Stop, keep the files, and bring a backup back.',
  ],
]

/** A failure of the database as a problem that says what to do; `null` for any other error. */
export function storageProblem(error: unknown): ProblemError | null {
  const code: unknown = error instanceof Error && 'code' in error ? error.code : null
  const found = typeof code === 'string' ? STORAGE.find(([start]) => code.startsWith(start)) : undefined
  return found ? new ProblemError(found[1], found[2], found[3]) : null
}

export const notFound = (what: string): ProblemError => new ProblemError(404, 'Not there', `There is no ${what}.`)

export const placesOf = (problems: readonly PlacedProblem[]): readonly ProblemPlace[] =>
  problems.map(({ path, problem }) => ({ path, text: sayProblem(problem) }))
