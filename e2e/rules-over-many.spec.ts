import { STEPS, STEP_NAMES } from '../core/rules/steps'
import { TRIGGERS, TRIGGER_NAMES } from '../core/rules/triggers'
import { expect, newDeal, open, ownRules, test } from './app'
import { set, values, change, runsOf } from './deal-steps'

const { newRule, keep } = ownRules()

test('params that do not fit are refused by path for every kind of step and trigger', async ({ request }) => {
  const { id } = (await (
    await request.post('/api/v1/rules', { data: { name: 'Refused', object: 'deal' } })
  ).json()) as { id: number }
  keep(id)
  const send = async (parts: object) => {
    const answer = await request.put(`/api/v1/rules/${id}/draft`, {
      data: {
        rev: 1,
        document: {
          format: 2,
          name: 'Refused',
          description: '',
          object: 'deal',
          triggers: [],
          steps: [],
          conditions: { kind: 'group', id: 'c0', mode: 'all', items: [] },
          ...parts,
        },
      },
    })
    return [answer.status(), ((await answer.json()) as { places: { path: string }[] }).places[0]?.path]
  }
  for (const kind of STEP_NAMES) {
    const branches = STEPS[kind].ways ? { branches: [] } : {}
    const [status, path] = await send({ steps: [{ id: 's1', kind, params: { nonsense: true }, ...branches }] })
    expect([kind, status], kind).toEqual([kind, 400])
    expect(path, kind).toMatch(/^document\.steps\.0/)
  }
  for (const kind of TRIGGER_NAMES) {
    expect(TRIGGERS[kind].kind).toBe(kind)
    expect(await send({ triggers: [{ id: 't1', kind, params: { nonsense: true } }] }), kind).toEqual([
      400,
      expect.stringMatching(/^document\.triggers\.0\.params/),
    ])
  }
})

test('a label that is added starts a rule, and one is taken off by another', async ({ request }) => {
  const rule = await newRule(request, 'Labelled', {
    triggers: [{ id: 't1', kind: 'labelChanges', params: { labels: ['press'], how: 'added', field: 'labels' } }],
    steps: [
      set('s1', 'units', 8),
      { id: 's2', kind: 'changeLabels', params: { how: 'remove', labels: ['press'], field: 'labels' } },
    ],
  })
  const deal = await newDeal(request, { labels: ['urgent'] })
  await change(request, deal.id, { labels: ['urgent', 'reference-customer'] })
  expect(await runsOf(request, rule)).toEqual([])
  await change(request, deal.id, { labels: ['urgent', 'press'] })
  expect(await values(request, deal.id)).toMatchObject({ units: 8, labels: ['urgent'] })
})

test('a rule is started for all records that are seen, and what was kept of a paused one is dropped when told to', async ({
  page,
  request,
}) => {
  const reference = `Selection ${process.pid}`
  const rule = await newRule(request, 'For a selection', {
    triggers: [{ id: 't1', kind: 'byHand', params: { button: 'Count them', facts: [], questions: [] } }],
    steps: [{ id: 's1', kind: 'setField', params: { field: 'units', source: { from: 'add', value: 1 } } }],
  })
  const deals = await Promise.all([1, 2, 3].map((units) => newDeal(request, { reference, units })))
  const filter = JSON.stringify({
    kind: 'group',
    id: 'c0',
    mode: 'all',
    items: [{ kind: 'condition', id: 'c1', field: 'reference', op: 'is', not: false, params: { value: reference } }],
  })
  await open(page, `/records/deals?filter=${encodeURIComponent(filter)}`)
  await page.locator('[data-start-all]').click()
  await page.getByRole('dialog', { name: 'Run a rule' }).getByRole('button', { name: 'Count them' }).click()
  await page.getByRole('button', { name: 'Run for 3 deals' }).click()
  await expect
    .poll(async () => (await Promise.all(deals.map(async (deal) => (await values(request, deal.id)).units))).join())
    .toBe('2,3,4')
  expect((await request.post(`/api/v1/rules/${rule}/pause`, { data: { act: 'drop' } })).status()).toBe(409)
  expect(
    (
      await request.post('/api/v1/manual-runs/deal', {
        data: { rule, trigger: 't9', filter: JSON.parse(filter) as object },
      })
    ).status(),
  ).toBe(404)
})
