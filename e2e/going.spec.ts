import { expect, load, newDeal, open, test } from './app'

test('two deals become one and come apart again', async ({ page, request }) => {
  const [kept, other] = [await newDeal(request, { amount: 100 }), await newDeal(request, { amount: 900, units: 3 })]
  await open(page, `/records/deals/${kept.id}`)
  await page.getByRole('button', { name: 'Merge with…' }).click()
  await page.keyboard.type(other.name)
  await expect(page.getByRole('option', { name: other.name })).toBeVisible()
  await page.keyboard.press('Enter')
  await page.getByRole('radio', { name: 'Amount: €900' }).check()
  await page.getByRole('button', { name: 'Merge', exact: true }).click()
  await expect(page.locator('[data-fact="amount"]')).toHaveText('€900')
  await expect(page.locator('[data-fact="units"]')).toHaveText('3')
  const past = page.getByRole('list', { name: 'Timeline' })
  await expect(past).toContainText(`merged ${other.name} into this deal`)

  // Whoever comes by an old address is told where it went.
  await load(page, `/records/deals/${other.id}`)
  await expect(page.getByText('Merged into')).toBeVisible()
  await page.getByRole('link', { name: kept.name }).click()
  await past.getByRole('button', { name: 'Undo', exact: true }).click()
  await expect(page.locator('[data-fact="amount"]')).toHaveText('€100')
  expect((await request.get(`/api/v1/records/deal/${other.id}`)).status()).toBe(200)
})

test('a deleted deal leaves the table and comes back from the list of those that went', async ({ page, request }) => {
  const deal = await newDeal(request, {})
  await open(page, `/records/deals/${deal.id}`)
  await page.getByRole('button', { name: 'Delete', exact: true }).click()
  await expect(page.getByRole('dialog', { name: /^Delete / })).toContainText('you can restore it')
  await page.keyboard.press('Enter')
  await expect(page).toHaveURL(/\/records\/deals$/)
  await page.getByRole('searchbox', { name: 'Search by name' }).fill(deal.name)
  await expect(page.getByText('No deals match.')).toBeVisible()
  await page.getByRole('link', { name: 'Deleted records', exact: true }).click()
  await page.getByRole('button', { name: `Restore ${deal.name}` }).click()
  await expect(page).toHaveURL(new RegExp(`/records/deals/${deal.id}$`))
  await expect(page.getByRole('heading', { name: deal.name })).toBeVisible()
})
