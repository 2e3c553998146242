import { describe, expect, it } from 'vitest'
import { hasVariant, variantFor, zGivenTemplate } from './template'

const variant = (language: string, text = language || 'everyone') => ({ language, subject: 'S', text })
const template = { variants: [variant(''), variant('Polish'), variant('Português')] }

describe('the text of a template for somebody', () => {
  it.each<readonly [readonly (string | null)[], string]>([
    [['Polish'], 'Polish'],
    [['polish'], 'Polish'],
    [['portugues'], 'Português'],
    [['French'], 'everyone'],
    [['French', 'Polish'], 'Polish'],
    [[null], 'everyone'],
    [[''], 'everyone'],
    [[], 'everyone'],
  ])('who has %j is that of %s', (languages, text) => {
    expect(variantFor(template, ...languages).text).toBe(text)
  })

  it('is empty where there is none at all', () => {
    expect(variantFor({ variants: [] }, 'Polish')).toEqual({ language: '', subject: '', text: '' })
  })

  it('is there in a language, or is not', () => {
    expect(hasVariant(template, 'POLISH')).toBe(true)
    expect(hasVariant(template, 'French')).toBe(false)
  })
})

describe('a template that is given', () => {
  const given = { name: ' Welcome ', channel: 'mail', variants: [variant(''), variant('Polish')] }
  const problem = (change: object) => {
    const read = zGivenTemplate.safeParse({ ...given, ...change })
    return read.success
      ? null
      : read.error.issues.map(({ path, message }) => `${path.join('.')}: ${message}`).join('; ')
  }

  it('is read, without blanks around its name', () => {
    expect(zGivenTemplate.parse(given)).toMatchObject({ name: 'Welcome', folder: '' })
  })

  it('has a first text for everyone', () => {
    expect(problem({ variants: [variant('Polish')] })).toBe(
      'variants.0.language: The first text is for everyone who has none of their own.',
    )
  })

  it('has one text for a language, however that is written', () => {
    expect(problem({ variants: [variant(''), variant('Polish'), variant('polish')] })).toBe(
      'variants: There are two texts for one language.',
    )
  })

  it.each([
    ['no name', { name: ' ' }],
    ['no text', { variants: [] }],
    ['a channel that is none', { channel: 'pigeon' }],
    ['a subject that is too long', { variants: [{ ...variant(''), subject: 'x'.repeat(201) }] }],
    ['a text that is too long', { variants: [{ ...variant(''), text: 'x'.repeat(10_001) }] }],
    ['something else', { colour: 'red' }],
  ])('is refused with %s', (_, change) => {
    expect(problem(change)).not.toBeNull()
  })
})
