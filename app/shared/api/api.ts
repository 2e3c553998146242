import type { AnswerPlace } from '#core/language/answers/answer'
import { useNotices } from '~/shared/stores/notices'

export interface ApiProblem {
  readonly status: number
  readonly title: string
  readonly detail: string
  readonly places: readonly AnswerPlace[]
}

/** What went wrong with a request, in words a person can act on. */
export function problemOf(error: unknown): ApiProblem {
  const data = (error as { data?: Partial<ApiProblem> }).data
  if (data?.title)
    return { status: data.status ?? 500, title: data.title, detail: data.detail ?? '', places: data.places ?? [] }
  const status = (error as { status?: number }).status
  if (status === undefined || status === 0)
    return {
      status: 0,
      title: 'No connection',
      detail: 'The server can’t be reached. Nothing was saved. Try again.',
      places: [],
    }
  return {
    status,
    title: 'Something went wrong',
    detail: 'The server could not complete this. Nothing was saved. Try again.',
    places: [],
  }
}

export const sayApiProblem = (problem: ApiProblem): string =>
  problem.places.length > 0 ? [...new Set(problem.places.map((place) => place.text))].join(' ') : problem.detail

/**
 * Reads something in the browser; pages read with `useFetch`. The types of all routes together are more than the
 * compiler tries.
 */
export const read = <T>(path: string, query: Readonly<Record<string, unknown>> = {}): Promise<T> =>
  ($fetch as (path: string, options: { query: object }) => Promise<unknown>)(path, { query }) as Promise<T>

type Method = 'POST' | 'PUT' | 'PATCH' | 'DELETE'
type Call = (
  path: string,
  options: { method: Method; body?: unknown; headers: Readonly<Record<string, string>> },
) => Promise<unknown>
const SECRET = ['/api/v1/session', '/api/v1/account', '/api/v1/people', '/api/v1/workspace']

/** 128 random bits; `crypto.randomUUID` is missing where the page came over plain http. */
const ownKey = (): string =>
  Array.from(crypto.getRandomValues(new Uint8Array(16)), (byte) => byte.toString(16).padStart(2, '0')).join('')

/** What was sent and is not answered yet. */
const underWay = new Map<string, Promise<unknown>>()

/**
 * Sends something that changes something. It carries a key of its own, and when the connection breaks off it is sent
 * once more: it is done once, whether the first got through or not. Whoever presses twice means it once: the very same
 * that is asked for while it is not answered yet is that one, with its answer.
 */
export function send<T = unknown>(
  method: Method,
  path: string,
  body?: unknown,
  given: Readonly<Record<string, string>> = {},
): Promise<T> {
  const same = JSON.stringify([method, path, body, given])
  const before = underWay.get(same)
  if (before) return before as Promise<T>
  const sent = sendOnce<T>(method, path, body, given).finally(() => underWay.delete(same))
  underWay.set(same, sent)
  return sent
}

async function sendOnce<T>(
  method: Method,
  path: string,
  body: unknown,
  given: Readonly<Record<string, string>>,
): Promise<T> {
  const call = $fetch as Call
  const keyed = !SECRET.some((start) => path.startsWith(start))
  const headers = keyed ? { 'idempotency-key': ownKey(), ...given } : given
  const once = async (): Promise<T> => {
    const answer = await call(path, { method, headers, ...(body === undefined ? {} : { body }) })
    useNotices().settle(`${method} ${path}`)
    return answer as T
  }
  try {
    return await once()
  } catch (error) {
    if (!keyed || problemOf(error).status !== 0) throw error
    return await once()
  }
}

/** Which request an error is about: `PUT /api/v1/hours`; `null` for none. */
function sentIn(error: unknown): string | null {
  const { request, options } = error as { request?: unknown; options?: { method?: string } }
  return typeof request === 'string' && options?.method ? `${options.method} ${request}` : null
}

/** Does something and tells the person when it fails. Answers `null` then. */
export async function attempt<T>(work: () => Promise<T>): Promise<T | null> {
  try {
    return await work()
  } catch (error) {
    const problem = problemOf(error)
    // The cookie became void meanwhile: the page is loaded anew and leads to the door. A rule's edits are kept in the
    // browser.
    if (problem.status === 401) {
      reloadNuxtApp({ force: true })
      return null
    }
    useNotices().tell({ tone: 'wrong', title: problem.title, text: sayApiProblem(problem), of: sentIn(error) })
    return null
  }
}
