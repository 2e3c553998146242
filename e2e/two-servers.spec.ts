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
  // One cookie opens both: sessions stand in the database.
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

test('what is made in both at once is there once, or refused with its reason', async () => {
  const send = async (which: 0 | 1, method: 'post' | 'patch' | 'delete', path: string, data: object = {}) => {
    const answer = await apis[which][method](`/api/v1${path}`, { data, ...ANEW })
    return { status: answer.status(), body: (await answer.json()) as Record<string, unknown> }
  }
  /** The same from both servers, several times over, all at once. */
  const together = (method: 'post' | 'patch' | 'delete', path: string, data: object = {}) =>
    Promise.all([0, 1, 0, 1, 0, 1].map((which) => send(which as 0 | 1, method, path, data)))
  const statuses = (answers: readonly { status: number }[]) => answers.map(({ status }) => status).sort()
  const once = [200, 422, 422, 422, 422, 422]

  const person = { name: 'Wanda Reed', email: 'wanda@larkmoor.example', role: 'owner', team: 'Hire', title: '' }
  expect(statuses(await together('post', '/people', { ...person, password: 'a long first one' }))).toEqual(once)
  // Namesakes are two people, each with an id of their own.
  const namesakes = await Promise.all(
    Array.from({ length: 6 }, (_, i) =>
      send((i % 2) as 0 | 1, 'post', '/people', {
        ...person,
        email: `wanda${i}@larkmoor.example`,
        password: 'a long first one',
      }),
    ),
  )
  expect(new Set(namesakes.map(({ body }) => body.id)).size).toBe(6)

  const field = { object: 'deal', label: 'Door width', type: 'choice', description: '', choices: ['Narrow'] }
  const made = await together('post', '/fields', field)
  expect(statuses(made)).toEqual(once)
  const id = Number(made.find(({ status }) => status === 200)?.body.id)
  // A choice that is there already is given back.
  const choices = await together('post', `/fields/${id}/choices`, { label: 'Wide' })
  expect(choices.filter(({ body }) => body.added === true)).toHaveLength(1)
  expect(new Set(choices.map(({ body }) => body.id)).size).toBe(1)
  // Two labels in a race: one of them is taken, and the field is not called both.
  const renamed = await together('patch', `/fields/${id}`, { label: 'Amount' })
  expect(statuses(renamed)).toEqual([422, 422, 422, 422, 422, 422])

  expect(statuses(await together('post', '/pipelines/hp/stages', { name: 'Queued', outcome: 'open' }))).toEqual(once)
  expect(
    statuses(await together('post', '/pipelines', { name: 'Depot', stages: [{ name: 'New', outcome: 'open' }] })),
  ).toEqual(once)
  expect(
    statuses(
      await together('post', '/segments', {
        object: 'deal',
        name: 'In a race',
        filter: { kind: 'group', id: 'c0', mode: 'all', items: [] },
        columns: [],
        sort: '',
        down: false,
      }),
    ).every((status) => status === 200 || status === 422),
  ).toBe(true)
  for (const api of apis) {
    const { data } = await catalogueOf(api)
    expect(data.fields.filter(({ label }) => label === 'Door width').map(({ choices }) => choices.length)).toEqual([2])
    expect(data.people.filter(({ name }) => name === 'Wanda Reed')).toHaveLength(7)
  }
})
