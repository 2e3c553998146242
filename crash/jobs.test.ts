import { expect, it } from 'vitest'
import { jobsRounds } from './jobs'

it(
  'letting records through and taking that back does each exactly once, however often the process is killed',
  { timeout: 600_000 },
  async () => {
    const report = await jobsRounds({ deals: 700, kills: 3, seed: 7 })
    expect(report.wrong).toEqual([])
    expect(report.matching).toBe(630)
  },
)
