import type { PlacedProblem } from '../../core/problems'
import { sayProblem } from '../../core/problems'

export interface ProblemPlace {
  readonly path: string
  readonly text: string
}

/** An answer that is a refusal, as RFC 9457 problem details: what happened, where, and how to mend it. */
export class ProblemError extends Error {
  constructor(readonly status: number, readonly title: string, readonly detail: string, readonly places: readonly ProblemPlace[] = []) {
    super(detail)
  }
}

export const notFound = (what: string): ProblemError => new ProblemError(404, 'Not there', `There is no ${what}.`)

export const placesOf = (problems: readonly PlacedProblem[]): readonly ProblemPlace[] =>
  problems.map(({ path, problem }) => ({ path, text: sayProblem(problem) }))
