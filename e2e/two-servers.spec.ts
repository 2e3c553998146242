import { request as requests, type APIRequestContext } from '@playwright/test'
import { ANEW } from './own-demo'
import { expect, test } from './app'
import { startServer, type RunningServer } from './own-server'

/** Two processes over one database: what is changed through one is so at the other with its next answer. */
let servers: readonly [RunningServer, RunningServer]
let apis: readonly [APIRequestContext, APIRequestContext]
test.beforeAll(async () => {
  const first = await startServer(3131, true)
  const second = await startServer(3132, true, 'own.db', first)
  servers = [first, second]
  const one = await requests.newContext({ baseURL: first.base })
  expect((await one.post('/api/v1/session/demo', { data: { personId: 'ines' } })).ok()).toBe(true)
  // One cookie opens both: the key lies beside the database.
  const two = await requests.newContext({ baseURL: second.base, storageState: await one.storageState() })
  apis = [one, two]
})
test.afterAll(async () => {
  for (const api of apis) await api.dispose()
  for (const server of servers.toReversed()) {
    expect(await server.stop()).toBe(0)
    server.clear()
  }
})
test.use({ baseURL: 'http://localhost:3132' })

interface Answer {
  readonly nowMs: number
  readonly data: {
    readonly fields: readonly {
      id: number
      key: string
      label: string
      choices: readonly { id: string; label: string }[]
    }[]
    readonly people: readonly { id: string; name: string; active: boolean }[]
    readonly workspace: { readonly zone: string }
  }
}
const catalogueOf = async (api: APIRequestContext): Promise<Answer> =>
  (await (await api.get('/api/v1/catalogue', ANEW)).json()) as Answer
async function changed(method: 'post' | 'patch', path: string, data: object): Promise<Record<string, unknown>> {
  const answer = await apis[0][method](`/api/v1${path}`, { data, ...ANEW })
  expect(answer.ok(), await answer.text()).toBe(true)
  return (await answer.json()) as Record<string, unknown>
}

test('fields, choices and people are known to the other at once, and what is written with them is taken', async () => {
  const made = await changed('post', '/fields', {
    object: 'deal',
    label: 'Dock height',
    type: 'choice',
    choices: ['Low', 'High'],
  })
  const field = (await catalogueOf(apis[1])).data.fields.find((one) => one.id === made.id)
  expect(field?.choices.map((one) => one.label)).toEqual(['Low', 'High'])
  const written = await apis[1].post('/api/v1/records/deal', {
    data: {
      values: { name: 'From the other', stage: 'hp-sized', owner: 'rosa', [field?.key ?? '']: field?.choices[1]?.id },
    },
    ...ANEW,
  })
  expect(written.ok(), await written.text()).toBe(true)
  await changed('post', `/fields/${field?.id}/choices`, { label: 'Very high' })
  await changed('patch', `/fields/${field?.id}`, { label: 'Height of the dock' })
  await changed('patch', '/people/jude', { title: 'Looks after docks' })
  const [one, two] = await Promise.all(apis.map(catalogueOf))
  expect(two?.data.fields).toEqual(one?.data.fields)
  expect(two?.data.people).toEqual(one?.data.people)
  expect(two?.data.fields.find((other) => other.id === field?.id)?.label).toBe('Height of the dock')
})

test('the clock is turned for both, and an open screen of the other hears of it', async ({ page }) => {
  await page.context().addCookies((await apis[0].storageState()).cookies)
  await page.goto('/day-sheet')
  const clock = page.getByRole('button', { name: /^Clock|Sun |Mon |Tue |Wed |Thu |Fri |Sat / }).first()
  const before = await clock.textContent()
  const { nowMs } = await catalogueOf(apis[1])
  await changed('post', '/clock', { toMs: nowMs + 3 * 86_400_000 })
  await expect
    .poll(async () => (await catalogueOf(apis[1])).nowMs - nowMs, { timeout: 20_000 })
    .toBeGreaterThan(2.9 * 86_400_000)
  await expect(clock).not.toHaveText(before ?? '')
})
