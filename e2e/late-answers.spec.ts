import type { Page } from '@playwright/test'
import { expect, load, open, test } from './app'

/** Holds back the answers to what an address asks for, until they are let go. */
async function holdBack(page: Page, asked: (url: URL) => boolean): Promise<{ came: Promise<void>; letGo: () => void }> {
  let letGo = (): void => undefined
  let come = (): void => undefined
  const held = new Promise<void>((go) => (letGo = go))
  const came = new Promise<void>((go) => (come = go))
  await page.route(asked, async (route) => {
    come()
    await held
    await route.continue()
  })
  return { came, letGo }
}
const isList = (url: URL): boolean => url.pathname === '/api/v1/record-lists/deal'
const table = (page: Page) => page.getByRole('table', { name: 'deals' })

test.describe('answers that come late', () => {
  test('to what is looked for no longer are not shown', async ({ page }) => {
    await open(page, '/records/deals')
    const { came, letGo } = await holdBack(page, (url) => isList(url) && url.searchParams.get('words') === 'Kestrel')
    const search = page.getByRole('searchbox', { name: 'Search by name' })
    await search.fill('Kestrel')
    await came
    await search.fill('Corvo')
    const rows = table(page)
      .getByRole('row')
      .filter({ hasText: /Corvo|Kestrel/ })
    await expect(rows.first()).toContainText('Corvo')
    const late = page.waitForResponse((answer) => answer.url().includes('words=Kestrel'))
    letGo()
    await late
    await expect(page).toHaveURL(/words=Corvo/)
    await expect(rows.first()).toContainText('Corvo')
    await expect(rows.filter({ hasText: 'Kestrel' })).toHaveCount(0)
  })

  test('to a list in another order are not put among those of the new one', async ({ page, request }) => {
    await open(page, '/records/deals')
    const { came, letGo } = await holdBack(
      page,
      (url) => isList(url) && url.searchParams.has('offset') && url.searchParams.get('sort') === 'name',
    )
    const scroller = page.getByRole('region', { name: 'Deals table' })
    const toEnd = () => scroller.evaluate((el) => el.scrollTo(0, el.scrollHeight))
    await toEnd()
    await came
    await page.getByRole('columnheader', { name: 'Stage' }).getByRole('button').click()
    await expect(page).toHaveURL(/sort=stage/)
    const late = page.waitForResponse((answer) => /sort=name.*offset=\d/.test(answer.url()))
    letGo()
    await late
    await toEnd()
    interface Listed {
      readonly matched: number
      readonly rows: readonly { readonly values: { readonly name: string } }[]
    }
    const listed = async (offset: number): Promise<Listed> =>
      (
        await request.get(`/api/v1/record-lists/deal?sort=stage&down=false&offset=${offset}&limit=100`)
      ).json() as Promise<Listed>
    const { rows } = await listed((await listed(0)).matched - 1)
    await expect(table(page).getByRole('row').last()).toContainText(rows.at(-1)?.values.name ?? 'no name')
  })
})

test('a filter in the address that is none is told until it is cleared', async ({ page }) => {
  const filter = (given: unknown) => `/records/deals?filter=${encodeURIComponent(JSON.stringify(given))}`
  // What is no group of conditions at all is as none.
  await open(page, filter({ items: 3 }))
  await expect(table(page).getByRole('row').nth(1)).toBeVisible()
  await load(page, filter({ kind: 'group', id: 'c0', mode: 'all', items: [{ kind: 'nonsense' }] }))
  await expect(page.getByRole('alert')).toContainText('not valid')
  await page.getByRole('searchbox', { name: 'Search by name' }).fill('Brewery')
  await expect(table(page).getByRole('row').nth(1)).toContainText('Brewery')
  await expect(page.getByRole('alert')).toHaveCount(0)
})

test('steps that are pressed quickly are all taken', async ({ page }) => {
  await open(page, '/calendar?day=2026-11-23')
  await page.getByRole('button', { name: 'Next week' }).evaluate((button) => {
    for (let i = 0; i < 3; i++) (button as HTMLButtonElement).click()
  })
  await expect(page).toHaveURL(/day=2026-12-14/)
  await expect(page.getByRole('heading', { level: 2, name: /14 Dec/ })).toBeVisible()
  // One may go back to what was there before.
  await page.goBack()
  await expect(page).toHaveURL(/day=2026-11-23/)
  // A day that is none is today's.
  await open(page, '/rules')
  await open(page, '/calendar?day=someday')
  await expect(page.getByRole('heading', { level: 1, name: 'Calendar' })).toBeVisible()
})
