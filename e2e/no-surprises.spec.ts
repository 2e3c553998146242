import { all, condition, document, enters, set, task, type StepLine } from '../core/testing/rules'
import { addDays } from '../core/time/dates'
import { expect, open, test } from './app'
import { ownDemo } from './own-demo'
import { byApi } from './rules-by-api'

/** Mistakes made on purpose: each is impossible, pointed out before it costs anything, or seen beforehand. */
const demo = ownDemo(3137)
const { get, post, make, today } = demo
const { draft, runs } = byApi(demo)

const DAILY = (from: string) =>
  ['recurring', { rule: { rule: 'FREQ=DAILY', from }, minute: 510, offDays: 'keep' }] as const
const named = (part: string) => all(condition('name', 'contains', { value: part }))
const again = (title: string, more: object = {}) => task(title, { again: true, ...more })

test('a rule about a segment runs for its members, not for whatever meets the conditions', async ({ page }) => {
  for (const [n, amount] of [10, 20, 91_000, 92_000, 93_000].entries())
    await make('deal', { name: `Member ${n}`, stage: 'hp-visit', owner: 'rosa', amount })
  const filter = all(
    condition('name', 'contains', { value: 'Member' }, false, 'c1'),
    condition('amount', 'moreThan', { value: 90_000 }, false, 'c2'),
  )
  const { id: segment } = await post<{ id: number }>('/segments', {
    object: 'deal',
    name: 'Large members',
    filter,
    columns: [],
    sort: '',
    down: false,
  })
  const id = await draft(document({ when: [['segmentEntered', { segment }]], then: [again('Member')] }, 'Members'))
  await open(page, `/rules/${id}`)
  await expect(page.locator('[data-standing]')).toContainText('3 deals in the segment “Large members”')
  await page.locator('[data-switch-on]').click()
  await expect(page.locator('[data-existing]')).toContainText('for 3 of 3 deals in the segment “Large members”')
  await page.locator('[data-through]').check()
  await expect(page.locator('[data-forecast-sum]')).toContainText('3 runs for 3 deals')
  await page.locator('[data-confirm]').click()
  await expect(page.locator('[data-job-state]')).toHaveText('Done: 3 of 3')
  expect(await runs(id)).toHaveLength(3)
})

test('a rule that only starts when something happens offers no existing records, and runs for a chosen list', async ({
  page,
}) => {
  for (const n of [1, 2]) await make('deal', { name: `Chosen ${n}`, stage: 'hp-visit', owner: 'rosa' })
  const id = await draft(document({ when: [['created', {}]], then: [again('Chosen')] }, 'When created'))
  await open(page, `/rules/${id}`)
  await page.locator('[data-switch-on]').click()
  await expect(page.locator('[data-existing]')).toContainText('Existing deals are left alone')
  await expect(page.locator('[data-through]')).toHaveCount(0)
  await page.locator('[data-confirm]').click()
  await expect(page.locator('[data-state]')).toContainText('On')
  const chosen = await post<{ total: number }>(`/rules/${id}/existing`, { filter: named('Chosen') })
  expect(chosen.total).toBe(2)
  await expect.poll(async () => (await runs(id)).length).toBe(2)
})

test('what would give everybody everything says so first, and asks', async ({ page }) => {
  const id = await draft(
    document(
      {
        when: [DAILY(await today())],
        then: [['notify', { who: { by: 'owner' }, subject: 'Look', body: '', email: false }]],
      },
      'Every day',
    ),
  )
  await open(page, `/rules/${id}`)
  await page.locator('[data-switch-on]').click()
  await expect(page.locator('[data-when]')).toContainText(/next on .*, for \d+ deals/)
  await expect(page.locator('[data-limits]')).toContainText(/it runs for up to \d+ of \d+ deals/)
  await expect(page.locator('[data-limits]')).toContainText('tasks and notifications within an hour')
  await expect(page.locator('[data-confirm]')).toBeDisabled()
  await page.locator('[data-confirm]').click({ force: true })
  await expect(page.locator('[data-state]')).toContainText('Draft')
  await page.locator('[data-meant]').check()
  await page.locator('[data-confirm]').click()
  await expect(page.locator('[data-state]')).toContainText('On')
})

const FINDINGS: readonly (readonly [what: string, kind: string, says: RegExp, rule: (day: string) => object])[] = [
  [
    'a date condition that takes past and empty dates',
    'pastDates',
    /Of \d+: \d+ (is|are) past/,
    (day) => ({
      when: [enters('hp-quoted')],
      onlyIf: all(condition('closeDate', 'before', { date: addDays(day, 2) })),
      then: [set('units', 1)],
    }),
  ],
  [
    'a wait left at a minute',
    'shortWait',
    /Only 1 minute/,
    () => ({
      when: [enters('hp-quoted')],
      then: [
        ['wait', { until: { at: 'after', amount: { count: 1, unit: 'minutes' }, minute: null }, recheck: true }],
        again('Ring'),
      ] as StepLine[],
    }),
  ],
  [
    'a value without a path',
    'noPath',
    /No path for “/,
    () => ({
      when: [enters('hp-quoted')],
      then: [['pathPerValue', { field: 'kind' }, ['hire', set('units', 1)], [null]]] as StepLine[],
    }),
  ],
]
for (const [what, kind, says, parts] of FINDINGS)
  test(`${what} is pointed out before the rule is on`, async ({ page }) => {
    const id = await draft(document(parts(await today()) as never, what))
    await open(page, `/rules/${id}`)
    await page.getByRole('tab', { name: /^Preflight/ }).click()
    await expect(page.locator(`[data-finding="${kind}"]`)).toContainText(says)
    await page.locator('[data-switch-on]').click()
    await expect(page.getByRole('dialog')).toContainText(/Preflight found \d+ warning/)
  })

test('a run that fails is told at once, and several are one line', async ({ page }) => {
  const id = await draft(
    document(
      {
        when: [enters('hp-quoted')],
        onlyIf: named('Fails'),
        then: [['setField', { field: 'amount', source: { from: 'formula', text: '1 / margin' } }]],
      },
      'Divides',
    ),
  )
  await post(`/rules/${id}/state`, { state: 'on', anyway: true })
  for (const n of [1, 2, 3]) {
    const deal = await make('deal', { name: `Fails ${n}`, stage: 'hp-visit', owner: 'rosa', margin: 0 })
    await demo.api().patch(`/api/v1/records/deal/${deal}`, { data: { values: { stage: 'hp-quoted' } } })
  }
  const { notices } = await get<{ notices: { subject: string; moreCount: number }[] }>('/notifications')
  expect(
    notices.filter(({ subject }) => subject === 'Rule “Divides” failed').map(({ moreCount }) => moreCount),
  ).toEqual([2])
  await open(page, '/rules')
  await page.locator('[data-bell]').click()
  await expect(page.locator('[data-more-notices]').first()).toContainText('and 2 more')
})

test('a rule says what it is for, and its trigger becomes another one that keeps what fits', async ({ page }) => {
  const id = await draft(document({ when: [enters('hp-quoted')], then: [again('Ring')] }, 'Explained'))
  await open(page, `/rules/${id}`)
  const about = page.getByLabel('Description')
  await about.fill('Agreed with the hire desk in March')
  await page.keyboard.press('Enter')
  await page.locator('[data-line="trigger:t1"]').hover()
  await page.locator('[data-change-trigger="t1"]').click()
  await page.keyboard.type('leaves a stage')
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-line="trigger:t1"]')).toContainText('a deal leaves Quoted')
  await page.locator('[data-line="step:s1"]').hover()
  await page.getByRole('button', { name: 'Duplicate step 1' }).click()
  await expect(page.locator('[data-line^="step:"]')).toHaveCount(2)
  await expect
    .poll(async () => (await get<{ draft: { description: string; steps: object[] } }>(`/rules/${id}`)).draft)
    .toMatchObject({ description: 'Agreed with the hire desk in March', triggers: [{ kind: 'leavesStage' }] })
  await open(page, '/rules?words=hire desk in march')
  await expect(page.getByText('Explained').first()).toBeVisible()
})

test('a page whose answer fails to come goes on with what it had, and catches up', async ({ page }) => {
  const id = await draft(document({ when: [enters('hp-quoted')], then: [again('Ring')] }, 'Read once'))
  await post(`/rules/${id}/state`, { state: 'on' })
  await open(page, `/rules/${id}`)
  await expect(page.locator('[data-state]')).toContainText('On')
  const away = `**/api/v1/rules/${id}`
  await page.route(away, (route) => route.fulfill({ status: 403, json: { detail: 'Not now.' } }))
  const refused = page.waitForResponse((answer) => answer.url().endsWith(`/rules/${id}`))
  await post(`/rules/${id}/state`, { state: 'off' })
  expect((await refused).status()).toBe(403)
  await expect(page.getByRole('heading', { name: 'Read once' })).toBeVisible()
  await expect(page.locator('[data-line="step:s1"]')).toContainText('Ring')
  await page.unroute(away)
  await post(`/rules/${id}/state`, { state: 'on' })
  await post(`/rules/${id}/state`, { state: 'off' })
  await expect(page.locator('[data-state]')).toContainText('Off')
})
