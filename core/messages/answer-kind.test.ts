import { describe, expect, it } from 'vitest'
import { answerKind, asksToStop, ownWords, USUAL_PHRASES } from './answer-kind'

const kind = (text: string) => answerKind(text, USUAL_PHRASES)

describe('the kind of an answer', () => {
  it.each([
    ['Yes please, Tuesday suits us.', 'positive', 'yes please'],
    ['No, thank you for asking, but we are not interested.', 'negative', 'not interested'],
    ['NÃO OBRIGADO', 'negative', 'não obrigado'],
    ['How much would a second unit be?', 'question', '?'],
    ['Yesterday we met at the fair.', 'other', null],
    ['', 'other', null],
  ])('“%s” is %s by “%s”', (text, expected, phrase) => {
    expect(kind(text)).toEqual({ kind: expected, phrase })
  })

  it('goes by whole words', () => {
    expect(kind('The eyes have it').kind).toBe('other')
    expect(kind('yes').kind).toBe('positive')
    expect(kind('(yes)').kind).toBe('positive')
  })
})

describe('what somebody wrote themselves', () => {
  it('is without what they quote', () => {
    expect(ownWords('Yes please.\r\n\r\nOn 24 Nov 2026, Rosa Amara wrote:\r\n> Are you not interested?')).toBe(
      'Yes please.',
    )
    expect(ownWords('No.\n\n-----Original message-----\nFrom: rosa@larkmoor.example\nyes')).toBe('No.')
    expect(ownWords('> only quoted')).toBe('> only quoted')
    expect(ownWords('I said: on Monday we wrote:\nmore')).toContain('more')
  })
})

describe('a text message that asks for no more', () => {
  it.each(['STOP', ' stop. ', 'Unsubscribe', 'parar'])('“%s”', (text) => expect(asksToStop(text)).toBe(true))
  it.each(['Please stop by on Monday', 'stop it?', 'no'])('not “%s”', (text) => expect(asksToStop(text)).toBe(false))
})
