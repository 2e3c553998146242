import { describe, expect, it } from 'vitest'
import { Linter } from 'eslint'
import { plainWords, wentIn } from './plain-words.mjs'

describe('a word that went', () => {
  it.each([
    ['There is nobody to tell', 'nobody'],
    ['Somebody else saved this', 'Somebody'],
    ['has no deal such that it is open', 'such that'],
    ['sent by mail as well', 'by mail'],
    ['what was taken back may go again', 'taken back'],
    ['Nothing mended yet', 'mended'],
  ])('is found in “%s”', (text, word) => expect(wentIn(text)?.word).toBe(word))
  it.each([
    ['No one has tasks yet.'],
    // A name of the code is no text.
    ['nobody'],
    ['the mail server does not answer'],
    ['a recommendation'],
    ['amends'],
    [''],
  ])('is not found in “%s”', (text) => expect(wentIn(text)).toBeNull())
})

describe('lint', () => {
  const look = (code: string) =>
    new Linter().verify(code, {
      plugins: { words: { rules: { plain: plainWords } } },
      rules: { 'words/plain': 'error' },
    })
  it('names the word and what stands there now, in texts and in pieces of them', () => {
    expect(look(`const said = 'There is nobody'`).map(({ message }) => message)).toEqual([
      '“nobody” went from our texts: no one.',
    ])
    expect(look('const said = `${name} was told by mail`').map(({ line, message }) => [line, message])).toEqual([
      [1, '“by mail” went from our texts: email.'],
    ])
  })
  it('leaves comments and code alone', () => {
    expect(look(`// nobody knows\nconst nobody = { code: 'nobody' }`)).toEqual([])
  })
})
