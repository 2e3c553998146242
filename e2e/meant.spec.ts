import { all, condition, document, set, task } from '../core/testing/rules'
import { found } from './axe'
import { expect, load, open, test } from './app'
import { ownDemo } from './own-demo'
import { byApi, type Rule } from './rules-by-api'

/**
 * Rules that say what was meant: about money, a segment, a formula, the record just made, and a task that is waited
 * for.
 */
const demo = ownDemo(3138)
const { api, get, post, make, today } = demo
const { draft, rule, runs, patch, switchOn, tasksOf, turn, values } = byApi(demo)
interface Rates {
  readonly days: readonly { readonly day: string; readonly rates: Readonly<Record<string, number>> }[]
  readonly next: string | null
}
const changed = ['fieldChanges', { field: 'units', how: 'anything', from: null, to: null }] as const
const go = async (id: number, units: number): Promise<void> =>
  expect((await patch(`/records/deal/${id}`, { values: { units } })).ok()).toBe(true)
const link = async (id: number, object: string, to: number): Promise<void> =>
  void (await post(`/records/deal/${id}/links`, { to: { object, id: to } }))

test('amounts of several currencies are compared in one, and what has no rate is pointed out before', async ({
  page,
}) => {
  // A rate that can be counted with: 1 EUR is 2 CAD from today on, and NZD has none.
  const day = await today()
  const { days } = await get<{ days: { day: string }[] }>('/rates')
  await api().put('/api/v1/rates/source', { data: { from: null } })
  await open(page, '/data/rates')
  await page.getByRole('button', { name: 'Add rate…' }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('Currency').selectOption('CAD')
  await dialog.getByLabel('From').fill(day)
  await dialog.getByLabel('1 EUR in CAD').fill('2')
  await dialog.getByRole('button', { name: 'Save' }).click()
  await expect(page.getByRole('cell', { name: /2\.0000/ })).toBeVisible()
  expect(await found(page)).toEqual([])
  expect(days.length).toBeGreaterThan(5)

  for (const [name, amount, currency] of [
    ['Mixed own', 12_000, 'eur'],
    ['Mixed large', 30_000, 'cad'],
    ['Mixed small', 19_000, 'cad'],
  ] as const)
    await make('deal', { name, stage: 'hp-visit', owner: 'rosa', amount, currency })
  const id = await draft(
    document(
      {
        when: [changed],
        onlyIf: all(
          condition('name', 'contains', { value: 'Mixed' }, false, 'c1'),
          condition('amount', 'moreThan', { value: 10_000 }, false, 'c2'),
        ),
        then: [task('Large')],
      },
      'Large ones',
    ),
  )
  await open(page, `/rules/${id}`)
  const evidence = page.getByRole('complementary')
  await expect(evidence.getByText('Mixed own')).toBeVisible()
  await expect(evidence.getByText('Mixed large')).toBeVisible()
  await expect(evidence.getByText('CA$30,000')).toBeVisible()
  // The small one is near, and by how much is told in the currency that is compared.
  await expect(evidence.getByText('€500 below the limit')).toBeVisible()

  // Without any rate its amount cannot be compared, and that is said beside the condition.
  const { currencies } = await get<{ currencies: { code: string }[] }>('/rates')
  expect(currencies.map(({ code }) => code)).toContain('NZD')
  for (let before: string | null = ''; before !== null;) {
    const some: Rates = await get<Rates>(`/rates${before === '' ? '' : `?before=${before}`}`)
    for (const one of some.days) if (one.rates.NZD !== undefined) await api().delete(`/api/v1/rates/NZD/${one.day}`)
    before = some.next
  }
  await open(page, `/rules/${id}`)
  await expect(page.locator('[data-line="condition:c2"]')).toContainText(/No exchange rate for \d+ deals?/)
})

test('rates come from a file, which is counted before and refused by line', async ({ page }) => {
  await open(page, '/data/rates')
  const file = (text: string) => ({ name: 'rates.csv', mimeType: 'text/csv', buffer: Buffer.from(text) })
  await page.locator('input[type=file]').setInputFiles(file('Date,CAD\nsoon,1.5'))
  await expect(page.getByText('line 2: “soon” is not a date')).toBeVisible()
  await page.locator('input[type=file]').setInputFiles(file('Date,CAD,USD\n2025-01-02,1.5,1.1\n2025-01-03,N/A,1.1'))
  const dialog = page.getByRole('dialog')
  await expect(dialog).toContainText('1 new, 0 changed, 0 unchanged')
  await expect(dialog).toContainText('USD')
  await dialog.getByRole('button', { name: 'Import' }).click()
  await expect(dialog).toHaveCount(0)
  const { currencies } = await get<{ currencies: { code: string; first: string }[] }>('/rates')
  expect(currencies.find(({ code }) => code === 'CAD')?.first).toBe('2025-01-02')
})

test('a formula and a segment are conditions, written by keyboard: no field is made for one rule’s sake', async ({
  page,
}) => {
  for (const [name, amount, margin] of [
    ['Thin one', 10_000, 500],
    ['Thick one', 10_000, 5000],
  ] as const)
    await make('deal', { name, stage: 'hp-visit', owner: 'rosa', amount, margin })
  await post('/segments', {
    object: 'deal',
    name: 'Thin or thick',
    filter: all(condition('name', 'contains', { value: 'one' }, false, 'c1')),
    columns: [],
    sort: '',
    down: false,
  })
  const fields = async () => (await get<{ data: { fields: unknown[] } }>('/catalogue')).data.fields.length
  const before = await fields()
  const id = await draft(document({ when: [changed], then: [task('Look at the margin')] }, 'Thin margins'))
  await open(page, `/rules/${id}`)
  await page.getByRole('button', { name: 'Add condition' }).click()
  await page.getByPlaceholder('Search fields').fill('formula')
  await page.keyboard.press('Enter')
  const editor = page.locator('[data-pop] .cm-content')
  await expect(editor).toBeVisible()
  await editor.fill('margin < 0.1 * amount')
  await expect(page.locator('[data-pop]').getByRole('button', { name: 'Save' })).toBeEnabled()
  await page.keyboard.press('Control+Enter')
  await expect(page.getByText('it is true that')).toBeVisible()
  await page.getByRole('button', { name: 'And…' }).click()
  await page.getByPlaceholder('Search fields').fill('segment')
  await page.keyboard.press('Enter')
  await page.getByPlaceholder('Search segments').fill('Thin or')
  await page.keyboard.press('Enter')
  await expect(page.getByText('“Thin or thick”')).toBeVisible()
  const evidence = page.getByRole('complementary')
  await expect(evidence.getByText('Thin one')).toBeVisible()
  await expect(evidence.getByText(/^1$/).first()).toBeVisible()
  expect(await found(page)).toEqual([])
  await expect.poll(async () => JSON.stringify((await get<Rule>(`/rules/${id}`)).draft)).toContain('inSegment')
  expect(await fields()).toBe(before)
})

test('a second open deal is kept away by the company, the contact or the kind, as the sentence says', async ({
  page,
}) => {
  const firm = await make('company', { name: 'Twice over' })
  const one = await make('deal', { name: 'Open one', stage: 'hp-visit', owner: 'rosa', kind: 'service' })
  const mine = await make('deal', { name: 'Mine', stage: 'ren-due', owner: 'rosa', kind: 'hire' })
  for (const id of [one, mine]) await link(id, 'company', firm)
  const made = { make: 'deal', name: 'Next to it', stage: 'hp-visit', again: false, beside: 'company', alike: null }
  const noted = ['fieldChanges', { field: 'notes', how: 'anything', from: null, to: null }] as const
  const note = async (notes: string): Promise<void> =>
    expect((await patch(`/records/deal/${mine}`, { values: { notes } })).ok()).toBe(true)
  const id = await draft(document({ when: [noted], then: [['createRecord', made, [null, set('units', 7)]]] }, 'Next'))
  await open(page, `/rules/${id}`)
  const step = page.locator('[data-line="step:s1"]')
  await expect(step).toContainText('unless its company has an open deal already')
  await expect(page.getByText('for the new deal')).toBeVisible()
  expect((await switchOn(id)).ok()).toBe(true)
  await note('first')
  await expect.poll(async () => (await runs(id))[0]?.outcome ?? '').toContain('“Open one”')
  // Of another kind it is something else.
  await page.reload()
  await page.waitForFunction(() => window.document.documentElement.dataset.live === 'yes')
  await step.locator('[data-usual]').click()
  await step.getByRole('button', { name: 'of any kind', exact: true }).click()
  await page.getByPlaceholder('Search fields').fill('Kind')
  await page.keyboard.press('Enter')
  await expect(step).toContainText('with the same kind')
  await expect.poll(async () => JSON.stringify((await get<Rule>(`/rules/${id}`)).draft)).toContain('"alike":"kind"')
  expect((await switchOn(id)).ok()).toBe(true)
  await note('second')
  await expect.poll(async () => (await runs(id))[0]?.outcome ?? '').toContain('created deal “Next to it”')
  const found = await get<{ rows: { id: number; values: { name: string } }[] }>('/records/deal?limit=200&words=Next')
  const next = found.rows.find((row) => row.values.name === 'Next to it')
  expect((await values('deal', next?.id ?? 0)).units).toBe(7)
})

test('a task is waited for: what came of it is used, and it is told when it is not done in time', async ({ page }) => {
  const id = await make('deal', { name: 'To be rung', stage: 'hp-visit', owner: 'rosa' })
  await rule(
    document(
      {
        when: [changed],
        onlyIf: all(condition('name', 'is', { value: 'To be rung' })),
        then: [
          [
            'taskAndWait',
            {
              title: 'Ring them',
              notes: '',
              taskKind: 'call',
              due: { count: 0, unit: 'days' },
              priority: 'high',
              again: true,
              email: false,
              most: { count: 3, unit: 'days' },
              recheck: false,
            },
            [null, ['setField', { field: 'notes', source: { from: 'field', field: 's1.outcome' } }]],
            [null, task('Nobody rang')],
          ],
        ],
      },
      'Ring or tell',
    ),
  )
  await go(id, 1)
  await expect.poll(async () => await tasksOf(id)).toEqual(['Ring them'])
  await page.request.post('/api/v1/session/demo', { data: { personId: 'rosa' } })
  await load(page, '/day-sheet')
  const line = page.locator('[data-task]').filter({ hasText: 'Ring them' })
  await expect(line).toBeVisible()
  const [open1] = (await get<{ tasks: { id: number; title: string }[] }>('/tasks?state=open&limit=200')).tasks.filter(
    (one) => one.title === 'Ring them',
  )
  await page.request.post(`/api/v1/tasks/${open1?.id}`, { data: { act: 'finish', outcome: 'They want two' } })
  await expect.poll(async () => (await values('deal', id)).notes).toBe('They want two')
  await page.request.post('/api/v1/session/demo', { data: { personId: 'ines' } })
})

test('rules are found by folder and label, which are no change to publish', async ({ page }) => {
  const id = await rule(document({ when: [changed], then: [task('Found')] }, 'Found by folder'))
  await open(page, `/rules/${id}`)
  await page.getByLabel('Folder', { exact: true }).fill('Pilots')
  await page.getByLabel('Folder', { exact: true }).press('Tab')
  await page.getByLabel('Add label').fill('money, autumn')
  await page.getByLabel('Add label').press('Enter')
  await expect(page.getByRole('button', { name: 'Remove label autumn' })).toBeVisible()
  await expect.poll(async () => (await get<Rule>(`/rules/${id}`)).draft.labels ?? []).toEqual(['money', 'autumn'])
  await open(page, '/rules')
  await page.getByLabel('Folder').selectOption('Pilots')
  await page.getByLabel(/^Label/).selectOption('autumn')
  await expect(page.getByRole('link', { name: 'Found by folder' })).toBeVisible()
  await expect(page.getByText('Unpublished changes', { exact: true }).locator('visible=true')).toHaveCount(0)
  await expect(page).toHaveURL(/folder=Pilots.*label=autumn/)
  // Both at once: the first is still on its way into the address when the second comes.
  await load(page, '/rules')
  await expect(page.locator('option[value="Pilots"]')).toBeAttached()
  await page.evaluate(() => {
    const choose = (value: string): void => {
      const list = globalThis.document.querySelector<HTMLOptionElement>(`option[value="${value}"]`)?.closest('select')
      if (!list) throw new Error(value)
      list.value = value
      list.dispatchEvent(new Event('change', { bubbles: true }))
    }
    choose('Pilots')
    choose('autumn')
  })
  await expect(page).toHaveURL(/folder=Pilots.*label=autumn/)
  await expect(page.getByRole('combobox', { name: 'Folder' })).toHaveValue('Pilots')
})

test('a rule about no record is written, rehearsed, and gives everybody of a team a task, once', async ({ page }) => {
  await open(page, '/rules')
  await page.keyboard.press('n')
  const type = page.getByRole('combobox', { name: 'Record type' })
  await type.selectOption({ label: 'No record' })
  await page.getByRole('textbox', { name: 'Name', exact: true }).fill('Team meeting')
  await page.getByRole('button', { name: 'Create rule' }).click()
  await expect(page).toHaveURL(/\/rules\/\d+$/)
  await page.waitForFunction(() => globalThis.document.documentElement.dataset.live === 'yes')
  const id = Number(new URL(page.url()).pathname.split('/').at(-1))
  await expect(page.getByRole('region', { name: 'Only if' })).toContainText('the rule is about no record')

  // Only what needs no record is offered.
  await page.locator('[data-word="add:trigger/kind"]').click()
  await expect(page.getByRole('listbox').getByRole('option')).toHaveCount(1)
  await page.getByRole('option', { name: /on a schedule/ }).click()
  await page.keyboard.press('Escape')
  await expect(page.locator('[data-line="trigger:t1"]')).toContainText('every Monday at 8:30 (Lisbon)')
  await page.keyboard.press('/')
  await expect(page.getByRole('option', { name: /set a field/ })).toHaveCount(0)
  await page.keyboard.type('create a task')
  await page.keyboard.press('Enter')
  // There is no owner to fall back on: who gets it is asked first.
  const step = page.locator('[data-line="step:s1"]')
  await page.getByRole('button', { name: 'Everyone in a team' }).click()
  await page.getByRole('option', { name: /Hire/ }).click()
  await expect(step).toContainText('everyone in Hire')
  await expect(page.locator('[data-merge]')).toBeFocused()
  await page.keyboard.type('Team meeting')
  await page.keyboard.press('Enter')
  await expect(step).toContainText('Team meeting')
  expect(await found(page)).toEqual([])
  await expect.poll(async () => (await get<Rule>(`/rules/${id}`)).draft.steps.length).toBe(1)

  expect((await switchOn(id)).ok()).toBe(true)
  await turn((await get<{ nowMs: number }>('/clock')).nowMs + 7 * 86_400_000)
  await expect.poll(async () => (await runs(id)).map((run) => run.state)).toEqual(['done'])
  await open(page, '/journal')
  const line = page.getByRole('row', { name: /Team meeting/ }).first()
  await expect(line).toContainText('No record')
  await line.getByRole('link', { name: 'Team meeting' }).click()
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Team meeting')
  await open(page, '/day-sheet?person=rosa')
  await page
    .getByRole('button', { name: /Team meeting/ })
    .first()
    .click()
  await expect(page.getByRole('region', { name: 'Task details' })).toContainText('No record')
})
