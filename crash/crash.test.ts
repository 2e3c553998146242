import { expect, it } from 'vitest'
import { crashRounds } from './rounds'

it(
  'a process killed again and again, while it imports and people work, loses nothing and does nothing twice',
  { timeout: 600_000 },
  async () => {
    const report = await crashRounds({ rounds: 6, seed: 20_261 })
    expect(report.wrong).toEqual([])
    expect(report.killed).toBe(6)
    expect(report.acknowledged).toBeGreaterThan(0)
  },
)
