import { z } from 'zod'
import { defineOperator } from '../operator'
import { word } from '../../language/sentence'
import { quoteValue } from '../../fields/say-value'

export const isAnyOf = defineOperator({
  op: 'isAnyOf',
  types: ['choice', 'person', 'stage', 'pipeline', 'text', 'email'],
  words: ['is one of', 'is none of'],
  params: z.strictObject({ values: z.array(z.string().max(500)).max(500) }),
  form: { values: { widget: 'values', of: 'field' } },
  start: { values: [] },
  sentence: ({ values }, field, catalogue) => {
    const said = values.map((value) => quoteValue(value, field, catalogue) ?? '')
    return [
      word(
        'values',
        said.length > 4 ? `${said.slice(0, 3).join(', ')} and ${said.length - 3} more` : said.join(', '),
        '…',
      ),
    ]
  },
  missing: ({ values }) => (values.length === 0 ? ['values'] : []),
  read: ({ values }, field, catalogue) => ({
    is: 'oneOf',
    keys: values.map((value) => catalogue.compared(field, value)),
  }),
  examples: [
    { type: 'choice', value: 'hire', params: { values: ['hire', 'service'] }, holds: true },
    { type: 'choice', value: 'purchase', params: { values: ['hire', 'service'] }, holds: false },
  ],
})
