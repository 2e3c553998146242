import type { APIRequestContext } from '@playwright/test'
import { expect, newDeal, open, ownRules, setRule, test, unfoldRule } from './app'
import { beginRule, choose } from './by-hand'

const enters = (stage: string) => ({ id: 't1', kind: 'entersStage', params: { stage } })
const { newRule, keep } = ownRules()
const runsOf = async (request: APIRequestContext, rule: number) =>
  ((await (await request.get(`/api/v1/runs?rule=${rule}`)).json()) as { lines: { id: number; state: string }[] }).lines
const set = (id: string, field: string, value: unknown) => ({
  id,
  kind: 'setField',
  params: { field, source: { from: 'value', value } },
})

test('a rule with paths is written by keyboard, sends each deal its own way, and the run shows which', async ({
  page,
  request,
}) => {
  const id = await beginRule(page, 'Units by size')
  keep(id)
  await page.locator('[data-word="add:trigger/kind"]').focus()
  await page.keyboard.press('Enter')
  await choose(page, 'Search triggers', 'enters')
  await choose(page, 'Search stages', 'terms')
  await page.locator('[data-word="add:step/kind"]').focus()
  await page.keyboard.press('Enter')
  await choose(page, 'Search steps', 'choose a path')
  await expect(page.getByText('Add a condition to this path').first()).toBeVisible()

  // What the first path is gone for, then what is done on it; the same for all others.
  await page.locator('[data-line="branch:b1"] [data-word^="add:c"]').focus()
  await page.keyboard.press('Enter')
  await choose(page, 'Search fields', 'amount')
  await expect(page.getByRole('textbox', { name: 'Amount' })).toBeFocused()
  await page.keyboard.type('70000')
  await page.keyboard.press('Enter')
  const fill = async (branch: string, value: string) => {
    await page.locator(`[data-word="add:step:${branch}/kind"]`).focus()
    await page.keyboard.press('Enter')
    await choose(page, 'Search steps', 'set a field')
    await choose(page, 'Search fields', 'units')
    await expect(page.getByRole('textbox', { name: 'Units' })).toBeFocused()
    await page.keyboard.type(value)
    await page.keyboard.press('Enter')
  }
  await fill('b1', '7')
  await fill('b2', '1')
  await expect(page.locator('[data-line="step:s2"]')).toContainText('1a1')
  await expect(page.locator('[data-line="step:s3"]')).toContainText('1·otherwise 1')
  await page.locator('[data-switch-on]').click()
  await page.locator('[data-confirm]').press('Enter')
  await expect(page.locator('[data-state]')).toContainText('On · Version 1')

  const [large, other] = [await newDeal(request, { amount: 70_000 }), await newDeal(request, { amount: 5 })]
  const units = async (deal: { id: number }) => {
    const answer = await request.patch(`/api/v1/records/deal/${deal.id}`, { data: { values: { stage: 'hp-terms' } } })
    return ((await answer.json()) as { values: { units: number } }).values.units
  }
  expect([await units(large), await units(other)]).toEqual([7, 1])
  const { lines } = (await (await request.get(`/api/v1/runs?rule=${id}`)).json()) as { lines: { id: number }[] }
  await open(page, `/journal/${lines[0]!.id}`)
  await expect(page.getByText('otherwise', { exact: true })).toBeVisible()
  await expect(page.getByText('path taken')).toBeVisible()
  await expect(page.getByText('path not taken', { exact: true })).toBeVisible()

  // Folded away, the sheet is an overview; a record can show its way alone.
  await open(page, `/rules/${id}`)
  await page.getByRole('button', { name: 'Expand or collapse all paths of step 1' }).click()
  await expect(page.locator('[data-line="step:s2"]')).toHaveCount(0)
  await expect(page.getByRole('button', { name: /^Path 1a: if its amount is €70,000/ })).toContainText('1 step')
  await page.getByRole('button', { name: 'Expand or collapse all paths of step 1' }).click()
  await page.locator('[data-see]').first().click()
  await page.getByLabel('Show only the path it takes').check()
  await expect(page.locator('[data-line^="branch:"]')).toHaveCount(1)
})

test('a wait goes on with the path of the end that came, and the run says which', async ({ page, request }) => {
  const rule = await newRule(request, 'Two ends', {
    triggers: [enters('ren-offered')],
    steps: [
      {
        id: 's1',
        kind: 'waitFor',
        params: { field: 'units', how: 'filled', to: null, most: { count: 2, unit: 'workdays' }, recheck: false },
        branches: [
          { id: 'b1', steps: [set('s2', 'notes', 'it came')] },
          { id: 'b2', steps: [] },
        ],
      },
      set('s3', 'lostReason', 'timing'),
    ],
  })
  await open(page, `/rules/${rule}`)
  await expect(page.getByRole('button', { name: 'Path 1a: if it happens' })).toBeVisible()
  await page.getByRole('button', { name: 'Add step if the time limit is reached' }).press('Enter')
  await expect(page.getByPlaceholder('Search steps')).toBeFocused()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('button', { name: 'Add step if the time limit is reached' })).toBeFocused()

  const deal = await newDeal(request, { stage: 'ren-due', units: null })
  await request.patch(`/api/v1/records/deal/${deal.id}`, { data: { values: { stage: 'ren-offered' } } })
  const run = await expect
    .poll(async () => (await runsOf(request, rule))[0], { message: 'the run waits' })
    .toMatchObject({ state: 'waiting' })
    .then(async () => (await runsOf(request, rule))[0]?.id)
  await open(page, `/journal/${run}`)
  await expect(page.getByText('path not taken')).toHaveCount(0)
  await request.patch(`/api/v1/records/deal/${deal.id}`, { data: { values: { units: 2 } } })
  await expect.poll(async () => (await runsOf(request, rule))[0]).toMatchObject({ state: 'done' })
  await open(page, `/journal/${run}`)
  await expect(page.getByText('path taken')).toHaveCount(1)
  await expect(page.getByText('path not taken')).toHaveCount(1)
  await expect(page.getByText('notes: empty → it came').first()).toBeVisible()
  await expect(page.getByText('lost reason: empty → Timing').first()).toBeVisible()
})

test('a choice that a field gains is offered as a path of its own', async ({ page, request }) => {
  const made = (await (
    await request.post('/api/v1/fields', {
      data: { object: 'deal', label: 'Kind of door', type: 'choice', description: '', choices: ['Sliding', 'Hinged'] },
    })
  ).json()) as { id: number; key: string }
  const rule = await newRule(request, 'By door', {
    triggers: [enters('hp-terms')],
    steps: [
      {
        id: 's1',
        kind: 'pathPerValue',
        params: { field: made.key },
        branches: [
          { id: 'b1', value: 'sliding', steps: [set('s2', 'units', 1)] },
          { id: 'b2', value: 'hinged', steps: [] },
          { id: 'b3', steps: [] },
        ],
      },
    ],
  })
  await open(page, `/rules/${rule}`)
  await expect(page.getByRole('button', { name: /^add a path for/ })).toHaveCount(0)
  await request.post(`/api/v1/fields/${made.id}/choices`, { data: { label: 'Rolling' } })
  await page.getByRole('button', { name: 'Add path for Rolling' }).click()
  await expect(page.getByRole('button', { name: 'Path 1c: Rolling' })).toBeVisible()
  const removed = await request.delete(`/api/v1/fields/${made.id}/choices/sliding`)
  expect(removed.status()).toBe(422)
})

test('versions say what each changed, and an older one becomes the draft again', async ({ page, request }) => {
  const rule = await newRule(request, 'Versions of it', {
    triggers: [enters('hp-terms')],
    steps: [set('s1', 'units', 4)],
  })
  await open(page, `/rules/${rule}`)
  await page.locator('[data-word="trigger:t1/stage"]').click()
  await page.getByPlaceholder('Search stages').fill('signed')
  await page.keyboard.press('Enter')
  await page.locator('[data-switch-on]').click()
  const dialog = page.getByRole('dialog', { name: 'Switch on this rule' })
  await expect(dialog).toContainText(
    'When: a deal enters Terms (Hire & purchase) → a deal enters Signed (Hire & purchase)',
  )
  await dialog.getByLabel('Note').fill('Terms was too early')
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-state]')).toHaveText('On · Version 2')
  await page.getByRole('tab', { name: 'Versions' }).click()
  const list = page.getByRole('list', { name: 'Versions, newest first' })
  await expect(list).toContainText('Terms was too early')
  await list.getByRole('button', { name: 'Restore version 1 to the draft' }).click()
  await expect(page.locator('[data-line="trigger:t1"]')).toContainText('enters Terms')
  await expect(page.locator('[data-state]')).toHaveText('On · Version 2 · Unpublished changes')
})

test('a rule that never ran can be deleted for good, and only that', async ({ request }) => {
  const { id } = (await (
    await request.post('/api/v1/rules', { data: { name: 'Never on', object: 'deal' } })
  ).json()) as { id: number }
  expect((await request.delete(`/api/v1/rules/${id}`)).status()).toBe(422)
  await request.post(`/api/v1/rules/${id}/state`, { data: { state: 'archived' } })
  expect((await request.delete(`/api/v1/rules/${id}`)).status()).toBe(200)
  expect((await request.get(`/api/v1/rules/${id}`)).status()).toBe(404)
  const ran = await newRule(request, 'Once on', { triggers: [enters('hp-terms')], steps: [set('s1', 'units', 4)] })
  await setRule(request, ran, 'archived')
  expect((await request.delete(`/api/v1/rules/${ran}`)).status()).toBe(422)
})

test('a rule that shall run once ever for each record says so, and does', async ({ page, request }) => {
  const rule = await newRule(request, 'Once ever', { triggers: [enters('hp-terms')], steps: [set('s1', 'units', 4)] })
  await open(page, `/rules/${rule}`)
  await unfoldRule(page)
  await page.locator('[data-word="repeats:rule/how"]').click()
  await page.getByRole('option', { name: /^only once/ }).click()
  await expect(page.locator('[data-line="repeats:rule"]')).toHaveText('runs only once for the same record')
  await page.locator('[data-switch-on]').click()
  await page.getByRole('button', { name: 'Publish', exact: true }).click()
  await expect(page.locator('[data-state]')).toHaveText('On · Version 2')
  const deal = await newDeal(request, {})
  for (const stage of ['hp-terms', 'hp-sized', 'hp-terms'])
    await request.patch(`/api/v1/records/deal/${deal.id}`, { data: { values: { stage, units: 1 } } })
  const { lines } = (await (await request.get(`/api/v1/runs?rule=${rule}&all=true`)).json()) as {
    lines: { state: string; outcome: string }[]
  }
  expect(lines.map((line) => line.state)).toEqual(['stopped', 'done'])
  expect(lines[0]?.outcome).toMatch(/it already ran for this record on .* and runs only once$/)
})

test('what is found out while a rule is being switched on does not push the buttons from under the pointer', async ({
  page,
  request,
}) => {
  const rule = await newRule(request, 'Steady', { triggers: [enters('hp-terms')], steps: [set('s1', 'units', 4)] })
  const { draft, draftRev: rev } = (await (await request.get(`/api/v1/rules/${rule}`)).json()) as {
    draft: object
    draftRev: number
  }
  const put = await request.put(`/api/v1/rules/${rule}/draft`, {
    data: { document: { ...draft, repeats: { how: 'once' } }, rev },
  })
  expect(put.ok(), await put.text()).toBe(true)
  let letGo: () => void = () => undefined
  const later = new Promise<void>((resolve) => (letGo = resolve))
  for (const slow of ['**/existing?*', '**/forecasts/*', '**/versions'])
    await page.route(slow, async (route) => {
      await later
      await route.continue()
    })
  await open(page, `/rules/${rule}`)
  await page.locator('[data-switch-on]').click()
  const dialog = page.getByRole('dialog', { name: 'Switch on this rule' })
  const button = dialog.getByRole('button', { name: 'Publish', exact: true })
  await expect(dialog).toContainText('Calculating')
  const before = await button.boundingBox()
  letGo()
  await expect(dialog).toContainText('Changes since version 1')
  await expect(dialog).toContainText('It won’t run by itself.')
  await expect(dialog).toContainText('Also run it now for')
  expect(await button.boundingBox()).toEqual(before)
  await button.click()
  await expect(page.locator('[data-state]')).toHaveText('On · Version 2')
})

test('a failed run is tried again from where it failed, once the field is back', async ({ page, request }) => {
  const field = (await (
    await request.post('/api/v1/fields', {
      data: { object: 'deal', label: 'Meter reading', type: 'number', description: '', choices: [] },
    })
  ).json()) as { id: number; key: string }
  const other = (await (
    await request.post('/api/v1/fields', {
      data: { object: 'deal', label: 'Meter kind', type: 'text', description: '', choices: [] },
    })
  ).json()) as { id: number; key: string }
  // A required text that is emptied is refused, and with it the step.
  const rule = await newRule(request, 'Reads the meter', {
    triggers: [enters('hp-terms')],
    steps: [
      set('s1', 'units', 6),
      { id: 's2', kind: 'setField', params: { field: field.key, source: { from: 'empty' } } },
      set('s3', other.key, 'seen'),
    ],
  })
  await request.patch(`/api/v1/fields/${field.id}`, { data: { required: true } })
  const deal = await newDeal(request, { [field.key]: 5 })
  await request.patch(`/api/v1/records/deal/${deal.id}`, { data: { values: { stage: 'hp-terms' } } })
  const { lines } = (await (await request.get(`/api/v1/runs?rule=${rule}`)).json()) as {
    lines: { id: number; state: string }[]
  }
  expect(lines[0]?.state).toBe('failed')
  await open(page, `/journal/${lines[0]!.id}`)
  await page.locator('[data-retry]').click()
  await expect(page.getByText('Run failed again')).toBeVisible()
  await request.patch(`/api/v1/fields/${field.id}`, { data: { required: false } })
  await page.locator('[data-retry]').click()
  await expect(page.getByText('Run completed')).toBeVisible()
  await expect(page.getByText('retried by Ines Calloway').first()).toBeVisible()
  const values = (
    (await (await request.get(`/api/v1/records/deal/${deal.id}`)).json()) as { values: Record<string, unknown> }
  ).values
  expect([values.units, values[field.key], values[other.key]]).toEqual([6, null, 'seen'])
})
