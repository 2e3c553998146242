import { spawnSync } from 'node:child_process'
import { mkdirSync, writeFileSync } from 'node:fs'
import { pathToFileURL } from 'node:url'
import openapiTS, { astToString } from 'openapi-typescript'
import { bundle } from '../scripts/bundle.mjs'
import { BASE } from './address'
import { expect, test } from './app'

test('a client that is made from the description does a whole job, without a cast', async ({ request }) => {
  test.setTimeout(180_000)
  const text = await (await request.get('/api/v1/openapi.json')).text()
  expect(Buffer.byteLength(text)).toBeLessThan(385_000)
  expect(Object.keys((JSON.parse(text) as { components: { schemas: object } }).components.schemas)).toEqual(
    expect.arrayContaining(['Rule', 'Step', 'Conditions', 'DecisionTable']),
  )
  writeFileSync('clients/api.ts', astToString(await openapiTS(text)))
  const checked = spawnSync('npx', ['tsc', '-p', 'clients'], { encoding: 'utf8' })
  expect(checked.stdout.slice(0, 3000)).toBe('')
  expect(checked.status).toBe(0)

  const { token } = (await (
    await request.post('/api/v1/account/tokens', { data: { name: 'A client', days: 1 } })
  ).json()) as { token: string }
  mkdirSync('.worker', { recursive: true })
  await bundle('clients/job.ts', '.worker/client-job.mjs')
  const { job } = (await import(pathToFileURL('.worker/client-job.mjs').href)) as {
    job: (base: string, key: string) => Promise<{ title: string; state: string }>
  }
  expect(await job(BASE, token)).toEqual({ title: 'Ring Lind cold room', state: 'done' })
})
