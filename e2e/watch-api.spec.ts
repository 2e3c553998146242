import { request as requests, type APIRequestContext } from '@playwright/test'
import { expect, test } from './app'
import { ownDemo } from './own-demo'

/** What needs somebody, what came of rules and who has how much to do, as a program asks for it. */
const { api, get, post } = ownDemo(3144)

interface Problem {
  readonly id: number
  readonly says: string
  readonly personId: string | null
  readonly acceptedUntil: number | null
}
interface ProblemPage {
  readonly open: number
  readonly kinds: readonly { readonly kind: string; readonly again: boolean; readonly problems: readonly Problem[] }[]
}
interface Team {
  readonly people: readonly {
    readonly id: string
    readonly load: { readonly late: number }
    readonly late: readonly { readonly id: number; readonly title: string }[]
  }[]
}

/** The API of the same workspace as somebody else. */
async function as(personId: string): Promise<APIRequestContext> {
  const context = await requests.newContext({ baseURL: 'http://localhost:3144' })
  expect((await context.post('/api/v1/session/demo', { data: { personId } })).ok()).toBe(true)
  return context
}
const problemsOf = async (kind: string): Promise<readonly Problem[]> =>
  (await get<ProblemPage>('/problems')).kinds.find((one) => one.kind === kind)?.problems ?? []
/** They are looked for by the clock: a moment after the start there are some. */
async function problemOf(kind: string): Promise<Problem> {
  await expect.poll(async () => (await problemsOf(kind)).length, { timeout: 90_000 }).toBeGreaterThan(0)
  const [found] = await problemsOf(kind)
  if (!found) throw new Error(`there is no problem “${kind}” any more`)
  return found
}

test('a problem is given to somebody, accepted for some days and open again; what is odd is refused', async () => {
  const { id } = await problemOf('bounced')
  const { open } = await get<ProblemPage>('/problems')
  await post(`/problems/${id}`, { act: 'assign', person: 'jude' })
  expect((await problemOf('bounced')).personId).toBe('jude')
  await post(`/problems/${id}`, { act: 'assign', person: null })
  expect((await problemOf('bounced')).personId).toBeNull()
  await post(`/problems/${id}`, { act: 'accept', days: 7 })
  const { nowMs } = await get<{ nowMs: number }>('/clock')
  const { acceptedUntil } = await problemOf('bounced')
  expect(Math.abs((acceptedUntil ?? 0) - nowMs - 7 * 86_400_000)).toBeLessThan(60_000)
  expect((await get<ProblemPage>('/problems')).open).toBe(open - 1)
  await post(`/problems/${id}`, { act: 'accept', days: null })
  expect((await get<ProblemPage>('/problems')).open).toBe(open)
  for (const [body, status] of [
    [{ act: 'assign', person: 'no-such-person' }, 404],
    [{ act: 'accept', days: 0 }, 400],
    [{ act: 'accept', days: 1.5 }, 400],
    [{ act: 'fix' }, 400],
    // A bounced address is nothing that could be tried again.
    [{ act: 'again' }, 409],
  ] as const)
    expect((await api().post(`/api/v1/problems/${id}`, { data: body })).status(), JSON.stringify(body)).toBe(status)
  expect((await api().post('/api/v1/problems/999999', { data: { act: 'again' } })).status()).toBe(404)
})

test('the demo has problems of most kinds to look at', async () => {
  for (const kind of [
    'failedRuns',
    'leftOut',
    'bounced',
    'expiring',
    'peopleLeft',
    'pausedRules',
    'undelivered',
    'zonesUnknown',
  ])
    await problemOf(kind)
})

test('late tasks are handed over together, each once, and only those that one sees', async () => {
  const { people } = await get<Team>('/team')
  const from = people.find(({ load }) => load.late > 1)
  const to =
    people.find(({ id, load }) => id !== from?.id && load.late === 0) ?? people.find(({ id }) => id !== from?.id)
  if (!from || !to) throw new Error('no one is late in the demo')
  const ids = from.late.slice(0, 2).map(({ id }) => id)
  const body = { ids: [...ids, ...ids, 999_999], person: to.id }
  // A sales lead hands over what is late, as a specialist may.
  const lead = await as('maren')
  expect(await (await lead.post('/api/v1/task-hand-overs', { data: body })).json()).toEqual({ handedOver: 2 })
  await lead.dispose()
  expect(await post('/task-hand-overs', body)).toEqual({ handedOver: 0 })
  const after = await get<Team>('/team')
  const late = (id: string): number => after.people.find((one) => one.id === id)?.load.late ?? 0
  expect(late(from.id)).toBe(from.load.late - 2)
  expect(late(to.id)).toBe(to.load.late + 2)
  expect((await api().post('/api/v1/task-hand-overs', { data: { ids, person: 'no-such' } })).status()).toBe(404)
  expect((await api().post('/api/v1/task-hand-overs', { data: { ids: [], person: to.id } })).status()).toBe(400)
})

test('results come as a page and as a file with the same figures, and records behind a figure are paged', async () => {
  interface All {
    readonly rules: readonly { readonly id: number; readonly target: { readonly done: Done } | null }[]
  }
  interface Done {
    readonly of: number
    readonly reached: number
  }
  const measuredRule = async () =>
    (await get<All>('/results')).rules.find(({ target }) => (target?.done.of ?? 0) > 0) ?? null
  // Figures are counted in the background.
  await expect.poll(measuredRule, { timeout: 90_000 }).not.toBeNull()
  const measured = await measuredRule()
  if (!measured?.target) throw new Error('no rule of the demo has a target')
  const { of, reached } = measured.target.done
  const file = await api().get(`/api/v1/rules/${measured.id}/results/file`)
  expect(file.headers()['content-type']).toContain('text/csv')
  const lines = (await file.text()).split('\r\n')
  expect(lines[0]).toBe('Rule,Section,By,Value,Figure,Number')
  expect(lines.some((line) => line.endsWith(`,Target,,,records,${of}`))).toBe(true)
  expect(lines.some((line) => line.endsWith(`,Target,,,reached,${reached}`))).toBe(true)
  expect((await api().get('/api/v1/rules/999999/results')).status()).toBe(404)
  expect((await api().get(`/api/v1/rules/${measured.id}/results/records?figure=nonsense`)).status()).toBe(400)
  // A figure within a value opens what it counts; what is not counted so is told.
  interface Told {
    readonly runsBy: { readonly month: readonly { readonly key: string; readonly counts: { readonly runs: number } }[] }
  }
  const { runsBy } = await get<Told>(`/rules/${measured.id}/results`)
  for (const { key, counts } of runsBy.month) {
    const path = `/rules/${measured.id}/results/records?figure=runs&by=month&value=${key}`
    const { records } = await get<{ records: readonly { runId: number }[] }>(path)
    expect(new Set(records.map(({ runId }) => runId)).size, key).toBe(Math.min(50, counts.runs))
  }
  for (const query of [
    'figure=runs&by=month&value=2026-13',
    'figure=runs&by=month',
    'figure=sent&by=branch&value=b1',
  ]) {
    const refused = await api().get(`/api/v1/rules/${measured.id}/results/records?${query}`)
    expect(refused.status(), query).toBe(422)
    expect(((await refused.json()) as { detail: string }).detail).toMatch(/2026-11|not counted by branch/)
  }
})

test('who sells sees none of it but the team, and who only looks hands nothing over', async () => {
  const seller = await as('jude')
  for (const path of ['/problems', '/results', '/suggestions'])
    expect((await seller.get(`/api/v1${path}`)).status(), path).toBe(403)
  expect((await seller.get('/api/v1/team')).status()).toBe(200)
  const { id } = await problemOf('bounced')
  expect((await seller.post(`/api/v1/problems/${id}`, { data: { act: 'accept', days: 7 } })).status()).toBe(403)
  await seller.dispose()
  const viewer = await as('edda')
  expect((await viewer.get('/api/v1/problems')).status()).toBe(200)
  expect((await viewer.post('/api/v1/task-hand-overs', { data: { ids: [1], person: 'jude' } })).status()).toBe(403)
  await viewer.dispose()
})
