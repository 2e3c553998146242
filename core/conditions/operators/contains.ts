import { z } from 'zod'
import { foldText, zValue } from '../../language/value'
import { defineOperator } from '../operator'
import { word } from '../../language/sentence'
import { quoteValue } from '../../fields/say-value'

export const contains = defineOperator({
  op: 'contains',
  types: ['text', 'longText', 'email', 'phone', 'link'],
  words: ['contains', 'does not contain'],
  params: z.strictObject({ value: zValue }),
  form: { value: { widget: 'value', of: 'field' } },
  start: { value: null },
  sentence: ({ value }, field, catalogue) => [word('value', quoteValue(value, field, catalogue), '…')],
  missing: ({ value }) => (value === null ? ['value'] : []),
  read({ value }) {
    const folded = foldText(String(value ?? ''))
    return folded === '' ? { is: 'never' } : { is: 'contains', folded }
  },
  examples: [
    { type: 'text', value: 'Vaccine fridges, Łódź', params: { value: 'FRIDGES' }, holds: true },
    { type: 'text', value: 'Cold room', params: { value: 'fridge' }, holds: false },
  ],
})

export const includes = defineOperator({
  op: 'includes',
  types: ['choices'],
  words: ['includes', 'doesn’t include'],
  params: z.strictObject({ values: z.array(z.string().max(500)).max(500) }),
  form: { values: { widget: 'values', of: 'field' } },
  start: { values: [] },
  sentence: ({ values }, field, catalogue) => [
    word('values', values.map((value) => quoteValue([value], field, catalogue)).join(' or '), '…'),
  ],
  missing: ({ values }) => (values.length === 0 ? ['values'] : []),
  read: ({ values }) => ({ is: 'includes', ids: values }),
  examples: [
    { type: 'choices', value: ['hire', 'service'], params: { values: ['service'] }, holds: true },
    { type: 'choices', value: ['hire'], params: { values: ['service'] }, holds: false },
  ],
})
