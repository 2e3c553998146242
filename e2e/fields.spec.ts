import { expect, newDeal, newRule, open, setRule, test } from './app'

test.describe('fields', () => {
  test('one is made, described, filled, and tells what stands in it; another kind of record has its own', async ({
    page,
    request,
  }) => {
    await open(page, '/fields')
    await page.getByRole('button', { name: 'New field' }).click()
    await page.getByLabel('Name', { exact: true }).fill('Door height')
    await page.getByLabel('Type').selectOption('choice')
    await page.getByLabel('Choices (one per line)').fill('Low\nHigh')
    await page.getByLabel('Description').fill('The lowest door on the way in')
    await page.keyboard.press('Enter')
    const pane = page.getByRole('complementary', { name: 'Field', exact: true })
    await expect(pane).toContainText('deal.doorHeight')
    await expect(pane).toContainText('Empty in all')
    const deal = await newDeal(request, { doorHeight: 'high' })
    // An open window follows what others fill in once it looks again; the fields of others are not mixed in.
    await page.reload()
    await page.getByRole('button', { name: 'Door height', exact: true }).click()
    await expect(pane).toContainText('High1')
    await expect(pane.locator('[data-choice="high"]')).toContainText('1 record')
    await page.getByRole('link', { name: 'Companies' }).click()
    await expect(page.getByRole('button', { name: 'Sector', exact: true })).toBeVisible()
    await expect(page.getByRole('button', { name: 'Door height', exact: true })).toHaveCount(0)

    // A new word shows on the record at once, in what happened before as well.
    await request.patch(`/api/v1/records/deal/${deal.id}`, { data: { values: { doorHeight: 'low' } } })
    await open(page, '/fields')
    await page.getByRole('button', { name: 'Door height', exact: true }).click()
    await pane.getByRole('button', { name: 'Rename High' }).click()
    await page.getByLabel('New name for High').fill('Above two metres')
    await page.keyboard.press('Enter')
    await expect(pane.getByRole('button', { name: 'Rename Above two metres' })).toBeVisible()
    await pane.getByRole('button', { name: 'Move Above two metres up' }).click()
    await expect(pane.locator('[data-choice]').first()).toContainText('Above two metres')
    // Something else of the field changes while she types: her words stay.
    await pane.getByLabel('Name', { exact: true }).fill('Lowest door')
    const { fields } = (await (await request.get('/api/v1/fields')).json()) as { fields: { id: number; key: string }[] }
    await request.patch(`/api/v1/fields/${fields.find((one) => one.key === 'doorHeight')?.id}`, {
      data: { description: 'Of the opening' },
    })
    await expect(pane.getByLabel('Description')).toHaveValue('Of the opening')
    await expect(pane.getByLabel('Name', { exact: true })).toHaveValue('Lowest door')
    await page.keyboard.press('Enter')
    await expect(page.getByRole('button', { name: 'Lowest door', exact: true })).toBeVisible()
    await open(page, `/records/deals/${deal.id}`)
    await expect(page.getByRole('region', { name: 'Timeline' })).toContainText('door height: High → Low', {
      ignoreCase: true,
    })
  })

  test('what a rule names stays until the rule lets it go; what is put away comes back', async ({ page, request }) => {
    const { id } = (await (
      await request.post('/api/v1/fields', {
        data: { object: 'deal', label: 'Loading bay', type: 'yesNo', description: '' },
      })
    ).json()) as { id: number }
    const rule = await newRule(request, 'Bay known', {
      triggers: [{ id: 't1', kind: 'entersStage', params: { stage: 'hp-terms' } }],
      steps: [{ id: 's1', kind: 'setField', params: { field: 'loadingBay', source: { from: 'value', value: true } } }],
    })
    await open(page, '/fields')
    await page.getByRole('button', { name: 'Loading bay', exact: true }).click()
    const pane = page.getByRole('complementary', { name: 'Field', exact: true })
    await expect(pane.getByRole('link', { name: 'Bay known' })).toBeVisible()
    await pane.locator('[data-put-away]').click()
    await expect(page.getByText('it is used by rule “Bay known”')).toBeVisible()
    await setRule(request, rule, 'archived')
    await pane.locator('[data-put-away]').click()
    await expect(pane).toContainText('Archived')
    expect(
      (
        await request.post('/api/v1/records/deal', {
          data: { values: { name: 'X', stage: 'hp-sized', loadingBay: true } },
        })
      ).status(),
    ).toBe(422)
    await pane.getByRole('button', { name: 'Restore' }).click()
    await expect(pane.getByRole('button', { name: 'Archive' })).toBeVisible()
    expect((await request.patch(`/api/v1/fields/${id}`, { data: { label: 'Stage' } })).status()).toBe(422)
  })

  test('the order is changed by keyboard and holds', async ({ page, request }) => {
    const keys = async () =>
      (
        (await (await request.get('/api/v1/fields', { params: { object: 'company' } })).json()) as {
          fields: { key: string }[]
        }
      ).fields.map((field) => field.key)
    const before = await keys()
    await open(page, '/fields?of=companies')
    await page.getByRole('button', { name: 'Move Sector up' }).focus()
    await page.keyboard.press('Enter')
    await expect.poll(keys).not.toEqual(before)
    const at = before.indexOf('sector')
    expect(await keys()).toEqual([...before.slice(0, at - 1), 'sector', before[at - 1], ...before.slice(at + 1)])
    await expect(page.getByRole('button', { name: 'Sector', exact: true })).toBeFocused()
  })

  test('a choice that is missing is added from inside the rule, and other windows know it', async ({
    page,
    request,
    context,
  }) => {
    const rule = await newRule(request, 'Missing choice', {
      triggers: [{ id: 't1', kind: 'entersStage', params: { stage: 'hp-lost' } }],
      conditions: [{ kind: 'condition', id: 'c1', field: 'kind', op: 'is', not: false, params: { value: 'hire' } }],
      steps: [{ id: 's1', kind: 'setField', params: { field: 'units', source: { from: 'value', value: 2 } } }],
    })
    await setRule(request, rule, 'off')
    const deal = await newDeal(request, {})
    const second = await context.newPage()
    await open(second, `/records/deals/${deal.id}`)
    await open(page, `/rules/${rule}`)
    await page.getByLabel('Rule name').fill('Half typed')
    await page.keyboard.press('Tab')
    await page.locator('[data-word="condition:c1/value"]').click()
    await page.getByRole('combobox', { name: 'Kind' }).fill('Lease to own')
    await expect(page.getByRole('option', { name: /Lease to own/ })).toBeVisible()
    await page.keyboard.press('ArrowDown')
    // What is lit is what Enter takes.
    await expect(page.getByRole('option', { name: /Lease to own/ })).toHaveClass(/bg-violet-t/)
    await page.keyboard.press('Enter')
    await expect(page.locator('[data-line="condition:c1"]')).toContainText('kind is Lease to own')
    await expect(page.getByLabel('Rule name')).toHaveValue('Half typed')
    const { fields } = (await (await request.get('/api/v1/fields', { params: { object: 'deal' } })).json()) as {
      fields: { key: string; choices: { label: string }[] }[]
    }
    expect(fields.find((field) => field.key === 'kind')?.choices.map((choice) => choice.label)).toContain(
      'Lease to own',
    )
    await second.getByRole('button', { name: /^Edit Kind: / }).click()
    await expect(second.getByRole('option', { name: 'Lease to own' })).toBeVisible()
    await setRule(request, rule, 'archived')
  })
})
