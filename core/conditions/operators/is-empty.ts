import { z } from 'zod'
import { defineOperator } from '../operator'
import { FIELD_TYPE_NAMES } from '../../language/field-types'

export const isEmpty = defineOperator({
  op: 'isEmpty',
  types: FIELD_TYPE_NAMES,
  words: ['is empty', 'is filled in'],
  params: z.strictObject({}),
  form: {},
  start: {},
  sentence: () => [],
  missing: () => [],
  read: () => ({ is: 'empty' }),
  asksEmpty: true,
  examples: [
    { type: 'text', value: null, params: {}, holds: true },
    { type: 'number', value: 0, params: {}, holds: false },
    { type: 'yesNo', value: false, params: {}, holds: false },
  ],
})
