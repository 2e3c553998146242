import ICAL from 'ical.js'
import { convertIcsCalendar } from 'ts-ics'
import { expect, load, open, OWN_PAGE, test } from './app'
import { ownDemo } from './own-demo'

test.use({ timezoneId: 'Europe/Lisbon' })

test.describe('what people do', () => {
  const { api, get, post, make } = ownDemo(3139)

  const contact = async (name: string, owner = 'rosa'): Promise<number> =>
    make('contact', { name, email: `${name.toLowerCase().replaceAll(' ', '.')}@x.example`, owner })
  const dealOf = async (contactId: number, name: string, stage: string): Promise<number> =>
    (
      await post<{ ref: { id: number } }>('/records/deal', {
        values: { name, stage, owner: 'rosa' },
        links: [{ object: 'contact', id: contactId }],
      })
    ).ref.id
  const personOf = async (id: number): Promise<string> =>
    (await get<{ person: string }>(`/personal-links/${id}`)).person
  const tasksOf = async (id: number): Promise<readonly string[]> =>
    (await get<{ timeline: { what: string; task?: { title: string } }[] }>(`/records/contact/${id}`)).timeline.flatMap(
      (entry) => (entry.what === 'task' && entry.task ? [entry.task.title] : []),
    )

  test('a contact with an open deal opens a price page: the owner has a call task that says why; without one, why not is said', async ({
    page,
    browser,
    baseURL,
  }) => {
    const ada = await contact('Ada Priced')
    const bea = await contact('Bea Dealless')
    await dealOf(ada, 'Cold room of Ada', 'enq-talking')
    for (const id of [ada, bea]) {
      const visitor = await (await browser.newContext({ baseURL: baseURL! })).newPage()
      await visitor.goto(`/website?for=${await personOf(id)}`)
      const told = visitor.waitForResponse((answer) => answer.url().endsWith('/site/activities'))
      await visitor.getByRole('link', { name: 'Prices', exact: true }).click()
      expect((await told).status()).toBe(204)
      await expect(visitor.getByRole('heading', { name: 'Prices' })).toBeVisible()
      await visitor.context().close()
    }
    await expect.poll(() => tasksOf(ada)).toEqual(['Call Ada Priced about prices'])
    expect(await tasksOf(bea)).toEqual([])
    await page.request.post('/api/v1/session/demo', { data: { personId: 'rosa' } })
    await load(page, '/day-sheet')
    await expect(page.getByText('Call Ada Priced about prices')).toBeVisible()
    await page.request.post('/api/v1/session/demo', { data: { personId: 'ines' } })
    const rules = await get<{ rules: { id: number; name: string }[] }>('/rules')
    const rule = rules.rules.find((one) => one.name === 'Price page visited: call')!
    const why = await get<{ answer: string; ran: boolean; seen: readonly { value: string; holds: boolean }[] }>(
      `/records/contact/${bea}/rules/${rule.id}`,
    )
    expect(why).toMatchObject({ ran: false, seen: [{ value: 'no deals', holds: false }] })
  })

  test('a kind of one’s own is made by keyboard, started by, and told on the record', async ({ page }) => {
    await open(page, '/activity-kinds')
    await page.getByRole('button', { name: 'New activity…' }).press('Enter')
    await expect(page.getByLabel('Name', { exact: true })).toBeFocused()
    for (const word of [
      'showroom visit',
      'showroom visits',
      'visits the showroom',
      'visited the showroom',
      'showroom',
    ]) {
      await page.keyboard.press('ControlOrMeta+A')
      await page.keyboard.type(word)
      await page.keyboard.press('Tab')
    }
    await page.getByRole('button', { name: 'Add value' }).press('Enter')
    await page.getByLabel('Value 1: label').fill('rooms')
    await page.getByLabel('Value 1: type').selectOption('number')
    await page.getByText('Values from a JSON Schema').click()
    await page.getByLabel('JSON Schema').fill('{"type":"object","properties":{"late":{"type":"array"}}}')
    await page.getByRole('button', { name: 'Add its values' }).click()
    await expect(page.getByRole('alert')).toContainText('properties.late.type')
    await page.getByLabel('JSON Schema').fill('{"type":"object","properties":{"mood":{"enum":["keen","cold"]}}}')
    await page.getByRole('button', { name: 'Add its values' }).click()
    await page.getByRole('button', { name: 'Save' }).click()
    await expect(page.locator('[data-kind=showroomVisit]')).toContainText('showroom, rooms, mood')

    const dee = await contact('Dee Showroom')
    const { id } = await post<{ id: number }>('/rules', { object: 'contact', name: 'Showroom' })
    await open(page, `/rules/${id}`)
    await page.locator('[data-word="add:trigger/kind"]').press('Enter')
    await page.getByPlaceholder('Search triggers').fill('someone does')
    await page.keyboard.press('Enter')
    await page.getByRole('option', { name: 'visits the showroom' }).click()
    await expect(page.locator('[data-line="trigger:t1"]')).toContainText('a contact visits the showroom')

    const activity = { email: 'dee.showroom@x.example', kind: 'showroomVisit', about: 'Porto' }
    const told = await post<{ kept: number; refused: { text: string }[] }>('/activities', {
      activities: [
        { ...activity, data: { rooms: 2, mood: 'keen' } },
        { ...activity, data: { mood: 'sad' } },
      ],
    })
    expect(told).toMatchObject({ kept: 1, refused: [{ text: expect.stringContaining('data.mood') }] })
    await open(page, `/records/contacts/${dee}`)
    await expect(page.getByText('visited the showroom')).toBeVisible()
  })

  test('somebody unknown is seen, and becomes known by the form they send', async ({ page }) => {
    const cem = await contact('Cem Formal')
    await page.goto('/website/prices/hire')
    await expect
      .poll(async () => (await get<{ unknown: { activities: number } }>('/websites')).unknown.activities)
      .toBeGreaterThan(0)
    await page.getByRole('link', { name: 'Call me back' }).click()
    await page.getByLabel('Your email').fill('cem.formal@x.example')
    await page.getByLabel('When is a good time?').fill('Tuesday')
    await page.getByRole('button', { name: 'Send' }).click()
    await expect(page.getByRole('heading', { name: 'Thank you' })).toBeVisible()
    await open(page, `/records/contacts/${cem}`)
    await expect(page.getByText('visited a page').first()).toBeVisible()
    await expect(page.getByText('sent a form').first()).toBeVisible()
  })

  test('who asks not to be followed sends nothing', OWN_PAGE, async ({ page }) => {
    await page.addInitScript(() => Object.defineProperty(navigator, 'globalPrivacyControl', { value: true }))
    const sent: string[] = []
    page.on('request', (request) => {
      if (request.url().includes('/site/')) sent.push(request.url())
    })
    await page.goto('/website')
    await page.getByRole('link', { name: 'About us' }).click()
    await expect(page.getByRole('heading', { name: 'About us' })).toBeVisible()
    expect(sent).toEqual([])
    expect(await page.evaluate(() => localStorage.getItem('sky-lever-visitor'))).toBeNull()
  })

  test('a page elsewhere may not send visits until its host is added', async ({ request }) => {
    const report = { visitor: 'a'.repeat(32), kind: 'visit', about: '/', data: {} }
    const send = (key: string, origin: string) =>
      request.post('/site/activities', {
        headers: { origin, 'content-type': 'text/plain' },
        data: JSON.stringify({ ...report, key: key.repeat(32) }),
      })
    expect((await send('1', 'https://www.elsewhere.example')).status()).toBe(403)
    await post('/websites', { host: 'www.elsewhere.example' })
    expect((await send('2', 'https://www.elsewhere.example')).status()).toBe(204)
    expect((await send('3', 'https://other.example')).status()).toBe(403)
    expect((await request.post('/site/activities', { data: { visitor: 'x' } })).status()).toBe(422)
  })

  test('a visit is booked, moved, missed twice: the deal goes on, the feed tells two readers, another path is gone', async ({
    page,
  }) => {
    const dan = await contact('Dan Booker')
    const deal = await dealOf(dan, 'Cold room of Dan', 'enq-talking')
    const feed = (await post<{ path: string }>('/account/calendar-feed', {})).path
    await page.goto(`/book/site-visit?for=${await personOf(dan)}`)
    await expect(page).toHaveURL(/zone=Europe%2FLisbon/)
    await expect(page.getByLabel('Your email')).toHaveValue('dan.booker@x.example')
    await page.locator('.times label').first().click()
    await page.getByLabel('What is it about?').fill('<b>Two</b> units')
    await page.getByRole('button', { name: 'Book', exact: true }).click()
    await expect(page.getByText('With Rosa Amara')).toBeVisible()
    const address = new URL(page.url()).pathname
    const values = async () => (await get<{ values: { stage: string } }>(`/records/deal/${deal}`)).values
    expect((await values()).stage).toBe('hp-visit')

    // Rosa's own feed has it; the specialist's has not.
    await page.request.post('/api/v1/session/demo', { data: { personId: 'rosa' } })
    const own = await (await page.request.post('/api/v1/account/calendar-feed', { data: {} })).json()
    const text = await (await page.request.get((own as { path: string }).path)).text()
    const one = new ICAL.Component(ICAL.parse(text) as unknown[])
      .getAllSubcomponents('vevent')
      .map((found) => new ICAL.Event(found))
      .filter((found) => found.description === '<b>Two</b> units')
    const two = convertIcsCalendar(undefined, text).events?.filter((found) => found.description === '<b>Two</b> units')
    expect(one).toHaveLength(1)
    expect(two?.map((found) => found.start.date.getTime())).toEqual(
      one.map((found) => found.startDate.toJSDate().getTime()),
    )
    expect(await (await page.request.get(feed)).text()).not.toContain('Two')
    await page.request.delete('/api/v1/account/calendar-feed')
    expect((await page.request.get((own as { path: string }).path)).status()).toBe(404)

    // Moved by the link, as whoever booked it does.
    await page.goto(address)
    await page.getByText('Choose another time').click()
    await page.locator('.times label').nth(3).click()
    await page.getByRole('button', { name: 'Move' }).click()
    await expect(page.getByRole('button', { name: 'Cancel this appointment' })).toBeVisible()
    await page.request.post('/api/v1/session/demo', { data: { personId: 'ines' } })
    const appointments = async () =>
      (await get<{ timeline: { what: string; kind?: string }[] }>(`/records/contact/${dan}`)).timeline.flatMap(
        ({ what, kind }) => (what === 'activity' && kind?.startsWith('appointment') ? [kind] : []),
      )
    expect(await appointments()).toEqual(['appointmentMoved', 'appointment'])

    // Missed, booked again and missed again: another path.
    const id = Number(/appointment\/(\d+)\./.exec(address)?.[1])
    await api().patch(`/api/v1/records/appointment/${id}`, { data: { values: { status: 'missed' } } })
    await expect.poll(() => tasksOf(dan)).toEqual(['Offer Dan Booker another time'])
    const again = await post<{ ref: { id: number } }>('/records/appointment', {
      values: { name: 'Site visit', start: Date.now() + 40 * 86_400_000, status: 'booked', owner: 'rosa' },
      links: [{ object: 'contact', id: dan }],
    })
    await api().patch(`/api/v1/records/appointment/${again.ref.id}`, { data: { values: { status: 'missed' } } })
    await expect
      .poll(async () => (await tasksOf(dan)).includes('Missed twice: is Dan Booker still interested?'))
      .toBe(true)
  })

  test('of fifty who book one time at once one has it, and the others keep what they entered', async ({
    request,
    page,
  }) => {
    const pageOf = {
      name: 'One at a time',
      text: '',
      place: '',
      minutes: 30,
      noticeHours: 1,
      bufferMinutes: 0,
      daysAhead: 20,
      with: 'turn',
      people: ['callum'],
      open: true,
    }
    expect((await api().put('/api/v1/booking-pages/one-at-a-time', { data: pageOf })).ok()).toBe(true)
    await page.goto('/book/one-at-a-time')
    const start = await page.locator('.times input').first().getAttribute('value')
    const answers = await Promise.all(
      Array.from({ length: 50 }, (_, i) =>
        request.post('/book/one-at-a-time', {
          form: { start: start!, name: `Guest ${i}`, email: `guest${i}@x.example`, note: '', visitor: '' },
          maxRedirects: 0,
        }),
      ),
    )
    const statuses = answers.map((answer) => answer.status())
    expect(statuses.filter((status) => status === 303)).toHaveLength(1)
    expect(statuses.filter((status) => status === 409)).toHaveLength(49)
    const refused = answers.find((answer) => answer.status() === 409)!
    const text = await refused.text()
    expect(text).toContain('just been taken')
    expect(text).toMatch(/value="guest\d+@x\.example"/)
  })

  test('a booking page is made, and its appointments stand in the calendar', async ({ page }) => {
    await open(page, '/booking')
    await page.getByRole('button', { name: 'Add page…' }).click()
    await page.getByLabel('Name', { exact: true }).fill('Cooling check')
    await page.getByLabel('Length in minutes').fill('45')
    await page.getByRole('button', { name: 'Save' }).click()
    await expect(page.getByRole('link', { name: /book\/cooling-check/ })).toBeVisible()
    await open(page, '/calendar')
    await page.getByRole('button', { name: 'Previous week' }).click()
    await expect(page.getByRole('link', { name: /Site visit/ }).first()).toBeVisible()
    await page
      .getByRole('link', { name: /Site visit/ })
      .first()
      .click()
    await expect(page.getByRole('heading', { name: 'Site visit' })).toBeVisible()
  })
})
