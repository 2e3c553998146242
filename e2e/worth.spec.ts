import Database from 'better-sqlite3'
import type { Page } from '@playwright/test'
import { found } from './axe'
import { expect, load, open, test } from './app'
import { ownDemo } from './own-demo'

test.use({ timezoneId: 'Europe/Lisbon' })

test.describe('whether it did any good', () => {
  const { api, get, post, make, dbFile } = ownDemo(3143)
  interface Problems {
    readonly kinds: readonly {
      readonly kind: string
      readonly problems: readonly { readonly id: number; readonly says: string }[]
    }[]
  }
  const problemsOf = async (kind: string) =>
    (await get<Problems>('/problems')).kinds.find((one) => one.kind === kind)?.problems ?? []
  const later = async (ms: number): Promise<void> => {
    const { nowMs } = await get<{ nowMs: number }>('/clock')
    await post('/clock', { toMs: nowMs + ms })
    await expect
      .poll(async () => (await get<{ nowMs: number }>('/clock')).nowMs, { timeout: 60_000 })
      .toBeGreaterThanOrEqual(nowMs + ms)
  }
  const clean = async (page: Page): Promise<void> => {
    expect(await found(page)).toEqual([])
    await page.setViewportSize({ width: 390, height: 800 })
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
  }
  const ruleNamed = async (name: string): Promise<number> =>
    (await get<{ rules: { id: number; name: string }[] }>('/rules')).rules.find((one) => one.name === name)?.id ?? 0

  test('a rule gets a target on its sheet, and its results say in words whether it helps', async ({ page }) => {
    const id = await ruleNamed('Deal signed: say thank you')
    await open(page, `/rules/${id}`)
    await page.getByRole('button', { name: 'Measure a target…' }).click()
    await page.keyboard.type('Reference')
    await page.keyboard.press('Enter')
    const target = page.getByRole('region', { name: 'Target' })
    await expect(target).toContainText('measured for 30 days after each run; no records are left alone to compare')
    await page.keyboard.press('Escape')
    await target.getByRole('button', { name: /30 days/ }).click()
    await page.keyboard.press('Control+A')
    await page.keyboard.type('14')
    await page.keyboard.press('Enter')
    await expect(target).toContainText('measured for 14 days')
    await target.getByRole('button', { name: 'Remove target' }).click()
    await expect(page.getByRole('button', { name: 'Measure a target…' })).toBeVisible()

    await open(page, '/results')
    const line = page.locator('[data-result]', { hasText: 'Quote not answered: call' })
    await expect(line).toContainText('helps: +')
    await line.getByRole('link').click()
    await expect(page.locator('[data-story]')).toContainText('The rule helps')
    await page.getByRole('button', { name: 'As a table' }).click()
    await expect(page.getByRole('columnheader', { name: 'Left alone' })).toBeVisible()
    await page.locator('dd button').first().click()
    const records = page.getByRole('dialog', { name: 'Reached the target' })
    await expect(records.getByRole('listitem').first()).toBeVisible()
    await page.keyboard.press('Escape')
    await expect(records).toHaveCount(0)
    // A figure within an owner opens those of that owner alone.
    const owners = page.getByRole('region', { name: 'By owner' })
    const owner = owners.getByRole('row').nth(1)
    const of = Number(await owner.getByRole('button', { name: /measured/ }).textContent())
    await owner.getByRole('button', { name: /measured/ }).click()
    const measured = page.getByRole('dialog', { name: /^Measured by the target: / })
    await expect(measured.getByRole('listitem')).toHaveCount(of)
    await page.keyboard.press('Escape')
    const file = await api().get(`/api/v1/rules/${await ruleNamed('Quote not answered: call')}/results/file`)
    expect(await file.text()).toMatch(/^Rule,Section,By,Value,Figure,Number\r\n/)
    expect(await file.text()).toMatch(/,Target,,,difference,0\.\d+/)
    await clean(page)
  })

  test('records that are left alone say so in the journal', async ({ page }) => {
    await open(page, `/journal?rule=${await ruleNamed('Quote not answered: call')}&all=true`)
    await page.getByText('left alone to measure what happens without the rule').first().click()
    await expect(page.getByText('left alone to measure what happens without the rule').first()).toBeVisible()
  })

  test('what somebody should fix comes within a minute, once, and goes when it is fixed', async ({ page }) => {
    expect(await problemsOf('unowned')).toEqual([])
    const id = await make('deal', { name: 'Nobody’s', stage: 'enq-fresh', owner: null })
    // A rule gives new deals an owner by territory; without a company there is none.
    await later(61_000)
    await expect
      .poll(async () => (await problemsOf('unowned')).map(({ says }) => says))
      .toEqual(['1 deal has no owner'])
    await open(page, '/problems')
    const group = page.locator('[data-problem-kind="unowned"]')
    await expect(group.locator('[data-problem]')).toHaveCount(1)
    await group.getByLabel(/^Who looks at/).selectOption('rosa')
    await expect.poll(async () => JSON.stringify(await problemsOf('unowned'))).toContain('"personId":"rosa"')
    await group.getByLabel(/^Accept:/).selectOption('7')
    await expect(group).toContainText('accepted until')
    await group.getByRole('button', { name: 'Show again' }).click()
    await expect(group).not.toContainText('accepted until')
    await api().patch(`/api/v1/records/deal/${id}`, { data: { values: { owner: 'rosa' } } })
    await later(61_000)
    await expect(group).toHaveCount(0)
    await clean(page)
  })

  test('runs that failed for one reason are tried again together', async ({ page }) => {
    await open(page, '/problems')
    const group = page.locator('[data-problem-kind="failedRuns"]')
    await expect(group).toContainText('date can’t use')
    await group.getByRole('button', { name: 'Try all again' }).click()
    await expect(page.getByText(/^0 of \d+ work now/)).toBeVisible()
  })

  test('what people do by hand becomes a draft rule, or is never told again', async ({ page }) => {
    await open(page, '/suggestions')
    // How many there are hangs on the days of the demo; this one is always among them.
    const all = page.locator('[data-suggestion]')
    const first = all.filter({ hasText: 'After the amount of a deal is set above €40,000, someone adds “Large”' })
    await expect(first).toBeVisible()
    const many = await all.count()
    const second = all.filter({ hasText: 'After a deal enters Signed, someone adds “Handover”' })
    await first.getByRole('button', { name: 'Which records' }).click()
    await expect(first.getByRole('heading', { name: 'Followed', exact: true })).toBeVisible()
    await second.getByRole('button', { name: 'Not again' }).click()
    await expect(second).toHaveCount(0)
    await expect(all).toHaveCount(many - 1)
    await clean(page)
    await page.setViewportSize({ width: 1280, height: 800 })
    await first.getByRole('button', { name: 'Make it a rule (off)' }).click()
    await expect(page).toHaveURL(/\/rules\/\d+$/)
    await expect(page.locator('[data-state]')).toHaveText('Draft, never switched on')
    await expect(page.getByRole('group', { name: 'Rule sheet' })).toContainText('Large')
    await open(page, '/suggestions')
    await expect(all).toHaveCount(many - 2)
    await expect(page.getByText('Nothing was found that people do again and again')).toHaveCount(many > 2 ? 0 : 1)
  })

  test('late tasks of several people are handed over at once', async ({ page }) => {
    await open(page, '/team')
    const brisa = page.locator('[data-team-person]', { hasText: 'Brisa Teixeira' })
    const before = await get<{ people: { id: string; load: { late: number } }[] }>('/team')
    const late = before.people.find(({ id }) => id === 'brisa')?.load.late ?? 0
    expect(late).toBeGreaterThan(1)
    await brisa.getByLabel('All late tasks of Brisa Teixeira').check()
    const bar = page.locator('[data-hand-over]')
    await bar.getByLabel('Hand over to').selectOption('callum')
    await bar.getByRole('button', { name: 'Hand over' }).click()
    await expect(brisa).toContainText('0 late')
    await clean(page)
  })

  test('the overview says what needs somebody, and notifications go by mail where somebody wants that', async ({
    page,
  }) => {
    await open(page, '/')
    await expect(page).toHaveURL(/\/overview$/)
    await expect(page.getByRole('region', { name: 'Needs you' })).toContainText(
      '“Signed: plan the handover visit” fails',
    )
    await expect(page.getByRole('region', { name: 'What can be told' })).toContainText('The rule helps')
    await open(page, '/account')
    const form = page.locator('[data-telling]')
    await form.getByLabel('Where').selectOption('mail')
    await form.getByLabel('How often').selectOption('now')
    await form.getByLabel('On days off too').check()
    await form.getByRole('button', { name: 'Save' }).click()
    await expect(form.getByRole('button', { name: 'Saved' })).toBeVisible()
    await make('deal', { name: 'Unowned again', stage: 'enq-fresh', owner: null })
    await later(61_000)
    const mails = (): readonly unknown[] => {
      const db = new Database(dbFile(), { readonly: true })
      const found = db.prepare("SELECT subject || body FROM stand_in_mail WHERE recipient LIKE 'ines@%'").pluck().all()
      db.close()
      return found
    }
    await expect.poll(() => JSON.stringify(mails())).toContain('1 deal has no owner')
    await open(page, '/overview')
    await clean(page)
  })

  test('who sells comes in to the day sheet, and sees the team but no rules', async ({ page }) => {
    await page.request.post('/api/v1/session/demo', { data: { personId: 'rosa' } })
    await load(page, '/')
    await expect(page).toHaveURL(/\/day-sheet$/)
    for (const path of ['/api/v1/overview', '/api/v1/problems', '/api/v1/results', '/api/v1/suggestions'])
      expect((await page.request.get(path)).status(), path).toBe(403)
    await page.request.post('/api/v1/session/demo', { data: { personId: 'maren' } })
    await load(page, '/overview')
    await expect(page.getByRole('link', { name: 'Suggestions' })).toHaveCount(0)
    await expect(page.getByRole('heading', { name: 'Drafts and unpublished changes' })).toHaveCount(0)
    expect((await page.request.get('/api/v1/suggestions')).status()).toBe(403)
  })
})
