import Database from 'better-sqlite3'
import { found, IN_POPOVER } from './axe'
import { expect, open, test, unfold } from './app'
import { ownDemo } from './own-demo'

test.use({ timezoneId: 'Europe/Lisbon' })

test.describe('the outside', () => {
  const { api, get, post, make, dbFile } = ownDemo(3142)
  test.beforeAll(async () => {
    // Ten in the morning in Lisbon, on a day that is no Sunday: customers may be called then.
    const { nowMs } = await get<{ nowMs: number }>('/clock')
    const at = new Date(nowMs)
    at.setUTCHours(10, 0, 0, 0)
    while (at.getTime() <= nowMs || at.getUTCDay() === 0) at.setUTCDate(at.getUTCDate() + 1)
    await post('/clock', { toMs: at.getTime() })
    await expect
      .poll(async () => (await get<{ nowMs: number }>('/clock')).nowMs, { timeout: 60_000 })
      .toBeGreaterThanOrEqual(at.getTime())
  })
  const deal = async (name: string, more: object = {}): Promise<number> => {
    const id = await make('deal', { name, stage: 'hp-sized', owner: 'rosa', ...more })
    const contact = await make('contact', { name: `${name} contact`, phone: '+351912000123', owner: 'rosa' })
    await post(`/records/deal/${id}/links`, { to: { object: 'contact', id: contact }, role: '', main: true })
    return id
  }
  const enter = async (id: number, stage: string): Promise<void> => {
    const answer = await api().patch(`/api/v1/records/deal/${id}`, { data: { values: { stage } } })
    expect(answer.ok(), await answer.text()).toBe(true)
  }
  const tasksOf = async (id: number): Promise<readonly string[]> =>
    (await get<{ timeline: { what: string; task?: { title: string } }[] }>(`/records/deal/${id}`)).timeline.flatMap(
      (entry) => (entry.what === 'task' && entry.task ? [entry.task.title] : []),
    )

  test('a call rings on the simulated phone, and each way it goes has its path, by keys alone', async ({ page }) => {
    for (const [name, keys, title] of [
      ['Alder', ['1', '1'], 'Send Alder contact an offer: two units'],
      ['Birch', ['1', '5'], 'Close Birch as lost: two units'],
      ['Cedar', ['5'], 'Find the number of Cedar contact'],
    ] as const) {
      const id = await deal(name)
      await open(page, `/records/deals/${id}`)
      await page.getByRole('button', { name: 'Call them' }).click()
      await page.getByRole('dialog', { name: 'Call them' }).getByRole('button', { name: 'Call them' }).click()
      await open(page, '/messages/phone')
      const ringing = page.getByRole('button', { name: new RegExp(`${name} contact.*Ringing`) })
      await expect(ringing).toBeVisible()
      await ringing.click()
      const call = page.getByRole('region', { name: `Call to ${name} contact` })
      await expect(call).toContainText(`Good morning, this is Larkmoor about ${name}`)
      await call.getByRole('button', { name: /Talked/ }).focus()
      for (const key of keys) await page.keyboard.press(key)
      await expect(page.getByLabel('Notes')).toBeFocused()
      await page.keyboard.type('two')
      // What was said so far is there again after a look elsewhere.
      await open(page, '/rules')
      await open(page, '/messages/phone')
      await ringing.click()
      await expect(page.getByLabel('Notes')).toHaveValue('two')
      await page.getByLabel('Notes').press('End')
      await page.keyboard.type(' units')
      await page.keyboard.press('Enter')
      await expect(page.getByRole('button', { name: new RegExp(`${name} contact.*two units`) })).toBeVisible()
      await expect.poll(() => tasksOf(id)).toContain(title)
    }
    expect(await found(page)).toEqual([])
    await page.setViewportSize({ width: 390, height: 800 })
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
  })

  test('a large quote is approved on the day sheet, and another declined once by the link in the mail', async ({
    page,
    request,
  }) => {
    const one = await deal('Elm', { amount: 70_000 })
    await enter(one, 'hp-quoted')
    await open(page, '/day-sheet?person=maren')
    await page.getByRole('button', { name: /Approve the quote for Elm/ }).click()
    await expect(page.getByRole('region', { name: 'Task details' })).toContainText('€70,000')
    await page.keyboard.press('d')
    const panel = page.getByRole('dialog', { name: 'Decide' })
    await panel.getByRole('button', { name: 'Decline' }).click()
    await expect(panel.getByRole('alert')).toHaveText('Say why it is declined.')
    await panel.getByRole('button', { name: 'Approve' }).click()
    await expect(page.getByText('Answer saved').first()).toBeVisible()
    expect(await tasksOf(one)).not.toContain('Change the quote for Elm: too high')

    const two = await deal('Fir', { amount: 80_000 })
    await enter(two, 'hp-quoted')
    const file = new Database(dbFile(), { readonly: true })
    const body = file
      .prepare<[], string>("SELECT body FROM outbox WHERE subject LIKE '%quote for Fir' ORDER BY id DESC")
      .pluck()
      .get()
    file.close()
    const [, path = ''] = /(\/answer\/\S+)/.exec(body ?? '') ?? []
    await page.goto(path)
    await expect(page.getByRole('heading', { name: 'Approve the quote for Fir' })).toBeVisible()
    await expect(page.getByText('€80,000')).toBeVisible()
    await page.getByRole('button', { name: 'Decline' }).click()
    await expect(page.getByText('Say why it is declined.')).toBeVisible()
    await page.getByLabel('Reason').fill('too high')
    await page.getByRole('button', { name: 'Decline' }).click()
    await expect(page.getByRole('heading', { name: 'Thank you' })).toBeVisible()
    await expect.poll(() => tasksOf(two)).toContain('Change the quote for Fir: too high')
    await page.goto(path)
    await expect(page.getByRole('heading', { name: 'Already answered' })).toBeVisible()
    expect(
      (
        await request.get(`http://localhost:3142${path.replace(/.(?=.{9}$)/, (one) => (one === 'x' ? 'y' : 'x'))}`)
      ).status(),
    ).toBe(404)
  })

  test('an approval is answered from the notifications, by keys alone', async ({ page }) => {
    const id = await deal('Gean', { amount: 75_000 })
    await enter(id, 'hp-quoted')
    await page.request.post('/api/v1/session/demo', { data: { personId: 'maren' } })
    await open(page, '/day-sheet')
    const bell = page.getByRole('button', { name: /^Notifications, .* waiting for your answer$/ })
    await bell.focus()
    await page.keyboard.press('Enter')
    const asked = page.locator('[data-asked]').filter({ hasText: 'Gean' })
    await asked.getByRole('button', { name: /^Decide/ }).focus()
    await page.keyboard.press('Enter')
    await expect(asked).toContainText('€75,000')
    expect(await found(page, IN_POPOVER)).toEqual([])
    await asked.getByLabel('Reason').focus()
    await page.keyboard.type('a good customer')
    await page.keyboard.press('Enter')
    await expect(page.getByText('Answer saved').first()).toBeVisible()
    await expect(asked).toHaveCount(0)
    const { open: left } = await get<{ open: { title: string }[] }>('/day-sheet?person=maren')
    expect(left.filter(({ title }) => title.includes('Gean'))).toEqual([])
  })

  test('a signed deal is told to the order system, and its answer is shown and used', async ({ page }) => {
    await open(page, '/messages/web')
    await page.getByLabel('Answer').fill('{"order":{"number":"B-77"}}')
    await page.getByRole('button', { name: 'Save' }).click()
    const id = await deal('Hazel', { amount: 9000 })
    await enter(id, 'hp-signed')
    await open(page, '/messages/web')
    const request = page.locator('[data-web-request]').first()
    await expect(request).toContainText('POST /orders')
    await expect(request).toContainText('accepted, 200')
    await request.getByRole('button').first().click()
    await expect(request).toContainText('"amount":9000')
    await expect(request).toContainText('B-77')
    expect(await found(page)).toEqual([])
  })

  test('the body of a request is written line by line, with fields, a list and what is wrong told in its place', async ({
    page,
  }) => {
    const { id } = await post<{ id: number }>('/rules', { name: 'Tell the works', object: 'deal' })
    await open(page, `/rules/${id}`)
    await page.locator('[data-word="add:step/kind"]').click()
    await page.keyboard.type('web request')
    await page.keyboard.press('Enter')
    await expect(page.getByRole('dialog', { name: 'Edit connection' })).toBeVisible()
    await page.keyboard.press('Escape')
    await unfold(page, 'step:s1')
    await page.locator('[data-word="step:s1/body"]').click()
    const panel = page.getByRole('dialog', { name: 'Edit body (JSON)' })
    await expect(panel.getByLabel('Name of line 1')).toBeFocused()
    await page.keyboard.type('amount')
    await panel.getByLabel('Type of amount').selectOption({ label: 'Field' })
    await panel.getByLabel('Field for amount').selectOption({ label: 'deal amount' })
    await panel.getByRole('button', { name: 'Add line' }).click()
    await page.keyboard.type('units')
    await panel.getByLabel('Type of units').selectOption({ label: 'List' })
    await panel.getByRole('button', { name: 'Add a line to units' }).click()
    await panel.getByLabel('Value of units, item 1').fill('for ')
    await panel.getByLabel('Insert a field into units, item 1').selectOption({ label: 'deal name' })
    await panel.getByLabel('Value of units, item 1').press('Enter')
    await expect(panel.getByLabel('Value of units, item 2')).toBeFocused()
    await page.keyboard.type('2')
    await panel.getByLabel('Type of units, item 2').selectOption({ label: 'Number' })
    // A second line of the same name is told where it stands, and nothing is lost.
    await panel.getByRole('button', { name: 'Add line' }).click()
    await page.keyboard.type('amount')
    await panel.getByRole('button', { name: 'Save' }).click()
    await expect(panel.getByRole('alert')).toHaveText('This name is already used here.')
    expect(await found(page, IN_POPOVER)).toEqual([])
    await panel.getByLabel('Name of amount').last().fill('kind')
    await panel.getByLabel('Name of kind').press('Alt+ArrowUp')
    await panel.getByLabel('Name of kind').press('Control+Enter')
    await expect(panel).toHaveCount(0)
    const sent = async (): Promise<object> => {
      const { draft } = await get<{ draft: { steps: { params: { body: string } }[] } }>(`/rules/${id}`)
      return Object.entries(JSON.parse(draft.steps[0]?.params.body || '{}') as object)
    }
    await expect.poll(sent).toEqual([
      ['amount', '{{deal.amount}}'],
      ['kind', ''],
      ['units', ['for {{deal.name}}', 2]],
    ])
    // It opens as it was, and as text where somebody wants that.
    await page.locator('[data-word="step:s1/body"]').first().click()
    await expect(panel.getByLabel('Value of units, item 2')).toHaveValue('2')
    await panel.getByRole('button', { name: 'Edit as text' }).click()
    await expect(panel.locator('.cm-content')).toContainText('"units"')
  })

  test('a form of another service comes in as a contact, once, and a wrong one is shown with the reason', async ({
    page,
    request,
  }) => {
    await open(page, '/messages/web')
    await page.getByRole('button', { name: 'New address…' }).click()
    const dialog = page.getByRole('dialog', { name: 'New address for incoming requests' })
    await dialog.getByLabel('Name', { exact: true }).fill('Contact form')
    await dialog.getByLabel('Example').fill('{"person":{"email":"ada@lund.example","name":"Ada Lund"}}')
    await dialog.getByLabel('Place 1 in the request').fill('$.person.email')
    await dialog.getByRole('button', { name: 'Add field' }).click()
    await dialog.getByLabel('Field 2').selectOption({ label: 'Name' })
    await dialog.getByLabel('Place 2 in the request').fill('$.person.name')
    await dialog.getByRole('button', { name: 'Save' }).click()
    const address = new URL((await dialog.locator('[data-address]').textContent())?.trim() ?? '').pathname
    const secret = (await dialog.locator('[data-secret]').textContent())?.trim() ?? ''
    await dialog.getByRole('button', { name: 'Done' }).click()
    const send = async (data: object, token = secret) =>
      (
        await request.post(`http://localhost:3142${address}`, { data, headers: { authorization: `Bearer ${token}` } })
      ).status()
    const person = { person: { email: 'ada.comes@lund.example', name: 'Ada Comes In' } }
    expect([
      await send(person),
      await send(person),
      await send({ person: { email: 'x' } }),
      await send(person, 'no'),
    ]).toEqual([202, 200, 422, 401])
    const came = page.getByRole('list', { name: 'What came in, newest first' })
    await expect(came).toContainText('created Ada Comes In')
    await expect(came).toContainText('is not an email address')
    await expect(came).toContainText('the secret does not fit')
  })
})
