import { expect, it } from 'vitest'
import { mailSide } from './mail'
import { outgoingRounds } from './outgoing'
import { webSide } from './web'

const KILLS = 6

it.each([
  // Again only what was on its way in a process that was killed: at most as many as it has connections …
  ['mails', mailSide, 4],
  // … and as it carries at once.
  ['web requests', webSide, 50],
] as const)(
  '%s arrive once each, however often the processes that send them are killed',
  async (_what, side, atOnce) => {
    const report = await outgoingRounds(side, { messages: 300, kills: KILLS, seed: 11 })
    expect(report.wrong).toEqual([])
    expect(report.repeats).toBeLessThanOrEqual(KILLS * atOnce)
  },
  600_000,
)
