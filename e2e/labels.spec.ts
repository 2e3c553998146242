import { expect, newDeal, open, test } from './app'
import { beginRule, choose } from './by-hand'
import { change } from './deal-steps'

test('labels start a rule, are added by it, and end its wait; the run can be taken back without touching others', async ({
  page,
  request,
}) => {
  const id = await beginRule(page, 'Press needs a second look')

  // The field that can be no other is chosen already; what is left is the label.
  await page.locator('[data-word="add:trigger/kind"]').focus()
  await page.keyboard.press('Enter')
  await choose(page, 'Search triggers', 'label')
  await expect(page.getByRole('option', { name: 'Press' })).toBeVisible()
  await page.keyboard.type('press')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Control+Enter')
  await expect(page.locator('[data-line="trigger:t1"]')).toContainText('“Press” is added to the deal’s labels')

  for (const [step, words, label, says] of [
    ['s1', 'tag', 'urgent', 'add “Urgent” to the labels'],
    ['s2', 'wait until a label', 'reference', 'wait until “Reference customer” is added to the deal’s labels'],
  ] as const) {
    await page.locator('[data-word="trigger:t1/how"]').focus()
    await page.keyboard.press('/')
    await choose(page, 'Search steps', words)
    await expect(page.getByRole('option', { name: 'Press' })).toBeVisible()
    await page.keyboard.type(label)
    await page.keyboard.press('Enter')
    await page.keyboard.press('Control+Enter')
    await expect(page.locator(`[data-line="step:${step}"]`)).toContainText(says)
  }
  await page.locator('[data-switch-on]').click()
  await page.locator('[data-confirm]').press('Enter')
  await expect(page.locator('[data-state]')).toContainText('On · Version 1')

  const deal = await newDeal(request, {})
  await change(request, deal.id, { labels: ['press'] })
  const { lines } = (await (await request.get(`/api/v1/runs?rule=${id}`)).json()) as {
    lines: { id: number; state: string }[]
  }
  expect(lines.map(({ state }) => state)).toEqual(['waiting'])
  await open(page, `/journal/${lines[0]!.id}`)
  await expect(page.getByText('“Press” was added to labels', { exact: false }).first()).toBeVisible()
  await expect(page.getByText('Changed: added “Urgent” to labels')).toBeVisible()

  await change(request, deal.id, { labels: ['press', 'urgent', 'reference-customer'] })
  await expect(page.getByText('Why: it happened')).toBeVisible()
  await page.locator('[data-undo]').click()
  const undo = page.getByRole('region', { name: 'Undo this run' })
  await expect(undo).toContainText('labels back to')
  await undo.getByRole('button', { name: 'Undo run', exact: true }).click()
  await expect
    .poll(async () => {
      const answer = await request.get(`/api/v1/records/deal/${deal.id}`)
      return ((await answer.json()) as { values: { labels: string[] } }).values.labels
    })
    .toEqual(['press', 'reference-customer'])
})
