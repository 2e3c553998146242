import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { count, countOrNone, figure, listOf, listSome, nounOf, percent, plural } from './counts'
import { article, capital, NOUNS, type Noun } from './nouns'

const NAMES = Object.keys(NOUNS) as readonly Noun[]

describe('counts in words', () => {
  it.each([
    [0, '0 deals', 'No deals'],
    [1, '1 deal', '1 deal'],
    [2, '2 deals', '2 deals'],
    [1000, '1,000 deals', '1,000 deals'],
    [1_234_567, '1,234,567 deals', '1,234,567 deals'],
  ])('%i deals', (n, counted, orNone) => {
    expect(count(n, 'deal')).toBe(counted)
    expect(countOrNone(n, 'deal')).toBe(orNone)
  })

  it('agree for every noun: one of it for 1, and many for every other number', () => {
    fc.assert(
      fc.property(fc.constantFrom(...NAMES), fc.nat(10_000), (noun, n) => {
        const { one, many } = NOUNS[noun]
        expect(nounOf(n, noun)).toBe(n === 1 ? one : many)
        expect(count(n, noun)).toBe(`${figure(n)} ${n === 1 ? one : many}`)
        expect(plural(n, 'meets', 'meet')).toBe(n === 1 ? 'meets' : 'meet')
      }),
    )
  })

  it('no noun is its own plural, and none begins with a capital', () => {
    for (const noun of NAMES) {
      expect(NOUNS[noun].one, noun).not.toBe(NOUNS[noun].many)
      expect(NOUNS[noun].one).toBe(NOUNS[noun].one.toLowerCase())
    }
  })
})

describe('figures, shares and lists', () => {
  it('read back as the number that they are', () => {
    fc.assert(
      fc.property(fc.integer({ min: -1e9, max: 1e9 }), (n) => {
        expect(Number(figure(n).replaceAll(',', ''))).toBe(n)
      }),
    )
  })

  it('a share is a whole percentage', () => {
    expect([0, 0.625, 1].map(percent)).toEqual(['0%', '63%', '100%'])
    fc.assert(
      fc.property(fc.float({ min: 0, max: 1, noNaN: true }), (share) => {
        expect(percent(share)).toMatch(/^-?\d{1,3}%$/)
      }),
    )
  })

  it('lists join their last by a word', () => {
    expect(listOf([])).toBe('')
    expect(listOf(['a'])).toBe('a')
    expect(listOf(['a', 'b'])).toBe('a and b')
    expect(listOf(['a', 'b', 'c'], 'or')).toBe('a, b or c')
  })

  it('a long list names its first and counts the others; none is lost', () => {
    const items = fc.array(fc.constantFrom('oven', 'room', 'fridge', 'trailer', 'store'), {
      minLength: 1,
      maxLength: 30,
    })
    fc.assert(
      fc.property(items, fc.integer({ min: 1, max: 5 }), (some, most) => {
        const said = listSome(some, most)
        const named = some.length > most ? most : some.length
        const [, more = '0'] = / and (\d+) more$/.exec(said) ?? []
        expect(named + Number(more)).toBe(some.length)
        expect(said.startsWith(some[0] ?? '')).toBe(true)
      }),
    )
  })
})

describe('words before a noun', () => {
  it.each([
    ['deal', 'a deal'],
    ['email', 'an email'],
    ['hour', 'an hour'],
    ['unit', 'a unit'],
    ['user', 'a user'],
    ['unknown visitor', 'an unknown visitor'],
    ['activity', 'an activity'],
  ])('%s', (noun, said) => expect(article(noun)).toBe(said))

  it('a capital changes the first letter and nothing else', () => {
    expect(capital('close date')).toBe('Close date')
    expect(capital('éclair')).toBe('Éclair')
    expect(capital('')).toBe('')
  })
})
