import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { OBJECTS } from '../records/kinds'
import { isLeftAlone } from './left-alone'
import { stableShare } from './stable'

describe('the records that a rule leaves alone', () => {
  it('are the same ones whenever it is asked, and all of a smaller share are in a greater one', () => {
    fc.assert(
      fc.property(
        fc.nat(1e6),
        fc.constantFrom(...OBJECTS),
        fc.nat(1e9),
        fc.nat(50),
        fc.nat(50),
        (rule, object, id, a, b) => {
          const ref = { object, id }
          expect(isLeftAlone(rule, ref, a)).toBe(isLeftAlone(rule, { ...ref }, a))
          if (isLeftAlone(rule, ref, Math.min(a, b))) expect(isLeftAlone(rule, ref, Math.max(a, b))).toBe(true)
          expect(isLeftAlone(rule, ref, 0)).toBe(false)
        },
      ),
    )
  })

  it('are as many as they should be, of neighbours too, and others for another rule', () => {
    for (const rule of [1, 2, 77]) {
      let [alone, both] = [0, 0]
      for (let id = 1; id <= 20_000; id++) {
        const ref = { object: 'deal', id } as const
        if (!isLeftAlone(rule, ref, 20)) continue
        alone++
        if (isLeftAlone(rule + 1, ref, 20)) both++
      }
      expect(alone / 20_000).toBeGreaterThan(0.19)
      expect(alone / 20_000).toBeLessThan(0.21)
      expect(both / alone).toBeGreaterThan(0.17)
      expect(both / alone).toBeLessThan(0.23)
    }
  })

  it('are spread evenly from 0 to 1', () => {
    const tenths = Array.from({ length: 10 }, () => 0)
    for (let i = 0; i < 50_000; i++) tenths[Math.floor(stableShare(`text ${i}`) * 10)]!++
    for (const count of tenths) expect(Math.abs(count - 5000)).toBeLessThan(400)
  })
})
