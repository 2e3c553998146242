import { request as requests } from '@playwright/test'
import { BASE } from './address'
import { expect, open, test } from './app'

test('refused rows come back as a file, and once repaired they go in', async ({ page, request }) => {
  const content =
    'Name;Stage;Owner;Notes\nRepaired one;Nowhere;Jude Okell;"a; ""b"""\nGood one;Sized;Jude Okell;\nRepaired two;Sized;Nobody Known;\n'
  const { id } = (await (
    await request.post('/api/v1/imports', { data: { fileName: 'mend.csv', content } })
  ).json()) as { id: number }
  await open(page, `/data/${id}`)
  const download = page.waitForEvent('download')
  await page.getByRole('link', { name: 'Download rejected rows with reasons' }).click()
  expect((await download).suggestedFilename()).toBe(`refused-rows-${id}.csv`)
  const answer = await request.get(`/api/v1/imports/${id}/refused`)
  expect(answer.headers()['content-type']).toContain('text/csv')
  const text = await answer.text()
  expect(text).toContain('Name;Stage;Owner;Notes;What is wrong')
  expect(text).toContain('Repaired one;Nowhere;Jude Okell;"a; ""b""";Stage: “Nowhere” is not a stage. Stages: ')
  expect(text).not.toContain('Good one')

  await page.locator('[data-bring]').click()
  await expect(page.locator('[data-state]')).toContainText('Imported')
  await expect(page.getByRole('link', { name: 'Download rejected rows with reasons' })).toBeVisible()
  expect(await (await request.get(`/api/v1/imports/${id}/refused`)).text()).toBe(text)

  const repaired = text.replace('Nowhere', 'Sized').replace('Nobody Known', 'Rosa Amara')
  const again = (await (
    await request.post('/api/v1/imports', { data: { fileName: 'repaired.csv', content: repaired } })
  ).json()) as { id: number }
  const { preview } = (await (await request.get(`/api/v1/imports/${again.id}`)).json()) as {
    preview: { counts: object }
  }
  expect(preview.counts).toMatchObject({ new: 2, refused: 0 })
})

test('a backup is made at the press of a button and listed', async ({ page, request }) => {
  await open(page, '/data')
  const before = ((await (await request.get('/api/v1/backups')).json()) as { backups: unknown[] }).backups.length
  await page.locator('[data-backup]').click()
  await expect(page.getByRole('region', { name: 'Backups' }).locator('tbody tr')).toHaveCount(before + 1)
  const { backups } = (await (await request.get('/api/v1/backups')).json()) as {
    backups: { name: string; bytes: number }[]
  }
  expect(backups[0]?.name).toMatch(/^e2e-\d{4}-\d\d-\d\dT\d{6}Z\.db$/)
  expect(backups[0]?.bytes).toBeGreaterThan(100_000)
})

test('anybody may ask whether it lives and whether it is ready', async () => {
  const nobody = await requests.newContext({ baseURL: BASE, storageState: { cookies: [], origins: [] } })
  expect(await (await nobody.get('/healthz')).json()).toEqual({ ok: true })
  expect(await (await nobody.get('/readyz')).json()).toEqual({
    ok: true,
    database: 'answers',
    worker: 'runs',
    disk: 'has room',
  })
})
