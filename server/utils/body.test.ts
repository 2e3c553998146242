import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { tooMuch } from './body'

const nested = (depth: number, open = '[', close = ']'): string => open.repeat(depth) + close.repeat(depth)
/** How deep a value is nested, and of how many parts it is, counted on the value itself. */
function measure(value: unknown): { readonly depth: number; readonly parts: number } {
  if (typeof value !== 'object' || value === null) return { depth: 0, parts: 0 }
  const inside = Object.values(value).map(measure)
  return {
    depth: 1 + Math.max(0, ...inside.map(({ depth }) => depth)),
    parts: 1 + Math.max(0, inside.length - 1) + inside.reduce((sum, { parts }) => sum + parts, 0),
  }
}

describe('a body that would only cost time', () => {
  it('is nested too deep', () => {
    expect(tooMuch(nested(200))).toBeNull()
    expect(tooMuch(nested(201))).toEqual({ code: 'bodyTooDeep', most: 200 })
    expect(tooMuch(nested(201, '{"a":', '}'))).toEqual({ code: 'bodyTooDeep', most: 200 })
    // One behind the other is not one inside the other.
    expect(tooMuch(`[${Array.from({ length: 500 }, () => '{}').join(',')}]`)).toBeNull()
  })
  it('is made of too many parts', () => {
    const list = (items: number): string => `[${'1,'.repeat(items - 1)}1]`
    expect(tooMuch(list(50_000))).toBeNull()
    expect(tooMuch(list(50_001))).toEqual({ code: 'bodyTooMany', most: 50_000 })
  })
  it('is not one whose texts only look like that', () => {
    const look = '[{,'.repeat(60_000)
    expect(tooMuch(JSON.stringify({ text: look }))).toBeNull()
    expect(tooMuch(JSON.stringify([`${look}"`, `\\${look}`, `"${look}\\`, '\\"']))).toBeNull()
  })
  it('and what is behind a text is counted, however the text ends', () => {
    for (const text of ['', '"', '\\', '\\\\', '\\"', '"\\', 'a\\\\"b', '\u2028', '{[']) {
      expect(tooMuch(`[${JSON.stringify(text)},${nested(199)}]`), JSON.stringify(text)).toBeNull()
      expect(tooMuch(`[${JSON.stringify(text)},${nested(200)}]`), JSON.stringify(text)).not.toBeNull()
    }
  })
  it('is found by its value as by its letters, whatever is sent', () => {
    fc.assert(
      fc.property(fc.jsonValue({ maxDepth: 6 }), fc.integer({ min: 0, max: 210 }), (value, around) => {
        const { depth, parts } = measure(value)
        const text = '['.repeat(around) + JSON.stringify(value) + ']'.repeat(around)
        expect(tooMuch(text) === null).toBe(depth + around <= 200 && parts + around <= 50_000)
      }),
    )
  })
  it('is no matter of texts that are not JSON: that is said by who reads them', () => {
    for (const text of ['', '"', '"\\', 'null', ']]]]', '{"a"', '"a" "b"']) expect(tooMuch(text)).toBeNull()
  })
})
