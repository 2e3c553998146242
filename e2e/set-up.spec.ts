import { existsSync } from 'node:fs'
import { found } from './axe'
import { expect, open, test } from './app'
import { startServer, type RunningServer } from './own-server'

const PORT = 3119
const BASE = `http://localhost:${PORT}`
let server: RunningServer

test.describe('an empty workspace', () => {
  test.use({ baseURL: BASE, storageState: { cookies: [], origins: [] } })

  test.beforeAll(async () => {
    server = await startServer(PORT, false)
  })
  test.afterAll(async () => {
    // Asked to stop, it closes the database and ends by itself: the log is folded in, and nothing has to be mended at
    // the next start.
    expect(await server.stop()).toBe(0)
    expect(existsSync(`${server.dbFile}-wal`)).toBe(false)
    server.clear()
  })

  test('asks for its first specialist, who then works in it; nobody else can begin it again', async ({
    page,
    request,
    browser,
  }) => {
    await page.goto('/rules')
    await expect(page).toHaveURL(/\/set-up$/)
    expect(await found(page)).toEqual([])
    await page.getByLabel('Workspace name').fill('Brackwater Ice')
    await page.getByLabel('Your name').fill('Ana Cardoso')
    await page.getByLabel('Email').fill('Ana@Brackwater.example')
    await page.getByLabel('Password').fill('ice by the tonne')
    await page.getByLabel('Time zone').selectOption('Europe/Lisbon')
    await page.getByRole('button', { name: 'Create workspace' }).click()
    await expect(page.getByRole('heading', { name: 'Data' })).toBeVisible()
    await page.goto('/boards')
    await expect(page.getByRole('heading', { name: 'Sales' })).toBeVisible()
    await page.goto('/records/deals')
    await expect(page.getByText('No deals yet.')).toBeVisible()
    await page.goto('/rules')
    await expect(page.getByText('No rules yet.')).toBeVisible()

    const again = await request.post('/api/v1/workspace', {
      data: {
        name: 'Other',
        zone: 'UTC',
        currency: 'EUR',
        person: { name: 'X', email: 'x@y.example', password: 'something long' },
      },
    })
    expect(again.status()).toBe(409)
    expect((await request.post('/api/v1/session/demo', { data: { personId: 'ana-cardoso' } })).status()).toBe(403)

    // A second person is taken in and changes the first password; no demo accounts are shown at this door.
    await open(page, '/people')
    await page.getByRole('button', { name: 'Add person' }).click()
    const form = page.getByRole('form', { name: 'New person' })
    await form.getByLabel('name', { exact: false }).first().fill('Bruno Vale')
    await form.getByLabel('email').fill('bruno@brackwater.example')
    await form.getByLabel('Initial password').fill('first of many')
    await form.getByRole('button', { name: 'Add person' }).click()
    await expect(page.getByRole('cell', { name: 'Bruno Vale', exact: true })).toBeVisible()

    const other = await browser.newContext({ baseURL: BASE, storageState: { cookies: [], origins: [] } })
    const door = await other.newPage()
    await door.goto('/')
    await expect(door.getByText('Demo: sign in as anyone')).toHaveCount(0)
    await door.getByLabel('Email').fill('bruno@brackwater.example')
    await door.getByLabel('Password').fill('first of many')
    await door.keyboard.press('Enter')
    await expect(door.getByRole('heading', { name: 'Day sheet' })).toBeVisible()
    await open(door, '/account')
    await door.getByLabel('Current password').fill('first of many')
    await door.getByLabel('New password').fill('mine from today')
    await door.getByRole('button', { name: 'Change password' }).click()
    await expect(door.getByText('Password changed')).toBeVisible()
    await door.reload()
    await expect(door.getByRole('heading', { name: 'Bruno Vale' })).toBeVisible()
    await other.close()
    expect(
      (
        await request.post('/api/v1/session', {
          data: { email: 'bruno@brackwater.example', password: 'first of many' },
        })
      ).status(),
    ).toBe(401)
    expect(
      (
        await request.post('/api/v1/session', {
          data: { email: 'BRUNO@brackwater.example', password: 'mine from today' },
        })
      ).status(),
    ).toBe(200)
  })

  test('takes its first file whole: stages, people and fields it names are created with one press, by keyboard', async ({
    page,
  }) => {
    await page.request.post('/api/v1/session', {
      data: { email: 'ana@brackwater.example', password: 'ice by the tonne' },
    })
    await open(page, '/data')
    await page.getByLabel('Choose CSV file').setInputFiles({
      name: 'deals of last year.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from(
        [
          'Deal;Customer name;Phase;Responsible;Amount;Boat;Berth;Remark',
          'Ice for the Gaivota;Porto Frio;On the quay;Bruno Vale;1.200,50;Gaivota;12;',
          'Block ice, spring;Mar Alto;Delivered and signed;Carla Reis;900,00;Aurora;3;call',
          'Flake ice;Mar Alto;Lost at sea;Carla Reis;50,00;Gaivota;7;',
          'Ice for the Aurora;Porto Frio;On the quay;Bruno Vale;75,00;Aurora;3;',
          'Dry ice;Lota do Norte;On the quay;dario.pinto@brackwater.example;80,00;Gaivota;12;',
          'Crushed ice;Lota do Norte;On the quay;Bruno Vale;60,00;Aurora;5;',
        ].join('\r\n'),
      ),
    })
    await page.waitForFunction(() => document.documentElement.dataset.live === 'yes')
    const counts = page.locator('[data-counts]')
    await expect(counts).toContainText('6rejected')
    const box = page.locator('[data-missing]')
    await expect(box.getByLabel('Outcome of Delivered and signed')).toHaveValue('won')
    await expect(box.getByLabel('Outcome of Lost at sea')).toHaveValue('lost')
    await expect(box.getByLabel('Type of Boat')).toHaveValue('choice')
    await expect(box.getByLabel('Type of Berth')).toHaveValue('number')
    expect(await found(page, { include: ['[data-missing]'] })).toEqual([])
    const create = page.locator('[data-make-missing]')
    await expect(create).toHaveText('Create 3 stages, 2 people and 3 fields')

    // Nothing is created before somebody has an address, and what is not wanted is left out.
    await box.getByRole('checkbox', { name: 'Remark' }).focus()
    await page.keyboard.press('Space')
    await expect(create).toHaveText('Create 3 stages, 2 people and 2 fields')
    await create.focus()
    await page.keyboard.press('Enter')
    await expect(box.getByLabel('Email of Carla Reis')).toBeFocused()
    await expect(counts).toContainText('6rejected')
    await page.keyboard.type('bruno@brackwater.example')
    await page.keyboard.press('Enter')
    await expect(page.locator('[data-notice]')).toContainText('This email is already in use.')
    await box.getByLabel('Email of Carla Reis').fill('carla@brackwater.example')
    await page.keyboard.press('Enter')

    await expect(counts).toContainText('6new')
    await expect(counts).toContainText('0rejected')
    await expect(page.getByLabel('Target of column Boat')).toHaveValue('field:boat')
    // What was left out is still offered.
    await expect(box).toContainText('Remark')
    await expect(create).toBeDisabled()
    await page.locator('[data-bring]').click()
    await expect(page.locator('[data-state]')).toContainText('Imported')
    await open(page, '/boards')
    await expect(page.getByText('Ice for the Gaivota')).toBeVisible()
    await open(page, '/people')
    await expect(page.getByRole('cell', { name: 'Dario Pinto', exact: true })).toBeVisible()
    await expect(page.getByRole('cell', { name: 'Carla Reis', exact: true })).toBeVisible()
  })
})
