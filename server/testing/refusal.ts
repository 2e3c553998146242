import { sayProblem } from '../../core/language/problems'
import { RefusedError } from '../engine/workspace'

/** What work is refused with, each problem as `place: reason`. Anything else that is thrown goes on. */
export function refusal(work: () => unknown): string {
  try {
    work()
  } catch (error) {
    if (error instanceof RefusedError)
      return error.problems.map(({ path, problem }) => `${path}: ${sayProblem(problem)}`).join('; ')
    throw error
  }
  return 'it was not refused'
}
