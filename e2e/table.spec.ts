import { expect, newDeal, open, OWN_PAGE, test } from './app'

test('a filter with its columns is kept as a segment, counts live, comes in a file, and all in it are changed at once', async ({
  page,
  request,
}) => {
  // A second try finds what the first one left: each has its own.
  const reference = `SEG${test.info().retry}`
  for (const amount of [71, 72, 73]) await newDeal(request, { amount, reference })
  await open(page, '/records/deals')
  await page.locator('[data-word="add:c0/condition"]').click()
  await page.keyboard.type('reference')
  await page.keyboard.press('Enter')
  await page.keyboard.type(reference)
  await page.keyboard.press('Enter')
  await expect(page.getByRole('table', { name: 'deals' })).toHaveAttribute('aria-rowcount', '4')

  // Columns: one out, one in, by keyboard.
  await page.getByRole('button', { name: 'columns' }).focus()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('textbox', { name: 'Add column' })).toBeFocused()
  await page.keyboard.type('units')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('columnheader', { name: 'Units' })).toBeVisible()
  await page.getByRole('button', { name: 'Hide Kind' }).click()
  await expect(page.getByRole('columnheader', { name: 'Kind' })).toHaveCount(0)
  await page.keyboard.press('Escape')

  await page.getByRole('button', { name: 'Save as segment' }).click()
  await page.keyboard.type(`Segment probe ${reference}`)
  await page.keyboard.press('Enter')
  const segment = page
    .getByRole('navigation', { name: 'Segments for deals' })
    .getByRole('button', { name: new RegExp(`^Segment probe ${reference}`) })
  await expect(segment).toHaveText(/3$/)
  await newDeal(request, { amount: 74, reference: reference.toLowerCase() })
  await expect(segment).toHaveText(/4$/)

  // The address alone brings it back, with its columns.
  await page.getByRole('button', { name: 'All deals' }).click()
  await expect(page.getByRole('columnheader', { name: 'Units' })).toHaveCount(0)
  await segment.click()
  await expect(page).toHaveURL(/segment=\d+/)
  await page.reload()
  await page.waitForFunction(() => document.documentElement.dataset.live === 'yes')
  await expect(page.getByRole('columnheader', { name: 'Units' })).toBeVisible()
  await expect(page.getByRole('table', { name: 'deals' })).toHaveAttribute('aria-rowcount', '5')

  const href = await page.getByRole('link', { name: 'Export CSV' }).getAttribute('href')
  const file = await (await request.get(href ?? '')).text()
  expect(file.split('\r\n').filter(Boolean)).toHaveLength(5)
  expect(file).toContain('Units')

  await page.getByRole('button', { name: 'Edit all 4' }).click()
  const bulk = page.getByRole('region', { name: 'Edit all' })
  await bulk.getByRole('combobox', { name: 'Field' }).fill('units')
  await page.keyboard.press('Enter')
  await expect(bulk.getByRole('textbox', { name: 'Units' })).toBeFocused()
  await page.keyboard.type('6')
  await page.keyboard.press('Enter')
  await expect(bulk).toContainText('4 deals will change')
  await bulk.getByRole('button', { name: 'Save for 4 deals' }).click()
  await expect(bulk.getByRole('status')).toContainText('4 deals changed')
  await expect(page.getByRole('cell', { name: '6', exact: true })).toHaveCount(4)

  await bulk.getByRole('button', { name: 'Close' }).click()
  await page.getByRole('button', { name: 'Delete' }).click()
  await page.getByRole('button', { name: 'Delete segment (records are kept)' }).click()
  await expect(segment).toHaveCount(0)
})

test(
  'a value that is typed and taken before its entry has come up is not lost',
  OWN_PAGE,
  async ({ page, request }) => {
    // Quick fingers on a slow machine: every panel takes the focus a third of a second after it is there.
    await page.addInitScript(() => {
      const frame = window.requestAnimationFrame.bind(window)
      window.requestAnimationFrame = (work) => frame(() => setTimeout(() => frame(work), 300))
    })
    const reference = `EARLY${test.info().retry}`
    for (const amount of [71, 72]) await newDeal(request, { amount, reference })
    await open(page, '/records/deals')
    await page.locator('[data-word="add:c0/condition"]').focus()
    await page.keyboard.press('Enter')
    await page.keyboard.type('reference')
    await page.keyboard.press('Enter')
    await page.keyboard.type(reference)
    await page.keyboard.press('Enter')
    await expect(page.getByRole('table', { name: 'deals' })).toHaveAttribute('aria-rowcount', '3')
  },
)
