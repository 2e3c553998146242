import { z } from 'zod'
import type { Catalogue } from '../../fields/catalogue'
import type { Field } from '../../fields/field'
import { defineOperator } from '../operator'
import { say, word } from '../../language/sentence'
import { quoteValue, sayValue } from '../../fields/say-value'

const zNumber = z.number().nullable()
const TYPES = ['number', 'currency', 'percent'] as const

const tooLow = (by: number, field: Field, catalogue: Catalogue): string =>
  `${sayValue(Number(by.toFixed(6)), field, catalogue)} below the limit`
const tooHigh = (by: number, field: Field, catalogue: Catalogue): string =>
  `${sayValue(Number(by.toFixed(6)), field, catalogue)} above the limit`

export const moreThan = defineOperator({
  op: 'moreThan',
  types: TYPES,
  words: ['is more than', 'is at most'],
  params: z.strictObject({ value: zNumber }),
  form: { value: { widget: 'value', of: 'field' } },
  start: { value: null },
  sentence: ({ value }, field, catalogue) => [word('value', quoteValue(value, field, catalogue), '…')],
  missing: ({ value }) => (value === null ? ['value'] : []),
  read: ({ value }) => (value === null ? { is: 'never' } : { is: 'range', from: value, to: null, ends: false }),
  distance: (given, { value }, field, catalogue) => {
    if (value === null) return null
    return Number(given) === value
      ? 'exactly at the limit'
      : Number(given) < value
        ? tooLow(value - Number(given), field, catalogue)
        : null
  },
  examples: [
    { type: 'currency', value: 15_000.01, params: { value: 15_000 }, holds: true },
    { type: 'currency', value: 15_000, params: { value: 15_000 }, holds: false },
    { type: 'currency', value: null, params: { value: -1 }, holds: false },
  ],
})

export const lessThan = defineOperator({
  op: 'lessThan',
  types: TYPES,
  words: ['is less than', 'is at least'],
  params: z.strictObject({ value: zNumber }),
  form: { value: { widget: 'value', of: 'field' } },
  start: { value: null },
  sentence: ({ value }, field, catalogue) => [word('value', quoteValue(value, field, catalogue), '…')],
  missing: ({ value }) => (value === null ? ['value'] : []),
  read: ({ value }) => (value === null ? { is: 'never' } : { is: 'range', from: null, to: value, ends: false }),
  distance: (given, { value }, field, catalogue) => {
    if (value === null) return null
    return Number(given) === value
      ? 'exactly at the limit'
      : Number(given) > value
        ? tooHigh(Number(given) - value, field, catalogue)
        : null
  },
  examples: [
    { type: 'number', value: 0, params: { value: 1 }, holds: true },
    { type: 'number', value: 1, params: { value: 1 }, holds: false },
    { type: 'number', value: null, params: { value: 1 }, holds: false },
  ],
})

/** Both ends belong to it. Ends the wrong way round are not swapped silently: nothing lies between them. */
export const between = defineOperator({
  op: 'between',
  types: TYPES,
  words: ['is between', 'is not between'],
  params: z.strictObject({ low: zNumber, high: zNumber }),
  form: { low: { widget: 'value', of: 'field' }, high: { widget: 'value', of: 'field' } },
  start: { low: null, high: null },
  sentence: ({ low, high }, field, catalogue) => [
    word('low', quoteValue(low, field, catalogue), '…'),
    say(' and '),
    word('high', quoteValue(high, field, catalogue), '…'),
  ],
  missing: ({ low, high }) => [
    ...(low === null ? (['low'] as const) : []),
    ...(high === null ? (['high'] as const) : []),
  ],
  read: ({ low, high }) =>
    low === null || high === null ? { is: 'never' } : { is: 'range', from: low, to: high, ends: true },
  distance: (given, { low, high }, field, catalogue) => {
    if (low !== null && Number(given) < low) return tooLow(low - Number(given), field, catalogue)
    return high !== null && Number(given) > high ? tooHigh(Number(given) - high, field, catalogue) : null
  },
  examples: [
    { type: 'number', value: 10, params: { low: 10, high: 20 }, holds: true },
    { type: 'number', value: 20, params: { low: 10, high: 20 }, holds: true },
    { type: 'number', value: 15, params: { low: 20, high: 10 }, holds: false },
  ],
})
