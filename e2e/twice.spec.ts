import type { Page } from '@playwright/test'
import { expect, open, test } from './app'

/** Presses a button twice, the second time when the first is done and what follows from it is still on its way. */
async function pressTwice(page: Page, name: string, sent: string, follows: string): Promise<void> {
  let letGo = (): void => undefined
  const held = new Promise<void>((go) => (letGo = go))
  await page.route(follows, async (route) => {
    if (route.request().method() === 'GET') await held
    await route.continue()
  })
  const button = page.getByRole('button', { name, exact: true })
  const done = page.waitForResponse((answer) => answer.request().method() === 'POST' && answer.url().endsWith(sent))
  await button.click()
  await done
  await button.click()
  letGo()
}

test.describe('whoever presses twice means it once', () => {
  test('a rule is made', async ({ page, request }) => {
    await open(page, '/rules')
    await page.keyboard.press('n')
    await page.getByLabel('Name', { exact: true }).fill('Pressed twice')
    await pressTwice(page, 'Create rule', '/api/v1/rules', '**/api/v1/rules/*')
    await expect(page).toHaveURL(/\/rules\/\d+$/)
    const { rules } = (await (await request.get('/api/v1/rules')).json()) as { rules: { name: string }[] }
    expect(rules.filter((rule) => rule.name === 'Pressed twice')).toHaveLength(1)
  })

  test('a record is made', async ({ page, request }) => {
    await open(page, '/records/deals')
    await page.getByRole('button', { name: 'New deal' }).click()
    await page.getByLabel('Name', { exact: true }).fill('Pressed twice')
    await pressTwice(page, 'Create', '/api/v1/records/deal', '**/api/v1/records/deal/*')
    await expect(page).toHaveURL(/\/records\/deals\/\d+$/)
    const { rows } = (await (await request.get('/api/v1/record-lists/deal?words=Pressed+twice&limit=10')).json()) as {
      rows: unknown[]
    }
    expect(rows).toHaveLength(1)
  })

  test('a message is sent', async ({ page, request }) => {
    const made = await request.post('/api/v1/records/contact', {
      data: { values: { name: 'Written Once', email: 'written.once@larkmoor.example' } },
    })
    const { ref } = (await made.json()) as { ref: { id: number } }
    await open(page, `/records/contacts/${ref.id}`)
    await page.getByRole('tab', { name: 'Messages' }).click()
    await page.getByRole('button', { name: 'Write…' }).click()
    await page.getByLabel('Subject').fill('Only once')
    await page.getByRole('textbox', { name: 'Text' }).fill('Good morning.')
    await page.getByRole('button', { name: 'Send', exact: true }).dblclick()
    await expect(page.getByRole('form', { name: 'Write a message' })).toHaveCount(0)
    await expect(page.getByRole('list', { name: 'Messages' }).getByText('Only once')).toHaveCount(1)
    const { messages } = (await (await request.get(`/api/v1/records/contact/${ref.id}/messages`)).json()) as {
      messages: unknown[]
    }
    expect(messages).toHaveLength(1)
  })
})
