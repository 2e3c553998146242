import { deals, expect, newDeal, newRule, open, setRule, test } from './app'

const ROWS = 6_000
const file = (name: string) =>
  [
    'Reference;Name;Stage;Owner;Amount',
    ...Array.from(
      { length: ROWS },
      (_, i) => `${name}-${i};${name} ${i};${i % 4 === 0 ? 'Ended' : 'Renewed'};Jude Okell;${i}`,
    ),
  ].join('\n')

test('a large file comes in beside people’s work: progress is seen, it stops, goes on, and everything is there once', async ({
  page,
  request,
}) => {
  const rule = await newRule(request, 'Ended in bulk', {
    triggers: [{ id: 't1', kind: 'entersStage', params: { stage: 'ren-ended' } }],
    conditions: [
      { kind: 'condition', id: 'c1', field: 'reference', op: 'contains', not: false, params: { value: 'BULK-' } },
    ],
    steps: [{ id: 's1', kind: 'setField', params: { field: 'units', source: { from: 'value', value: 7 } } }],
  })
  const { id } = (await (
    await request.post('/api/v1/imports', { data: { fileName: 'bulk.csv', content: file('BULK') } })
  ).json()) as { id: number }
  await open(page, `/data/${id}`)
  await expect(page.locator('[data-counts]')).toContainText(ROWS.toLocaleString('en'))
  await page.locator('[data-bring]').click()
  await expect(page.locator('[data-progress]')).toContainText(/\d+%, row [\d,]+ of 6,001 · [\d,]+ rows per second/, {
    timeout: 180_000,
  })

  await page.locator('[data-stop]').click()
  await expect(page.locator('[data-state]')).toContainText('Stopped')
  const { position } = (await (await request.get(`/api/v1/imports/${id}`)).json()) as { position: number }
  expect(position).toBeGreaterThan(1)
  expect(position).toBeLessThan(ROWS)
  await page.locator('[data-go-on]').click()

  // Meanwhile a deal is moved through its stages; each answer holds what was asked for.
  const mine = await newDeal(request, { stage: 'hp-visit' })
  for (const stage of ['hp-sized', 'hp-quoted', 'hp-terms', 'hp-quoted']) {
    const answer = await request.patch(`/api/v1/records/deal/${mine.id}`, { data: { values: { stage } } })
    expect(((await answer.json()) as { values: { stage: string } }).values.stage).toBe(stage)
  }

  await expect(page.locator('[data-state]')).toContainText('Imported', { timeout: 180_000 })

  const found = (await (
    await request.get('/api/v1/record-lists/deal', { params: { words: 'BULK', limit: 1 } })
  ).json()) as {
    matched: number
  }
  expect(found.matched).toBe(ROWS)
  const ran = await deals(request, { units: 7, stage: 'ren-ended' })
  expect(ran.length).toBe(200) // the page's own limit; the count stands below
  const units = JSON.stringify({
    kind: 'group',
    id: 'c0',
    mode: 'all',
    items: [{ kind: 'condition', id: 'c1', field: 'units', op: 'is', not: false, params: { value: 7 } }],
  })
  // So many starts in one hour were not to be expected: the rule was paused, and goes on once somebody says so.
  const work = async () =>
    (await (await request.get(`/api/v1/rules/${rule}/jobs`)).json()) as {
      jobs: { what: string; state: string }[]
      paused: { held: number } | null
    }
  const { paused } = await work()
  expect(paused?.held).toBeGreaterThan(0)
  await open(page, `/rules/${rule}`)
  await page.getByRole('button', { name: `Resume and run the ${paused?.held.toLocaleString('en')}` }).click()
  await expect(page.locator('[data-job-state]')).toContainText('Done', { timeout: 180_000 })
  expect(
    (
      (await (
        await request.get('/api/v1/record-lists/deal', { params: { filter: units, words: 'BULK', limit: 1 } })
      ).json()) as { matched: number }
    ).matched,
  ).toBe(ROWS / 4)
  await setRule(request, rule, 'archived')
})

test('an import that is not under way cannot be stopped, and one that is done cannot begin again', async ({
  request,
}) => {
  const { id } = (await (
    await request.post('/api/v1/imports', { data: { fileName: 'one.csv', content: 'Name;Stage\nOnly one;Sized\n' } })
  ).json()) as { id: number }
  expect((await request.post(`/api/v1/imports/${id}/stop`)).status()).toBe(409)
  expect((await request.post(`/api/v1/imports/${id}/run`, { data: { rulesOn: false } })).status()).toBe(200)
  await expect
    .poll(async () => ((await (await request.get(`/api/v1/imports/${id}`)).json()) as { state: string }).state)
    .toBe('done')
  expect((await request.post(`/api/v1/imports/${id}/run`, { data: { rulesOn: true } })).status()).toBe(409)
  expect((await request.get('/api/v1/imports/99999')).status()).toBe(404)
})
