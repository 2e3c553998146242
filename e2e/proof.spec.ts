import type { Page } from '@playwright/test'
import { expect, newDeal, newRule, open, test, unfold } from './app'

/** Opens a list where the focus is, types, and takes what is found first. */
async function pick(page: Page, word: string, typed: string): Promise<void> {
  await page.locator(`[data-word="${word}"]`).focus()
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-pop] input, [data-pop] textarea').first()).toBeFocused()
  const asked = (await page.locator('[data-pop] :focus').getAttribute('placeholder')) ?? ''
  await page.keyboard.type(typed)
  await page.keyboard.press('Enter')
  await expect(page.locator(`[data-pop] [placeholder="${asked}"]`)).toHaveCount(0)
}

test('a company rule with spellings, linked deals and a protected value is written by keyboard, and proven on her records', async ({
  page,
  request,
}) => {
  await open(page, '/rules')
  await page.keyboard.press('n')
  await page.keyboard.type('Tier A near home')
  await page.keyboard.press('Enter')
  await expect(page).toHaveURL(/\/rules\/\d+$/)
  await expect(page.getByRole('textbox', { name: 'Rule name' })).toBeVisible()
  await page.waitForFunction(() => document.documentElement.dataset.live === 'yes')
  await expect(page.getByRole('textbox', { name: 'Rule name' })).toBeVisible()
  await page.getByLabel('Record type').selectOption('company')

  await pick(page, 'add:trigger/kind', 'created')
  // Sector is any of three.
  await pick(page, 'add:c0/condition', 'sector')
  await page.keyboard.press('Escape')
  await pick(page, 'condition:c1/op', 'is one of')
  await expect(page.getByRole('combobox', { name: 'Sector' })).toBeFocused()
  for (const sector of ['bakery', 'catering', 'brewery']) {
    await page.keyboard.type(sector)
    await page.keyboard.press('Enter')
    await expect(page.getByRole('combobox', { name: 'Sector' })).toHaveValue('')
  }
  await page.keyboard.press('Control+Enter')
  await expect(page.locator('[data-line="condition:c1"]')).toContainText(
    'its sector is one of Bakery, Catering, Brewery',
  )
  // Country is any spelling of the UK or Ireland: pasted as a list, compared by synonyms.
  await pick(page, 'add:c0/condition', 'country')
  await page.keyboard.press('Escape')
  await pick(page, 'condition:c2/op', 'is one of')
  await page.locator('[data-pop] textarea').fill('United Kingdom\nIreland')
  await page.keyboard.press('Control+Enter')
  await expect(page.locator('[data-line="condition:c2"]')).toContainText(
    'its country is one of “United Kingdom”, “Ireland”',
  )
  await expect(page.locator('[data-line="condition:c2"]')).toContainText(/1\d of \d+/)
  // No open deal.
  await pick(page, 'linked:c0/object', 'deals')
  await pick(page, 'condition:c3/how', 'no')
  await pick(page, 'add:c4/condition', 'stage')
  await page.keyboard.press('Escape')
  await pick(page, 'condition:c5/op', 'open, won')
  await expect(page.locator('[data-line="condition:c3"]')).toContainText('has no deals where')
  await expect(page.locator('[data-line="condition:c5"]')).toContainText('the stage is an open stage')

  await page.locator('[data-word="condition:c5/op"]').focus()
  await page.keyboard.press('/')
  await page.keyboard.type('set a field')
  await page.keyboard.press('Enter')
  await expect(page.getByPlaceholder('Search fields')).toBeFocused()
  await page.keyboard.type('fit tier')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('combobox', { name: 'Fit tier' })).toBeFocused()
  await page.keyboard.type('A')
  await page.keyboard.press('Enter')
  await unfold(page, 'step:s1')
  await page.locator('[data-word="step:s1/keepByHand"]').focus()
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-line="step:s1"]')).toContainText('set the fit tier to A, unless a person set it')

  // Near misses say which condition fails, and each record shows all of them with what they saw.
  const miss = page.locator('tr', { hasText: /deals? match/ }).first()
  await miss.getByRole('button').click()
  await expect(page.getByText('✗ not true').first()).toBeVisible()
  await expect(page.getByText('✓ true').first()).toBeVisible()

  const made = await request.post('/api/v1/records/company', {
    data: { values: { name: 'Pinfold Bakery', sector: 'bakery', country: 'éire' } },
  })
  const company = ((await made.json()) as { ref: { id: number } }).ref.id
  const rule = Number(new URL(page.url()).pathname.split('/').at(-1))
  await expect
    .poll(
      async () =>
        ((await (await request.get(`/api/v1/rules/${rule}`)).json()) as { draft: { steps: unknown[] } }).draft.steps
          .length,
    )
    .toBe(1)
  const seen = (await (await request.get(`/api/v1/rules/${rule}`)).json()) as { draft: unknown }
  const proof = (await (
    await request.post('/api/v1/evidence/record', { data: { document: seen.draft, id: company } })
  ).json()) as { holds: boolean; seen: { value: string }[] }
  expect([proof.holds, proof.seen.map((one) => one.value)]).toEqual([true, ['Bakery', 'éire', 'no deals']])
})

test('the record’s page says why a rule ran or did not, and who set a value', async ({ page, request }) => {
  const name = 'Ask why of this one'
  const rule = await newRule(request, name, {
    triggers: [{ id: 't1', kind: 'entersStage', params: { stage: 'ren-offered' } }],
    conditions: [{ kind: 'condition', id: 'c1', field: 'amount', op: 'moreThan', not: false, params: { value: 5000 } }],
    steps: [{ id: 's1', kind: 'setField', params: { field: 'units', source: { from: 'value', value: 3 } } }],
  })
  const deal = await newDeal(request, { amount: 100, stage: 'ren-due' })
  await open(page, `/records/deals/${deal.id}?show=rules`)
  const line = page.locator(`[data-why="${rule}"]`)
  await line.focus()
  await page.keyboard.press('Enter')
  const why = page.getByRole('region', { name: `Why: ${name}` })
  await expect(why).toContainText('Its trigger has not happened: a deal enters Offered (Renewals).')
  await expect(why).toContainText('✗ not true')
  // The word itself is pressed as well as the line.
  await line.getByText('Hide').click()
  await expect(why).toHaveCount(0)
  await line.getByText('Why?').click()
  await expect(why).toContainText('✗ not true')

  await request.patch(`/api/v1/records/deal/${deal.id}`, { data: { values: { stage: 'ren-offered' } } })
  await expect(line).toContainText('its amount is more than €5,000 was not true: €100')
  await request.patch(`/api/v1/records/deal/${deal.id}`, { data: { values: { amount: 9000, stage: 'ren-due' } } })
  await request.patch(`/api/v1/records/deal/${deal.id}`, { data: { values: { stage: 'ren-offered' } } })
  await expect(line).toContainText('units: empty → 3')

  const who = page.getByRole('button', { name: 'History of Units' })
  await who.focus()
  await page.keyboard.press('Enter')
  const past = page.getByRole('dialog', { name: 'Field history' })
  await expect(past).toContainText(name)
  await page.keyboard.press('Escape')
  await expect(who).toBeFocused()

  await page.getByRole('tab', { name: 'Timeline' }).click()
  await page.getByRole('button', { name: 'By rules' }).click()
  await expect(page.getByRole('list', { name: 'Timeline' })).toContainText(name)
})

test('contacts are linked to companies by mail domain in one go, and a second time nothing is left to do', async ({
  page,
  request,
}) => {
  const make = async (object: string, values: object) =>
    ((await (await request.post(`/api/v1/records/${object}`, { data: { values } })).json()) as { ref: { id: number } })
      .ref.id
  await make('company', { name: 'Thistledown Dairy', domain: 'www.thistledown.example' })
  const ada = await make('contact', { name: 'Ada Thistle', email: 'ada@thistledown.example' })
  await make('contact', { name: 'Bo Public', email: 'bo@gmail.com' })
  await open(page, '/linking')
  await expect(page.getByRole('region', { name: 'Links to create' })).toContainText('Ada Thistle')
  await expect(page.getByRole('region', { name: 'No match' })).toContainText('gmail.com')
  await expect(page.getByRole('region', { name: 'Several matches' })).toContainText('vilaclaracatering.example')
  await page.getByRole('button', { name: /^Create [\d,]+ links?$/ }).click()
  await expect(page.getByRole('status').filter({ hasText: 'created. You can see' })).toBeVisible()
  await expect(page.locator('[data-links]')).toHaveText('0')
  await open(page, `/records/contacts/${ada}`)
  await expect(page.getByRole('region', { name: 'Links' })).toContainText('Thistledown Dairy')
  await expect(page.getByRole('list', { name: 'Timeline' })).toContainText('linked to Thistledown Dairy')
})

test('what counts as one value is edited in one place and compared at once', async ({ page, request }) => {
  await request.post('/api/v1/records/company', {
    data: { values: { name: 'Odd Spelling Dairy', country: 'Lusitania' } },
  })
  await open(page, '/synonyms')
  const row = page.getByRole('row', { name: /Lusitania/ })
  await row.getByRole('button', { name: 'Not in the set (Add)' }).click()
  const text = page.getByRole('textbox', { name: /^One value per line/ })
  await text.fill(
    `${(await text.inputValue())
      .replace('Lusitania = ', '')
      .replace(/^Portugal\b/m, 'Portugal = Lusitania')
      .trim()}\n`,
  )
  await page.getByRole('button', { name: 'Save' }).click()
  await expect(row).toContainText('Portugal')
  const filter = JSON.stringify({
    kind: 'group',
    id: 'c0',
    mode: 'all',
    items: [{ kind: 'condition', id: 'c1', field: 'country', op: 'is', not: false, params: { value: 'Portugal' } }],
  })
  const found = (await (
    await request.get('/api/v1/records/company', { params: { filter, words: 'odd spelling' } })
  ).json()) as { rows: unknown[] }
  expect(found.rows).toHaveLength(1)
  // A spelling that would be two things is named before anything is kept.
  await text.fill('Ireland = Eire\nIceland = EIRE')
  await expect(page.getByRole('alert')).toContainText('“EIRE” is listed under “Ireland” and under “Iceland”')
  await expect(page.getByRole('button', { name: 'Save' })).toBeDisabled()
})
