import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { zCallResult } from '../asks/call'
import { actOn, actOnCall } from './simulated'

const part = fc.double({ min: 0, max: 1, maxExcluded: true, noNaN: true })

describe('what simulated customers do by themselves', () => {
  it('is something for the share that was chosen, and the same each time', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('mail', 'text'),
        fc.integer({ min: 0, max: 100 }),
        part,
        part,
        (channel, share, a, b) => {
          const done = actOn(channel as 'mail', share, a, b)
          expect(done === null).toBe(100 * a >= share)
          expect(actOn(channel as 'mail', share, a, b)).toEqual(done)
          if (!done) return
          expect(done.afterMs).toBeGreaterThanOrEqual(5 * 60_000)
          expect(done.afterMs).toBeLessThanOrEqual(30 * 3_600_000)
          // Nobody knows whether a text message was opened, and none answers by itself.
          if (channel === 'text') expect(['answer', 'stop', 'bounce']).toContain(done.act.as)
          if (done.act.as === 'answer') expect(done.act.text).not.toBe('')
        },
      ),
    )
  })

  it('is something with a call as well: each way it can go, and each is one', () => {
    const calls = Array.from({ length: 2000 }, (_, i) => actOnCall(50, i / 2000))
    expect(calls.filter((one) => one === null)).toHaveLength(1000)
    const made = calls.flatMap((one) => one ?? [])
    for (const one of made) expect(zCallResult.safeParse(one).success).toBe(true)
    expect(new Set(made.map(({ outcome, ended }) => `${outcome} ${ended ?? ''}`)).size).toBe(11)
  })

  it('is most often an answer, and of every kind', () => {
    const acts = Array.from({ length: 1000 }, (_, i) => actOn('mail', 100, i / 1000, 0)?.act)
    const share = (as: string) => acts.filter((act) => act?.as === as).length / acts.length
    expect(share('answer')).toBeCloseTo(0.6, 1)
    expect(share('open')).toBeCloseTo(0.32, 1)
    expect(new Set(acts.map((act) => act?.text)).size).toBe(8)
    expect(share('bounce')).toBeGreaterThan(0)
  })
})
