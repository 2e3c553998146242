import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { namesakes, nearNames } from './namesakes'

describe('near-namesakes', () => {
  it.each<[string, string, boolean]>([
    ['Expected close', 'Close date', true],
    ['Quote sent on', 'Quoted on', false],
    ['Contract end', 'Contract ends', true],
    ['Owner', 'Owners', true],
    ['Amount', 'AMOUNT', true],
    ['Région', 'Region', true],
    ['Units', 'Unit', false],
    ['Margin', 'Amount', false],
    ['Kind', 'King', false],
    ['Site-visit date', 'Role at site', true],
    ['Lost reason', 'Last reason', true],
  ])('%s and %s: %s', (a, b, near) => {
    expect([nearNames(a, b), nearNames(b, a)]).toEqual([near, near])
  })

  it('a label is near itself, whatever it is, and nearness goes both ways', () => {
    fc.assert(
      fc.property(fc.string(), fc.string(), (a, b) => {
        expect(nearNames(a, a)).toBe(true)
        expect(nearNames(a, b)).toBe(nearNames(b, a))
      }),
      { seed: 6 },
    )
  })

  it('finds those of a list that need telling apart', () => {
    const fields = ['Name', 'Contract end', 'Contract ends on', 'Sector', 'Country'].map((label, i) => ({
      key: `f${i}`,
      label,
    }))
    expect([...namesakes(fields)]).toEqual(['f1', 'f2'])
    expect(namesakes([])).toEqual(new Set())
  })
})
