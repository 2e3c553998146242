import type { APIRequestContext } from '@playwright/test'
import { BASE } from './address'
import { deals, expect, newDeal, newRule, open, OWN_PAGE, setRule, test } from './app'

const enters = (stage: string) => ({ id: 't1', kind: 'entersStage', params: { stage } })

interface Heard {
  readonly id: string
  readonly event: string
  readonly data: string
}

/** The stream of what changes, one message after the other. */
async function listenTo(
  request: APIRequestContext,
  headers: Readonly<Record<string, string>>,
): Promise<{ readonly next: () => Promise<Heard>; readonly stop: () => void }> {
  const { cookies } = await request.storageState()
  const stop = new AbortController()
  const answer = await fetch(`${BASE}/api/v1/live`, {
    headers: { ...headers, cookie: cookies.map(({ name, value }) => `${name}=${value}`).join('; ') },
    signal: stop.signal,
  })
  const reader = answer.body!.pipeThrough(new TextDecoderStream()).getReader()
  let text = ''
  const next = async (): Promise<Heard> => {
    for (;;) {
      const end = text.indexOf('\n\n')
      if (end >= 0) {
        const lines = text.slice(0, end).split('\n').filter(Boolean)
        text = text.slice(end + 2)
        return {
          id: '',
          event: 'message',
          data: '',
          ...Object.fromEntries(
            lines.map((line) => [line.slice(0, line.indexOf(':')), line.slice(line.indexOf(':') + 1).trim()]),
          ),
        }
      }
      const part = await reader.read()
      if (part.done) throw new Error('the stream ended')
      text += part.value
    }
  }
  return { next, stop: () => stop.abort() }
}

test.describe('seeing it work', () => {
  test('a deal moved by keyboard starts the rule; this window and a second one say so without reloading', async ({
    page,
    context,
    request,
  }) => {
    const deal = await newDeal(request, { amount: 55_000, owner: 'jude' })
    await open(page, '/boards/hp')
    const second = await context.newPage()
    await open(second, '/boards/hp')
    await page.locator(`[data-deal="${deal.id}"]`).focus()
    await page.keyboard.press('Shift+ArrowRight')
    for (const window of [page, second]) {
      await expect(window.locator('[data-stage="hp-quoted"]').locator(`[data-deal="${deal.id}"]`)).toBeVisible()
      await expect(window.locator(`[data-deal="${deal.id}"] [data-did]`)).toContainText(
        '“Large quote: call the customer”: created task for Jude Okell',
      )
      await expect(window.locator('[data-notice]').filter({ hasText: 'Large quote: call the customer' })).toBeVisible()
    }
    await expect(page.locator(`[data-deal="${deal.id}"]`)).toBeFocused()
  })

  test('a deal moved by dragging does the same', async ({ page, request }) => {
    const deal = await newDeal(request, { amount: 59_000, stage: 'hp-visit', owner: 'jude' })
    await open(page, '/boards/hp?owner=jude')
    const line = page.locator(`[data-deal="${deal.id}"]`)
    await line.scrollIntoViewIfNeeded()
    await line.dragTo(page.locator('[data-stage="hp-quoted"] ul'), { targetPosition: { x: 60, y: 60 } })
    await expect(page.locator('[data-stage="hp-quoted"]').locator(`[data-deal="${deal.id}"]`)).toBeVisible()
    await expect(page.locator(`[data-deal="${deal.id}"] [data-did]`)).toContainText('created task for Jude Okell')
    expect(await deals(request, { name: deal.name, stage: 'hp-quoted' })).toHaveLength(1)
  })

  test('the owner’s day sheet has the task with its reason; one key finishes it, another undoes that', async ({
    page,
    request,
  }) => {
    const deal = await newDeal(request, { amount: 70_000, owner: 'callum' })
    await request.patch(`/api/v1/records/deal/${deal.id}`, { data: { values: { stage: 'hp-quoted' } } })
    await open(page, '/day-sheet')
    await page.getByRole('button', { name: /^Account menu/ }).click()
    await page.getByRole('menuitem', { name: /Callum Reyne/ }).click()
    await expect(page.getByRole('button', { name: 'Account menu: Callum Reyne' })).toBeVisible()
    const line = page.locator('[data-task]').filter({ hasText: deal.name })
    await expect(line).toContainText('Why: the deal moved from Sized to Quoted')
    await line.getByRole('button').click()
    await expect(page.getByRole('region', { name: 'Record' })).toContainText(deal.name)
    await page.keyboard.press('d')
    await expect(line).toHaveCount(0)
    await page.keyboard.press('u')
    await expect(line).toHaveCount(1)
    await page.keyboard.press('o')
    await page.getByRole('textbox', { name: 'Outcome' }).fill('They want it cheaper')
    await page.keyboard.press('Enter')
    await expect(line).toHaveCount(0)
    await open(page, `/records/deals/${deal.id}`)
    await expect(page.getByText('They want it cheaper')).toBeVisible()
    // Owners work; they do not build.
    const refused = await page.request.post('/api/v1/rules', { data: { name: 'No', object: 'deal' } })
    expect(refused.status()).toBe(403)
  })

  test('a task is put off and handed over by keyboard', async ({ page, request }) => {
    const deal = await newDeal(request, { amount: 72_000, owner: 'anouk' })
    await request.patch(`/api/v1/records/deal/${deal.id}`, { data: { values: { stage: 'hp-quoted' } } })
    await open(page, '/day-sheet?person=anouk')
    const line = page.locator('[data-task]').filter({ hasText: deal.name })
    await line.getByRole('button').click()
    await page.keyboard.press('l')
    await page.keyboard.type('4 weeks')
    await page.keyboard.press('Enter')
    await expect(page.locator('[data-notice]').filter({ hasText: 'Postponed to' })).toBeVisible()
    await line.getByRole('button').click()
    await page.keyboard.press('h')
    await page.keyboard.type('brisa')
    await page.keyboard.press('Enter')
    await expect(line).toHaveCount(0)
    await open(page, '/day-sheet?person=brisa')
    await expect(line).toHaveCount(1)
  })

  test('what is typed before a list has come up goes into the list', OWN_PAGE, async ({ page, request }) => {
    // Quick fingers on a slow machine: the list is there, and a third of a second later it takes the focus.
    await page.addInitScript(() => {
      const frame = window.requestAnimationFrame.bind(window)
      window.requestAnimationFrame = (work) => frame(() => setTimeout(() => frame(work), 300))
    })
    const deal = await newDeal(request, { amount: 72_000, owner: 'anouk' })
    await request.patch(`/api/v1/records/deal/${deal.id}`, { data: { values: { stage: 'hp-quoted' } } })
    await open(page, '/day-sheet?person=anouk')
    const line = page.locator('[data-task]').filter({ hasText: deal.name })
    await line.getByRole('button').click()
    await page.keyboard.press('h')
    await page.keyboard.type('brisa')
    await page.keyboard.press('Enter')
    await expect(line).toHaveCount(0)
    await open(page, '/day-sheet?person=brisa')
    await expect(line).toHaveCount(1)
  })

  test('moving a deal into the stage it is in starts nothing', async ({ request }) => {
    const deal = await newDeal(request, { amount: 90_000, stage: 'hp-quoted' })
    const runs = async () =>
      (
        (await (await request.get('/api/v1/runs', { params: { all: 'true', limit: 1 } })).json()) as {
          lines: { id: number }[]
        }
      ).lines[0]?.id
    const before = await runs()
    const answer = (await (
      await request.patch(`/api/v1/records/deal/${deal.id}`, { data: { values: { stage: 'hp-quoted' } } })
    ).json()) as { changed: boolean; runs: number }
    expect(answer).toMatchObject({ changed: false, runs: 0 })
    expect(await runs()).toBe(before)
  })

  test('two rules that move a deal back and forth are cut, and the chain is shown whole', async ({ page, request }) => {
    const move = (stage: string) => ({ id: 's1', kind: 'moveStage', params: { stage, backwards: true, across: false } })
    const mine = [
      { kind: 'condition', id: 'c1', field: 'reference', op: 'is', not: false, params: { value: 'circle' } },
    ]
    const back = await newRule(request, 'Back to Sized', {
      triggers: [enters('hp-terms')],
      conditions: mine,
      steps: [move('hp-sized')],
    })
    const forth = await newRule(request, 'Forth to Terms', {
      triggers: [enters('hp-sized')],
      conditions: mine,
      steps: [move('hp-terms')],
    })
    const deal = await newDeal(request, { stage: 'hp-visit', reference: 'circle' })
    await request.patch(`/api/v1/records/deal/${deal.id}`, { data: { values: { stage: 'hp-terms' } } })
    await open(page, `/records/deals/${deal.id}`)
    const cut = page.getByText(/stopped: to prevent a loop: the rule already ran for this record in this chain/)
    await expect(cut).toBeVisible()
    await page.getByRole('link', { name: 'Back to Sized' }).first().click()
    await expect(page.getByRole('complementary', { name: 'Full chain' })).toContainText('Forth to Terms: done')
    await expect(page.getByRole('complementary', { name: 'Full chain' })).toContainText('to prevent a loop')
    for (const id of [back, forth]) await setRule(request, id, 'archived')
  })

  test('the journal shows a run with the values it saw and what it wrote', async ({ page, request }) => {
    const deal = await newDeal(request, { amount: 45_000, owner: 'tomasz' })
    await request.patch(`/api/v1/records/deal/${deal.id}`, { data: { values: { stage: 'hp-quoted' } } })
    await open(page, '/journal')
    const row = page.getByRole('row').filter({ hasText: deal.name }).filter({ hasText: 'Large quote' })
    await row.getByRole('link', { name: 'Large quote: call the customer' }).click()
    await expect(page.getByText('then €45,000 · ✓ true')).toBeVisible()
    await expect(page.getByText(/Changed: created task for Tomasz Wójcik/)).toBeVisible()
    await expect(page.getByText(/delivered .* \(simulated\)/)).toBeVisible()
  })

  test('a run whose condition did not hold says which, and what it saw', async ({ page, request }) => {
    const deal = await newDeal(request, { amount: 1_000 })
    await request.patch(`/api/v1/records/deal/${deal.id}`, { data: { values: { stage: 'hp-quoted' } } })
    await open(page, '/journal?rule=2&all=true')
    await expect(page.getByRole('row').filter({ hasText: deal.name })).toContainText('was not true: €1,000')
  })

  test('the record’s page edits in place, says who wrote what, and names the rule', async ({ page, request }) => {
    const deal = await newDeal(request, { amount: 2_000 })
    await open(page, `/records/deals/${deal.id}`)
    await page.getByRole('button', { name: /^Edit Stage: Sized/ }).click()
    await page.getByRole('option', { name: 'Quoted' }).click()
    const facts = page.getByRole('complementary', { name: 'Fields and links' })
    await expect(facts.getByText('Set the quote date')).toBeVisible()
    await page.getByRole('button', { name: /^Edit Amount: / }).click()
    await page.getByRole('textbox', { name: 'Amount' }).fill('plenty')
    await page.keyboard.press('Enter')
    await expect(page.getByRole('alert')).toContainText('“plenty” is not a number.')
    await page.getByRole('textbox', { name: 'Amount' }).fill('3.500,50')
    await page.keyboard.press('Enter')
    await expect(facts).toContainText('€3,500.50')
    await expect(page.getByRole('region', { name: 'Timeline' })).toContainText(
      'Ines Calloway amount: €2,000 → €3,500.50',
    )
  })

  test('two people changing one field: the later one sees both values and chooses', async ({ page, request }) => {
    const deal = await newDeal(request, { amount: 2_000, units: 1 })
    const rosas = async (values: object) => {
      expect((await request.patch(`/api/v1/records/deal/${deal.id}`, { data: { values } })).ok()).toBe(true)
    }
    const amount = async () =>
      (
        (await (await request.get(`/api/v1/records/deal/${deal.id}`)).json()) as {
          values: { amount: number; units: number }
        }
      ).values
    await open(page, `/records/deals/${deal.id}`)
    const box = page.getByRole('textbox', { name: 'Amount' })
    const begin = async (text: string) => {
      await page.getByRole('button', { name: /^Edit Amount: / }).click()
      await box.fill(text)
    }
    // Another field changed meanwhile is no matter.
    await begin('2500')
    await rosas({ units: 7 })
    await page.keyboard.press('Enter')
    await expect.poll(amount).toMatchObject({ amount: 2_500, units: 7 })
    // The same field is asked about; what is there stays until she decides.
    await expect(page.getByRole('button', { name: /^Edit Amount: €2,500/ })).toBeVisible()
    await begin('3000')
    await rosas({ amount: 2_700 })
    await page.keyboard.press('Enter')
    const both = page.locator('[data-both]')
    await expect(both).toContainText('Current value €2,700')
    await expect(both).toContainText('Your value €3,000')
    await page.keyboard.press('Enter')
    await expect(both).toBeHidden()
    expect(await amount()).toMatchObject({ amount: 2_700 })
    await begin('3100')
    await rosas({ amount: 2_800 })
    await page.keyboard.press('Enter')
    await both.getByRole('button', { name: 'Save mine' }).click()
    await expect.poll(amount).toMatchObject({ amount: 3_100 })
  })

  test('a window whose connection broke off hears what it missed, and only that', async ({ request }) => {
    const deal = await newDeal(request, { stage: 'hp-visit' })
    const mark = await listenTo(request, {})
    const hello = await mark.next()
    expect(hello.event).toBe('hello')
    mark.stop()
    const units = async (value: number) => {
      expect(
        (await request.patch(`/api/v1/records/deal/${deal.id}`, { data: { values: { units: value } } })).ok(),
      ).toBe(true)
    }
    await units(3)
    await units(4)
    const back = await listenTo(request, { 'last-event-id': hello.id })
    expect((await back.next()).event).toBe('hello')
    const [one, two] = [await back.next(), await back.next()]
    expect([one.data, two.data].map((data) => JSON.parse(data) as object)).toEqual(
      [1, 2].map(() => ({ about: 'records', refs: [{ object: 'deal', id: deal.id }] })),
    )
    back.stop()
    // Whoever has heard everything hears only what comes then.
    const other = await newDeal(request, {})
    const later = await listenTo(request, { 'last-event-id': two.id })
    expect((await later.next()).event).toBe('hello')
    expect((await later.next()).data).toContain(`"id":${other.id}`)
    later.stop()
    // A mark that nobody knows leads to reading anew.
    const lost = await listenTo(request, { 'last-event-id': 'other 5' })
    expect((await lost.next()).event).toBe('anew')
    lost.stop()
  })
})
