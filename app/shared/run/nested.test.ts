import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nested, type Nested } from './nested'

const deep = (depths: readonly number[]) => nested(depths, (depth) => depth)
/** As text: "0(1(2) 1)". */
const text = (all: readonly Nested<number>[]): string =>
  all.map(({ of, within }) => `${of}${within.length > 0 ? `(${text(within)})` : ''}`).join(' ')
const flat = <T>(all: readonly Nested<T>[]): readonly T[] => all.flatMap(({ of, within }) => [of, ...flat(within)])

describe('a list within lists', () => {
  it.each([
    [[], ''],
    [[0, 0, 0], '0 0 0'],
    [[0, 1, 2, 1, 0], '0(1(2) 1) 0'],
    [[0, 3, 3, 1], '0(3 3 1)'],
    [[2, 1, 0], '2 1 0'],
    [[0, 2, 1, 2], '0(2 1(2))'],
  ])('%j is %s', (depths, wanted) => expect(text(deep(depths))).toBe(wanted))

  it('loses nothing, keeps the order, and puts nothing into what stands as deep or deeper', () => {
    const right = (all: readonly Nested<number>[]): boolean =>
      all.every(({ of, within }) => within.every((one) => one.of > of) && right(within))
    fc.assert(
      fc.property(fc.array(fc.nat(5), { maxLength: 30 }), (depths) => {
        expect(flat(deep(depths))).toEqual(depths)
        expect(right(deep(depths))).toBe(true)
      }),
    )
  })
})
