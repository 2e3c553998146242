import { expect, open, test } from './app'
import { ownDemo } from './own-demo'

test.use({ timezoneId: 'Europe/Lisbon' })

interface Simulated {
  readonly key: string
  readonly channel: 'mail' | 'text'
  readonly recipient: string
  readonly subject: string
  readonly body: string
  readonly contactId: number | null
}

test.describe('messages to customers', () => {
  const { api, get, post, make } = ownDemo(3141)

  /** Goes on to ten in the morning in Lisbon, on a day that is no Sunday. */
  const toTen = async (): Promise<void> => {
    const { nowMs } = await get<{ nowMs: number }>('/clock')
    const at = new Date(nowMs)
    at.setUTCHours(10, 0, 0, 0)
    while (at.getTime() <= nowMs || at.getUTCDay() === 0) at.setUTCDate(at.getUTCDate() + 1)
    await turn(at.getTime())
  }
  const turn = async (toMs: number): Promise<void> => {
    await post('/clock', { toMs })
    await expect
      .poll(async () => (await get<{ nowMs: number }>('/clock')).nowMs, { timeout: 60_000 })
      .toBeGreaterThanOrEqual(toMs)
  }
  const contact = (name: string, more: object = {}): Promise<number> =>
    make('contact', { name, email: `${name.toLowerCase().replaceAll(' ', '.')}@x.example`, owner: 'rosa', ...more })
  const got = async (contactId: number): Promise<readonly Simulated[]> =>
    (await get<{ messages: Simulated[] }>('/simulated-messages')).messages.filter((one) => one.contactId === contactId)
  const sendsForm = (name: string) =>
    post('/activities', {
      activities: [{ email: `${name.toLowerCase().replaceAll(' ', '.')}@x.example`, kind: 'form', about: 'Contact' }],
    })
  const tasksOf = async (id: number): Promise<readonly string[]> =>
    (await get<{ timeline: { what: string; task?: { title: string } }[] }>(`/records/contact/${id}`)).timeline.flatMap(
      (entry) => (entry.what === 'task' && entry.task ? [entry.task.title] : []),
    )

  test.beforeAll(toTen)

  test('a welcome in their language, answered in the simulated mailbox: the task for that kind of answer, and the conversation', async ({
    page,
  }) => {
    const vera = await contact('Vera Welcomed', { language: 'portuguese' })
    await sendsForm('Vera Welcomed')
    await expect
      .poll(async () => (await got(vera)).map((one) => one.subject))
      .toEqual(['Obrigado pelo seu contacto, Vera'])
    await open(page, '/messages/mailboxes')
    await page
      .getByRole('button', { name: /Vera Welcomed/ })
      .first()
      .click()
    await expect(page.getByTitle('Email to Vera Welcomed')).toHaveAttribute('srcdoc', /Caro\(a\) Vera/)
    await page.getByRole('button', { name: 'Yes', exact: true }).click()
    await page.getByRole('button', { name: 'Send answer' }).click()
    await expect(page.getByText('Taken as an answer.')).toBeVisible()
    await expect.poll(() => tasksOf(vera)).toContain('Fix a time with Vera Welcomed')

    await open(page, `/records/contacts/${vera}?show=messages`)
    const messages = page.getByRole('list', { name: 'Messages' })
    const answer = messages.locator('li').first()
    await expect(answer).toContainText('Yes please, that sounds good.')
    await expect(answer.getByLabel('Kind of answer:')).toHaveValue('positive')
    await expect(messages.locator('li').nth(1)).toContainText('Rule “Form sent: welcome, then call”')
    // One key corrects what the phrases made of it.
    await answer.focus()
    await page.keyboard.press('q')
    await expect(answer.getByLabel('Kind of answer:')).toHaveValue('question')
    await expect(answer).toContainText('corrected by hand')
    // Written back by hand, in the same thread.
    await answer.getByRole('button', { name: 'Answer' }).click()
    await page.getByLabel('Text', { exact: true }).fill('Tuesday at ten, then.')
    await page.getByRole('button', { name: 'Send', exact: true }).click()
    await expect(messages.locator('li').first()).toContainText('Tuesday at ten, then.')
  })

  test('no answer in three days: the call task comes, and not before', async () => {
    const ada = await contact('Ada Silent')
    await sendsForm('Ada Silent')
    await expect.poll(async () => (await got(ada)).length).toBe(1)
    expect(await tasksOf(ada)).toEqual([])
    await turn((await get<{ nowMs: number }>('/clock')).nowMs + 3 * 86_400_000 + 60_000)
    await expect.poll(() => tasksOf(ada)).toEqual(['Call Ada Silent: no answer to the welcome'])
    await toTen()
  })

  test('an offer goes to the main contact, and without an answer in a day the owner is to call', async () => {
    const ida = await contact('Ida Quoted')
    const { ref } = await post<{ ref: { id: number } }>('/records/deal', {
      values: { name: 'Cold room of Ida', stage: 'hp-sized', owner: 'rosa', amount: 12_000 },
      links: [{ object: 'contact', id: ida }],
    })
    const moved = await api().patch(`/api/v1/records/deal/${ref.id}`, { data: { values: { stage: 'hp-quoted' } } })
    expect(moved.ok()).toBe(true)
    await expect.poll(async () => (await got(ida)).map((one) => one.subject)).toEqual(['Your offer: Cold room of Ida'])
    await turn((await get<{ nowMs: number }>('/clock')).nowMs + 86_400_000 + 60_000)
    await expect
      .poll(async () =>
        (
          await get<{ timeline: { what: string; task?: { title: string } }[] }>(`/records/deal/${ref.id}`)
        ).timeline.flatMap((entry) => (entry.task ? [entry.task.title] : [])),
      )
      .toContain('Call about the offer Cold room of Ida: no answer')
    await toTen()
  })

  test('a greeting comes at nine by their own clock, and a reminder of a visit by text message the day before', async () => {
    const { nowMs } = await get<{ nowMs: number }>('/clock')
    // In Auckland it is tomorrow soon: the birthday lies two days ahead by either clock.
    let day = new Date(nowMs + 2 * 86_400_000)
    if (day.getUTCDay() === 0) day = new Date(day.getTime() + 86_400_000)
    const birthday = `1980-${day.toISOString().slice(5, 10)}`
    const tui = await contact('Tui Birthday', { birthday, zone: 'America/Halifax', phone: '+351912345678' })
    const start = nowMs + 26 * 3_600_000
    await post('/records/appointment', {
      values: { name: 'Site visit', start, end: start + 3_600_000, status: 'booked', owner: 'rosa' },
      links: [{ object: 'contact', id: tui }],
    })
    await turn(day.getTime() + 86_400_000)
    const all = async () =>
      (await get<{ messages: (Simulated & { atMs: number })[] }>('/simulated-messages')).messages.filter(
        (one) => one.contactId === tui,
      )
    await expect.poll(async () => (await all()).length, { timeout: 30_000 }).toBe(2)
    const [greeting, reminder] = await Promise.all(
      ['mail', 'text'].map(async (channel) => (await all()).find((one) => one.channel === channel)),
    )
    expect(greeting?.subject).toBe('Many happy returns, Tui')
    const local = new Intl.DateTimeFormat('en-GB', { timeZone: 'America/Halifax', hour: 'numeric', minute: 'numeric' })
    expect(local.format(greeting?.atMs)).toBe('09:00')
    expect(reminder).toMatchObject({ recipient: '+351912345678' })
    expect(reminder?.body).toContain('Tui, we see you tomorrow: Site visit')
    await toTen()
  })

  test('by the link in a mail somebody chooses what they get, without signing in; one click opts out at once', async ({
    page,
    browser,
    baseURL,
  }) => {
    const bea = await contact('Bea Optout')
    const { person } = await get<{ person: string }>(`/personal-links/${bea}`)
    const stranger = await (await browser.newContext({ baseURL: baseURL! })).newPage()
    await stranger.goto(`/preferences/${person}`)
    await expect(stranger.getByLabel('Emails to bea.optout@x.example')).toBeChecked()
    await stranger.getByLabel('Emails to bea.optout@x.example').uncheck()
    await stranger.getByRole('button', { name: 'Save' }).click()
    await expect(stranger.getByText('Saved.')).toBeVisible()
    await sendsForm('Bea Optout')
    await open(page, `/records/contacts/${bea}?show=messages`)
    await expect(page.getByText('no emails (opted out: by link)')).toBeVisible()
    const { lines } = await get<{ lines: { id: number; recordName: string }[] }>('/runs')
    const run = lines.find((one) => one.recordName === 'Bea Optout')
    expect(JSON.stringify(await get(`/runs/${run?.id ?? 0}`))).toContain('Bea Optout opted out (by link)')
    expect(await got(bea)).toEqual([])
    // As mail programs do it (RFC 8058): a POST by itself.
    const cem = await contact('Cem Oneclick')
    const other = await get<{ person: string }>(`/personal-links/${cem}`)
    const click = await stranger.request.post(`/opt-out/${other.person}?channel=mail`, {
      form: { 'List-Unsubscribe': 'One-Click' },
    })
    expect(await click.json()).toEqual({ opted: 'mail' })
    expect(
      (
        await stranger.request.post('/opt-out/1.forgedforgedforge?channel=mail', {
          form: { 'List-Unsubscribe': 'One-Click' },
        })
      ).status(),
    ).toBe(404)
    await stranger.context().close()
  })

  test('a message is written on the sheet by keyboard, and the letter beside it says when it would go', async ({
    page,
  }) => {
    const { id } = await post<{ id: number }>('/rules', { object: 'contact', name: 'Hello' })
    await open(page, `/rules/${id}`)
    await page.locator('[data-word="add:trigger/kind"]').press('Enter')
    await page.getByPlaceholder('Search triggers').fill('created')
    await page.keyboard.press('Enter')
    await page.keyboard.press('Escape')
    await page.keyboard.press('/')
    await page.getByPlaceholder('Search steps').fill('message the customer')
    await page.keyboard.press('Enter')
    await expect(page.locator('[data-line="step:s1"]')).toContainText('send an email to the contact')
    await expect(page.locator('[data-merge]')).toBeFocused()
    await page.locator('[data-merge]').fill('Hello {{contact.firstName or "there"}}')
    await page.keyboard.press('Enter')
    await page.locator('[data-merge]').fill('How are <b>you</b>?')
    await page.keyboard.press('ControlOrMeta+Enter')
    await page.getByRole('tab', { name: 'Messages' }).click()
    const letter = page.locator('[data-letter]').first()
    await expect(letter).toContainText('Hello ')
    await expect(letter).toContainText(/It would go now|Put off|Not sent/)
    // What was typed stays text, also in the frame.
    await expect(letter.locator('iframe')).toHaveAttribute('srcdoc', /How are &lt;b&gt;you&lt;\/b&gt;\?/)
  })

  test('a template is written in two languages, its problems are named, and hostile texts run nowhere', async ({
    page,
  }) => {
    let ran = false
    page.on('dialog', () => {
      ran = true
    })
    await open(page, '/messages/templates')
    await page.getByRole('button', { name: 'New template' }).click()
    await page.getByRole('textbox', { name: 'Name' }).fill('Hostile')
    await page.getByLabel('Subject').fill('Act NOWNOWNOWNOW')
    await page
      .getByRole('textbox', { name: 'Text' })
      .fill('<img src=x onerror=alert(1)> [x](javascript:alert(1)) http://a.example')
    await page.getByRole('button', { name: 'Create template' }).click()
    const findings = page.getByRole('list', { name: 'To look at' })
    await expect(findings).toContainText('A link without https')
    await expect(findings).toContainText('Reads like unwanted mail')
    await page.locator('[data-word="preview/contact"]').click()
    await page.getByPlaceholder('Search contacts').fill('ta')
    await page.getByRole('listbox').getByRole('option').first().click()
    const frame = page.getByTitle('Preview')
    await expect(frame).toHaveAttribute('srcdoc', /&lt;img src=x onerror=alert\(1\)&gt;/)
    await expect(frame).toHaveAttribute('sandbox', '')
    expect(await frame.getAttribute('srcdoc')).not.toMatch(/<img|<script|href="javascript/i)
    await page.getByLabel('Add a language').selectOption('Polish')
    await page.getByLabel('Subject').fill('Dzień dobry')
    await page.getByRole('textbox', { name: 'Text' }).fill('Dzień dobry')
    await page.getByRole('button', { name: 'Save', exact: true }).click()
    await expect(page.getByText(/Version 2, by/)).toBeVisible()
    await page.getByRole('button', { name: 'Earlier texts' }).click()
    await expect(page.getByText(/Version 1, /)).toBeVisible()
    expect(ran).toBe(false)
  })

  test('hours are kept, a wrong one is refused by its place, and addresses never to write to are read in', async ({
    page,
  }) => {
    await open(page, '/messages/settings')
    await page.getByLabel('From, row 1').fill('9:30')
    await page.getByRole('button', { name: 'Save', exact: true }).click()
    await expect(page.getByText('Not saved')).toHaveCount(0)
    await page.reload()
    await expect(page.getByLabel('From, row 1')).toHaveValue('9:30')
    await page.getByLabel('Until, row 1').fill('6:00')
    await expect(page.getByText(/later than the beginning/)).toBeVisible()
    await page.getByLabel(/Never write to these/).fill('@blocked.example\nnot an address')
    await page.getByRole('button', { name: 'Add', exact: true }).click()
    await expect(page.getByRole('cell', { name: '@blocked.example' })).toBeVisible()
    await expect(page.getByText('Line 2: “not an address” is not an address, phone number or domain.')).toBeVisible()
  })
})
