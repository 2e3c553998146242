import fc from 'fast-check'
import { request as requests } from '@playwright/test'
import type { z } from 'zod'
import { CONTRACTS } from '../server/contract'
import { zProblem, type Contract } from '../server/contract/contract'
import { arbitraryOf, describeApi, type Operation } from './description'
import { startServer } from './own-server'
import { deals, expect, newDeal, newRule, setRule, test } from './app'

/** Routes that would end the session, set the demo up again, fill the disk, or never answer. */
const SPARED = [
  'GET /live',
  'DELETE /session',
  'DELETE /session/all',
  'DELETE /account/sessions/{id}',
  'POST /session',
  'POST /session/demo',
  'POST /workspace',
  'POST /backups',
  'POST /people',
  'PATCH /people/{id}',
]

/** `SKY_LEVER_REQUESTS=10000 npx playwright test api` tries more of them. */
const REQUESTS = Number(process.env.SKY_LEVER_REQUESTS ?? 700)

test('whatever a request holds that the description allows or not, the answer is never a failure of ours', async () => {
  test.setTimeout(120_000 + 150 * REQUESTS)
  // Many of them get through and turn rules and records upside down: in a workspace of their own.
  const server = await startServer(3121, true)
  const request = await requests.newContext({ baseURL: server.base })
  await request.post('/api/v1/session/demo', { data: { personId: 'ines' } })
  const { operations, schemas } = await describeApi(request)
  const tried = operations.filter((one) => !SPARED.includes(`${one.method} ${one.path}`))
  const caseOf = (one: Operation) =>
    fc.tuple(
      fc.constant(one),
      fc.record(
        Object.fromEntries(one.parameters.map((parameter) => [parameter.name, arbitraryOf(parameter.schema, schemas)])),
        {
          requiredKeys: one.parameters
            .filter((parameter) => parameter.in === 'path')
            .map((parameter) => parameter.name),
        },
      ),
      one.requestBody
        ? arbitraryOf(one.requestBody.content['application/json'].schema, schemas)
        : fc.constant(undefined),
    )
  const cases = fc.sample(fc.oneof(...tried.map(caseOf)), { numRuns: REQUESTS, seed: 20_261 })
  const statuses = new Map<number, number>()
  for (const [{ method, path, parameters, responses }, given, body] of cases) {
    const values = given as Readonly<Record<string, unknown>>
    const part = (name: string) => String(values[name] ?? '')
    const url = `/api/v1${path.replace(/\{(\w+)\}/g, (_, name: string) => encodeURIComponent(part(name)) || '1')}`
    const params = Object.fromEntries(
      parameters
        .filter((one) => one.in === 'query' && values[one.name] !== undefined)
        .map((one) => [one.name, part(one.name)]),
    )
    const headers = Object.fromEntries(
      parameters
        .filter((one) => one.in === 'header' && values[one.name] !== undefined)
        .map((one) => [one.name, part(one.name).replace(/[^\x20-\x7e]/g, '')]),
    )
    const answer = await request.fetch(url, {
      method,
      params,
      headers: { ...headers, ...(body === undefined ? {} : { 'content-type': 'application/json' }) },
      ...(body === undefined ? {} : { data: JSON.stringify(body) }),
    })
    if (answer.status() >= 500)
      expect(answer.status(), `${method} ${url} ${JSON.stringify(params)} ${JSON.stringify(body)}`).toBeLessThan(500)
    statuses.set(answer.status(), (statuses.get(answer.status()) ?? 0) + 1)
    const said = `${method} ${url} ${JSON.stringify(params)} ${JSON.stringify(body)}: ${answer.status()}`
    const contract = (CONTRACTS as Readonly<Record<string, Contract>>)[`${method} ${path.replace(/\{(\w+)\}/g, ':$1')}`]
    if (answer.status() !== 200) {
      // Rare refusals are described once for all routes, each by its number.
      const rare = [400, 403, 413, 415, 421].includes(answer.status())
      if (!rare) expect(Object.keys(responses), said).toContain(String(answer.status()))
      expect(zProblem.safeParse(await answer.json()).success, said).toBe(true)
    } else if (contract?.answer && !contract.media) {
      const read = contract.answer.safeParse(await answer.json())
      expect(read.error?.issues.slice(0, 3) ?? [], said).toEqual([])
    }
  }
  // A good part gets through: the description leads to requests that fit.
  expect(statuses.get(200) ?? 0).toBeGreaterThan(REQUESTS / 10)
  await request.dispose()
  expect(await server.stop()).toBe(0)
  server.clear()
})

test('answers are what the description says they are', async ({ request }) => {
  const deal = await newDeal(request, { stage: 'hp-visit' })
  const gone = await newDeal(request, {})
  await request.delete(`/api/v1/records/deal/${gone.id}`)
  const rule = await newRule(request, 'Described', {
    triggers: [{ id: 't1', kind: 'entersStage', params: { stage: 'hp-terms' } }],
    steps: [{ id: 's1', kind: 'setField', params: { field: 'units', source: { from: 'value', value: 4 } } }],
  })
  await request.patch(`/api/v1/records/deal/${deal.id}`, { data: { values: { stage: 'hp-terms' } } })
  const { lines } = (await (await request.get('/api/v1/runs', { params: { rule } })).json()) as {
    lines: { id: number }[]
  }
  // What it did stays; others shall not be started by it.
  await setRule(request, rule, 'archived')
  const rehearsal = (await (
    await request.post('/api/v1/rehearsals', {
      data: {
        rules: [{ rule }],
        days: 3,
        ids: [deal.id],
        script: ['hp-visit', 'hp-terms'].map((stage, i) => ({ day: i + 1, minute: 600, id: null, values: { stage } })),
      },
    })
  ).json()) as { id: number }
  await expect
    .poll(
      async () => ((await (await request.get(`/api/v1/rehearsals/${rehearsal.id}`)).json()) as { state: string }).state,
    )
    .toBe('done')
  const kept = (await (
    await request.post('/api/v1/cases', {
      data: { name: 'Described', rules: [{ rule }], ids: [deal.id], days: 3, script: [] },
    })
  ).json()) as { id: number }
  const file = (await (
    await request.post('/api/v1/imports', { data: { fileName: 'x.csv', content: 'Name,Stage\nA,Quoted\n' } })
  ).json()) as { id: number }
  const ids: Readonly<Record<string, string | number>> = {
    'GET /rules/:id': rule,
    'GET /runs/:id': lines[0]?.id ?? 0,
    'GET /imports/:id': file.id,
    'GET /records/:object/:id': deal.id,
    'GET /records/:object/:id/links': deal.id,
    'GET /records/:object/:id/rules': deal.id,
    'GET /records/:object/:id/rules/:rule': deal.id,
    'GET /records/:object/:id/fields/:key': deal.id,
    'GET /records/:object/:id/merges/:other': deal.id,
    'GET /deleted-records/:object/:id': gone.id,
    'GET /rules/:id/versions': rule,
    'GET /rules/:id/jobs': rule,
    'GET /runs/:id/undo': lines[0]?.id ?? 0,
    'GET /records/:object/:id/manual-runs': deal.id,
    'GET /rehearsals/:id': rehearsal.id,
    'GET /rehearsals/:id/lines': rehearsal.id,
    'GET /rehearsals/:id/runs/:run': rehearsal.id,
    'GET /cases/:id': kept.id,
    'GET /people/:id/planned': 'rosa',
    'GET /rules/:id/existing': rule,
    'GET /boards/:pipeline': 'hp',
  }
  let checked = 0
  for (const [route, { answer, media }] of Object.entries(CONTRACTS as Readonly<Record<string, Contract>>)) {
    const [method = '', path = ''] = route.split(' ')
    if (method !== 'GET' || !answer || media) continue
    const filled = path
      .replace(':object', 'deal')
      .replace(':kind', 'history')
      .replace(':id', String(ids[route] ?? 1))
      .replace(':rule', String(rule))
      .replace(':run', '1')
      .replace(':key', 'units')
      .replace(':other', '1')
      .replace(':pipeline', 'hp')
    const got = await request.get(`/api/v1${filled}`, {
      params:
        route === 'GET /segments'
          ? { object: 'deal' }
          : route === 'GET /find'
            ? { words: 'a' }
            : route === 'GET /calendar'
              ? { from: 0, to: 1 }
              : {},
    })
    expect(got.status(), route).toBe(200)
    const read = (answer as z.ZodType).safeParse(await got.json())
    expect(read.error?.issues.slice(0, 3) ?? [], route).toEqual([])
    checked++
  }
  expect(checked).toBeGreaterThan(14)
})

test('lists are paged to their end, each thing once, while others add to them', async ({ request }) => {
  const seen = new Set<number>()
  let [cursor, pages]: [string | undefined, number] = [undefined, 0]
  do {
    const page = (await (
      await request.get('/api/v1/records/deal', { params: { limit: 30, ...(cursor ? { cursor } : {}) } })
    ).json()) as { rows: { id: number }[]; next: string | null }
    for (const { id } of page.rows) {
      expect(seen.has(id)).toBe(false)
      seen.add(id)
    }
    if (pages++ === 0) await newDeal(request, {})
    cursor = page.next ?? undefined
  } while (cursor)
  const { total } = (await (await request.get('/api/v1/record-lists/deal', { params: { limit: 1 } })).json()) as {
    total: number
  }
  expect([seen.size, pages]).toEqual([total, Math.ceil(total / 30)])
  const filter = JSON.stringify({
    kind: 'group',
    id: 'c0',
    mode: 'all',
    items: [{ kind: 'condition', id: 'c1', field: 'stage', op: 'is', not: false, params: { value: 'hp-quoted' } }],
  })
  const some = (await (await request.get('/api/v1/records/deal', { params: { filter, limit: 3 } })).json()) as {
    rows: { id: number; values: { stage: string } }[]
    next: string
  }
  expect(some.rows.map((row) => row.values.stage)).toEqual(['hp-quoted', 'hp-quoted', 'hp-quoted'])
  expect(
    (
      (await (
        await request.get('/api/v1/records/deal', { params: { filter, limit: 3, cursor: some.next } })
      ).json()) as typeof some
    ).rows[0]?.id,
  ).toBeGreaterThan(some.rows[2]?.id ?? 0)
  const wrong = await request.get('/api/v1/tasks', { params: { cursor: 'page 2' } })
  expect([wrong.status(), await wrong.json()]).toEqual([
    400,
    expect.objectContaining({
      places: [{ path: 'cursor', text: 'Invalid cursor. Use the `next` value of the previous page.' }],
    }),
  ])
})

test('a write under a key of its own is done once, however often it is sent', async ({ request }) => {
  const key = `probe ${Date.now()}`
  const send = (name: string, under = key) =>
    request.post('/api/v1/records/deal', {
      headers: { 'idempotency-key': under },
      data: { values: { name, stage: 'hp-sized', owner: 'rosa' } },
    })
  const [first, ...others] = await Promise.all([send(key), send(key), send(key)])
  const made = [first, ...others].filter((answer) => answer?.status() === 200)
  for (const answer of made) expect(await answer?.json()).toEqual(await made[0]?.json())
  expect((await send(key)).headers()['idempotent-replay']).toBe('true')
  expect(await deals(request, { name: key })).toHaveLength(1)
  expect((await send('another', key)).status()).toBe(422)
  // A refusal wrote nothing: under the same key the request may be sent again, corrected.
  const refused = await request.post('/api/v1/records/deal', {
    headers: { 'idempotency-key': `${key} 2` },
    data: { values: { stage: 'hp-sized' } },
  })
  expect(refused.status()).toBe(422)
  expect((await send('Put right', `${key} 2`)).status()).toBe(200)
  // A key made for secrets is never kept with them.
  const [one, two] = await Promise.all(
    [1, 2].map(
      async () =>
        (await (
          await request.post('/api/v1/account/tokens', {
            headers: { 'idempotency-key': `${key} 3` },
            data: { name: key },
          })
        ).json()) as { token: string },
    ),
  )
  expect(one?.token).not.toBe(two?.token)
})

test('a change made for an older version is refused and says so', async ({ request }) => {
  const deal = await newDeal(request, { units: 1 })
  const url = `/api/v1/records/deal/${deal.id}`
  const tag = (await request.get(url)).headers().etag ?? ''
  expect(tag).toBe('"1"')
  const write = (match: string, units: number) =>
    request.patch(url, { headers: { 'if-match': match }, data: { values: { units } } })
  const done = await write(tag, 2)
  expect([done.status(), done.headers().etag]).toEqual([200, '"2"'])
  const late = await write(tag, 3)
  expect([late.status(), late.headers().etag, ((await late.json()) as { title: string }).title]).toEqual([
    412,
    '"2"',
    'Changed by someone else',
  ])
  expect((await write('"7", "2"', 4)).status()).toBe(200)
  expect((await write('*', 5)).status()).toBe(200)
  expect(((await (await request.get(url)).json()) as { values: { units: number } }).values.units).toBe(5)
})

test('links are made, changed and taken away; there is one main link at a time', async ({ request }) => {
  const deal = await newDeal(request, {})
  const make = async (object: string, name: string) =>
    (
      (await (await request.post(`/api/v1/records/${object}`, { data: { values: { name } } })).json()) as {
        ref: { id: number }
      }
    ).ref.id
  const [one, two, firm] = [
    await make('contact', 'Link One'),
    await make('contact', 'Link Two'),
    await make('company', 'Link Firm'),
  ]
  const url = `/api/v1/records/deal/${deal.id}/links`
  const link = async (to: object, more: object = {}) =>
    (
      (await (await request.post(url, { data: { to, ...more } })).json()) as {
        links: { ref: { object: string; id: number }; role: string; main: boolean }[]
      }
    ).links.map((each) => [each.ref.id, each.role, each.main])
  expect(await link({ object: 'contact', id: one }, { role: 'buyer' })).toEqual([[one, 'buyer', true]])
  expect(await link({ object: 'contact', id: two })).toEqual([
    [one, 'buyer', true],
    [two, '', false],
  ])
  expect(await link({ object: 'contact', id: two }, { role: 'site', main: true })).toEqual([
    [two, 'site', true],
    [one, 'buyer', false],
  ])
  const gone = await request.delete(`${url}/contact/${two}`)
  expect(((await gone.json()) as { links: object[] }).links).toMatchObject([{ ref: { id: one }, main: true }])
  expect((await request.delete(`${url}/contact/${two}`)).status()).toBe(404)
  const wrongWay = await request.post(`/api/v1/records/company/${firm}/links`, {
    data: { to: { object: 'deal', id: deal.id } },
  })
  expect([wrongWay.status(), ((await wrongWay.json()) as { places: object[] }).places]).toEqual([
    422,
    [{ path: 'to.object', text: 'Link the deal to the company instead.' }],
  ])
})

test('numbers about how it is doing are there for whoever brings a key', async ({ request }) => {
  const answer = await request.get('/api/v1/metrics')
  const text = await answer.text()
  expect([answer.status(), answer.headers()['content-type']]).toEqual([200, expect.stringContaining('text/plain')])
  for (const name of [
    'sky_lever_request_seconds_bucket{',
    'sky_lever_runs_total{state="done"}',
    'sky_lever_events_behind 0',
    'sky_lever_outbox_pending',
    'process_resident_memory_bytes',
  ])
    expect(text).toContain(name)
  expect(text).not.toMatch(/rosa|Probe/)
})

test('a refusal names the place and the reason, and nothing is written', async ({ request }) => {
  const deal = await newDeal(request, { amount: 5 })
  const patch = async (values: object) => {
    const answer = await request.patch(`/api/v1/records/deal/${deal.id}`, { data: { values } })
    return [answer.status(), ((await answer.json()) as { places: { path: string; text: string }[] }).places] as const
  }
  expect(await patch({ amount: 7, owner: 'nobody', pipeline: 'enq', colour: 'red' })).toEqual([
    422,
    [
      { path: 'owner', text: 'No person named “nobody”.' },
      { path: 'pipeline', text: '“Pipeline” is read-only: set from the stage.' },
      { path: 'colour', text: 'Field “colour” does not exist.' },
    ],
  ])
  expect(await patch({ name: '' })).toEqual([422, [{ path: 'name', text: 'Name is required.' }]])
  expect((await patch({ closeDate: '2027-02-30' }))[1]).toEqual([
    { path: 'closeDate', text: '“2027-02-30” is not a date. Use 24 Nov 2026 or 2026-11-24.' },
  ])
  const record = (await (await request.get(`/api/v1/records/deal/${deal.id}`)).json()) as {
    version: number
    values: { amount: number }
  }
  expect([record.version, record.values.amount]).toEqual([1, 5])

  const bad = await request.get('/api/v1/records/deal', { params: { filter: '{"kind":"group"' } })
  expect([bad.status(), bad.headers()['content-type']]).toEqual([
    400,
    expect.stringContaining('application/problem+json'),
  ])
  const rule = await request.put('/api/v1/rules/1/draft', {
    data: {
      rev: 1,
      document: {
        format: 2,
        name: 'x',
        description: '',
        object: 'deal',
        triggers: [],
        conditions: { kind: 'group', id: 'c0', mode: 'all', items: [] },
        steps: [{ id: 's1', kind: 'launch', params: {} }],
      },
    },
  })
  expect([rule.status(), ((await rule.json()) as { places: { path: string }[] }).places[0]?.path]).toEqual([
    400,
    'document.steps.0.kind',
  ])
})

test('two people moving one deal at once lose nothing', async ({ request }) => {
  const deal = await newDeal(request, { stage: 'hp-visit' })
  const stages = ['hp-sized', 'hp-quoted', 'hp-terms', 'hp-sized', 'hp-quoted', 'hp-visit', 'hp-terms', 'hp-sized']
  const answers = await Promise.all(
    stages.map((stage, units) =>
      request.patch(`/api/v1/records/deal/${deal.id}`, { data: { values: { stage, units } } }),
    ),
  )
  expect(answers.every((answer) => answer.ok())).toBe(true)
  const page = (await (await request.get(`/api/v1/records/deal/${deal.id}`)).json()) as {
    version: number
    timeline: {
      what: string
      created?: boolean
      doer?: { by: string }
      changes?: { label: string; old: string; new: string }[]
    }[]
  }
  const moves = page.timeline
    .filter((entry) => entry.what === 'change' && entry.created === false && entry.doer?.by === 'person')
    .reverse()
  expect(moves).toHaveLength(stages.length)
  // Each began where the one before had ended.
  const units = moves.flatMap((entry) => entry.changes?.filter((change) => change.label === 'Units') ?? [])
  units.slice(1).forEach((change, i) => expect(change.old).toBe(units[i]?.new))
})
