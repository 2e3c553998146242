import { sayWeekday } from '../core/time/say'
import { addDays } from '../core/time/dates'
import { expect, open, test, unfold } from './app'
import { addTask, beginRule, choose } from './by-hand'
import { ANEW, ownDemo } from './own-demo'
import { treated } from './treated'

/** Time is turned here, which nothing else shall notice: over a demo workspace of its own. */
const { api, get, today, make } = ownDemo(3124)
interface Line {
  readonly kind: string
  readonly ruleName: string
  readonly what: string
  readonly dueMs: number | null
  readonly recordName: string
  readonly item: object | null
}
const ahead = async (query: string): Promise<readonly Line[]> =>
  (await get<{ lines: readonly Line[] }>(`/ahead?${query}`)).lines

const callsQuotes = async (): Promise<number> =>
  (await get<{ rules: readonly { id: number; name: string }[] }>('/rules')).rules.find(
    (one) => one.name === 'Quote not answered: call',
  )?.id ?? 0

test('contract end 300 days away, reviews after 100 and 200 days: written by keyboard, rehearsed a year forward, seen on the rail', async ({
  page,
}) => {
  const company = await make('company', {
    name: 'Probe Contract',
    owner: 'rosa',
    contractEnd: addDays(await today(), 310),
  })
  const id = await beginRule(page, 'Contract reviews')
  await page.getByLabel('Record type').selectOption('company')
  await page.locator('[data-word="add:trigger/kind"]').press('Enter')
  await choose(page, 'Search triggers', 'before, on or')
  await choose(page, 'Search fields', 'contract')
  await page.locator('[data-word="trigger:t1/amount"]').press('Enter')
  await page.getByLabel('Number').fill('300')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('region', { name: 'When' })).toContainText(
    '300 days before a company’s contract end, at 8:30 (Lisbon)',
  )
  // Beside it stand the next moments on real records, and what has its moment behind it.
  await expect(page.locator('[data-moments]')).toContainText('Probe Contract')
  await expect(page.locator('[data-moments]')).toContainText('already past (the rule won’t run for')
  for (const [n, days] of [
    [1, 100],
    [2, 200],
  ] as const) {
    await addTask(page, `Review ${n}`)
    await unfold(page, `step:s${n}`)
    await page.locator(`[data-word="step:s${n}/later"]`).press('Enter')
    await page.getByRole('button', { name: 'After a time' }).click()
    await page.getByLabel('Number').fill(String(days))
    await page.getByLabel('Unit').selectOption('days')
    await page.keyboard.press('Tab')
    await page.getByRole('button', { name: 'Save', exact: true }).click()
    await expect(page.getByRole('group', { name: 'Rule sheet' })).toContainText(`after ${days} days`)
  }
  await page.locator('[data-rehearse]').click()
  await page.getByLabel('Period').selectOption('365')
  await page.locator('[data-begin]').click()
  await expect(page.locator('[data-rehearsed]')).toBeVisible()
  await page.getByRole('button', { name: 'Probe Contract', exact: true }).click()
  const rail = page.locator('[data-line-of-rehearsal]')
  await expect(rail).toHaveCount(5)
  await expect(rail.nth(0)).toContainText(sayWeekday(addDays(await today(), 10)))
  await expect(rail.nth(3)).toContainText('“Review 1”')
  await expect(rail.nth(4)).toContainText('“Review 2”')
  // Moving the date moves it all, without a change of the rule; and nothing was written by trying.
  await api().patch(`/api/v1/records/company/${company}`, {
    data: { values: { contractEnd: addDays(await today(), 320) } },
    ...ANEW,
  })
  await page.locator('[data-begin]').click()
  await expect(rail.nth(0)).toContainText(sayWeekday(addDays(await today(), 20)))
  expect((await get<{ lines: readonly object[] }>(`/runs?rule=${id}&all=true`)).lines).toEqual([])
  await api().post(`/api/v1/rules/${id}/state`, { data: { state: 'archived' }, ...ANEW })
})

test('a task that is meant once and comes daily is found by a rehearsal, with how often it comes', async ({ page }) => {
  const { id } = (await (
    await api().post('/api/v1/rules', { data: { name: 'Daily by mistake', object: 'deal' } })
  ).json()) as { id: number }
  const deal = await make('deal', {
    name: 'Probe daily',
    stage: 'hp-terms',
    owner: 'rosa',
    closeDate: addDays(await today(), 5),
  })
  const document = {
    format: 2,
    name: 'Daily by mistake',
    description: '',
    object: 'deal',
    triggers: [
      {
        id: 't1',
        kind: 'recurring',
        params: { rule: { rule: 'FREQ=DAILY', from: '2026-01-01' }, minute: 510, offDays: 'keep' },
      },
    ],
    conditions: {
      kind: 'group',
      id: 'c0',
      mode: 'all',
      items: [
        {
          kind: 'condition',
          id: 'c1',
          field: 'closeDate',
          op: 'inNext',
          not: false,
          params: { amount: { count: 3, unit: 'days' } },
        },
        { kind: 'condition', id: 'c2', field: 'name', op: 'is', not: false, params: { value: 'Probe daily' } },
      ],
    },
    steps: [
      {
        id: 's1',
        kind: 'createTask',
        params: {
          title: 'Closes soon',
          notes: '',
          taskKind: 'call',
          due: { count: 0, unit: 'days' },
          priority: 'normal',
          again: true,
          email: false,
        },
      },
    ],
  }
  expect((await api().put(`/api/v1/rules/${id}/draft`, { data: { document, rev: 1 } })).ok()).toBe(true)
  await open(page, `/rehearsal?rules=${id}&go=1&days=30`)
  await expect(page.locator('[data-warning]')).toContainText(
    '“Daily by mistake” creates the same task more than once for 1 record: “Closes soon” 4 times',
  )
  await page.locator('[data-warning]').getByRole('button', { name: 'Show' }).click()
  await expect(page).toHaveURL(new RegExp(`only=${deal}`))
  await expect(page.locator('[data-line-of-rehearsal]').filter({ hasText: '“Closes soon”' })).toHaveCount(4)
  expect((await get<{ tasks: readonly object[] }>(`/tasks?rule=${id}`)).tasks).toEqual([])
})

test('what a change would start is seen by assuming it, and beside the version that runs', async ({ page }) => {
  const [rule] = (await get<{ rules: readonly { id: number; name: string }[] }>('/rules')).rules.filter(
    (one) => one.name === 'Quote not answered: call',
  )
  const deal = await treated(rule?.id ?? 0, () =>
    make('deal', { name: 'Probe assumed', stage: 'hp-sized', owner: 'jude' }),
  )
  await open(page, `/rehearsal?rules=${rule?.id}&record=${deal}&compare=1`)
  await page.locator('[data-word="rehearse/assume"]').click()
  await page.getByLabel('What happens').selectOption('stage')
  await expect(page.getByPlaceholder('Choose a value')).toBeFocused()
  await page.keyboard.type('quoted')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('group', { name: 'Rehearsal settings' })).toContainText(
    'assuming that on day 3 at 10:00 the stage changes to Quoted',
  )
  await page.locator('[data-begin]').click()
  await expect(
    page.locator('[data-line-of-rehearsal]').filter({ hasText: 'No answer yet: Probe assumed' }),
  ).toBeVisible()
  await expect(page.locator('[data-compared]')).toContainText('1 the same')
})

test('a rehearsal is gone through step by step, kept as a case, and holds back an edit by which something else comes', async ({
  page,
}) => {
  const rule =
    (await get<{ rules: readonly { id: number; name: string }[] }>('/rules')).rules.find(
      (one) => one.name === 'Closing in 3 days, still in Terms',
    )?.id ?? 0
  const deal = await make('deal', {
    name: 'Probe case',
    stage: 'hp-terms',
    owner: 'rosa',
    closeDate: addDays(await today(), 20),
  })
  await open(page, `/rehearsal?rules=${rule}&record=${deal}&go=1`)
  await page.locator('[data-see-way]').click()
  await expect(page.locator('[data-way]')).toContainText('Step 1 of 1')
  await expect(page.locator('[data-way]')).toContainText('Task for Rosa Amara')
  await page.keyboard.press('ArrowLeft')
  await expect(page.locator('[data-way]')).toContainText('Start, ')
  await expect(page.locator('[data-way]')).not.toContainText('Preview of texts')
  await page.keyboard.press('Escape')
  await page.locator('[data-keep-case]').click()
  await page.keyboard.type('Probe: one call')
  await page.keyboard.press('Enter')
  await expect(page).toHaveURL(/\/cases/)
  await expect(page.locator('[data-case]').filter({ hasText: 'Probe: one call' })).toContainText(
    'Passed: 1 run, 1 task',
  )

  const { draft, draftRev } = await get<{ draft: { triggers: { id: string; params: object }[] }; draftRev: number }>(
    `/rules/${rule}`,
  )
  const edited = {
    ...draft,
    triggers: draft.triggers.map((trigger) => ({
      ...trigger,
      params: { ...trigger.params, amount: { count: 5, unit: 'days' } },
    })),
  }
  expect(
    (await api().put(`/api/v1/rules/${rule}/draft`, { data: { document: edited, rev: draftRev }, ...ANEW })).status(),
  ).toBe(200)
  const refused = await api().post(`/api/v1/rules/${rule}/state`, { data: { state: 'on' }, ...ANEW })
  expect([refused.status(), ((await refused.json()) as { title: string }).title]).toEqual([409, 'Test cases failed'])
  await open(page, `/rules/${rule}`)
  await page.locator('[data-switch-on]').click()
  await expect(page.locator('[data-cases]')).toContainText(
    'Test case “Probe: one call” gives a different result: start 1: expected',
  )
  await expect(page.locator('[data-confirm]')).toBeDisabled()
  await page.locator('[data-cases]').getByRole('link', { name: 'Review' }).click()
  await page.locator('[data-accept]').click()
  await expect(page.locator('[data-case]')).toContainText('Passed: 1 run, 1 task')
  await page.getByRole('button', { name: 'Edit' }).click()
  await page.getByLabel('Test case (YAML)').fill('format: 1')
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(page.getByRole('alert')).toContainText('name: Missing.')
  await page.keyboard.press('Escape')
  await open(page, `/rules/${rule}`)
  await page.locator('[data-switch-on]').click()
  await expect(page.locator('[data-cases]')).toContainText('Its test case passes.')
  await page.locator('[data-confirm]').click()
  await expect(page.locator('[data-state]')).toContainText('Version 2')
})

test('a run waits, is seen ahead, and goes on when the clock of the demo is turned; nobody takes it for the real one', async ({
  page,
}) => {
  const deal = await treated(await callsQuotes(), () =>
    make('deal', { name: 'Probe waiting', stage: 'hp-sized', owner: 'jude' }),
  )
  await api().patch(`/api/v1/records/deal/${deal}`, { data: { values: { stage: 'hp-quoted' } }, ...ANEW })
  await open(page, `/records/deals/${deal}`)
  await expect(page.getByRole('list', { name: 'Timeline, latest first' })).toContainText(
    'Quote not answered: call unless the deal’s stage changes before: create task',
  )
  const before = await today()
  await page.locator('[data-clock]').click()
  await page.getByLabel('Forward to 12:00 on').fill(addDays(before, 8))
  await page.getByRole('button', { name: 'Move clock', exact: true }).click()
  await expect(page.getByText(/days ahead of the real time/)).toBeVisible()
  await expect(page.locator('[data-clock]')).toContainText(sayWeekday(addDays(before, 8)))
  await expect(page.getByRole('list', { name: 'Timeline, latest first' })).toContainText(
    'Ask (no contact) about the quote for Probe waiting',
  )
  expect(await today()).toBe(addDays(before, 8))
  await expect(async () => {
    expect((await ahead(`object=deal&record=${deal}`)).map((line) => line.what)).toEqual([
      'create task “No answer yet: Probe waiting”',
    ])
  }).toPass()
})

test('what is ahead is ended, put off and done now, and a rule is not switched off over the heads of what waits', async ({
  page,
}) => {
  const rule = await callsQuotes()
  const deals: number[] = []
  for (const name of ['Probe A', 'Probe B', 'Probe C'])
    deals.push(await treated(rule, () => make('deal', { name, stage: 'hp-sized', owner: 'anouk' })))
  for (const id of deals)
    await api().patch(`/api/v1/records/deal/${id}`, { data: { values: { stage: 'hp-quoted' } }, ...ANEW })
  await open(page, `/ahead?rule=${rule}&owner=anouk`)
  const choose = (name: string) =>
    page.getByRole('checkbox', { name: `Select ${name}, rule “Quote not answered: call”` }).check()
  await choose('Probe A')
  await page.getByLabel('Reason', { exact: true }).fill('they rang')
  await page.locator('[data-end]').click()
  await expect(page.locator('[data-ahead]').filter({ hasText: 'Probe A' })).toHaveCount(0)
  await choose('Probe B')
  await page.locator('[data-now]').click()
  await expect(page.locator('[data-ahead]').filter({ hasText: 'Probe B' })).toContainText('No answer yet: Probe B')
  await choose('Probe C')
  await page.locator('[data-put-off]').click()
  await page.getByLabel('to', { exact: true }).fill(addDays(await today(), 30))
  await page.getByRole('button', { name: 'Postpone', exact: true }).last().click()
  await expect(page.locator('[data-ahead]').filter({ hasText: 'Probe C' })).toContainText('postponed by Ines Calloway')
  const { lines } = await get<{ lines: readonly { id: number; ref: { id: number } }[] }>(`/runs?rule=${rule}&all=true`)
  await open(page, `/journal/${lines.find((line) => line.ref.id === deals[0])?.id}`)
  await expect(page.locator('main')).toContainText('Stopped: ended by Ines Calloway: they rang.')
  await open(page, `/rules/${rule}`)
  await page.getByRole('button', { name: 'Switch off' }).click()
  await expect(page.locator('[data-leaving]')).toContainText('waiting in this rule')
  await page.getByRole('button', { name: /^End (it|them) now$/ }).click()
  await expect(page.locator('[data-state]')).toContainText('Off')
  expect(await ahead(`rule=${rule}`)).toEqual([])
  await api().post(`/api/v1/rules/${rule}/state`, { data: { state: 'on' }, ...ANEW })
})

test('territories and hours are changed where people are, and holidays come from a calendar file', async ({ page }) => {
  await open(page, '/territories')
  await page.getByRole('button', { name: 'New territory' }).click()
  await page.keyboard.type('Iberia')
  await page.locator('[data-territory]').last().getByRole('button', { name: 'Add condition' }).click()
  await choose(page, 'Search fields', 'region')
  await page.locator('[data-keep]').isEnabled()
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'Move Iberia up' }).click()
  await page.locator('[data-keep]').click()
  await expect(page.locator('[data-keep]')).toBeDisabled()
  const { data } = await get<{ data: { territories: readonly { name: string }[] } }>('/catalogue')
  expect(data.territories.map((one) => one.name).slice(-2)).toEqual(['Iberia', 'Everywhere else'])
  await open(page, '/hours')
  await page.getByLabel('Closes at').fill('8:00')
  await page.getByRole('button', { name: 'Save' }).click()
  await expect(page.locator('[data-notice]')).toContainText('The closing time must be after the opening time.')
  await page.getByLabel('Closes at').fill('17:30')
  const ics = [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//Larkmoor//EN',
    'BEGIN:VEVENT',
    'UID:1',
    'DTSTART;VALUE=DATE:20270402',
    'SUMMARY:Spring day',
    'END:VEVENT',
    'END:VCALENDAR',
  ].join('\r\n')
  await page
    .locator('input[type=file]')
    .setInputFiles({ name: 'days.ics', mimeType: 'text/calendar', buffer: Buffer.from(ics) })
  await expect(page.getByText('1 holiday from days.ics.')).toBeVisible()
  await page.getByRole('button', { name: 'Save' }).click()
  // What is planned may move by it, which is asked about then.
  const question = page.getByRole('alertdialog')
  await expect(async () => {
    if (await question.isVisible()) await question.getByRole('button', { name: 'Save', exact: true }).click()
    await expect(page.getByText('Not saved')).toHaveCount(0, { timeout: 1000 })
  }).toPass()
  await page.reload()
  await expect(page.locator('main')).toContainText('Spring day')
})

test('a task in the queue is taken by one of the team with a key, and put back with another', async ({ page }) => {
  await open(page, '/day-sheet?person=rosa')
  const queue = page.getByRole('heading', { name: /^Hire.* queue/ })
  await expect(queue).toBeVisible()
  const before = Number((await queue.innerText()).match(/\d+$/)?.[0])
  await page.keyboard.press('p')
  await expect(queue).toContainText(String(before - 1))
  await open(page, '/day-sheet?person=ines')
  await expect(page.locator('[data-task]')).toHaveCount(1)
  await page.locator('[data-task] button').click()
  await page.keyboard.press('b')
  await expect(page.locator('[data-task]')).toHaveCount(0)
})

test('other hours say what they would move before they are saved', async ({ page }) => {
  await open(page, '/hours')
  const zone = page.getByLabel('Time zone')
  const before = await zone.inputValue()
  await zone.fill('Asia/Tokyo')
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  const question = page.getByRole('alertdialog')
  await expect(question).toContainText(/waiting runs?.* move/)
  await expect(question.getByRole('row')).not.toHaveCount(1)
  await page.keyboard.press('Escape')
  await expect(question).toBeHidden()
  // Nothing was saved, and what was typed is still there.
  await expect(zone).toHaveValue('Asia/Tokyo')
  await page.reload()
  await expect(zone).toHaveValue(before)
})

test('a rehearsal that is asked otherwise while its answer is on its way can be begun again', async ({ page }) => {
  const { rules } = await get<{ rules: { id: number; name: string; object: string }[] }>('/rules')
  const rule = rules.find((one) => one.name === 'Hygiene certificate expires in 45 days')!
  let letIn = (): void => undefined
  const held = new Promise<void>((go) => (letIn = go))
  const asked = new Promise<void>((done) => {
    void page.route(/\/api\/v1\/rehearsals\/\d+$/, async (route) => {
      done()
      await held
      await route.continue()
    })
  })
  await open(page, `/rehearsal?rules=${rule.id}&go=1`)
  await asked
  await page.getByLabel('Period').selectOption('365')
  await expect(page).toHaveURL(/days=365/)
  letIn()
  await page.locator('[data-begin]').click()
  await expect(page.locator('[data-rehearsed]')).toBeVisible()
})

test('a rehearsal assumes what a contact does, and shows what comes of it', async ({ page }) => {
  const { rules } = await get<{ rules: { id: number; name: string }[] }>('/rules')
  const rule = rules.find((one) => one.name === 'Site visit missed')!
  const contact = await make('contact', { name: 'Probe Assumed', owner: 'rosa' })
  await open(page, `/rehearsal?rules=${rule.id}&record=${contact}`)
  await page.getByRole('button', { name: 'Add assumption…' }).click()
  await page.getByLabel('What happens').selectOption('@appointmentMissed')
  await page.getByRole('button', { name: 'Assume' }).click()
  await expect(page.getByText('the contact misses an appointment')).toBeVisible()
  await page.locator('[data-begin]').click()
  await expect(page.locator('[data-rehearsed]')).toContainText('1task')
  await expect(page.getByText('Offer Probe Assumed another time').first()).toBeVisible()
})
