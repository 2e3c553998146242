import { bad, good, type Problem, type Result } from '../../language/problems'
import { defineFieldType, type FieldType } from '../kind'
import { type Value, TEXT_MOST } from '../../language/value'

interface Given<K extends string> {
  readonly type: K
  readonly word: string
  /** The stored form, or `null` when the text is not of this type. */
  readonly tidy: (raw: string) => string | null
  readonly problem: (raw: string) => Problem
  readonly examples: FieldType['examples']
}

function checkedText<const K extends string>(given: Given<K>): FieldType<K> {
  const read = (raw: string): Result<Value> => {
    const text = raw.trim()
    if (text === '') return good(null)
    if (text.length > TEXT_MOST) return bad({ code: 'tooLong', length: text.length, most: TEXT_MOST })
    const tidy = given.tidy(text)
    return tidy === null ? bad(given.problem(text)) : good(tidy)
  }
  return defineFieldType({
    type: given.type,
    word: given.word,
    storage: 'text',
    widget: 'text',
    read,
    accept: (value) =>
      value === null
        ? good(null)
        : typeof value === 'string'
          ? read(value)
          : bad({ code: 'wrongType', type: given.word }),
    write: (value) => String(value),
    key: (value) => String(value).toLowerCase(),
    ordered: false,
    examples: given.examples,
  })
}

/** Addresses as HTML forms accept them (WHATWG "valid e-mail address"), with at least one dot in the domain. */
export const email = checkedText({
  type: 'email',
  word: 'email',
  tidy: (raw) => (/^[\w.!#$%&'*+/=?^`{|}~-]+@[a-z\d-]+(?:\.[a-z\d-]+)+$/i.test(raw) ? raw.toLowerCase() : null),
  problem: (raw) => ({ code: 'notAnEmail', raw }),
  examples: [
    ['Ana@Larkmoor.example ', 'ana@larkmoor.example'],
    ['', null],
  ],
})

/** Kept as E.164: `+` and 7 to 15 digits (ITU-T E.164). */
export const phone = checkedText({
  type: 'phone',
  word: 'phone',
  tidy: (raw) => {
    const digits = raw.replace(/[\s().-]/g, '').replace(/^00/, '+')
    return /^\+[1-9]\d{6,14}$/.test(digits) ? digits : null
  },
  problem: (raw) => ({ code: 'notAPhone', raw }),
  examples: [
    ['+351 210 000 123', '+351210000123'],
    ['00351210000123', '+351210000123'],
  ],
})

/** Only `http` and `https` addresses, so that a stored link can never run anything. */
export const link = checkedText({
  type: 'link',
  word: 'web address',
  tidy: (raw) => {
    const full = /^[a-z][a-z\d+.-]*:/i.test(raw) ? raw : `https://${raw}`
    if (!URL.canParse(full)) return null
    const url = new URL(full)
    return (url.protocol === 'https:' || url.protocol === 'http:') && url.hostname.includes('.') ? url.href : null
  },
  problem: (raw) => ({ code: 'notALink', raw }),
  examples: [
    ['larkmoor.example', 'https://larkmoor.example/'],
    ['http://a.example/x', 'http://a.example/x'],
  ],
})
