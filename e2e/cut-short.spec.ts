import { spawn } from 'node:child_process'
import { request as requests } from '@playwright/test'
import { expect, test } from './app'
import { startServer } from './own-server'

test('an import that is cut short right after it was started goes on with the next start', async () => {
  const first = await startServer(3133, true)
  const api = await requests.newContext({ baseURL: first.base })
  const headers = { 'content-type': 'application/json' }
  await api.post('/api/v1/session/demo', { data: { personId: 'ines' } })
  const content = `Name,Stage,Amount\n${Array.from({ length: 40 }, (_, i) => `Cut short ${i},Sized,${i}`).join('\n')}`
  const { id } = (await (
    await api.post('/api/v1/imports', { data: { fileName: 'a.csv', content, object: 'deal' }, headers })
  ).json()) as { id: number }
  expect((await api.post(`/api/v1/imports/${id}/run`, { data: { rulesOn: false } })).ok()).toBe(true)
  await first.kill()
  const second = await startServer(3133, true, 'own.db', first)
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

test('a server that cannot listen ends; one whose output nobody reads goes on, and ends when asked', async () => {
  const first = await startServer(3134, true)
  try {
    await expect(startServer(3134, true, 'own.db', first)).rejects.toThrow('ended with 1')
  } finally {
    expect(await first.stop()).toBe(0)
  }
  const env = { ...process.env, PORT: '3134', SKY_LEVER_DB: first.dbFile, SKY_LEVER_LOG: 'debug' }
  const unread = spawn('node', ['.output/server/index.mjs'], { env, stdio: ['ignore', 'pipe', 'pipe'] })
  try {
    // Both ends that would be read are closed before anything is.
    unread.stdout.destroy()
    unread.stderr.destroy()
    const healthy = () =>
      fetch('http://localhost:3134/healthz').then(
        ({ status }) => status,
        () => 0,
      )
    await expect.poll(healthy).toBe(200)
    for (let i = 0; i < 20; i++) await fetch('http://localhost:3134/api/v1/session')
    expect(await healthy()).toBe(200)
    const ended = new Promise<number | null>((resolve) => unread.once('exit', (code) => resolve(code)))
    unread.kill('SIGTERM')
    expect(await ended).toBe(0)
  } finally {
    unread.kill('SIGKILL')
    first.clear()
  }
})
