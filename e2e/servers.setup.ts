import { spawnSync } from 'node:child_process'
import { request } from '@playwright/test'
import { baseOf, FILLED, signedInAt, WORKERS } from './address'
import { startServer, type RunningServer } from './own-server'

/** Where the whole of all checks has not done so. */
function fill(): void {
  const env = { ...process.env, SKY_LEVER_DB: FILLED }
  const filled = spawnSync('node', ['scripts/bundled.mjs', 'demo/fill.ts', '--fresh'], { env, encoding: 'utf8' })
  if (filled.status !== 0) throw new Error(`the demo could not be filled: ${filled.stderr}`)
}

/**
 * A server for each worker, over a copy of one filled demo, with the specialist signed in. Answers how they are
 * stopped.
 */
export default async function startServers(): Promise<() => Promise<void>> {
  if (process.env.SKY_LEVER_FILLED !== FILLED) fill()
  const servers: RunningServer[] = []
  const stop = async (): Promise<void> => {
    await Promise.all(servers.map((server) => server.stop()))
    for (const server of servers) server.clear()
  }
  const started = await Promise.allSettled(
    Array.from({ length: WORKERS }, async (_, worker) => {
      const base = baseOf(worker)
      servers.push(await startServer(Number(new URL(base).port), true, 'e2e.db'))
      const context = await request.newContext({ baseURL: base })
      const answer = await context.post('/api/v1/session/demo', { data: { personId: 'ines' } })
      if (!answer.ok()) throw new Error(`the specialist could not sign in: ${await answer.text()}`)
      await context.storageState({ path: signedInAt(worker) })
      await context.dispose()
    }),
  )
  const failed = started.find((one) => one.status === 'rejected')
  if (failed) {
    await stop()
    throw failed.reason
  }
  return stop
}
