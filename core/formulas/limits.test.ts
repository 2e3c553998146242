import { describe, expect, it } from 'vitest'
import { momentAt } from '../engine/moment'
import { catalogue, NOW_MS } from '../testing/setting'
import { compileFormula } from './formula'

const moment = momentAt(NOW_MS, catalogue.workspace)
const outcome = (text: string) => {
  const made = compileFormula(text, 'deal', catalogue)
  if (!made.ok) throw new Error(made.problem.text)
  return made.formula.outcome({ values: {}, linked: () => [] }, moment)
}
/** A text ten times as long with every letter: few signs of a formula for a very long one. */
const grown = (steps: number): string => {
  const names = 'abcdefghijkl'.slice(0, steps)
  const entries = [...names].map((name, i) => {
    const before = names[i - 1]
    return `${name}: ${before === undefined ? '"0123456789"' : Array.from({ length: 10 }, () => before).join('+')}`
  })
  return `string length({${entries.join(', ')}, z: ${names.at(-1) ?? ''}}.z)`
}
/** Lists of the same lists, two each: as many values as two to the number of steps. */
const twice = (steps: number, name: string): string =>
  [...Array.from({ length: steps }).keys()]
    .map((i) => `${name}${i}: ${i === 0 ? '[1, 1]' : `[${name}${i - 1}, ${name}${i - 1}]`}`)
    .join(', ')

describe('what a formula may go through', () => {
  it('is 10,000 values, each counted once', () => {
    expect(outcome('count(for a in 1..10000 return a)').value).toBe(10_000)
    expect(outcome('count(for a in 1..10001 return a)').fault).toEqual({ code: 'tooLong', most: 10_000 })
    expect(outcome('count(for a in 1..100, b in 1..99 return a)').value).toBe(9_900)
    expect(outcome('count(for a in 1..100, b in 1..100 return a)').fault).toEqual({ code: 'tooLong', most: 10_000 })
    expect(outcome('count(for a in 1..999999999999 return a)').fault).toEqual({ code: 'tooLong', most: 10_000 })
    // The functions of lists do not count what was gone through again.
    expect(outcome('sum(distinct values(for a in 1..9000 return modulo(a, 10)))').value).toBe(45)
    expect(outcome('(sort(for a in 1..9000 return 9000 - a, function(x, y) x < y))[1]').value).toBe(0)
  })

  it('is so much of texts, however few signs make them', () => {
    expect(outcome(grown(4)).value).toBe(10_000)
    expect(outcome(grown(5)).value).toBe(100_000)
    expect(outcome(grown(6)).fault).toMatchObject({ code: 'tooLong' })
    expect(outcome(grown(12)).fault).toMatchObject({ code: 'tooLong' })
    const joined =
      'string length(string join(for a in 1..9000 return string join(for b in [1] return "abcdefghijklmno", "")))'
    expect(outcome(joined).fault).toMatchObject({ code: 'tooLong' })
    expect(outcome('count(for a in 1..9000 return substring(upper case("x"), 1))').fault).toBeNull()
  })

  it('is so much of lists that hold the same lists over and over', () => {
    expect(outcome(`count(flatten({${twice(10, 'a')}, z: a9}.z))`).value).toBe(1024)
    expect(outcome(`count(flatten({${twice(40, 'a')}, z: a39}.z))`).fault).toMatchObject({ code: 'tooLong' })
    expect(outcome(`{${twice(40, 'a')}, ${twice(40, 'b')}, z: a39 = b39}.z`).fault).toMatchObject({ code: 'tooLong' })
    expect(outcome(`{${twice(8, 'a')}, ${twice(8, 'b')}, z: a7 = b7}.z`).value).toBe(true)
    const many = `concatenate(${Array.from({ length: 60 }, () => 'a').join(', ')})`
    expect(outcome(`{a: for i in 1..9000 return i, z: count(${many})}.z`).fault).toMatchObject({ code: 'tooLong' })
  })
})
