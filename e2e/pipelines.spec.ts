import { expect, newDeal, open, test } from './app'

test('a pipeline is made, its stages change, and one that leaves gives its deals to another', async ({
  page,
  request,
}) => {
  await open(page, '/pipelines')
  await page.getByRole('button', { name: 'New pipeline' }).click()
  await page.keyboard.type('Trade fairs')
  await page.getByRole('textbox', { name: /stages, one a line/ }).fill('Met\nPromised\nBooked = won\nNo more = lost')
  await page.getByRole('button', { name: 'Make it' }).click()
  const fairs = page.getByRole('region', { name: 'Trade fairs' })
  await expect(fairs.getByLabel('What Booked counts as')).toHaveValue('won')

  // A deal moves while she types: the page reads itself anew, and her words stay.
  const box = fairs.getByLabel('Name of the stage Promised')
  await box.fill('Promised us')
  await newDeal(request, { stage: 'trade-fairs-booked' })
  await expect(fairs.locator('tr[data-stage="trade-fairs-booked"] td').nth(3)).toHaveText('1')
  await expect(box).toHaveValue('Promised us')
  await box.focus()
  await page.keyboard.press('Enter')
  await expect(fairs.getByLabel('Name of the stage Promised us')).toHaveValue('Promised us')
  await fairs.getByLabel('How likely a deal in Met is won, in percent').fill('15')
  await page.keyboard.press('Enter')
  await fairs.getByRole('button', { name: 'Move Promised us up' }).click()
  await expect(fairs.locator('tr[data-stage]').first()).toHaveAttribute('data-stage', 'trade-fairs-promised')
  await fairs.getByLabel('Another stage of Trade fairs').fill('Called')
  await page.keyboard.press('Enter')
  await expect(fairs.getByLabel('Name of the stage Called')).toBeVisible()

  const deal = await newDeal(request, { stage: 'trade-fairs-met' })
  await fairs.getByRole('button', { name: 'Take Met out' }).click()
  await expect(fairs.getByText('Its deal goes to')).toBeVisible()
  await fairs.getByLabel('Its deal goes to').selectOption({ label: 'Called' })
  await fairs.getByRole('button', { name: 'Take Met out' }).last().click()
  await expect(fairs.getByLabel('Name of the stage Met')).toHaveCount(0)
  await open(page, `/records/deals/${deal.id}`)
  await expect(page.locator('[data-fact="stage"]')).toHaveText('Called')
  await expect(page.getByRole('list', { name: 'What is ahead and what happened' })).toContainText('Met')
})

test('a stage that a rule names says so instead of leaving', async ({ page }) => {
  await open(page, '/pipelines')
  await page.getByRole('region', { name: 'Hire & purchase' }).getByRole('button', { name: 'Take Signed out' }).click()
  await expect(page.getByText(/Rules name it: “Signed”.* Take it out of them first\./)).toBeVisible()
})

test('two choices are merged, and a field is given another type once everything in it fits', async ({
  page,
  request,
}) => {
  const field = async (label: string, type: string, choices: readonly string[] = []) =>
    (await (
      await request.post('/api/v1/fields', { data: { object: 'deal', label, type, description: '', choices } })
    ).json()) as { id: number; key: string }
  const floor = await field('Kind of floor', 'choice', ['Tile', 'Tiles', 'Concrete'])
  const size = await field('Door size', 'text')
  const deal = await newDeal(request, { [floor.key]: 'tile', [size.key]: '90' })
  const odd = await newDeal(request, { [size.key]: 'two metres' })
  await open(page, '/fields')
  await page.getByRole('button', { name: 'Kind of floor', exact: true }).click()
  await page.getByRole('button', { name: 'Take Tile out' }).click()
  await page.getByLabel('records with it get').selectOption({ label: 'Tiles' })
  await page.getByRole('button', { name: 'Merge' }).click()
  await expect(page.getByRole('button', { name: 'Rename Tile', exact: true })).toHaveCount(0)
  const values = async (id: number) =>
    ((await (await request.get(`/api/v1/records/deal/${id}`)).json()) as { values: Record<string, unknown> }).values
  expect((await values(deal.id))[floor.key]).toBe('tiles')

  await page.getByRole('button', { name: 'Door size', exact: true }).click()
  await page.getByRole('button', { name: 'let it hold something else' }).click()
  const other = page.getByRole('group', { name: 'Let it hold something else' })
  await other.getByRole('combobox').selectOption({ label: 'number' })
  await expect(other.getByText('two metres')).toBeVisible()
  await expect(other.getByRole('button', { name: 'Change what it holds' })).toBeDisabled()
  await request.patch(`/api/v1/records/deal/${odd.id}`, { data: { values: { [size.key]: '200' } } })
  // Asked again, it fits.
  await other.getByRole('combobox').selectOption({ label: 'money' })
  await expect(other).toContainText('2 records fit')
  await other.getByRole('combobox').selectOption({ label: 'number' })
  await other.getByRole('button', { name: 'Change what it holds' }).click()
  await expect
    .poll(async () => [(await values(deal.id))[size.key], (await values(odd.id))[size.key]])
    .toEqual([90, 200])
})
