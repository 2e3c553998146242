import { expect, it } from 'vitest'
import { clockRounds } from './clock'

it(
  'a month of dates, waits and weekdays is done exactly once and as foretold, however often the process is killed',
  { timeout: 600_000 },
  async () => {
    const report = await clockRounds({ deals: 60, kills: 4, seed: 5 })
    expect(report.wrong).toEqual([])
    expect(report.tasks).toBeGreaterThan(300)
  },
)
