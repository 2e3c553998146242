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
