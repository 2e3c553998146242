import { expect, it } from 'vitest'
import { mailRounds } from './mail'

it('mails arrive once each, however often the processes that send them are killed', { timeout: 600_000 }, async () => {
  const report = await mailRounds({ messages: 300, kills: 6, seed: 11 })
  expect(report.wrong).toEqual([])
  // Again only what was on its way in a process that was killed: at most as many as it has connections.
  expect(report.repeats).toBeLessThanOrEqual(6 * 4)
})
