import { wentIn } from '../scripts/lint/plain-words.mjs'
import { found, IN_POPOVER, WHOLE } from './axe'
import { deals, expect, open, test } from './app'
import type { APIRequestContext, Page } from '@playwright/test'

/** The sheet of a rule of the demo. */
const ruleNamed = (name: string) => async (request: APIRequestContext) => {
  const { rules } = (await (await request.get('/api/v1/rules')).json()) as { rules: { id: number; name: string }[] }
  return `/rules/${rules.find((rule) => rule.name === name)?.id}`
}

/** Every main view, with the address of one that is in real use. */
const VIEWS: readonly {
  readonly name: string
  readonly path: (request: APIRequestContext) => string | Promise<string>
}[] = [
  { name: 'day sheet', path: () => '/day-sheet?person=jude' },
  { name: 'empty day sheet', path: () => '/day-sheet?person=maren' },
  { name: 'board', path: () => '/boards/hp' },
  { name: 'records', path: () => '/records/deals' },
  {
    name: 'records with a filter',
    path: () =>
      `/records/companies?filter=${encodeURIComponent(JSON.stringify({ kind: 'group', id: 'c0', mode: 'all', items: [{ kind: 'condition', id: 'c1', field: 'sector', op: 'isAnyOf', not: true, params: { values: ['bakery', 'brewery'] } }] }))}`,
  },
  {
    name: 'record',
    path: async (request) => `/records/deals/${(await deals(request, { stage: 'hp-quoted' }))[0]?.id}`,
  },
  { name: 'rules', path: () => '/rules' },
  { name: 'rule sheet', path: () => '/rules/3' },
  { name: 'journal', path: () => '/journal' },
  {
    name: 'run',
    path: async (request) =>
      `/journal/${((await (await request.get('/api/v1/runs')).json()) as { lines: { id: number }[] }).lines[0]?.id}`,
  },
  { name: 'data in', path: () => '/data' },
  { name: 'website', path: () => '/data/website' },
  { name: 'calendar', path: () => '/calendar?day=2026-11-18' },
  { name: 'booking pages', path: () => '/booking' },
  { name: 'appointments', path: () => '/records/appointments' },
  { name: 'rates', path: () => '/data/rates' },
  { name: 'storage', path: () => '/data/storage' },
  { name: 'fields', path: () => '/fields' },
  {
    name: 'field that is worked out',
    path: async (request) =>
      `/calculated-fields?field=${((await (await request.get('/api/v1/catalogue')).json()) as { data: { fields: { id: number; key: string }[] } }).data.fields.find((field) => field.key === 'daysPastExpectedClose')?.id}`,
  },
  { name: 'roll-up', path: () => '/calculated-fields?of=companies&by=rollUp' },
  { name: 'scorecards', path: () => '/scorecards' },
  { name: 'pipelines', path: () => '/pipelines' },
  { name: 'synonyms', path: () => '/synonyms' },
  { name: 'linking', path: () => '/linking' },
  {
    name: 'rules of a record',
    path: async (request) => `/records/deals/${(await deals(request, { stage: 'hp-quoted' }))[0]?.id}?show=rules`,
  },
  { name: 'ahead', path: () => '/ahead' },
  { name: 'rehearsal', path: () => '/rehearsal?rules=30&go=1&days=365' },
  { name: 'territories', path: () => '/territories' },
  { name: 'hours', path: () => '/hours' },
  { name: 'API', path: () => '/reference' },
  { name: 'overview', path: () => '/overview' },
  { name: 'problems', path: () => '/problems' },
  { name: 'suggestions', path: () => '/suggestions' },
  { name: 'team', path: () => '/team' },
  { name: 'results', path: () => '/results' },
  { name: 'results of a rule', path: () => '/results/28' },
  { name: 'people', path: () => '/people' },
  { name: 'password and keys', path: () => '/account' },
  { name: 'preflight', path: () => '/preflight' },
  { name: 'test cases', path: () => '/cases' },
  { name: 'kinds of activities', path: () => '/activity-kinds' },
  { name: 'templates', path: () => '/messages/templates' },
  { name: 'sending', path: () => '/messages/settings' },
  { name: 'web requests', path: () => '/messages/web' },
  { name: 'mailboxes', path: () => '/messages/mailboxes' },
  { name: 'phone', path: () => '/messages/phone' },
  { name: 'deleted records', path: () => '/records/deals/deleted' },
  { name: 'rule with a table', path: ruleNamed('Renewal signed: choose a gift') },
  { name: 'rule with paths in paths', path: ruleNamed('Call the customer: a path for each way it went') },
]

// None of them changes anything: they go to whichever worker is free.
test.describe.configure({ mode: 'parallel' })

/** Waits until all that a view fetches stands on it: nothing is under way any more, and no word comes or goes. */
const stands = (page: Page) =>
  page.waitForFunction(
    () => {
      const main = document.querySelector('main')
      if (!main || main.querySelector('[aria-busy="true"], progress')) return false
      const [before, now] = [document.body.dataset.seen, `${location.href} ${main.innerText.length}`]
      document.body.dataset.seen = now
      return before === now
    },
    null,
    { polling: 150 },
  )

/** Every text on the page: what stands there, and what is read out or shown beside it. */
const textsOf = (page: Page): Promise<readonly string[]> =>
  page.evaluate(() => {
    const texts: string[] = []
    const walk = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT)
    while (walk.nextNode()) {
      const holder = walk.currentNode.parentElement
      // Code is shown as it is: paths of the API, formulas, columns of a file, the website’s own pages.
      if (!holder || holder.closest('script, style, code, pre, iframe, textarea, .data, [data-code]')) continue
      texts.push(walk.currentNode.textContent ?? '')
    }
    for (const name of ['aria-label', 'title', 'placeholder'])
      for (const node of document.querySelectorAll(`[${name}]`)) texts.push(node.getAttribute(name) ?? '')
    return texts.map((text) => text.replaceAll(/\s+/g, ' ').trim()).filter(Boolean)
  })
/** Tables that nobody hears the name of. */
const namelessTables = (page: Page): Promise<readonly string[]> =>
  page.evaluate(() =>
    [...document.querySelectorAll('table, [role="table"], [role="grid"]')]
      .filter((table) => !table.matches('[aria-label], [aria-labelledby]') && !table.querySelector('caption'))
      .map((table) => (table.textContent ?? '').trim().slice(0, 80)),
  )
/** A word written as code writes names: `stageSince`, `deal.amount`; a file and the name of a standard are none. */
const KEY = /(?<![\w/.@-])(?!iCalendar)[a-z]+[A-Z][a-z]\w*|\b(?:deal|contact|company)\.(?!csv)[a-z]\w+/
/** What nobody wrote: a value that is missing, or is no text. */
const NO_TEXT = /\bundefined\b|\bNaN\b|\[object |Invalid Date/
/** Pages on which people write code: addresses of the API, formulas. */
const OF_CODE: readonly string[] = ['API', 'field that is worked out']
const shown = (text: string): boolean => KEY.test(text) && !text.startsWith('Read-only: calculated: ')

for (const view of VIEWS) {
  test(`axe finds nothing on the ${view.name}, in either theme, and no old word`, async ({ page, request }) => {
    await open(page, await view.path(request))
    await expect(page.locator('main h1').first()).toBeAttached()
    await stands(page)
    // One long page whose parts are all alike: one part of it is enough.
    if (view.name === 'API') await page.getByRole('searchbox', { name: 'Search routes' }).fill('segments')
    const all = (contrast: boolean): Promise<readonly string[]> =>
      found(page, WHOLE, {
        rules: { 'target-size': { enabled: true }, 'color-contrast': { enabled: contrast } },
      })
    expect(await all(true), 'light').toEqual([])
    const texts = await textsOf(page)
    expect(
      texts.flatMap((text) => (wentIn(text) ? [text] : [])),
      'words that went',
    ).toEqual([])
    expect(
      texts.filter((text) => NO_TEXT.test(text)),
      'values that are none',
    ).toEqual([])
    expect(await namelessTables(page), 'tables without a name').toEqual([])
    if (!OF_CODE.includes(view.name)) expect(texts.filter(shown), 'names of the code').toEqual([])
    // The themes differ in nothing but their colours.
    await page.emulateMedia({ colorScheme: 'dark' })
    const contrast = await found(page, WHOLE, { runOnly: { type: 'rule', values: ['color-contrast'] } })
    expect(contrast, 'dark').toEqual([])
    // As on a telephone, or at 400 %: other things are folded and stand in other places.
    await page.setViewportSize({ width: 320, height: 640 })
    expect(await all(false), '320 wide').toEqual([])
    expect(await page.evaluate(() => document.documentElement.scrollWidth), 'the page is no wider').toBe(320)
  })
}

test('the rule sheet with its popovers open passes axe too, wide and narrow', async ({ page }) => {
  await open(page, '/rules/3')
  for (const width of [1280, 320]) {
    await page.setViewportSize({ width, height: 800 })
    for (const word of ['trigger:t1/field', 'condition:c1/op', 'condition:c1/value', 'step:s2/due', 'step:s2/title']) {
      await page.locator(`[data-word="${word}"]`).first().click()
      await expect(page.locator('[data-pop]')).toBeVisible()
      const wrong = await found(page, IN_POPOVER, { rules: { 'target-size': { enabled: true } } })
      expect(wrong, `${word} at ${width}`).toEqual([])
      await page.keyboard.press('Escape')
      await expect(page.locator('[data-pop]')).toHaveCount(0)
    }
  }
})
