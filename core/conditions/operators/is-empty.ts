import { z } from 'zod'
import { FIELD_TYPE_NAMES } from '../../fields/types'
import { isEmpty as nothingThere } from '../../fields/value'
import { defineOperator } from '../operator'

export const isEmpty = defineOperator({
  op: 'isEmpty',
  types: FIELD_TYPE_NAMES,
  words: ['is empty', 'is filled'],
  params: z.strictObject({}),
  form: {},
  start: {},
  sentence: () => [],
  missing: () => [],
  compile: () => (given) => nothingThere(given),
  asksEmpty: true,
  examples: [
    { type: 'text', value: null, params: {}, holds: true },
    { type: 'number', value: 0, params: {}, holds: false },
    { type: 'yesNo', value: false, params: {}, holds: false },
  ],
})
