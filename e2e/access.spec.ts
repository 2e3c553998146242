import { request as requests, type APIRequestContext } from '@playwright/test'
import { ROUTES } from '../server/utils/acts'
import { BASE } from './address'
import { describeApi, type Operation } from './description'
import { deals, expect, newDeal, newRule, setRule, test } from './app'

/** A caller of its own, without the specialist's cookie. */
async function caller(personId: string | null, headers: Record<string, string> = {}): Promise<APIRequestContext> {
  const context = await requests.newContext({
    baseURL: BASE,
    storageState: { cookies: [], origins: [] },
    extraHTTPHeaders: headers,
  })
  if (personId !== null) expect((await context.post('/api/v1/session/demo', { data: { personId } })).ok()).toBe(true)
  return context
}

async function call(context: APIRequestContext, { method, path }: Operation) {
  const ids: Readonly<Record<string, string>> = { object: 'deal', other: 'contact', pipeline: 'hp' }
  const url = `/api/v1${path.replace(/\{(\w+)\}/g, (_, name: string) => ids[name] ?? '1')}`
  return await context.fetch(url, { method, ...(method === 'GET' ? {} : { data: {} }), timeout: 10_000 })
}

test.describe('who may do what, over plain HTTP', () => {
  test('nobody reads or changes anything without signing in', async ({ request }) => {
    const nobody = await caller(null)
    const { operations } = await describeApi(request)
    expect(operations).toHaveLength(Object.keys(ROUTES).length)
    for (const operation of operations.filter((one) => one.security.length > 0)) {
      const answer = await call(nobody, operation)
      expect(answer.status(), operation.path).toBe(401)
      expect(Object.keys((await answer.json()) as object), operation.path).toEqual([
        'type',
        'code',
        'title',
        'status',
        'detail',
        'places',
      ])
    }
    // What is open to anybody is the door itself and nothing else.
    expect(operations.filter((one) => one.security.length === 0).map((one) => `${one.method} ${one.path}`)).toEqual([
      'GET /session',
      'POST /session',
      'DELETE /session',
      'POST /session/demo',
      'POST /workspace',
    ])
    const session = (await (await nobody.get('/api/v1/session')).json()) as { state: string; person: unknown }
    expect(session).toMatchObject({ state: 'out', person: null })
  })

  for (const [role, personId] of [
    ['owner', 'rosa'],
    ['lead', 'maren'],
    ['viewer', 'edda'],
  ] as const) {
    test(`the ${role} gets what the description says and nothing else`, async ({ request }) => {
      const somebody = await caller(personId)
      const { operations } = await describeApi(request)
      for (const operation of operations) {
        const { method, path, security } = operation
        // Signing out everywhere would end this very test, and the stream never ends.
        if (security.length === 0 || path === '/session/all' || path === '/live') continue
        const answer = await call(somebody, operation)
        const name = `${method} ${path}: ${answer.status()}`
        if (!operation['x-roles'].includes(role)) expect(answer.status(), name).toBe(403)
        // A demo refuses new passwords itself.
        else if (path !== '/account/password') expect([401, 403, 500].includes(answer.status()), name).toBe(false)
        if (role === 'viewer' && operation['x-roles'].includes(role) && method !== 'GET')
          expect(['self', 'readRules'], name).toContain(operation['x-act'])
        if (role === 'owner' && path.startsWith('/rules')) expect(answer.status(), name).toBe(403)
      }
    })
  }

  test('an owner sees the team’s records and tasks, and what nobody owns, and no one else’s', async ({ request }) => {
    const mine = await newDeal(request, { owner: 'brisa' })
    const nobodys = await newDeal(request, { owner: null })
    const theirs = await newDeal(request, { owner: 'jude' })
    const rosa = await caller('rosa')
    expect((await rosa.get(`/api/v1/records/deal/${mine.id}`)).status()).toBe(200)
    expect((await rosa.get(`/api/v1/records/deal/${nobodys.id}`)).status()).toBe(200)
    expect((await rosa.get(`/api/v1/records/deal/${theirs.id}`)).status()).toBe(404)
    expect(
      (await rosa.patch(`/api/v1/records/deal/${theirs.id}`, { data: { values: { stage: 'hp-lost' } } })).status(),
    ).toBe(404)
    for (const deal of await deals(rosa, {}))
      expect(['rosa', 'tomasz', 'brisa', 'piet', null]).toContain(deal.values.owner)
    const found = (await (await rosa.get('/api/v1/find', { params: { words: 'Probe' } })).json()) as {
      records: { name: string }[]
      rules: unknown[]
    }
    expect(found.records.map((record) => record.name)).not.toContain(theirs.name)
    expect((await rosa.get('/api/v1/day-sheet', { params: { person: 'piet' } })).status()).toBe(200)
    expect((await rosa.get('/api/v1/day-sheet', { params: { person: 'jude' } })).status()).toBe(404)
    const judes = (await (await request.get('/api/v1/day-sheet', { params: { person: 'jude' } })).json()) as {
      open: { id: number; runId: number }[]
    }
    expect(
      (await rosa.post(`/api/v1/tasks/${judes.open[0]?.id}`, { data: { act: 'finish', outcome: '' } })).status(),
    ).toBe(404)
    expect((await rosa.get(`/api/v1/runs/${judes.open[0]?.runId}`)).status()).toBe(404)
    expect((await (await caller('jude')).get(`/api/v1/runs/${judes.open[0]?.runId}`)).status()).toBe(200)
  })

  test('what another site sends along with the cookie is refused', async () => {
    const ines = await caller('ines')
    const send = (headers: Record<string, string>, data: unknown = { name: 'x', object: 'deal' }) =>
      ines.post('/api/v1/rules', { headers, data })
    expect((await send({ origin: 'https://elsewhere.example' })).status()).toBe(403)
    expect((await send({ 'sec-fetch-site': 'cross-site' })).status()).toBe(403)
    expect((await send({ origin: 'null' })).status()).toBe(403)
    expect((await send({ 'content-type': 'text/plain' }, '{"name":"x","object":"deal"}')).status()).toBe(415)
    expect(
      (
        await ines.post('/api/v1/session/demo', {
          headers: { origin: 'https://elsewhere.example' },
          data: { personId: 'maren' },
        })
      ).status(),
    ).toBe(403)
    expect((await (await ines.get('/api/v1/session')).json()) as object).toMatchObject({ person: 'ines' })
  })

  test('signing out everywhere ends every session of the person, and every key', async () => {
    const [one, two] = [await caller('anouk'), await caller('anouk')]
    const { token } = (await (await one.post('/api/v1/account/tokens', { data: { name: 'nightly' } })).json()) as {
      token: string
    }
    const program = await caller(null, { authorization: `Bearer ${token}` })
    expect((await program.get('/api/v1/tasks')).status()).toBe(200)
    expect(((await (await one.get('/api/v1/account/tokens')).json()) as { tokens: object[] }).tokens).toMatchObject([
      { name: 'nightly' },
    ])
    expect(await (await one.get('/api/v1/account/tokens')).text()).not.toContain(token)
    expect((await one.delete('/api/v1/session/all')).ok()).toBe(true)
    expect([(await one.get('/api/v1/tasks')).status(), (await two.get('/api/v1/tasks')).status()]).toEqual([401, 401])
    expect((await program.get('/api/v1/tasks')).status()).toBe(401)
  })

  test('guessing a password is slowed down, whoever guesses', async () => {
    const guess = async () =>
      await (
        await caller(null)
      ).post('/api/v1/session', { data: { email: 'Callum@larkmoor.example', password: 'guess' } })
    for (let i = 0; i < 5; i++) expect((await guess()).status()).toBe(401)
    const slowed = await guess()
    expect([slowed.status(), Number(slowed.headers()['retry-after'])]).toEqual([429, expect.closeTo(30, -1)])
    const unknown = await (
      await caller(null)
    ).post('/api/v1/session', { data: { email: 'nobody@larkmoor.example', password: 'guess' } })
    expect((await unknown.json()) as object).toMatchObject({
      status: 401,
      detail: 'Wrong email or password.',
    })
  })

  test('every answer carries its headers, and no script may stand in a page', async ({ request }) => {
    for (const path of ['/rules', '/sign-in', '/api/v1/session']) {
      const headers = (await request.get(path)).headers()
      expect(headers['x-content-type-options'], path).toBe('nosniff')
      expect(headers['x-frame-options'], path).toBe('DENY')
      expect(headers['x-powered-by'], path).toBeUndefined()
    }
    const policy = (await request.get('/rules')).headers()['content-security-policy'] ?? ''
    const scripts = /script-src ([^;]*)/.exec(policy)?.[1] ?? ''
    expect(scripts).toMatch(/'nonce-[^']+'/)
    expect(scripts).not.toContain('unsafe')
    expect(policy).toContain("frame-ancestors 'none'")
  })
})

test.describe('at the door', () => {
  test.use({ storageState: { cookies: [], origins: [] } })

  test('a wrong password is told; the right one leads to where she wanted to go, and out again', async ({ page }) => {
    await page.goto('/rules?state=on')
    await expect(page).toHaveURL(/\/sign-in\?to=\/rules/)
    await expect(page.getByRole('heading', { name: 'Larkmoor Cold Rooms' })).toBeVisible()
    await page.getByLabel('Email').fill('ines@larkmoor.example')
    await page.getByLabel('Password').fill('not this one')
    await page.keyboard.press('Enter')
    await expect(page.getByRole('alert')).toHaveText('Wrong email or password.')
    await page.getByLabel('Password').fill('walk-in cold room')
    await page.keyboard.press('Enter')
    await expect(page.getByRole('heading', { name: 'Rules' })).toBeVisible()
    // What is clicked before the page answers to anything opens nothing.
    await page.waitForFunction(() => document.documentElement.dataset.live === 'yes')
    await page.getByRole('button', { name: 'Account menu: Ines Calloway' }).click()
    await page.getByRole('menuitem', { name: 'Sign out' }).click()
    await expect(page).toHaveURL(/\/sign-in$/)
    await page.goto('/journal')
    await expect(page).toHaveURL(/\/sign-in\?to=\/journal/)
  })

  test('an address of another site is not gone to', async ({ page }) => {
    await page.goto('/sign-in?to=//elsewhere.example/x')
    await page.getByRole('button', { name: /Maren Holt/ }).click()
    await expect(page).toHaveURL(/localhost:\d+\/day-sheet$/)
  })

  test('an owner comes in to the day sheet and finds no way to the rules', async ({ page, request }) => {
    await page.goto('/')
    await page.getByRole('button', { name: /Rosa Amara/ }).click()
    await expect(page.getByRole('heading', { name: 'Day sheet' })).toBeVisible()
    await expect(page.getByRole('link', { name: 'Rules', exact: true })).toHaveCount(0)
    await expect(page.getByRole('link', { name: 'Journal' })).toHaveCount(0)
    await page.goto('/rules/1')
    await expect(page.getByRole('heading', { name: 'Not allowed' })).toBeVisible()
    expect((await request.get('/api/v1/rules')).status()).toBe(401)
  })
})

test('somebody who has left is out at once, and the last specialist cannot leave', async ({ request }) => {
  const made = (await (
    await request.post('/api/v1/people', {
      data: {
        name: 'Short Stay',
        email: 'stay@larkmoor.example',
        role: 'owner',
        team: 'Hire',
        title: '',
        password: 'only for a while',
      },
    })
  ).json()) as { id: string }
  const guest = await caller(made.id)
  expect((await guest.get('/api/v1/tasks')).status()).toBe(200)
  expect((await request.patch(`/api/v1/people/${made.id}`, { data: { active: false } })).ok()).toBe(true)
  expect((await guest.get('/api/v1/tasks')).status()).toBe(401)
  const last = await request.patch('/api/v1/people/ines', { data: { role: 'viewer' } })
  expect([last.status(), (await last.json()) as object]).toEqual([
    422,
    expect.objectContaining({ places: [{ path: 'role', text: 'At least one active specialist is needed.' }] }),
  ])
  const twice = await request.post('/api/v1/people', {
    data: {
      name: 'Other',
      email: 'ROSA@larkmoor.example',
      role: 'owner',
      team: '',
      title: '',
      password: 'long enough for it',
    },
  })
  expect(twice.status()).toBe(422)
  const away = await request.patch('/api/v1/people/rosa', { data: { awayFrom: '2026-12-24', awayTo: '2026-12-20' } })
  expect([away.status(), await away.text()]).toEqual([
    422,
    expect.stringContaining('The last day away is before the first'),
  ])
})

test('a task for somebody who has left goes to nobody without a deputy, and says so', async ({ request }) => {
  const { id } = (await (
    await request.post('/api/v1/people', {
      data: {
        name: 'Gone Soon',
        email: 'gone@larkmoor.example',
        role: 'owner',
        team: 'Hire',
        title: '',
        password: 'only for a while',
      },
    })
  ).json()) as { id: string }
  const rule = await newRule(request, 'For whoever', {
    triggers: [{ id: 't1', kind: 'entersStage', params: { stage: 'hp-terms' } }],
    steps: [
      {
        id: 's1',
        kind: 'createTask',
        params: {
          title: 'Ring',
          notes: '',
          taskKind: 'call',
          due: { count: 1, unit: 'days' },
          priority: 'normal',
          again: false,
          email: false,
        },
      },
    ],
  })
  const deal = await newDeal(request, { owner: id })
  await request.patch(`/api/v1/people/${id}`, { data: { active: false } })
  await request.patch(`/api/v1/records/deal/${deal.id}`, { data: { values: { stage: 'hp-terms' } } })
  const journal = (await (await request.get('/api/v1/runs', { params: { rule } })).json()) as {
    lines: { outcome: string }[]
  }
  expect(journal.lines[0]?.outcome).toBe('skipped: Gone Soon has left and has no deputy')
  await setRule(request, rule, 'archived')
})
