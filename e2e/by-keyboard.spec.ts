import type { Page } from '@playwright/test'
import { expect, newDeal, newRule, open, OWN_PAGE, setRule, test } from './app'
import { set } from './deal-steps'
import { treated } from './treated'

/** Somebody at the keyboard: every key counts, and a text that is typed counts as one. No key loses the focus. */
class Hands {
  keys = 0
  constructor(private readonly page: Page) {}
  async press(...keys: readonly string[]): Promise<void> {
    for (const key of keys) {
      await this.page.keyboard.press(key)
      this.keys++
      await expect
        .poll(() => this.page.evaluate(() => document.activeElement?.tagName), { message: `focus after ${key}` })
        .not.toBe('BODY')
    }
  }
  async type(text: string): Promise<void> {
    await this.page.keyboard.type(text)
    this.keys++
  }
  /** Presses a key until something named so has the focus. */
  async until(key: string, name: RegExp, most: number): Promise<void> {
    for (let n = 0; n < most; n++) {
      if (name.test(await this.focused())) return
      await this.press(key)
    }
    throw new Error(`“${name.source}” was not reached by ${most} × ${key}: the focus is on “${await this.focused()}”`)
  }
  focused(): Promise<string> {
    return this.page.evaluate(() => {
      const el = document.activeElement
      return el?.getAttribute('aria-label') ?? el?.textContent?.trim() ?? ''
    })
  }
}

/** What was told to those who do not see the page, last. */
const heard = (page: Page, text: string | RegExp) =>
  expect(page.getByRole('status').filter({ hasText: text })).toBeAttached()

const enters = (stage: string) => ({ id: 't1', kind: 'entersStage', params: { stage } })

test('a rule is written and switched on with 60 keys at the most', OWN_PAGE, async ({ page, request }) => {
  await open(page, '/rules')
  const hands = new Hands(page)
  await page.keyboard.press('n')
  await hands.type('Large deal in Terms')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('textbox', { name: 'Rule name' })).toBeVisible()
  await page.waitForFunction(() => document.documentElement.dataset.live === 'yes')
  await hands.press('w')
  await expect(page.getByPlaceholder('Search triggers')).toBeFocused()
  await hands.type('enters')
  await hands.press('Enter')
  await expect(page.getByPlaceholder('Search stages')).toBeFocused()
  await hands.type('terms')
  await hands.press('Enter')
  await expect(page.getByRole('region', { name: 'When' })).toContainText('a deal enters Terms (Hire & purchase)')
  await hands.press('i')
  await expect(page.getByPlaceholder('Search fields')).toBeFocused()
  await hands.type('amount')
  await hands.press('Enter')
  await expect(page.getByRole('textbox', { name: 'Amount' })).toBeFocused()
  await hands.type('20000')
  await hands.press('Enter')
  await hands.until('Shift+Tab', /^is$/, 4)
  await hands.press('Enter')
  await expect(page.getByRole('combobox', { name: 'Operator' })).toBeFocused()
  await hands.type('more than')
  await hands.press('Enter')
  await expect(page.getByRole('region', { name: 'Only if' })).toContainText('its amount is more than €20,000')
  await hands.press('/')
  await expect(page.getByPlaceholder('Search steps')).toBeFocused()
  await hands.type('follow up')
  await hands.press('Enter')
  await expect(page.getByRole('textbox', { name: 'Title' })).toBeFocused()
  await hands.type('Fix a date')
  await hands.press('Enter')
  await expect(page.getByRole('region', { name: 'Then' })).toContainText('Fix a date')
  await hands.press('s')
  await expect(page.getByRole('dialog', { name: 'Switch on this rule' })).toContainText('Switch on')
  await hands.press('Enter')
  await expect(page.getByText('On · Version 1', { exact: true })).toBeVisible()
  await heard(page, 'Rule “Large deal in Terms”: On · Version 1')
  expect(hands.keys + 2).toBeLessThanOrEqual(60)
  await setRule(request, Number(new URL(page.url()).pathname.split('/').at(-1)), 'archived')
})

test('a task on the day sheet is done with three keys at the most', OWN_PAGE, async ({ page, request }) => {
  const deal = await newDeal(request, { amount: 74_000, owner: 'callum' })
  await request.patch(`/api/v1/records/deal/${deal.id}`, { data: { values: { stage: 'hp-quoted' } } })
  await open(page, '/day-sheet?person=callum')
  const hands = new Hands(page)
  await hands.press('ArrowDown')
  const task = await hands.focused()
  await hands.press('d')
  expect(hands.keys).toBeLessThanOrEqual(3)
  await expect(page.getByText('Task done').first()).toBeVisible()
  // The focus went to the task that took its place, and it is that one that the next key is about.
  await expect.poll(() => hands.focused()).not.toBe(task)
})

test(
  'the first cell of a decision table is reached with three keys, and filled and ordered by keys',
  OWN_PAGE,
  async ({ page, request }) => {
    const rule = await newRule(request, 'Gift by size', {
      triggers: [enters('hp-signed')],
      steps: [
        {
          id: 's1',
          kind: 'decide',
          params: {
            table: {
              inputs: [{ via: null, field: 'amount' }],
              outputs: [{ key: 'gift', label: 'Gift', type: 'text' }],
              rows: [
                { id: 'r1', when: [{ is: 'any' }], then: ['card'] },
                { id: 'r2', when: [{ is: 'any' }], then: ['visit'] },
              ],
              hit: 'first',
              collect: 'list',
            },
          },
        },
      ],
    })
    await open(page, `/rules/${rule}`)
    const grid = page.getByRole('grid', { name: /^Decision table/ })
    await expect(grid).toBeVisible()
    const hands = new Hands(page)
    await page.getByRole('region', { name: 'Then' }).getByRole('button').first().focus()
    await hands.until('Tab', /^Row 1, amount$/i, 3)
    await hands.type('< 10000')
    await hands.press('ArrowRight')
    expect(await hands.focused()).toBe('Row 1, Gift')
    await hands.press('F2', 'End')
    await hands.type(' and flowers')
    await hands.press('ArrowUp')
    expect(await hands.focused()).toBe('Result 1 name')
    await hands.press('ArrowDown', 'Alt+ArrowDown')
    await heard(page, 'Row 1 is now row 2')
    await expect(grid.getByRole('textbox', { name: 'Row 2, Gift' })).toHaveValue('card and flowers')
    await expect(grid.getByRole('textbox', { name: 'Row 2, Gift' })).toBeFocused()
    await hands.type('thrown away')
    await hands.press('Escape')
    await expect(grid.getByRole('textbox', { name: 'Row 2, Gift' })).toHaveValue('card and flowers')
    // What is typed goes along when its row is moved at once, and what cannot be read stays with its reason.
    await hands.type('a letter')
    await hands.press('Alt+ArrowUp')
    await heard(page, 'Row 2 is now row 1')
    await expect(grid.getByRole('textbox', { name: 'Row 1, Gift' })).toHaveValue('a letter')
    await hands.press('ArrowLeft')
    await hands.type('plenty')
    await hands.press('Enter')
    await heard(page, /^Row 1: .*plenty/)
    await expect(grid.getByRole('textbox', { name: 'Row 1, amount' })).toHaveValue('plenty')
    await setRule(request, rule, 'archived')
  },
)

test('a deal is moved on the board with four keys at the most', OWN_PAGE, async ({ page }) => {
  await open(page, '/boards/hp')
  const hands = new Hands(page)
  await hands.press('ArrowDown')
  const before = await hands.focused()
  const stage = () => page.evaluate(() => document.activeElement?.closest('[data-stage]')?.getAttribute('data-stage'))
  const from = await stage()
  await hands.press('Shift+ArrowRight')
  await expect.poll(stage).not.toBe(from)
  expect((await hands.focused()).slice(0, 8)).toBe(before.slice(0, 8))
  await heard(page, /^Moved to /)
  expect(hands.keys).toBeLessThanOrEqual(4)
})

test('a file is imported by keyboard', OWN_PAGE, async ({ page }) => {
  await open(page, '/data')
  await page.getByLabel('Choose CSV file').setInputFiles({
    name: 'keys.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('Name;Stage;Owner\nBy keyboard;Sized;Jude Okell\n'),
  })
  await expect(page.getByRole('button', { name: 'Import 1 deal' })).toBeVisible()
  await page.waitForFunction(() => document.documentElement.dataset.live === 'yes')
  const hands = new Hands(page)
  await hands.until('Tab', /^Import 1 deal$/, 40)
  await hands.press('Enter')
  await expect(page.getByText('Imported').first()).toBeVisible()
})

test('what is ahead is ended with four keys at the most', OWN_PAGE, async ({ page, request }) => {
  const rules = (await (await request.get('/api/v1/rules')).json()) as { rules: { id: number; name: string }[] }
  const rule = rules.rules.find((one) => one.name === 'Quote not answered: call')?.id ?? 0
  const deal = await treated(rule, async () => (await newDeal(request, { owner: 'jude' })).id)
  await request.patch(`/api/v1/records/deal/${deal}`, { data: { values: { stage: 'hp-quoted' } } })
  await open(page, `/ahead?rule=${rule}&owner=jude`)
  const list = page.getByRole('list', { name: 'Upcoming, soonest first' })
  await expect(list.getByRole('checkbox').first()).toBeVisible()
  const before = await list.getByRole('checkbox').count()
  const hands = new Hands(page)
  await hands.press('ArrowDown', 'e')
  await expect(list.getByRole('checkbox')).toHaveCount(before - 1)
  await expect
    .poll(() => page.evaluate(() => document.activeElement?.tagName), { message: 'focus after the line went' })
    .not.toBe('BODY')
  expect(hands.keys).toBeLessThanOrEqual(4)
})

test('why a rule did not run is read with eight keys at the most', OWN_PAGE, async ({ page, request }) => {
  const rule = await newRule(request, 'Asked by keyboard', {
    triggers: [enters('ren-offered')],
    conditions: [{ kind: 'condition', id: 'c1', field: 'amount', op: 'moreThan', not: false, params: { value: 5000 } }],
    steps: [set('s1', 'units', 3)],
  })
  const deal = await newDeal(request, { amount: 100, stage: 'ren-due' })
  await open(page, `/records/deals/${deal.id}`)
  const hands = new Hands(page)
  await hands.press('r')
  await expect(page.getByRole('tab', { name: 'Rules' })).toHaveAttribute('aria-selected', 'true')
  await expect.poll(() => hands.focused()).not.toBe('Rules')
  await hands.press('End', 'Enter')
  await expect(page.getByRole('region', { name: /^Why: / })).toBeVisible()
  expect(hands.keys).toBeLessThanOrEqual(8)
  await setRule(request, rule, 'archived')
})
