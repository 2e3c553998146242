import { bad, good, type Result } from '../../language/problems'
import { defineFieldType, type FieldType } from '../kind'
import { foldText, type Value, TEXT_MOST, LONG_TEXT_MOST } from '../../language/value'

function accept(value: Value, most: number, type: string): Result<Value> {
  if (value === null) return good(null)
  if (typeof value !== 'string') return bad({ code: 'wrongType', type })
  const text = value.trim()
  if (text.length > most) return bad({ code: 'tooLong', length: text.length, most })
  return good(text === '' ? null : text)
}

/** A type whose values are texts, up to `most` UTF-16 units. */
export function textType<const K extends string>(given: {
  readonly type: K
  readonly word: string
  readonly most: number
  readonly widget: 'text' | 'longText'
}): FieldType<K> {
  return defineFieldType({
    type: given.type,
    word: given.word,
    storage: 'text',
    widget: given.widget,
    read: (raw) => accept(raw, given.most, given.word),
    accept: (value) => accept(value, given.most, given.word),
    write: (value) => String(value),
    key: (value) => foldText(String(value)),
    ordered: false,
    examples: [
      ['  Larkmoor ', 'Larkmoor'],
      ['   ', null],
      ['<b>not markup</b>', '<b>not markup</b>'],
    ],
  })
}

export const text = textType({ type: 'text', word: 'text', most: TEXT_MOST, widget: 'text' })
export const longText = textType({ type: 'longText', word: 'long text', most: LONG_TEXT_MOST, widget: 'longText' })
