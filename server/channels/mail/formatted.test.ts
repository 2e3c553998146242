import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { htmlOf, plainOf } from './formatted'

describe('formatted text', () => {
  it.each([
    ['Good to have you, **Vera**.', 'Good to have you, Vera.'],
    ['*Soon* and `now`', 'Soon and now'],
    ['# Offer\n\nAs agreed.', 'Offer\n\nAs agreed.'],
    ['one\ntwo', 'one\ntwo'],
    ['one\n\n\n\ntwo', 'one\n\ntwo'],
    ['- roof\n- tent', '– roof\n– tent'],
    ['Bring:\n\n3. roof\n4. tent\n\nThank you', 'Bring:\n\n3. roof\n4. tent\n\nThank you'],
    ['- roof\n  - red\n- tent', '– roof\n  – red\n– tent'],
    ['- roof\n\n  of tin\n- tent', '– roof\n  of tin\n– tent'],
    ['[the price list](https://larkmoor.example/prices)', 'the price list (https://larkmoor.example/prices)'],
    ['https://larkmoor.example/prices', 'https://larkmoor.example/prices'],
    ['Write to vera@lima.example', 'Write to vera@lima.example'],
    ['[never](javascript:alert(1))', '[never](javascript:alert(1))'],
    ['![roof](https://larkmoor.example/roof.png)', 'roof'],
    ['```\nas  it is\n```', 'as  it is'],
    ['above\n\n---\n\nbelow', 'above\n\n—\n\nbelow'],
    ['<b>not bold</b> & so on', '<b>not bold</b> & so on'],
    ['', ''],
  ])('%j reads %j', (text, plain) => expect(plainOf(text)).toBe(plain))

  it('loses no word of a letter, whatever stands around it', () => {
    const word = fc.stringMatching(/^[a-z]{1,8}$/)
    const marked = fc.tuple(word, fc.constantFrom('', '*', '**', '`')).map(([text, mark]) => `${mark}${text}${mark}`)
    const line = fc.array(marked, { minLength: 1, maxLength: 5 }).map((words) => words.join(' '))
    const block = fc.tuple(fc.constantFrom('', '- ', '1. ', '> ', '## '), line).map(([mark, text]) => mark + text)
    fc.assert(
      fc.property(fc.array(block, { minLength: 1, maxLength: 6 }), (blocks) => {
        const words = (text: string): readonly string[] => text.match(/[a-z]+/g) ?? []
        expect(words(plainOf(blocks.join('\n\n')))).toEqual(words(blocks.join(' ')))
      }),
    )
  })

  it('makes no code of what was typed, and no link but to the web, an address or a number', () => {
    expect(htmlOf('<img src=x onerror=alert(1)>')).not.toContain('<img')
    expect(htmlOf('[a](javascript:alert(1))')).not.toContain('href')
    expect(htmlOf('[a](tel:+351912000123)')).toContain('href="tel:+351912000123"')
  })
})
