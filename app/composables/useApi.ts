import type { ProblemPlace } from '~~/server/utils/problem'

export interface ApiProblem {
  readonly status: number
  readonly title: string
  readonly detail: string
  readonly places: readonly ProblemPlace[]
}

/** What went wrong with a request, in words a person can act on. */
export function problemOf(error: unknown): ApiProblem {
  const data = (error as { data?: Partial<ApiProblem> }).data
  if (data?.title) return { status: data.status ?? 500, title: data.title, detail: data.detail ?? '', places: data.places ?? [] }
  const status = (error as { status?: number }).status
  if (status === undefined || status === 0) return { status: 0, title: 'No connection', detail: 'The server cannot be reached. Nothing was changed; try again.', places: [] }
  return { status, title: 'That did not work', detail: 'The server could not do this. Nothing was changed.', places: [] }
}

export const sayApiProblem = (problem: ApiProblem): string =>
  problem.places.length > 0 ? problem.places.map((place) => (place.path ? `${place.path}: ${place.text}` : place.text)).join('; ') : problem.detail

/** Does something and tells the person when it fails. Answers `null` then. */
export async function attempt<T>(work: () => Promise<T>): Promise<T | null> {
  try {
    return await work()
  } catch (error) {
    const problem = problemOf(error)
    // The cookie became void meanwhile: the page is loaded anew and leads to the door. A rule's edits are kept in the browser.
    if (problem.status === 401) {
      reloadNuxtApp({ force: true })
      return null
    }
    useNotices().tell({ tone: 'wrong', title: problem.title, text: sayApiProblem(problem) })
    return null
  }
}
