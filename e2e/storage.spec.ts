import { expect, test } from './app'

test('says how long things are kept, and what a shorter time would delete before it is said', async ({ page }) => {
  await page.goto('/data')
  await page.getByRole('navigation', { name: 'Data' }).getByRole('link', { name: 'Storage' }).click()
  await expect(page.getByRole('heading', { name: 'Storage', level: 1 })).toBeVisible()
  await expect(page.getByText(/The database takes [\d.]+ MB/)).toBeVisible()
  const notices = page.getByRole('row', { name: /^Notifications/ })
  const time = page.getByRole('combobox', { name: 'Keep Notifications for' })
  const entries = async () => Number(await notices.getByRole('cell').nth(1).textContent())
  const before = await entries()
  expect(before).toBeGreaterThan(0)

  // A shorter time asks first, and Cancel leaves everything as it was. It has the focus before any key can come.
  await page.evaluate(() => {
    const seen = new MutationObserver(() => {
      if (!document.querySelector('[role=alertdialog] button')) return
      seen.disconnect()
      setTimeout(() => (document.body.dataset.firstFocus = document.activeElement?.textContent ?? ''))
    })
    seen.observe(document.body, { childList: true, subtree: true })
  })
  await time.selectOption('30 days')
  const question = page.getByRole('alertdialog')
  await expect(question).toContainText(/\d+ entr(y|ies) will be deleted in the background\. This can’t be undone\./)
  await expect(page.locator('body')).toHaveAttribute('data-first-focus', 'Cancel')
  await page.keyboard.press('Enter')
  await expect(question).toBeHidden()
  await expect(time).toHaveValue('90')
  expect(await entries()).toBe(before)

  // A longer one does not.
  await time.selectOption('always')
  await expect(time).toHaveValue('')
  await page.reload()
  await expect(time).toHaveValue('')

  // What is too old goes while one looks on.
  await time.selectOption('30 days')
  const told = Number(/\d+/.exec((await question.textContent())?.replace(/.*\?/, '') ?? '')?.[0])
  await question.getByRole('button', { name: 'Save and delete' }).click()
  await expect(notices).toContainText('deleted before')
  await expect(notices.getByRole('cell').nth(1)).toHaveText(String(before - told))
  await expect(time).toHaveValue('30')
})

test('refuses a time that rules and rehearsals look back over, by place and reason', async ({ page }) => {
  const answer = await page.request.put('/api/v1/storage/history', { data: { days: 20 } })
  expect(answer.status()).toBe(422)
  expect(await answer.json()).toMatchObject({
    places: [{ path: 'days', text: expect.stringContaining('Field history: 90 days or more') as unknown }],
  })
  expect((await page.request.put('/api/v1/storage/nothing', { data: { days: 90 } })).status()).toBe(400)
})
