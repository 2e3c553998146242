import { request as httpRequest } from 'node:http'
import { statSync } from 'node:fs'
import { request as requests, type APIRequestContext } from '@playwright/test'
import { BASE } from './address'
import { expect, newDeal, test } from './app'
import { startServer } from './own-server'

const caller = async (personId: string | null, headers: Record<string, string> = {}): Promise<APIRequestContext> => {
  const context = await requests.newContext({
    baseURL: BASE,
    storageState: { cookies: [], origins: [] },
    extraHTTPHeaders: headers,
  })
  if (personId !== null) expect((await context.post('/api/v1/session/demo', { data: { personId } })).ok()).toBe(true)
  return context
}
const withKey = async (owner: APIRequestContext, given: object): Promise<APIRequestContext> => {
  const made = await owner.post('/api/v1/account/tokens', { data: given })
  const { token } = (await made.json()) as { token: string }
  return await caller(null, { authorization: `Bearer ${token}` })
}

/** A request as it goes over the wire, under any name. */
const raw = (
  base: string,
  path: string,
  host: string,
  method = 'GET',
  body = '',
): Promise<{ status: number; text: string }> =>
  new Promise((resolve, reject) => {
    const going = httpRequest(
      `${base}${path}`,
      { method, headers: { host, ...(body === '' ? {} : { 'content-type': 'application/json' }) } },
      (answer) => {
        let text = ''
        answer.on('data', (piece: Buffer) => (text += piece.toString()))
        answer.on('end', () => resolve({ status: answer.statusCode ?? 0, text }))
      },
    )
    going.on('error', reject)
    going.end(body)
  })

test.describe('sessions', () => {
  test('that somebody signed out of open nothing, also for whoever kept the cookie', async () => {
    const one = await caller('anouk')
    const { cookies } = await one.storageState()
    const [cookie] = cookies
    expect(cookie).toMatchObject({ httpOnly: true, sameSite: 'Lax' })
    const thief = await caller(null, { cookie: `${cookie?.name}=${cookie?.value}` })
    expect((await thief.get('/api/v1/tasks')).status()).toBe(200)
    expect((await one.delete('/api/v1/session')).ok()).toBe(true)
    expect((await thief.get('/api/v1/tasks')).status()).toBe(401)
  })

  test('are listed, each to be ended by itself, with the streams that hang on it', async ({ page, browser }) => {
    const other = await browser.newContext({ baseURL: BASE, userAgent: 'Warehouse tablet 9' })
    await other.request.post('/api/v1/session/demo', { data: { personId: 'ines' } })
    const theirs = await other.newPage()
    await theirs.goto('/rules')
    await theirs.waitForFunction(() => document.documentElement.dataset.live === 'yes')
    const ended = theirs.waitForEvent('requestfinished', (one) => one.url().includes('/api/v1/live'))
    await page.goto('/account')
    const row = page.getByRole('row', { name: /Warehouse tablet 9/ }).first()
    await expect(row).toBeVisible()
    await row.getByRole('button', { name: /Sign out Warehouse tablet 9/ }).click()
    await expect(page.getByRole('row', { name: /Warehouse tablet 9/ })).toHaveCount(0)
    await ended
    expect((await other.request.get('/api/v1/tasks')).status()).toBe(401)
    await expect(page.getByRole('row', { name: /this one/ })).toBeVisible()
    await other.close()
  })
})

test.describe('keys for the API', () => {
  test('may do what they were made for, and never let anybody in', async ({ request }) => {
    const deal = await newDeal(request, {})
    const ines = await caller('ines')
    const reader = await withKey(ines, { name: 'Report', readOnly: true })
    const records = await withKey(ines, { name: 'Scanner', areas: ['records'] })
    const path = `/api/v1/records/deal/${deal.id}`
    expect((await reader.get(path)).status()).toBe(200)
    const refused = await reader.patch(path, { data: { values: { amount: 5 } } })
    expect([refused.status(), ((await refused.json()) as { detail: string }).detail]).toEqual([
      403,
      'This API key is read-only.',
    ])
    expect((await records.patch(path, { data: { values: { amount: 5 } } })).status()).toBe(200)
    const elsewhere = await records.get('/api/v1/rules')
    expect([elsewhere.status(), ((await elsewhere.json()) as { detail: string }).detail]).toEqual([
      403,
      'This API key can’t be used for rules. It is limited to records.',
    ])
    for (const key of [reader, records, await withKey(ines, { name: 'All' })])
      for (const [method, where] of [
        ['POST', '/account/tokens'],
        ['GET', '/account/sessions'],
        ['DELETE', '/session/all'],
      ] as const)
        expect((await key.fetch(`/api/v1${where}`, { method, data: { name: 'more' } })).status()).toBe(403)
  })

  test('of others are seen and revoked by whoever builds rules, and end with the person', async ({ page }) => {
    const jude = await caller('jude')
    const key = await withKey(jude, { name: 'Jude’s phone', readOnly: true, areas: ['tasks'], days: 30 })
    expect((await key.get('/api/v1/tasks')).status()).toBe(200)
    expect((await jude.get('/api/v1/keys')).status()).toBe(403)
    await page.goto('/account')
    const row = page.getByRole('row', { name: /Jude’s phone/ })
    await expect(row).toContainText('Jude Okell')
    await expect(row).toContainText('Read only: tasks')
    await row.getByRole('button', { name: 'Revoke Jude’s phone' }).click()
    await expect(row).toHaveCount(0)
    expect((await key.get('/api/v1/tasks')).status()).toBe(401)
  })

  test('are made on a page with what they may do and until when', async ({ page }) => {
    await page.goto('/account')
    await page.waitForFunction(() => document.documentElement.dataset.live === 'yes')
    await page.getByLabel('Name', { exact: true }).fill('Dock display')
    await page.getByLabel('Access').selectOption('Read only')
    await page.getByLabel('Expires after').selectOption('1 year')
    for (const area of ['Rules and runs', 'Imports and exports', 'People', 'Workspace and screens'])
      await page.getByLabel(area, { exact: true }).uncheck()
    await page.getByRole('button', { name: 'Create API key' }).click()
    await expect(page.getByRole('status').filter({ hasText: 'slv_' })).toBeVisible()
    const row = page.getByRole('row', { name: /Dock display/ })
    await expect(row).toContainText('Read only: records, tasks')
    await expect(row).toContainText('2027')
    await row.getByRole('button', { name: 'Revoke Dock display' }).click()
    await expect(row).toHaveCount(0)
  })
})

test.describe('what comes in', () => {
  test('has a size, a depth and a number of parts before it is read', async ({ request }) => {
    const send = (path: string, data: string) =>
      request.post(`/api/v1${path}`, { data, headers: { 'content-type': 'application/json' } })
    const large = `{"email":"a@b.example","password":"${'x'.repeat(20_000)}"}`
    expect((await send('/session', large)).status()).toBe(413)
    expect((await send('/records/deal', `{"values":{"name":"${'x'.repeat(1_100_000)}"}}`)).status()).toBe(413)
    const detail = async (path: string, data: string) =>
      ((await (await send(path, data)).json()) as { status: number; detail: string }).detail
    expect(await detail('/records/deal', '['.repeat(300) + ']'.repeat(300))).toBe(
      'The body is nested more than 200 levels deep.',
    )
    expect(await detail('/records/deal', `[${'1,'.repeat(60_000)}1]`)).toBe(
      'The body has more than 50,000 keys and items.',
    )
    expect((await send('/records/deal', `{"values":{"name":"${'['.repeat(300)}"}}`)).status()).not.toBe(400)
    const years = await request.get('/api/v1/ahead', { params: { from: 0, to: 8.64e15 } })
    expect((await years.json()) as object).toMatchObject({
      status: 400,
      detail: 'A period can be at most 800 days long.',
    })
  })

  test('under a name that is not ours is not answered', async () => {
    expect((await raw(BASE, '/rules', 'elsewhere.example')).status).toBe(421)
    expect((await raw(BASE, '/api/v1/session', 'localhost.elsewhere.example')).status).toBe(421)
    expect((await raw(BASE, '/api/v1/session', '127.0.0.1:1234')).status).toBe(200)
    expect((await raw(BASE, '/healthz', '10.0.0.7')).status).toBe(200)
  })

  test('deletes nothing that has changed since it was seen', async ({ request }) => {
    const deal = await newDeal(request, {})
    const path = `/api/v1/records/deal/${deal.id}`
    const tag = (await request.get(path)).headers().etag ?? ''
    await request.patch(path, { data: { values: { amount: 77 } } })
    expect((await request.delete(path, { headers: { 'if-match': tag } })).status()).toBe(412)
    const fresh = (await request.get(path)).headers().etag ?? ''
    expect((await request.delete(path, { headers: { 'if-match': fresh } })).status()).toBe(200)
  })
})

test.describe('what goes out', () => {
  test('is kept by nobody, and what is no page may run nothing', async ({ request }) => {
    for (const path of ['/rules', '/api/v1/tasks', '/api/v1/session', '/sign-in'])
      expect((await request.get(path)).headers()['cache-control'], path).toBe('no-store')
    const nobody = await caller(null)
    const led = await nobody.get('/rules', { maxRedirects: 0 })
    expect(led.status()).toBe(302)
    for (const answer of [led, await request.get('/api/v1/tasks')]) {
      const policy = answer.headers()['content-security-policy'] ?? ''
      expect(policy).toContain("default-src 'none'")
      expect(policy).not.toContain('{{')
    }
    expect((await request.get('/rules')).headers()['content-security-policy']).toMatch(/'nonce-[\w+/=]{16,}'/)
  })
})

test('an empty workspace is set up from the machine, or with the code that the server printed', async () => {
  const server = await startServer(3128, false, 'own.db', null, {
    SKY_LEVER_LOG: 'info',
    SKY_LEVER_HOSTS: 'crm.brackwater.example',
    SKY_LEVER_FREE_LEAST_MB: '999999999',
  })
  try {
    const given = {
      name: 'Brackwater Ice',
      zone: 'UTC',
      currency: 'EUR',
      person: { name: 'Ana', email: 'ana@brackwater.example', password: 'ice by the tonne' },
    }
    const from = (body: object) =>
      raw(server.base, '/api/v1/workspace', 'crm.brackwater.example', 'POST', JSON.stringify(body))
    expect(JSON.parse((await raw(server.base, '/api/v1/session', 'crm.brackwater.example')).text)).toMatchObject({
      state: 'empty',
      needsCode: true,
    })
    expect(JSON.parse((await raw(server.base, '/api/v1/session', 'localhost')).text)).toMatchObject({
      needsCode: false,
    })
    expect(await from(given)).toMatchObject({ status: 403 })
    expect(await from({ ...given, code: 'ABCD-EFGH-JKMN' })).toMatchObject({ status: 403 })
    const common = { ...given, person: { ...given.person, password: 'Password12345' } }
    expect((await from(common)).text).toContain('Many people use this password')
    const [, code = ''] = /Set-up code: (\S+)/.exec(server.said()) ?? []
    expect(await from({ ...given, code: code.toLowerCase() })).toMatchObject({ status: 200 })
    expect(await from({ ...given, code })).toMatchObject({ status: 409 })
    // A disk that is full is told before anybody is sent here; the file of the database is its owner's alone.
    const ready = await raw(server.base, '/readyz', 'localhost')
    expect([ready.status, ready.text]).toEqual([503, expect.stringMatching(/"disk":"has \d+ MB left"/)])
    for (const file of [server.dbFile, `${server.dbFile}-wal`]) expect(statSync(file).mode & 0o077).toBe(0)
    // A line of the log is one line of JSON whatever was asked for, and names nobody.
    await raw(server.base, '/api/v1/people/ana%0A%7B%22level%22%3A%22error%22%7D/planned', 'localhost')
    const lines = () =>
      server
        .said()
        .split('\n')
        .filter((line) => line.startsWith('{') && line.endsWith('}'))
        .map((line) => JSON.parse(line) as { route?: string; status?: number })
    await expect
      .poll(lines)
      .toContainEqual(expect.objectContaining({ route: '/api/v1/people/:id/planned', status: 401 }))
    expect(server.said()).not.toMatch(/ana@|brackwater\.example|%0A/)
  } finally {
    await server.stop()
    server.clear()
  }
})
