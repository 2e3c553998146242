import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { atPath, fillJson, jsonProblem, readPath } from './json'

describe('JSON that is filled', () => {
  it('keeps its structure whatever is filled in, and its types', () => {
    fc.assert(
      fc.property(fc.string(), fc.oneof(fc.integer(), fc.boolean(), fc.string(), fc.constant(null)), (text, value) => {
        const template = '{"a":"{{x}}","b":["say {{x}}",1,null],"c":{"d":true}}'
        const filled = fillJson(
          template,
          (one) => (one === '{{x}}' ? value : undefined),
          (one) => one.replace('{{x}}', () => text),
        )
        expect(JSON.parse(filled)).toEqual({ a: value, b: [`say ${text}`, 1, null], c: { d: true } })
      }),
    )
  })

  it('says what is wrong with it', () => {
    expect(jsonProblem('{"a":1}')).toBe(null)
    expect(jsonProblem('{"a":}')).toMatch(/JSON/)
  })
})

describe('a value in an answer', () => {
  const answer = { order: { id: 'A-7', items: [{ n: 1 }, { n: 2 }], 'odd name': true }, list: [5] }

  it.each([
    ['$.order.id', 'A-7'],
    ['order.items[1].n', 2],
    ["order['odd name']", true],
    ['$.list[0]', 5],
    ['order', null],
    ['order.missing.deep', null],
    ['order.items[9].n', null],
    ['constructor.name', null],
    ['order.items.length', null],
  ])('%s is %o', (path, value) => {
    expect(atPath(answer, path)).toBe(value)
  })

  it('is asked for by child and index only', () => {
    for (const bad of ['$..id', '*', 'a[?(@.b)]', 'a[', 'a b', '[-1]', '.']) expect(readPath(bad)).toBe(null)
    expect(readPath('$')).toEqual([])
  })
})
