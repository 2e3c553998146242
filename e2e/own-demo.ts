import { expect as expects, request as requests, type APIRequestContext } from '@playwright/test'
import { test } from './app'
import { startServer } from './own-server'

/** Writes and reads are tried anew when the server closes a connection just then. */
export const ANEW = { maxRetries: 2 } as const

/**
 * A demo workspace of a file of tests alone, with its API as the specialist; every page of the file is signed in as
 * her.
 */
export function ownDemo(port: number) {
  const base = `http://localhost:${port}`
  let server: Awaited<ReturnType<typeof startServer>>
  let context: APIRequestContext | null = null
  const api = (): APIRequestContext => {
    if (!context) throw new Error('the server has not been started yet')
    return context
  }
  test.beforeAll(async () => {
    server = await startServer(port, true)
    context = await requests.newContext({ baseURL: base })
    await context.post('/api/v1/session/demo', { data: { personId: 'ines' } })
  })
  test.afterAll(async () => {
    await context?.dispose()
    expects(await server.stop()).toBe(0)
    server.clear()
  })
  test.use({ baseURL: base })
  test.beforeEach(async ({ page }) => {
    await page.request.post('/api/v1/session/demo', { data: { personId: 'ines' } })
  })
  const get = async <T>(path: string): Promise<T> => (await (await api().get(`/api/v1${path}`, ANEW)).json()) as T
  const post = async <T>(path: string, data: object): Promise<T> => {
    const answer = await api().post(`/api/v1${path}`, { data, ...ANEW })
    expects(answer.ok(), await answer.text()).toBe(true)
    return (await answer.json()) as T
  }
  return {
    api,
    dbFile: () => server.dbFile,
    get,
    post,
    today: async (): Promise<string> => (await get<{ today: string }>('/catalogue')).today,
    make: async (object: string, values: object): Promise<number> =>
      (await post<{ ref: { id: number } }>(`/records/${object}`, { values })).ref.id,
  }
}

export type OwnDemo = ReturnType<typeof ownDemo>
