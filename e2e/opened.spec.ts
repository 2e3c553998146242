import type { Page } from '@playwright/test'
import { wentIn } from '../scripts/lint/plain-words.mjs'
import { expect, open, test } from './app'
import { found, WHOLE } from './axe'

interface Opened {
  readonly name: string
  readonly path: string
  /** What is pressed; the first of that name. */
  readonly press: string | RegExp
  /** Inside what, where the name alone is not enough. */
  readonly within?: string
  /** What comes up over the page takes the focus, is closed by Escape, and gives it back. */
  readonly over: boolean
}

/** What is opened on a page: questions, lists, menus, and forms that stand in the page. */
const OPENED: readonly Opened[] = [
  { name: 'keyboard shortcuts', path: '/rules', press: 'Keyboard shortcuts', over: true },
  { name: 'search', path: '/rules', press: /^Search/, within: 'header', over: true },
  { name: 'notifications', path: '/rules', press: /^Notifications/, over: true },
  { name: 'account menu', path: '/rules', press: /^Account menu/, over: true },
  { name: 'demo clock', path: '/rules', press: /^(?:Workspace|Demo clock|\w{3} \d)/, within: 'header', over: true },
  { name: 'new rule', path: '/rules', press: /^New rule/, over: false },
  { name: 'switching on', path: '/rules/7', press: /^Switch on/, over: true },
  { name: 'exporting a rule', path: '/rules/3', press: /^Export/, over: true },
  { name: 'undo of a rule', path: '/rules/3', press: /^Undo what it did/, over: true },
  { name: 'versions of a rule', path: '/rules/3', press: 'Versions', over: false },
  { name: 'findings of a rule', path: '/rules/3', press: /^Preflight/, within: 'main', over: false },
  { name: 'records behind a figure', path: '/results/28', press: /^\d+$/, over: true },
  { name: 'outcome of a task', path: '/day-sheet?person=jude', press: /^Done with outcome/, over: true },
  { name: 'postponing a task', path: '/day-sheet?person=jude', press: /^Postpone/, over: true },
  { name: 'handing over a task', path: '/day-sheet?person=jude', press: /^Hand over/, over: true },
  { name: 'new record', path: '/records/deals', press: 'New deal', over: false },
  { name: 'columns', path: '/records/deals', press: 'Columns', over: true },
  { name: 'editing all', path: '/records/deals', press: /^Edit all/, over: false },
  { name: 'running a rule', path: '/records/deals', press: /^Run a rule/, over: true },
  { name: 'merging', path: '/records/deals/3', press: /^Merge with/, over: true },
  { name: 'deleting a record', path: '/records/deals/3', press: 'Delete', over: false },
  { name: 'new link', path: '/records/deals/3', press: /^Add link/, over: false },
  { name: 'writing a message', path: '/records/contacts/40?show=messages', press: /^Write/, over: false },
  { name: 'new field', path: '/fields', press: 'New field', over: false },
  { name: 'field', path: '/fields', press: 'Amount', over: false },
  { name: 'new pipeline', path: '/pipelines', press: /^New pipeline/, over: false },
  { name: 'new synonym set', path: '/synonyms', press: /^New/, within: 'main', over: false },
  { name: 'kind of activity', path: '/activity-kinds', press: /^New/, within: 'main', over: true },
  { name: 'connection', path: '/messages/web', press: /^New connection/, over: true },
  { name: 'incoming address', path: '/messages/web', press: /^New address/, over: true },
  { name: 'sending account', path: '/messages/settings', press: /^Use your email server/, over: true },
  { name: 'new template', path: '/messages/templates', press: /^New template/, over: false },
  { name: 'person', path: '/people', press: 'Add person', over: false },
  { name: 'booking page', path: '/booking', press: /^Add page/, over: true },
  { name: 'exchange rate', path: '/data/rates', press: /^Add rate/, over: true },
  { name: 'new territory', path: '/territories', press: 'New territory', over: false },
  {
    name: 'assumption of a rehearsal',
    path: '/rehearsal?rules=30&go=1&days=365',
    press: /^Add assumption/,
    over: true,
  },
]

test.describe.configure({ mode: 'parallel' })

const focus = (page: Page): Promise<string> =>
  page.evaluate(() => {
    const el = document.activeElement
    return el?.getAttribute('aria-label') ?? el?.textContent?.trim() ?? ''
  })
const OVER = '[role="dialog"], [role="alertdialog"], [role="menu"], [data-pop]'

for (const { name, path, press, within, over } of OPENED) {
  test(`${name}: opened, axe finds nothing wide and narrow, and Escape leads back`, async ({ page }) => {
    await open(page, path)
    const opener = page
      .locator(within ?? 'body')
      .getByRole('button', { name: press, exact: true })
      .or(page.locator(within ?? 'body').getByRole('tab', { name: press, exact: true }))
      .first()
    await opener.focus()
    const named = await focus(page)
    await opener.press('Enter')
    if (over) {
      await expect(page.locator(OVER).first()).toBeAttached()
      await expect
        .poll(() => page.evaluate((inside) => document.activeElement?.closest(inside) !== null, OVER))
        .toBe(true)
      // What it is about is seen at once, however long it is.
      for (const heading of await page.locator('[role="dialog"] h2:not(.sr-only)').all())
        await expect(heading).toBeInViewport()
    } else await expect.poll(() => page.evaluate(() => document.activeElement?.tagName)).not.toBe('BODY')
    await page.waitForLoadState('networkidle')
    const all = (contrast: boolean): Promise<readonly string[]> =>
      found(page, WHOLE, { rules: { 'target-size': { enabled: true }, 'color-contrast': { enabled: contrast } } })
    expect(await all(true), 'light').toEqual([])
    const texts = (await page.locator('body').innerText()).split('\n')
    expect(
      texts.filter((text) => wentIn(text)),
      'words that went',
    ).toEqual([])
    await page.setViewportSize({ width: 320, height: 640 })
    expect(await all(false), '320 wide').toEqual([])
    await page.setViewportSize({ width: 1280, height: 800 })
    if (!over) return
    await page.keyboard.press('Escape')
    await expect(page.locator(OVER)).toHaveCount(0)
    await expect.poll(() => focus(page)).toBe(named)
  })
}
