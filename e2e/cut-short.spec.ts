import { spawn } from 'node:child_process'
import { request as requests } from '@playwright/test'
import { expect, load, test } from './app'
import { startServer, type RunningServer } from './own-server'

test('an import that is cut short right after it was started goes on with the next start', async () => {
  const first = await startServer(3151, true)
  const api = await requests.newContext({ baseURL: first.base })
  const headers = { 'content-type': 'application/json' }
  await api.post('/api/v1/session/demo', { data: { personId: 'ines' } })
  const content = `Name,Stage,Amount\n${Array.from({ length: 40 }, (_, i) => `Cut short ${i},Sized,${i}`).join('\n')}`
  const { id } = (await (
    await api.post('/api/v1/imports', { data: { fileName: 'a.csv', content, object: 'deal' }, headers })
  ).json()) as { id: number }
  expect((await api.post(`/api/v1/imports/${id}/run`, { data: { rulesOn: false } })).ok()).toBe(true)
  await first.kill()
  const second = await startServer(3151, true, 'own.db', first)
  try {
    const state = async () =>
      ((await (await api.get(`/api/v1/imports/${id}`)).json()) as { state: string; counts: unknown }).state
    await expect.poll(state).toBe('done')
    const { matched } = (await (await api.get('/api/v1/record-lists/deal?words=Cut%20short&limit=1')).json()) as {
      matched: number
    }
    expect(matched).toBe(40)
  } finally {
    await second.stop()
    first.clear()
  }
})

/** A server whose output is given to nobody or to the test; answers how it ends. */
function startBeside({ dbFile }: RunningServer, port: number) {
  const env = { ...process.env, PORT: String(port), SKY_LEVER_DB: dbFile, SKY_LEVER_LOG: 'debug' }
  const server = spawn('node', ['.output/server/index.mjs'], { env, stdio: ['ignore', 'pipe', 'pipe'] })
  const ended = new Promise<number | null>((resolve) => server.once('exit', (code) => resolve(code)))
  return { server, ended }
}

test('a server that cannot listen says so and ends', async () => {
  const first = await startServer(3152, true)
  const { server, ended } = startBeside(first, 3152)
  try {
    let said = ''
    for (const stream of [server.stdout, server.stderr]) stream.on('data', (piece: Buffer) => (said += String(piece)))
    expect(await ended).toBe(1)
    expect(said).toContain('It cannot listen')
    expect((await fetch(`${first.base}/healthz`)).status).toBe(200)
  } finally {
    server.kill('SIGKILL')
    expect(await first.stop()).toBe(0)
    first.clear()
  }
})

test('a server whose output nobody reads any more goes on, and ends when asked', async () => {
  const first = await startServer(3153, true)
  await first.stop()
  const { server, ended } = startBeside(first, 3153)
  try {
    server.stdout.destroy()
    server.stderr.destroy()
    const healthy = () =>
      fetch('http://localhost:3153/healthz').then(
        ({ status }) => status,
        () => 0,
      )
    await expect.poll(healthy).toBe(200)
    for (let i = 0; i < 20; i++) await fetch('http://localhost:3153/api/v1/session')
    expect(await healthy()).toBe(200)
    server.kill('SIGTERM')
    expect(await ended).toBe(0)
  } finally {
    server.kill('SIGKILL')
    first.clear()
  }
})

test('a server ends when asked, though pages are open that listen to it', async ({ browser }) => {
  // It is not the end of its patience that ends it.
  const server = await startServer(3151, true, 'own.db', null, { NITRO_SHUTDOWN_TIMEOUT: '600000' })
  const context = await browser.newContext({ baseURL: server.base })
  try {
    await context.request.post('/api/v1/session/demo', { data: { personId: 'ines' } })
    await load(await context.newPage(), '/journal')
    expect(await server.stop()).toBe(0)
  } finally {
    await context.close()
    server.clear()
  }
})
