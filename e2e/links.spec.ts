import type { APIRequestContext } from '@playwright/test'
import { expect, newDeal, open, test } from './app'

async function make(request: APIRequestContext, object: string, name: string): Promise<number> {
  return (
    (await (await request.post(`/api/v1/records/${object}`, { data: { values: { name } } })).json()) as {
      ref: { id: number }
    }
  ).ref.id
}

test('records are linked by name, from either end, given a role, made the main one, and taken apart', async ({
  page,
  request,
}) => {
  const deal = await newDeal(request, {})
  const firm = await make(request, 'company', 'Quillfeather Dairy')
  await make(request, 'company', 'Quillfeather Farm')
  const links = page.getByRole('region', { name: 'Links' })
  const link = async (words: string, name: string) => {
    await links.getByRole('button', { name: 'Add link…' }).click()
    await page.getByRole('combobox', { name: 'Record to link' }).fill(words)
    await page.getByRole('option', { name }).click()
    await expect(links.getByRole('link', { name })).toBeVisible()
  }
  await open(page, `/records/deals/${deal.id}`)
  await link('quillfeather', 'Quillfeather Dairy')
  await expect(links).toContainText('Main company')
  await link('quillfeather f', 'Quillfeather Farm')
  // What is linked already is not offered again, and a deal is not linked to a deal.
  await links.getByRole('button', { name: 'Add link…' }).click()
  await page.getByRole('combobox', { name: 'Record to link' }).fill('quillfeather')
  await expect(page.getByText('No matches.')).toBeVisible()
  await page.keyboard.press('Escape')

  await links.getByRole('button', { name: 'Edit link to Quillfeather Farm' }).click()
  await page.getByLabel('Role').fill('pays')
  await page.getByRole('button', { name: 'Set as main company' }).click()
  await expect(links.locator('div').first()).toContainText('Main company, pays')
  await expect(links.locator('div').first()).toContainText('Quillfeather Farm')
  await links.getByRole('button', { name: 'Edit link to Quillfeather Farm' }).click()
  await page.getByRole('button', { name: 'Remove link' }).click()
  await expect(links.getByRole('link', { name: 'Quillfeather Farm' })).toHaveCount(0)
  await expect(links).toContainText('Main company')

  // From the company's end it is the same link.
  const other = await newDeal(request, {})
  await open(page, `/records/companies/${firm}`)
  await expect(links.getByRole('link', { name: deal.name })).toBeVisible()
  await link(other.name, other.name)
  const { links: kept } = (await (await request.get(`/api/v1/records/deal/${other.id}/links`)).json()) as {
    links: object[]
  }
  expect(kept).toMatchObject([{ ref: { object: 'company', id: firm }, main: true }])
})
