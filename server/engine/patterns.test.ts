import fc from 'fast-check'
import * as feelin from 'feelin'
import { describe, expect, it } from 'vitest'
import { compileFormula } from '../../core/formulas/formula'
import { momentAt } from '../../core/engine/moment'
import { catalogue, NOW_MS } from '../../core/testing/setting'
import './patterns'

const moment = momentAt(NOW_MS, catalogue.workspace)
const worked = (text: string): unknown => {
  const made = compileFormula(text, 'deal', catalogue)
  return made.ok ? made.formula.raw({ values: {}, linked: () => [] }, moment) : `refused: ${made.problem.text}`
}

describe('patterns in formulas', () => {
  it.each([
    'matches("foobar", "^fo*b")',
    'matches("foobar", "^fo+$")',
    'matches("hello\\nworld", "hello.world", "s")',
    'matches("hello\\nworld", "^world$", "m")',
    'matches("Hello", "hello", "i")',
    'matches(input: "Hello", pattern: "L+", flags: "i")',
    'replace("abcd", "(ab)|(a)", "[1=$1][2=$2]")',
    'replace("facetiously", "[iouy]", "[$0]")',
    'replace("2026-11-24", "(\\d+)-(\\d+)-(\\d+)", "$3.$2.$1")',
    'split("John Doe", "\\s")',
    'split("a;b;c;;", ";")',
    'split("none", ";")',
  ])('agree with the oracle: %s', (text) => {
    expect(worked(text)).toEqual(feelin.evaluate(text.replaceAll('$0', '$&')).value)
  })

  it('ignore blanks in a pattern that says so', () => {
    expect(worked('matches("hello world", "hello[ ]world", "x")')).toBe(true)
    expect(worked('matches("helloworld", "hello world", "x")')).toBe(true)
    expect(worked('matches("hello world", "hello world", "x")')).toBe(false)
  })

  it.each([
    ['matches("aa", "(a)\\1")', /is not a pattern: /],
    ['matches("aa", "[a")', /is not a pattern: /],
    ['matches("aa", "a", "q")', /no set of flags/],
    ['matches("aa", "a{1000}b{1000}c{1000}")', /too large/],
    ['matches(1, "a")', /needs a text here/],
    ['replace("aa", "a")', /takes text, pattern, by, flags/],
  ])('refuse where it stands what cannot be: %s', (text, reason) => expect(worked(text)).toMatch(reason))

  it('are nothing where a pattern comes from a field and is none', () => {
    expect(worked('matches("aa", substring("[a", 1))')).toBeNull()
    expect(worked('replace("abc", "x*", "-")')).toBeNull()
  })

  it('take time in proportion to the text', () => {
    const long = Array.from({ length: 90 }, () => 'aaaaaaaaaa').join('')
    expect(worked(`matches("${long}b", "^(a+)+$")`)).toBe(false)
    expect(worked(`matches("${long}", "(x+x+)+y")`)).toBe(false)
    // What is too much is too much: a large pattern on many long texts.
    expect(worked(`for i in 1..9000 return matches("${long}", "[a-z]{1,90}@[a-z]{1,90}")`)).toBeNull()
  })

  it('replace and split as the language of pages does', () => {
    const text = fc.string({ unit: fc.constantFrom('a', 'b', ' ', ';', '1', '2', 'é', '😀'), maxLength: 20 })
    const pattern = fc.constantFrom('a', '[ab]+', '\\d', 'a|b', '; ?', '(a)(b)', '\\s+', '.', '[^a]')
    fc.assert(
      fc.property(text, pattern, (given, by) => {
        const quoted = `"${given}"`
        expect(worked(`split(${quoted}, "${by}")`)).toEqual(given.split(new RegExp(by.replaceAll(/[()]/g, ''), 'u')))
        expect(worked(`replace(${quoted}, "${by}", "<$0>")`)).toBe(given.replaceAll(new RegExp(by, 'gu'), '<$&>'))
      }),
      { seed: 7, numRuns: 300 },
    )
  })
})
