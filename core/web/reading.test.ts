import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { catalogue } from '../testing/setting'
import { readingField, readValue, READING_TYPES, zReadings, type Reading } from './reading'

const reading = (type: Reading['type'], path = '$.value'): Reading => ({ key: 'value', label: 'Value', type, path })
const read = (type: Reading['type'], answer: unknown, path?: string) => {
  const one = reading(type, path)
  return readValue(one, JSON.stringify(answer), readingField(one, 'deal'), catalogue)
}

describe('a value read out of an answer', () => {
  it.each<readonly [Reading['type'], unknown, unknown]>([
    ['text', 'LM-7', 'LM-7'],
    ['text', 7, '7'],
    ['text', true, 'true'],
    ['number', 7.5, 7.5],
    ['number', '7.5', 7.5],
    ['number', ' 12 ', 12],
    ['number', '', null],
    ['number', '7,5', null],
    ['number', 'seven', null],
    ['number', true, null],
    ['date', '2026-11-24', '2026-11-24'],
    ['date', '2026-02-30', null],
    ['date', 7, null],
    ['yesNo', true, true],
    ['yesNo', false, false],
    ['text', null, null],
    ['text', { a: 1 }, null],
  ])('as %s of %j is %j', (type, value, expected) => {
    expect(read(type, { value })).toEqual(expected)
  })

  it('is nothing where the path leads nowhere, or the answer is no JSON', () => {
    expect(read('text', { other: 1 })).toBeNull()
    expect(read('text', { value: { deep: ['x'] } }, '$.value.deep[0]')).toBe('x')
    expect(read('text', { value: { deep: ['x'] } }, '$.value.deep[1]')).toBeNull()
    for (const answer of ['', '<html>', '{', 'undefined'])
      expect(readValue(reading('text'), answer, readingField(reading('text'), 'deal'), catalogue)).toBeNull()
  })

  it('never throws, and is of its type or nothing, whatever comes', () => {
    fc.assert(
      fc.property(fc.constantFrom(...READING_TYPES), fc.oneof(fc.json(), fc.string()), (type, answer) => {
        const one = reading(type, '$.value')
        const found = readValue(one, answer, readingField(one, 'deal'), catalogue)
        if (found === null) return
        expect(typeof found).toBe(type === 'number' ? 'number' : type === 'yesNo' ? 'boolean' : 'string')
      }),
    )
  })
})

describe('what is read', () => {
  it.each([
    ['a key with a point', { key: 'a.b' }],
    ['a key that begins with a digit', { key: '1a' }],
    ['no label', { label: ' ' }],
    ['a path that is none', { path: 'order number' }],
    ['a type that is none', { type: 'colour' }],
  ])('is not %s', (_, change) => {
    expect(zReadings.safeParse([{ ...reading('text'), ...change }]).success).toBe(false)
    expect(zReadings.safeParse([reading('text')]).success).toBe(true)
  })

  it('is at most twenty values', () => {
    const some = (n: number) => Array.from({ length: n }, (_, i) => ({ ...reading('text'), key: `v${i}` }))
    expect(zReadings.safeParse(some(20)).success).toBe(true)
    expect(zReadings.safeParse(some(21)).success).toBe(false)
  })
})
