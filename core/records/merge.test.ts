import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { isEmpty, sameValue, type Values } from '../language/value'
import { catalogue } from '../testing/setting'
import { mergedValues, mergeFields } from './merge'

const value = fc.oneof(
  fc.constant(null),
  fc.constant(''),
  fc.constantFrom('a', 'b'),
  fc.constantFrom(0, 1, 2),
  fc.constantFrom<readonly string[]>([], ['press'], ['press', 'urgent']),
)
const KEYS = ['name', 'amount', 'notes', 'labels', 'stage', 'createdAt', 'pipeline']
const values: fc.Arbitrary<Values> = fc.record(Object.fromEntries(KEYS.map((key) => [key, value])))

describe('two records that become one', () => {
  it('differ where they hold something else, in the order of the catalogue, and nowhere that the system keeps', () => {
    fc.assert(
      fc.property(values, values, (kept, other) => {
        const fields = mergeFields('deal', kept, other, catalogue)
        const order = catalogue.fields('deal').map(({ key }) => key)
        expect(fields.map(({ key }) => key)).toEqual(
          order.filter(
            (key) => !catalogue.field('deal', key)?.keptBy && !sameValue(kept[key] ?? null, other[key] ?? null),
          ),
        )
        for (const { key, from } of fields) expect(from).toBe(isEmpty(kept[key] ?? null) ? 'other' : 'kept')
      }),
    )
  })

  it('loses nothing: what the kept one has stays, but where the other’s was chosen', () => {
    fc.assert(
      fc.property(values, values, fc.subarray(KEYS), (kept, other, take) => {
        const written = mergedValues(mergeFields('deal', kept, other, catalogue), new Set(take))
        for (const [key, one] of Object.entries(written)) {
          expect(isEmpty(one), key).toBe(false)
          expect(sameValue(one, other[key] ?? null)).toBe(true)
          expect(isEmpty(kept[key] ?? null) || take.includes(key), key).toBe(true)
        }
        const merged: Values = { ...kept, ...written }
        for (const key of KEYS) {
          if (catalogue.field('deal', key)?.keptBy) continue
          if (!isEmpty(kept[key] ?? null) || !isEmpty(other[key] ?? null))
            expect(isEmpty(merged[key] ?? null)).toBe(false)
        }
      }),
    )
  })

  it('are one and the same when nothing differs', () => {
    const same = { name: 'Two rooms', amount: 5 }
    expect(mergeFields('deal', same, { ...same }, catalogue)).toEqual([])
    expect(mergedValues([], new Set(['name']))).toEqual({})
  })
})
