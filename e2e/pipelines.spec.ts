import { expect, newDeal, open, test } from './app'

test('a pipeline is made, its stages change, and one that leaves gives its deals to another', async ({
  page,
  request,
}) => {
  await open(page, '/pipelines')
  await page.getByRole('button', { name: 'New pipeline' }).click()
  await page.keyboard.type('Trade fairs')
  await page
    .getByRole('textbox', { name: /^Stages \(one per line\)/ })
    .fill('Met\nPromised\nBooked = won\nNo more = lost')
  await page.getByRole('button', { name: 'Create pipeline' }).click()
  const fairs = page.getByRole('region', { name: 'Trade fairs' })
  await expect(fairs.getByLabel('Outcome of Booked')).toHaveValue('won')

  // A deal moves while she types: the page reads itself anew, and her words stay.
  const box = fairs.getByLabel('Stage name: Promised')
  await box.fill('Promised us')
  await newDeal(request, { stage: 'trade-fairs-booked' })
  await expect(fairs.locator('tr[data-stage="trade-fairs-booked"] td').nth(3)).toHaveText('1')
  await expect(box).toHaveValue('Promised us')
  await box.focus()
  await page.keyboard.press('Enter')
  await expect(fairs.getByLabel('Stage name: Promised us')).toHaveValue('Promised us')
  await fairs.getByLabel('Win probability in Met, percent').fill('15')
  await page.keyboard.press('Enter')
  await fairs.getByRole('button', { name: 'Move Promised us up' }).click()
  await expect(fairs.locator('tr[data-stage]').first()).toHaveAttribute('data-stage', 'trade-fairs-promised')
  await fairs.getByLabel('New stage in Trade fairs').fill('Called')
  await page.keyboard.press('Enter')
  await expect(fairs.getByLabel('Stage name: Called')).toBeVisible()

  const deal = await newDeal(request, { stage: 'trade-fairs-met' })
  await fairs.getByRole('button', { name: 'Remove Met' }).click()
  await expect(fairs.getByText('Move its 1 deal to')).toBeVisible()
  await fairs.getByLabel('Move its 1 deal to').selectOption({ label: 'Called' })
  await fairs.getByRole('button', { name: 'Remove stage' }).click()
  await expect(fairs.getByLabel('Stage name: Met')).toHaveCount(0)
  await open(page, `/records/deals/${deal.id}`)
  await expect(page.locator('[data-fact="stage"]')).toHaveText('Called')
  await expect(page.getByRole('list', { name: 'Timeline' })).toContainText('Met')
})

test('a stage that a rule names says so instead of leaving', async ({ page }) => {
  await open(page, '/pipelines')
  await page.getByRole('region', { name: 'Hire & purchase' }).getByRole('button', { name: 'Remove Signed' }).click()
  await expect(page.getByText(/Used in rules? .*“Deal signed[^”]*”.*\. Remove it there first\./)).toBeVisible()
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
  await page.getByRole('button', { name: 'Remove Tile', exact: true }).click()
  await page.getByLabel('Replace with').selectOption({ label: 'Tiles' })
  await page.getByRole('button', { name: 'Replace and remove' }).click()
  await expect(page.getByRole('button', { name: 'Rename Tile', exact: true })).toHaveCount(0)
  const values = async (id: number) =>
    ((await (await request.get(`/api/v1/records/deal/${id}`)).json()) as { values: Record<string, unknown> }).values
  expect((await values(deal.id))[floor.key]).toBe('tiles')

  await page.getByRole('button', { name: 'Door size', exact: true }).click()
  await page.getByRole('button', { name: 'Change type…' }).click()
  const other = page.getByRole('group', { name: 'Change type' })
  await other.getByRole('combobox').selectOption({ label: 'Number' })
  await expect(other.getByText('two metres')).toBeVisible()
  await expect(other.getByRole('button', { name: 'Change type' })).toBeDisabled()
  await request.patch(`/api/v1/records/deal/${odd.id}`, { data: { values: { [size.key]: '200' } } })
  // Asked again, it fits.
  await other.getByRole('combobox').selectOption({ label: 'Currency' })
  await expect(other).toContainText('2 records can be converted')
  await other.getByRole('combobox').selectOption({ label: 'Number' })
  await other.getByRole('button', { name: 'Change type' }).click()
  await expect
    .poll(async () => [(await values(deal.id))[size.key], (await values(odd.id))[size.key]])
    .toEqual([90, 200])
})
