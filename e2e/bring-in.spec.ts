import { readFileSync } from 'node:fs'
import { deals, expect, open, test } from './app'

const file = (name: string) => ({ name, mimeType: 'text/csv', buffer: readFileSync(`e2e/files/${name}`) })

test.describe('bringing records in', () => {
  test('an odd file by hand: guessed, changed, previewed, written, and rules have run', async ({ page, request }) => {
    await open(page, '/data')
    await page.getByLabel('Choose a CSV file').setInputFiles(file('odd.csv'))
    await expect(page).toHaveURL(/\/data\/\d+$/)
    await page.waitForFunction(() => document.documentElement.dataset.live === 'yes')
    await expect(page.getByText('cut at semicolons')).toBeVisible()
    await expect(page.getByLabel('Where Titel goes')).toHaveValue('field:name')
    await expect(page.getByLabel('Where Kunde goes')).toHaveValue('skip')
    await page.getByLabel('Where Kunde goes').selectOption('company')
    await expect(page.getByLabel('Where Phase goes')).toHaveValue('field:stage')
    await expect(page.getByLabel('Where Responsible goes')).toHaveValue('field:owner')

    const counts = page.locator('[data-counts]')
    await expect(counts).toContainText('5new')
    await expect(counts).toContainText('4refused')
    const rows = page.getByRole('region', { name: 'Rows' })
    await expect(rows).toContainText('“Rented” is not one of Hire, Purchase, Service')
    await expect(rows).toContainText('nobody here is called “Nobody Known”')
    await expect(rows).toContainText('5,000 characters are too many; at most 500 fit')
    await expect(rows).toContainText('the same record stands in row 2 already')

    await page.locator('[data-bring]').click()
    await expect(page.locator('[data-state]')).toContainText('Brought in.')
    const [bakery] = await deals(request, { reference: 'ODD-1' })
    expect(bakery?.values).toMatchObject({ name: 'Ovens; "warm" & cold', amount: 51234.5, closeDate: '2027-02-03', stage: 'hp-quoted', owner: 'rosa', kind: 'hire' })
    const [second] = await deals(request, { reference: 'ODD-2' })
    expect(second?.values).toMatchObject({ closeDate: '2027-03-14', amount: 900, notes: 'two\nlines' })
    const [third] = await deals(request, { reference: 'ODD-3' })
    expect(third?.values.closeDate).toBe('2027-04-15')

    // The rule on large quotes ran for the imported deal as for any other.
    await open(page, `/records/deals/${bakery?.id}`)
    await expect(page.getByText(/import by Ines Calloway/).first()).toBeVisible()
    await expect(page.getByRole('link', { name: 'Large quote, ring them' }).first()).toBeVisible()
    await expect(page.getByRole('link', { name: 'Fern & Frost' })).toBeVisible()
  })

  test('the same file again finds nothing new, changes only what differs, and leaves rules out when unticked', async ({ page, request }) => {
    await open(page, '/data')
    await page.getByLabel('Choose a CSV file').setInputFiles({ name: 'again.csv', mimeType: 'text/csv', buffer: Buffer.from('Reference,Name,Stage,Amount,Company\nODD-1,"Ovens; ""warm"" & cold",Quoted,51234.5,Fern & Frost\nODD-2,Second,Quoted,88000,Fern & Frost\n') })
    await page.waitForFunction(() => document.documentElement.dataset.live === 'yes')
    const counts = page.locator('[data-counts]')
    await expect(counts).toContainText('0new')
    await expect(counts).toContainText('1changed')
    await expect(counts).toContainText('1as they are')
    await page.getByRole('checkbox', { name: 'rules run for what changes' }).uncheck()
    await page.locator('[data-bring]').click()
    await expect(page.locator('[data-state]')).toContainText('Rules were off for it.')
    const [second] = await deals(request, { reference: 'ODD-2' })
    expect(second?.values).toMatchObject({ amount: 88_000, stage: 'hp-quoted', quoteSentOn: null })
  })

  test('a file without rows is refused with the reason', async ({ page }) => {
    await open(page, '/data')
    await page.getByLabel('Choose a CSV file').setInputFiles({ name: 'empty.csv', mimeType: 'text/csv', buffer: Buffer.from('Name,Stage\n') })
    await expect(page.locator('[data-notice]')).toContainText('The file has no rows below its headings.')
  })
})
