import { expect, it } from 'vitest'
import { deliveryRounds } from './delivery'

it(
  'two processes hand over each message once, or again under its key where one was killed in between',
  { timeout: 600_000 },
  async () => {
    const { wrong, twice } = await deliveryRounds({ messages: 3_000, kills: 4, seed: 11 })
    expect(wrong).toEqual([])
    // Of each process that was killed at most what was on its way.
    expect(twice).toBeLessThanOrEqual(8 * 50)
  },
)
