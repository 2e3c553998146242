import type { Page } from '@playwright/test'
import { expect, load, open, OWN_PAGE, test } from './app'

const question = (page: Page) => page.getByRole('heading', { name: 'Discard changes?' })

test.describe('what is written and not saved is not lost by leaving', () => {
  test('for another item, another page, or by going back', async ({ page }) => {
    await open(page, '/people')
    await open(page, '/synonyms')
    const sets = page.getByRole('navigation', { name: 'Synonym sets' }).getByRole('link')
    const name = page.getByRole('textbox', { name: 'Name' })
    const first = await name.inputValue()
    await name.fill(`${first} and more`)
    await sets.nth(1).click()
    await expect(question(page)).toBeVisible()
    // Who confirms without reading keeps what is written.
    await expect(page.getByRole('button', { name: 'Keep editing' })).toBeFocused()
    await page.keyboard.press('Enter')
    await expect(question(page)).toHaveCount(0)
    await expect(name).toHaveValue(`${first} and more`)

    await page.goBack()
    await expect(question(page)).toBeVisible()
    await page.keyboard.press('Escape')
    await expect(page).toHaveURL(/\/synonyms/)
    await expect(name).toHaveValue(`${first} and more`)

    await page
      .getByRole('navigation', { name: 'Main navigation' })
      .getByRole('link', { name: 'Rules', exact: true })
      .click()
    await page.getByRole('button', { name: 'Discard changes' }).click()
    await expect(page.getByRole('heading', { level: 1, name: 'Rules' })).toBeVisible()
    await open(page, '/synonyms')
    await expect(name).toHaveValue(first)
    // Nothing is written: nothing is asked.
    await sets.nth(1).click()
    await expect(sets.nth(1)).toHaveAttribute('aria-current', 'true')
    await expect(question(page)).toHaveCount(0)
  })

  test('and what was saved is left without a question', async ({ page }) => {
    await open(page, '/territories')
    await page.getByRole('button', { name: 'New territory' }).click()
    const fresh = page.locator('[data-territory]').last().getByRole('textbox')
    await fresh.fill('Islands')
    await page.getByRole('button', { name: 'Save' }).click()
    await expect(page.getByText('Not saved')).toHaveCount(0)
    await page.getByRole('link', { name: 'People', exact: true }).first().click()
    await expect(page.getByRole('heading', { level: 1, name: 'People' })).toBeVisible()
    await open(page, '/territories')
    await page.getByRole('button', { name: 'Remove Islands' }).click()
    await page.getByRole('button', { name: 'Save' }).click()
    await expect(page.getByText('Not saved')).toHaveCount(0)
  })

  test('nor by closing the tab', OWN_PAGE, async ({ page }) => {
    await load(page, '/hours')
    await page.getByRole('button', { name: 'Sunday' }).click()
    await expect(page.getByText('Not saved')).toBeVisible()
    const asked = page.waitForEvent('dialog')
    await page.evaluate(() => setTimeout(() => location.reload()))
    const dialog = await asked
    expect(dialog.type()).toBe('beforeunload')
    await dialog.dismiss()
    await expect(page.getByText('Not saved')).toBeVisible()
  })

  test('a new template is begun, and left again, only when it was said so', async ({ page }) => {
    await open(page, '/messages/templates')
    const text = page.getByRole('textbox', { name: 'Text' })
    const was = await text.inputValue()
    await text.fill(`${was} One more line.`)
    await page.getByRole('button', { name: 'New template' }).click()
    await page.getByRole('button', { name: 'Keep editing' }).click()
    await expect(text).toHaveValue(`${was} One more line.`)
    await page.getByRole('button', { name: 'New template' }).click()
    await page.getByRole('button', { name: 'Discard changes' }).click()
    await expect(page.getByRole('button', { name: 'Create template' })).toBeVisible()
    await text.fill('Begun and not finished.')
    await text.press('Escape')
    await page.getByRole('button', { name: 'Keep editing' }).click()
    await expect(text).toHaveValue('Begun and not finished.')
    const chosen = page.getByRole('navigation', { name: 'Templates' }).getByRole('link').first()
    await chosen.click()
    await page.getByRole('button', { name: 'Discard changes' }).click()
    await expect(text).toHaveValue(was)
  })

  test('nor by closing a field or opening another', async ({ page }) => {
    await open(page, '/fields')
    const fields = page.locator('[data-field]')
    await fields.nth(0).click()
    const description = page.getByRole('textbox', { name: 'Description' })
    const was = await description.inputValue()
    await description.fill('Something new')
    await fields.nth(1).click()
    await page.getByRole('button', { name: 'Keep editing' }).click()
    await expect(description).toHaveValue('Something new')
    await description.press('Escape')
    await page.getByRole('button', { name: 'Discard changes' }).click()
    await expect(page.getByRole('complementary', { name: 'Field' })).toHaveCount(0)
    await fields.nth(0).click()
    await expect(description).toHaveValue(was)
  })

  test('nor by closing a person or opening another', async ({ page }) => {
    await open(page, '/people')
    const edit = page.getByRole('button', { name: 'Edit' })
    await edit.nth(0).click()
    const title = page.getByRole('textbox', { name: 'Job title' })
    await title.fill('Something new')
    await page.getByRole('button', { name: 'Add person' }).click()
    await page.getByRole('button', { name: 'Keep editing' }).click()
    await expect(title).toHaveValue('Something new')
    await title.press('Escape')
    await page.getByRole('button', { name: 'Discard changes' }).click()
    await expect(title).toHaveCount(0)
    // Opened and closed again, nothing is asked.
    await edit.nth(1).click()
    await title.press('Escape')
    await expect(title).toHaveCount(0)
    await expect(question(page)).toHaveCount(0)
  })

  test('nor by what somebody else saves meanwhile: it is told, and one may take theirs', async ({ page, request }) => {
    await open(page, '/territories')
    const { data } = (await (await request.get('/api/v1/catalogue')).json()) as {
      data: { territories: { name: string; filter: object; personId: string }[] }
    }
    const were = data.territories.map(({ name, filter, personId }) => ({ name, filter, personId }))
    const put = async (territories: typeof were) =>
      expect((await request.put('/api/v1/territories', { data: { territories } })).ok()).toBe(true)
    const first = page.getByRole('textbox', { name: 'Territory name 1' })
    await first.fill('Mine')
    await put(were.map((one, i) => (i === 0 ? { ...one, name: 'Theirs' } : one)))
    const told = page.getByRole('alert').filter({ hasText: 'Someone else saved another version' })
    await expect(told).toBeVisible()
    await expect(first).toHaveValue('Mine')
    await told.getByRole('button', { name: 'Discard mine' }).click()
    await expect(first).toHaveValue('Theirs')
    await expect(told).toHaveCount(0)
    // Where nothing is written, what others save simply comes.
    await put(were)
    await expect(first).toHaveValue(were[0]?.name ?? '')
    await expect(told).toHaveCount(0)
  })

  test('nor by a press beside a form that stands over the page', async ({ page }) => {
    await open(page, '/booking')
    const dialog = page.getByRole('dialog', { name: 'Add booking page' })
    const name = dialog.getByRole('textbox', { name: 'Name' })
    await page.getByRole('button', { name: 'Add page…' }).click()
    await expect(name).toBeFocused()
    await page.mouse.click(10, 400)
    await expect(dialog).toHaveCount(0)
    await page.getByRole('button', { name: 'Add page…' }).click()
    await name.fill('A visit')
    await page.mouse.click(10, 400)
    await expect(name).toHaveValue('A visit')
    await name.press('Escape')
    await expect(dialog).toHaveCount(0)
  })
})
