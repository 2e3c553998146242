import { describe, expect, it } from 'vitest'
import { Pace } from './pace'

describe('a pace', () => {
  it('lets in so many a minute from each address', () => {
    const pace = new Pace(2)
    expect([1, 2, 3].map(() => pace.letsIn('a', 1000))).toEqual([true, true, false])
    expect(pace.letsIn('b', 1000)).toBe(true)
    expect(pace.letsIn('a', 60_000)).toBe(true)
  })
})
