import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { FieldChange } from '../../records/record'
import { names } from '../../testing/setting'
import { scoreCrosses } from './score-crosses'

/** What the history keeps of some changes, as a trigger asks for it: the newest first, both sides of each. */
const pastOf = (changes: readonly FieldChange[]) => changes.toReversed().flatMap((one) => [one.new, one.old])

describe('a score that crosses a line', () => {
  const params = fc.record({
    field: fc.constant('interest'),
    how: fc.constantFrom('past' as const, 'below' as const, 'by' as const),
    points: fc.integer({ min: 4, max: 8 }),
    margin: fc.integer({ min: 0, max: 4 }),
    band: fc.constant(null),
  })
  const values = fc.array(fc.record({ to: fc.integer({ min: 0, max: 12 }), byDay: fc.boolean() }), {
    minLength: 20,
    maxLength: 40,
  })

  it('does so at the same changes, whether all that the day brings are kept or only those it goes by', () => {
    fc.assert(
      fc.property(params, values, (given, moves) => {
        const starts = scoreCrosses.compile(given, names('contact'))
        const [all, kept]: [FieldChange[], FieldChange[]] = [[], []]
        let old = 10
        for (const { to, byDay } of moves) {
          if (to === old) continue
          const change = { field: 'interest', old, new: to }
          const event = { kind: 'changed', changes: [change] } as const
          const full = starts(event, () => pastOf(all))
          const heeded = !byDay || (scoreCrosses.heeds(given, change) ?? true)
          expect(heeded && starts(event, () => pastOf(kept))).toBe(full)
          all.push(change)
          if (heeded) kept.push(change)
          old = to
        }
      }),
      { numRuns: 400 },
    )
  })
})
