import AxeBuilder from '@axe-core/playwright'
import { deals, expect, newDeal, newRule, open, test } from './app'
import type { APIRequestContext } from '@playwright/test'

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
  { name: 'fields', path: () => '/fields' },
  {
    name: 'field that is worked out',
    path: async (request) =>
      `/worked-out?field=${((await (await request.get('/api/v1/catalogue')).json()) as { data: { fields: { id: number; key: string }[] } }).data.fields.find((field) => field.key === 'daysPastExpectedClose')?.id}`,
  },
  { name: 'roll-up', path: () => '/worked-out?of=companies&by=rollUp' },
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
  { name: 'people', path: () => '/people' },
  { name: 'password and keys', path: () => '/account' },
]

for (const theme of ['light', 'dark'] as const) {
  test.describe(`in the ${theme} theme`, () => {
    test.use({ colorScheme: theme })
    for (const view of VIEWS) {
      test(`axe finds nothing on the ${view.name}`, async ({ page, request }) => {
        await open(page, await view.path(request))
        await expect(page.locator('main h1').first()).toBeAttached()
        const axe = new AxeBuilder({ page })
        // The themes differ in nothing but their colours.
        const { violations } = await (theme === 'dark' ? axe.withRules(['color-contrast']) : axe).analyze()
        expect(
          violations.map(({ id, nodes }) => `${id}: ${nodes.map((node) => node.html.slice(0, 160)).join(' | ')}`),
        ).toEqual([])
      })
    }
  })
}

test('the rule sheet with its popovers open passes axe too', async ({ page }) => {
  await open(page, '/rules/3')
  for (const word of ['trigger:t1/field', 'condition:c1/op', 'condition:c1/value', 'step:s2/due', 'step:s2/title']) {
    await page.locator(`[data-word="${word}"]`).first().click()
    await expect(page.locator('[data-pop]')).toBeVisible()
    const { violations } = await new AxeBuilder({ page }).include('[data-pop]').analyze()
    expect(
      violations.map(({ id, nodes }) => `${word}, ${id}: ${nodes.map((node) => node.html.slice(0, 160)).join(' | ')}`),
    ).toEqual([])
    await page.keyboard.press('Escape')
    await expect(page.locator('[data-pop]')).toHaveCount(0)
  }
})

for (const width of [1024, 1280, 1600]) {
  test(`nothing but the board scrolls sideways at ${width}, even with long names`, async ({ page, request }) => {
    const long = `${'Very long name of a cold room that somebody typed without a thought '.repeat(5)}END`
    const deal = await newDeal(request, { name: long, stage: 'hp-quoted', amount: 123_456_789.5 })
    const rule = await newRule(request, long.slice(0, 190), {
      triggers: [{ id: 't1', kind: 'created', params: {} }],
      conditions: [{ kind: 'condition', id: 'c1', field: 'name', op: 'is', not: false, params: { value: long } }],
      steps: [
        {
          id: 's1',
          kind: 'createTask',
          params: {
            title: `{{deal.name}} ${'x'.repeat(120)}`,
            notes: '',
            taskKind: 'call',
            due: { count: 1, unit: 'days' },
            priority: 'high',
            again: true,
            tell: false,
          },
        },
      ],
    })
    await newDeal(request, { name: long, stage: 'hp-quoted' })
    await page.setViewportSize({ width, height: 800 })
    for (const path of [
      `/records/deals/${deal.id}`,
      '/records/deals?words=very+long',
      '/boards/hp',
      `/rules/${rule}`,
      '/rules',
      '/journal',
      '/day-sheet?person=rosa',
    ]) {
      await open(page, path)
      const wide = await page.evaluate(() =>
        [document.documentElement, ...document.querySelectorAll<HTMLElement>('main section, main aside, main > div')]
          .filter((box) => !box.closest('[data-board]') && box.scrollWidth > box.clientWidth + 1)
          .map(
            (box) =>
              `${box.tagName} ${box.getAttribute('aria-label') ?? box.className} ${box.scrollWidth} > ${box.clientWidth}`,
          ),
      )
      expect(wide, path).toEqual([])
    }
    await request.post(`/api/v1/rules/${rule}/state`, { data: { state: 'archived' } })
  })
}
