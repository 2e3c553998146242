import { expect, newDeal, newRule, open, test } from './app'

for (const width of [1024, 1280, 1600]) {
  test(`nothing but the board scrolls sideways at ${width}, even with long names`, async ({ page, request }) => {
    const long = `${'Very long name of a cold room that was typed without a thought '.repeat(5)}END`
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
            email: false,
          },
        },
        {
          id: 's2',
          kind: 'notify',
          params: { who: { by: 'person', person: 'ines' }, subject: long.slice(0, 150), body: '', email: false },
        },
      ],
    })
    await newDeal(request, { name: long, stage: 'hp-quoted' })
    await expect
      .poll(async () => ((await (await request.get('/api/v1/notifications')).json()) as { unread: number }).unread)
      .toBeGreaterThan(0)
    await page.setViewportSize({ width, height: 800 })
    for (const path of [
      `/records/deals/${deal.id}`,
      '/records/deals?words=very+long',
      '/boards/hp',
      `/rules/${rule}`,
      '/rules',
      '/journal',
      '/day-sheet?person=rosa',
      '/data/website',
      '/calendar',
      '/booking',
    ]) {
      await open(page, path)
      // What tells of something unread makes the bar no wider than the window either.
      await expect(page.locator('[data-unread]')).toBeVisible()
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
