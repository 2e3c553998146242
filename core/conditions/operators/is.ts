import { z } from 'zod'
import { defineOperator } from '../operator'
import { word } from '../../language/sentence'
import { quoteValue } from '../../fields/say-value'
import { zValue } from '../../language/value'

export const is = defineOperator({
  op: 'is',
  types: [
    'text',
    'email',
    'phone',
    'link',
    'choice',
    'person',
    'stage',
    'pipeline',
    'number',
    'currency',
    'percent',
    'yesNo',
    'date',
  ],
  words: ['is', 'is not'],
  params: z.strictObject({ value: zValue }),
  form: { value: { widget: 'value', of: 'field' } },
  start: { value: null },
  sentence: ({ value }, field, catalogue) => [word('value', quoteValue(value, field, catalogue), '…')],
  missing: ({ value }) => (value === null ? ['value'] : []),
  read: ({ value }, field, catalogue) =>
    value === null ? { is: 'never' } : { is: 'oneOf', keys: [catalogue.compared(field, value)] },
  examples: [
    { type: 'text', value: 'Bäckerei  Lund', params: { value: 'backerei lund' }, holds: true },
    { type: 'number', value: 7, params: { value: 7 }, holds: true },
    { type: 'choice', value: null, params: { value: 'hire' }, holds: false },
  ],
})
