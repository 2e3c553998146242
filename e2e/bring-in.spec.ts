import { readFileSync } from 'node:fs'
import { deals, expect, open, test } from './app'

const file = (name: string) => ({ name, mimeType: 'text/csv', buffer: readFileSync(`e2e/files/${name}`) })

test.describe('bringing records in', () => {
  test('an odd file by hand: guessed, changed, previewed, written, and rules have run', async ({ page, request }) => {
    await open(page, '/data')
    await page.getByLabel('Choose CSV file').setInputFiles(file('odd.csv'))
    await expect(page).toHaveURL(/\/data\/\d+$/)
    await page.waitForFunction(() => document.documentElement.dataset.live === 'yes')
    await expect(page.getByText('Separated by semicolons')).toBeVisible()
    await expect(page.getByLabel('Target of column Titel')).toHaveValue('field:name')
    await expect(page.getByLabel('Target of column Kunde')).toHaveValue('skip')
    await page.getByLabel('Target of column Kunde').selectOption('company')
    await expect(page.getByLabel('Target of column Phase')).toHaveValue('field:stage')
    await expect(page.getByLabel('Target of column Responsible')).toHaveValue('field:owner')

    const counts = page.locator('[data-counts]')
    await expect(counts).toContainText('5new')
    await expect(counts).toContainText('4rejected')
    const rows = page.getByRole('region', { name: 'Rows' })
    await expect(rows).toContainText('“Rented” is not a choice. Choices: Hire, Purchase and Service.')
    await expect(rows).toContainText('No person named “Nobody Known”.')
    await expect(rows).toContainText('Too long: 5,000 of 500 characters.')
    await expect(rows).toContainText('Same record as row 2.')

    await page.locator('[data-bring]').click()
    await expect(page.locator('[data-state]')).toContainText('Imported')
    const [bakery] = await deals(request, { reference: 'ODD-1' })
    expect(bakery?.values).toMatchObject({
      name: 'Ovens; "warm" & cold',
      amount: 51234.5,
      closeDate: '2027-02-03',
      stage: 'hp-quoted',
      owner: 'rosa',
      kind: 'hire',
    })
    const [second] = await deals(request, { reference: 'ODD-2' })
    expect(second?.values).toMatchObject({ closeDate: '2027-03-14', amount: 900, notes: 'two\nlines' })
    const [third] = await deals(request, { reference: 'ODD-3' })
    expect(third?.values.closeDate).toBe('2027-04-15')

    // The rule on large quotes ran for the imported deal as for any other.
    await open(page, `/records/deals/${bakery?.id}`)
    await expect(page.getByText(/import by Ines Calloway/).first()).toBeVisible()
    await expect(page.getByRole('link', { name: 'Large quote: call the customer' }).first()).toBeVisible()
    await expect(page.getByRole('link', { name: 'Fern & Frost' })).toBeVisible()
  })

  test('the same file again finds nothing new, changes only what differs, and leaves rules out when unticked', async ({
    page,
    request,
  }) => {
    await open(page, '/data')
    await page.getByLabel('Choose CSV file').setInputFiles({
      name: 'again.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from(
        'Reference,Name,Stage,Amount,Company\nODD-1,"Ovens; ""warm"" & cold",Quoted,51234.5,Fern & Frost\nODD-2,Second,Quoted,88000,Fern & Frost\n',
      ),
    })
    await page.waitForFunction(() => document.documentElement.dataset.live === 'yes')
    const counts = page.locator('[data-counts]')
    await expect(counts).toContainText('0new')
    await expect(counts).toContainText('1changed')
    await expect(counts).toContainText('1unchanged')
    await page.getByRole('checkbox', { name: 'Run rules for these changes' }).uncheck()
    await page.locator('[data-bring]').click()
    await expect(page.locator('[data-state]')).toContainText('Imported Rules: off')
    const [second] = await deals(request, { reference: 'ODD-2' })
    expect(second?.values).toMatchObject({ amount: 88_000, stage: 'hp-quoted', quoteSentOn: null })
  })

  test('a file without rows is refused with the reason', async ({ page }) => {
    await open(page, '/data')
    await page
      .getByLabel('Choose CSV file')
      .setInputFiles({ name: 'empty.csv', mimeType: 'text/csv', buffer: Buffer.from('Name,Stage\n') })
    await expect(page.locator('[data-notice]')).toContainText('The file has no rows.')
  })

  test('a file that does not say how its letters are stored is asked about, with the guess chosen', async ({
    page,
  }) => {
    await open(page, '/data')
    // "Chłodnia", "Łódź" and "Żuraw" as spreadsheets in Poland save them.
    const polish = Buffer.from('Name;Notes\nCh\xb3odnia;\xa3\xf3d\x9f\nSecond;\xaf uraw\n', 'latin1')
    const file = { name: 'sklep.csv', mimeType: 'text/csv', buffer: polish }
    await page.getByLabel('Choose CSV file').setInputFiles(file)
    const dialog = page.getByRole('dialog', { name: 'Which letters are right?' })
    await expect(dialog.getByRole('radio', { name: /Central European/ })).toBeChecked()
    await expect(dialog.getByRole('radio', { name: /Central European/ })).toBeFocused()
    await expect(dialog).toContainText('Chłodnia;Łódź')
    await expect(dialog).toContainText('Ch³odnia;£ódŸ')
    await page.keyboard.press('Escape')
    await expect(dialog).toHaveCount(0)
    await page.getByLabel('Choose CSV file').setInputFiles(file)
    await dialog.getByRole('button', { name: 'Import' }).click()
    await expect(page).toHaveURL(/\/data\/\d+$/)
    await expect(page.getByText('Chłodnia').first()).toBeVisible()
  })

  test('contacts and companies come in too; columns that were put right once are remembered', async ({
    page,
    request,
  }) => {
    const content =
      'Full name,Mail,Firm,Speaks\nHedda Quist,hedda@quist.example,Quist Bakery,\nOle Quist,ole@quist.example,Quist Bakery,\nNo Address,not an address,Quist Bakery,\n'
    await open(page, '/data')
    await page
      .getByLabel('Choose CSV file')
      .setInputFiles({ name: 'people.csv', mimeType: 'text/csv', buffer: Buffer.from(content) })
    await page.waitForFunction(() => document.documentElement.dataset.live === 'yes')
    await expect(page.locator('[data-object]')).toHaveValue('contact')
    await expect(page.locator('[data-known-by]')).toContainText('email, else name and company')
    await page.getByLabel('Target of column Speaks').selectOption({ label: 'Contact: Language' })
    const counts = page.locator('[data-counts]')
    await expect(counts).toContainText('2new')
    await expect(counts).toContainText('1rejected')
    await expect(counts).toContainText('plus 1 new company')
    await page.locator('[data-bring]').click()
    await expect(page.locator('[data-state]')).toContainText('Imported')
    await page.getByRole('link', { name: 'Show contacts' }).click()
    await page.getByRole('searchbox', { name: 'Search by name' }).fill('Quist')
    await page.getByRole('link', { name: 'Hedda Quist' }).click()
    await expect(page.getByRole('link', { name: 'Quist Bakery' })).toBeVisible()

    // The same headings in another order: everything goes where it went, and the records are found again.
    const other = 'Mail,Speaks,Full name,Firm\nhedda@quist.example,,Hedda A. Quist,Quist Bakery\n'
    const { id } = (await (
      await request.post('/api/v1/imports', { data: { fileName: 'again.csv', content: other } })
    ).json()) as { id: number }
    const again = (await (await request.get(`/api/v1/imports/${id}`)).json()) as {
      mapping: { targets: { field?: string }[] }
      preview: { counts: object }
    }
    expect(again.mapping.targets.map((target) => target.field)).toEqual(['email', 'language', 'name', undefined])
    expect(again.preview.counts).toMatchObject({ new: 0, changed: 1, companies: 0 })

    // Said to be companies, the columns are guessed anew for those.
    await open(page, `/data/${id}`)
    await page.locator('[data-object]').selectOption('company')
    await expect(page.getByLabel('Target of column Firm')).toHaveValue('field:name')
    await expect(page.locator('[data-counts]')).toContainText('1unchanged')
  })

  test('everything taken out and brought in again changes nothing', async ({ page, request }) => {
    for (const object of ['company', 'contact', 'deal']) {
      const content = await (await request.get(`/api/v1/exports/${object}`)).text()
      const { id } = (await (
        await request.post('/api/v1/imports', { data: { fileName: `${object}.csv`, content } })
      ).json()) as { id: number }
      const file = (await (await request.get(`/api/v1/imports/${id}`)).json()) as {
        object: string
        preview: {
          counts: { same: number }
          mappingProblems: object[]
          rows: { verdict: string; problems: object[]; changes: object[] }[]
        }
      }
      expect(file.preview.rows.filter((row) => row.verdict !== 'same').slice(0, 3)).toEqual([])
      expect(file.object).toBe(object)
      const { total } = (await (
        await request.get(`/api/v1/record-lists/${object}`, { params: { limit: 1 } })
      ).json()) as {
        total: number
      }
      expect(file.preview.counts).toEqual({ new: 0, changed: 0, same: total, refused: 0, companies: 0, contacts: 0 })
    }
    await open(page, '/data')
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('link', { name: 'All contacts (CSV)' }).click(),
    ])
    expect(download.suggestedFilename()).toMatch(/^contacts-\d{4}-\d\d-\d\d\.csv$/)
  })
})
