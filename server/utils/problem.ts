import { capital } from '../../core/language/nouns'
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
  [
    'SQLITE_FULL',
    507,
    'Disk full',
    'Nothing was saved. Free up space on the disk that holds the database, then try again.',
  ],
  [
    'SQLITE_READONLY',
    503,
    'Database is read-only',
    'Nothing was saved. Check the permissions of the database file and its folder.',
  ],
  [
    'SQLITE_BUSY',
    503,
    'Database busy',
    'Nothing was saved. Another program is using the database. Try again in a moment.',
  ],
  ['SQLITE_IOERR', 503, 'Disk error', 'Nothing was saved. Check the disk that holds the database.'],
  [
    'SQLITE_CORRUPT',
    503,
    'Database damaged',
    'Nothing was saved. Stop the server, keep the files and restore a backup.',
  ],
]

/** A failure of the database as a problem that says what to do; `null` for any other error. */
export function storageProblem(error: unknown): ProblemError | null {
  const code: unknown = error instanceof Error && 'code' in error ? error.code : null
  const found = typeof code === 'string' ? STORAGE.find(([start]) => code.startsWith(start)) : undefined
  return found ? new ProblemError(found[1], found[2], found[3]) : null
}

export const notFound = (what: string): ProblemError =>
  new ProblemError(404, 'Not found', `${capital(what)} does not exist or you don’t have access to it.`)

export const placesOf = (problems: readonly PlacedProblem[]): readonly ProblemPlace[] =>
  problems.map(({ path, problem }) => ({ path, text: sayProblem(problem) }))
