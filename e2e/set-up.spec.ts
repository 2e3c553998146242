import { existsSync } from 'node:fs'
import AxeBuilder from '@axe-core/playwright'
import { expect, test } from './app'
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
    expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([])
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
    await page.goto('/people')
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
    await door.goto('/account')
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
})
