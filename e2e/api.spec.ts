import fc from 'fast-check'
import { ROUTES, type RouteName } from '../server/utils/acts'
import { expect, newDeal, test } from './app'

/** Routes that would end the session, set the demo up again, fill the disk, or never answer. */
const SPARED: readonly RouteName[] = ['GET /live', 'DELETE /session', 'DELETE /session/all', 'POST /session', 'POST /session/demo', 'POST /workspace', 'POST /backups', 'POST /people', 'PATCH /people/:id']
const routes = (Object.keys(ROUTES) as RouteName[]).filter((route) => !SPARED.includes(route))

const text = fc.oneof(fc.string(), fc.constantFrom('deal', 'hp', 'name', '1', '-1', '0', '1e9', '999999999999999999999', '../..', '%00', '{{deal.name}}', '<b>x</b>', 'null'))
const json = fc.oneof(
  fc.jsonValue({ maxDepth: 3 }),
  fc.dictionary(fc.constantFrom('values', 'document', 'rev', 'state', 'act', 'outcome', 'due', 'personId', 'name', 'object', 'content', 'fileName', 'targets', 'decimal', 'dateOrder', 'rulesOn', 'links'), fc.oneof(text, fc.integer(), fc.boolean(), fc.jsonValue({ maxDepth: 2 }))),
)
const query = fc.dictionary(fc.constantFrom('filter', 'words', 'sort', 'down', 'offset', 'limit', 'owner', 'person', 'rule', 'state', 'all', 'before'), text, { maxKeys: 4 })

/** `SKY_LEVER_REQUESTS=10000 npx playwright test api` tries more of them. */
const REQUESTS = Number(process.env.SKY_LEVER_REQUESTS ?? 700)

test('whatever a request holds, the answer is never a failure of ours', async ({ request }) => {
  test.setTimeout(60_000 + 40 * REQUESTS)
  const cases = fc.sample(fc.tuple(fc.constantFrom(...routes), text, text, query, json), { numRuns: REQUESTS, seed: 20_261 })
  for (const [route, one, other, params, body] of cases) {
    const [method = '', path = ''] = route.split(' ')
    const ids = [one, other]
    const url = `/api/v1${path.replace(/:\w+/g, () => encodeURIComponent(ids.shift() || '1'))}`
    const answer = await request.fetch(url, { method, params, ...(method === 'GET' ? {} : { data: JSON.stringify(body), headers: { 'content-type': 'application/json' } }) })
    expect(answer.status(), `${method} ${url} ${JSON.stringify(params)} ${JSON.stringify(body)}: ${answer.status()}`).toBeLessThan(500)
  }
})

test('a refusal names the place and the reason, and nothing is written', async ({ request }) => {
  const deal = await newDeal(request, { amount: 5 })
  const patch = async (values: object) => {
    const answer = await request.patch(`/api/v1/records/deal/${deal.id}`, { data: { values } })
    return [answer.status(), ((await answer.json()) as { places: { path: string; text: string }[] }).places] as const
  }
  expect(await patch({ amount: 7, owner: 'nobody', pipeline: 'enq', colour: 'red' })).toEqual([422, [
    { path: 'owner', text: 'nobody here is called “nobody”' }, { path: 'pipeline', text: 'Pipeline cannot be written: follows from the stage' }, { path: 'colour', text: 'there is no field “colour”' },
  ]])
  expect(await patch({ name: '' })).toEqual([422, [{ path: 'name', text: 'Name must not be empty' }]])
  expect((await patch({ closeDate: '2027-02-30' }))[1]).toEqual([{ path: 'closeDate', text: '“2027-02-30” is not a date' }])
  const record = (await (await request.get(`/api/v1/records/deal/${deal.id}`)).json()) as { version: number; values: { amount: number } }
  expect([record.version, record.values.amount]).toEqual([1, 5])

  const bad = await request.get('/api/v1/records/deal', { params: { filter: '{"kind":"group"' } })
  expect([bad.status(), bad.headers()['content-type']]).toEqual([400, expect.stringContaining('application/problem+json')])
  const rule = await request.put('/api/v1/rules/1/draft', { data: { rev: 1, document: { format: 1, name: 'x', description: '', object: 'deal', triggers: [], conditions: { kind: 'group', id: 'c0', mode: 'all', items: [] }, steps: [{ id: 's1', kind: 'launch', params: {} }] } } })
  expect([rule.status(), ((await rule.json()) as { places: { path: string }[] }).places[0]?.path]).toEqual([400, 'document.steps.0.kind'])
})

test('two people moving one deal at once lose nothing', async ({ request }) => {
  const deal = await newDeal(request, { stage: 'hp-visit' })
  const stages = ['hp-sized', 'hp-quoted', 'hp-terms', 'hp-sized', 'hp-quoted', 'hp-visit', 'hp-terms', 'hp-sized']
  const answers = await Promise.all(stages.map((stage, units) => request.patch(`/api/v1/records/deal/${deal.id}`, { data: { values: { stage, units } } })))
  expect(answers.every((answer) => answer.ok())).toBe(true)
  const page = (await (await request.get(`/api/v1/records/deal/${deal.id}`)).json()) as { version: number; timeline: { what: string; created?: boolean; doer?: { by: string }; changes?: { label: string; old: string; new: string }[] }[] }
  const moves = page.timeline.filter((entry) => entry.what === 'change' && entry.created === false && entry.doer?.by === 'person').reverse()
  expect(moves).toHaveLength(stages.length)
  // Each began where the one before had ended.
  const units = moves.flatMap((entry) => entry.changes?.filter((change) => change.label === 'Units') ?? [])
  units.slice(1).forEach((change, i) => expect(change.old).toBe(units[i]?.new))
})
