import type { APIRequestContext, Page } from '@playwright/test'
import { readdirSync, readFileSync } from 'node:fs'
import { expect, load, newDeal, open, OWN_PAGE, setRule, test } from './app'

test.describe('writing a rule', () => {
  test('by keyboard alone, from the blank sheet to a task for the owner', async ({ page, request }) => {
    await open(page, '/rules')
    await page.keyboard.press('n')
    await page.keyboard.type('Terms without a date')
    await page.keyboard.press('Enter')
    await expect(page).toHaveURL(/\/rules\/\d+$/)
    await expect(page.getByRole('textbox', { name: 'Rule name' })).toBeVisible()
    await page.waitForFunction(() => document.documentElement.dataset.live === 'yes')
    const id = Number(new URL(page.url()).pathname.split('/').at(-1))
    await expect(page.locator('[data-state]')).toHaveText('Draft, never switched on')

    // When: the list of starts, then straight on to the stage that is still to be chosen.
    await page.locator('[data-word="add:trigger/kind"]').focus()
    await page.keyboard.press('Enter')
    await expect(page.getByPlaceholder('Search triggers')).toBeFocused()
    await page.keyboard.type('enters')
    await page.keyboard.press('Enter')
    await expect(page.getByPlaceholder('Search stages')).toBeFocused()
    await page.keyboard.type('terms')
    await page.keyboard.press('Enter')
    await expect(page.locator('[data-line="trigger:t1"]')).toContainText('a deal enters Terms (Hire & purchase)')

    // Only if: the field, then the value; the numbers beside it follow.
    await page.locator('[data-word="add:c0/condition"]').focus()
    await page.keyboard.press('Enter')
    await expect(page.getByPlaceholder('Search fields')).toBeFocused()
    await page.keyboard.type('amount')
    await page.keyboard.press('Enter')
    await expect(page.getByRole('textbox', { name: 'Amount' })).toBeFocused()
    await page.keyboard.type('20000')
    await page.keyboard.press('Enter')
    await expect(page.locator('[data-line="condition:c1"]')).toContainText('its amount is €20,000')
    await page.locator('[data-word="condition:c1/op"]').focus()
    await page.keyboard.press('Enter')
    await page.keyboard.type('more than')
    await page.keyboard.press('Enter')
    await expect(page.locator('[data-line="condition:c1"]')).toContainText('its amount is more than €20,000')
    await expect(page.locator('[data-line="condition:c1"]')).toContainText(/\d+ of \d+/)

    // Then: "/" lists the steps; the title takes a merge field as a chip.
    await page.locator('[data-word="condition:c1/op"]').focus()
    await page.keyboard.press('/')
    await expect(page.getByPlaceholder('Search steps')).toBeFocused()
    await page.keyboard.type('follow up')
    await page.keyboard.press('Enter')
    const title = page.locator('[data-merge]')
    await expect(title).toBeFocused()
    await page.keyboard.type('Fix a date with {contact na')
    await expect(page.locator('.cm-tooltip-autocomplete [aria-selected=true]')).toContainText('contact name')
    await page.keyboard.press('Enter')
    await expect(page.locator('.merge-text .chip')).toHaveText('contact name')
    await page.keyboard.type(' for good')
    await page.keyboard.press('Enter')
    await expect(page.locator('[data-line="step:s1"]')).toContainText('Fix a date with contact name for good')

    // New rules are off; switching on says what it means first.
    await expect(page.getByRole('tab', { name: /^Preflight/ })).toBeVisible()
    await page.locator('[data-switch-on]').click()
    await expect(page.getByRole('dialog', { name: 'Switch on this rule' })).toContainText('Also run it now for')
    await page.keyboard.press('Enter')
    await expect(page.locator('[data-state]')).toHaveText('On · Version 1')

    const deal = await newDeal(request, { amount: 30_000, stage: 'hp-quoted' })
    await request.patch(`/api/v1/records/deal/${deal.id}`, { data: { values: { stage: 'hp-terms' } } })
    await open(page, `/records/deals/${deal.id}`)
    await expect(page.getByText('Fix a date with (no contact) for good').first()).toBeVisible()
    await setRule(request, id, 'archived')
  })

  test('what is unfinished is named, led to, and keeps the rule off', async ({ page, request }) => {
    const { id } = (await (
      await request.post('/api/v1/rules', { data: { name: 'Half a rule', object: 'deal' } })
    ).json()) as { id: number }
    await open(page, `/rules/${id}`)
    await page.locator('[data-switch-on]').click()
    const panel = page.getByRole('tabpanel', { name: 'Preflight' })
    await expect(panel).toContainText('Add a trigger')
    await panel.getByText('Add a trigger').click()
    await expect(page.getByPlaceholder('Search triggers')).toBeFocused()
    const refused = await request.post(`/api/v1/rules/${id}/state`, { data: { state: 'on' } })
    expect(refused.status()).toBe(422)
  })

  test('every edit survives a reload at once, and can be undone', async ({ page, request }) => {
    const { id } = (await (
      await request.post('/api/v1/rules', { data: { name: 'Undo me', object: 'deal' } })
    ).json()) as { id: number }
    await open(page, `/rules/${id}`)
    await page.locator('[data-word="add:trigger/kind"]').click()
    await page.getByRole('option', { name: /^a record is created(?! or)/ }).click()
    await page.reload()
    await page.waitForFunction(() => document.documentElement.dataset.live === 'yes')
    await expect(page.locator('[data-line="trigger:t1"]')).toContainText('a deal is created')
    await page.keyboard.press('/')
    await page.keyboard.type('set a field')
    await page.keyboard.press('Enter')
    await page.keyboard.type('units')
    await page.keyboard.press('Enter')
    await page.keyboard.type('4')
    await page.keyboard.press('Enter')
    await expect(page.locator('[data-line="step:s1"]')).toContainText('set the units to 4')
    await page.keyboard.press('Control+z')
    await page.keyboard.press('Control+z')
    await expect(page.locator('[data-line="step:s1"]')).toContainText('set a field')
    await page.keyboard.press('Control+y')
    await expect(page.locator('[data-line="step:s1"]')).toContainText('set the units')
  })

  /** A new rule whose page waits for one of its parts until that is let in. */
  async function openWithout(page: Page, request: APIRequestContext, part: string): Promise<() => void> {
    const { id } = (await (
      await request.post('/api/v1/rules', { data: { name: 'Typed ahead', object: 'deal' } })
    ).json()) as { id: number }
    const folder = '.output/public/_nuxt'
    const script = readdirSync(folder).find(
      (name) => name.endsWith('.js') && readFileSync(`${folder}/${name}`, 'utf8').includes(`__name:"${part}"`),
    )
    expect(script).toBeDefined()
    let letIn = (): void => undefined
    const held = new Promise<void>((go) => (letIn = go))
    await page.route(`**/_nuxt/${script}`, async (route) => {
      await held
      await route.continue()
    })
    await load(page, `/rules/${id}`)
    return letIn
  }

  test('what is typed while the editors are still on their way is not lost', OWN_PAGE, async ({ page, request }) => {
    const letIn = await openWithout(page, request, 'WordPop')
    await page.keyboard.press('/')
    await page.keyboard.type('set a field')
    await page.keyboard.press('Enter')
    await expect(page.locator('[data-line="step:s1"]')).toBeVisible()
    await page.keyboard.type('units')
    await page.keyboard.press('Enter')
    await page.keyboard.type('4')
    await page.keyboard.press('Enter')
    letIn()
    await expect(page.locator('[data-line="step:s1"]')).toContainText('set the units to 4')
    // None of it was a shortcut of the page.
    await expect(page.locator('[data-line^="condition:"]')).toHaveCount(0)
  })

  test('nor while a table is, which asks what it decides by once it stands', OWN_PAGE, async ({ page, request }) => {
    const letIn = await openWithout(page, request, 'TableSheet')
    await page.keyboard.press('/')
    await page.keyboard.type('decide by a table')
    await page.keyboard.press('Enter')
    await expect(page.locator('[data-line="step:s1"]')).toBeVisible()
    await page.keyboard.type('units')
    await page.keyboard.press('Enter')
    letIn()
    await expect(page.locator('[data-table="s1"]')).toContainText('units')
    await expect(page.locator('[data-line^="condition:"]')).toHaveCount(0)
  })

  test('steps move with Alt and the arrows and travel between rules as text', async ({ page, request, context }) => {
    await context.grantPermissions(['clipboard-read', 'clipboard-write'])
    await open(page, '/rules/5')
    await page.locator('[data-word="step:s1/field"]').focus()
    await page.keyboard.press('Control+c')
    const { id } = (await (
      await request.post('/api/v1/rules', { data: { name: 'Pasted', object: 'deal' } })
    ).json()) as { id: number }
    await open(page, `/rules/${id}`)
    await page.locator('[data-word="add:trigger/kind"]').focus()
    await page.keyboard.press('Control+v')
    await expect(page.locator('[data-line="step:s1"]')).toContainText('set the customer to Returning')
    const heard = page.locator('[data-spoken]')
    await expect(heard).toHaveText('1 step pasted')
    await page.keyboard.press('Control+v')
    await page.locator('[data-word="step:s2/source"]').click()
    await page.getByRole('option', { name: 'New' }).click()
    await page.locator('[data-word="step:s2/field"]').focus()
    await page.keyboard.press('Alt+ArrowUp')
    await expect(page.locator('[data-line^="step:"]').first()).toContainText('set the customer to New')
    await expect(heard).toContainText('Step 1 moved (was step 2): set the customer to New')
    await page.keyboard.press('Delete')
    await expect(page.locator('[data-line^="step:"]')).toHaveCount(1)
    await expect(heard).toHaveText('Step 1 removed: set the customer to New')
    await page.keyboard.press('Control+z')
    await expect(page.locator('[data-line^="step:"]')).toHaveCount(2)
    await expect(heard).toContainText('Undone. Step 1 added: set the customer to New')
  })

  test('near misses stand beside the sheet and mark the words that fail', async ({ page }) => {
    await open(page, '/rules/2')
    await expect(page.locator('[data-matched]')).toHaveText(/^\d+$/)
    const miss = page.locator('tr', { hasText: 'below the limit' }).first()
    await miss.hover()
    await expect(page.locator('[data-line="condition:c1"]')).toHaveClass(/bg-brick-t/)
  })

  test('two people on one rule: the later one is told and overwrites nothing', async ({ page, request }) => {
    const { id } = (await (
      await request.post('/api/v1/rules', { data: { name: 'Shared', object: 'deal' } })
    ).json()) as { id: number }
    await open(page, `/rules/${id}`)
    const { draft, draftRev } = (await (await request.get(`/api/v1/rules/${id}`)).json()) as {
      draft: Record<string, unknown>
      draftRev: number
    }
    await page.getByLabel('Rule name').fill('Mine')
    const heard = page.waitForResponse((answer) => answer.url().endsWith(`/api/v1/rules/${id}`))
    await request.put(`/api/v1/rules/${id}/draft`, { data: { document: { ...draft, name: 'Theirs' }, rev: draftRev } })
    // The page reads itself anew in the middle of her typing, and what she typed stands.
    await (await heard).finished()
    await expect(page.getByLabel('Rule name')).toHaveValue('Mine')
    await page.keyboard.press('Tab')
    await expect(page.locator('[data-two]')).toContainText('Someone else changed this rule')
    const now = (await (await request.get(`/api/v1/rules/${id}`)).json()) as { draft: { name: string } }
    expect(now.draft.name).toBe('Theirs')
    // Both are kept: hers as a rule of its own.
    await page.locator('[data-copy-mine]').click()
    await expect(page.getByLabel('Rule name')).toHaveValue('Theirs')
    const { rules } = (await (await request.get('/api/v1/rules')).json()) as { rules: { name: string }[] }
    expect(rules.map(({ name }) => name)).toContain('Mine (copy)')
  })
})
