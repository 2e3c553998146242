import { z } from 'zod'
import { FIELD_TYPES } from '../../fields/types'
import { quoteValue, word } from '../../rules/sentence'
import { zValue } from '../../rules/values'
import { defineOperator } from '../operator'

export const is = defineOperator({
  op: 'is',
  types: ['text', 'email', 'phone', 'link', 'choice', 'person', 'stage', 'pipeline', 'number', 'currency', 'percent', 'yesNo', 'date'],
  words: ['is', 'is not'],
  params: z.strictObject({ value: zValue }),
  form: { value: { widget: 'value', of: 'field' } },
  start: { value: null },
  sentence: ({ value }, field, catalogue) => [word('value', quoteValue(value, field, catalogue), '…')],
  missing: ({ value }) => (value === null ? ['value'] : []),
  compile({ value }, field) {
    const { key } = FIELD_TYPES[field.type]
    const wanted = value === null ? null : key(value)
    return (given) => wanted !== null && given !== null && key(given) === wanted
  },
  keys: ({ value }, field) => (value === null ? [] : [FIELD_TYPES[field.type].key(value)]),
  examples: [
    { type: 'text', value: 'Bäckerei  Lund', params: { value: 'backerei lund' }, holds: true },
    { type: 'number', value: 7, params: { value: 7 }, holds: true },
    { type: 'choice', value: null, params: { value: 'hire' }, holds: false },
  ],
})
