import { expect, it } from 'vitest'
import { twoProcesses } from './two'

it('two processes on one database lose nothing and do nothing twice, however often they are killed', async () => {
  const { acknowledged, runs, wrong } = await twoProcesses({ kills: 4, seed: 3 })
  expect(wrong).toEqual([])
  expect(acknowledged).toBeGreaterThan(0)
  expect(runs).toBeGreaterThan(0)
}, 300_000)
