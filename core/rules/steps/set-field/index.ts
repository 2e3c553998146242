import { OBJECTS } from '../../../records/kinds'
import { FIELD_TYPES } from '../../../fields/types'
import { z } from 'zod'
import { sameValue } from '../../../language/value'
import { sayProblem } from '../../../language/problems'
import type { Cause } from '../../../records/record'
import { defineStep, valueOf } from '../../step'
import { checkSource, resolveSource, saySource, zSource, type ValueSource } from '../../value-source'
import { say, word, extra } from '../../../language/sentence'
import { fieldWord, sayValue } from '../../../fields/say-value'

interface Params {
  field: string | null
  source: ValueSource
  /** Leaves a value alone that a person wrote, in the app, over the API or with a file. */ keepByHand?:
    boolean | undefined
}

/** A value that nothing wrote came with the record, from whoever made it: it counts as set by hand. */
const byHand = (cause: Cause | null): boolean => cause === null || cause.by !== 'rule'

export const setField = defineStep<'setField', Params>({
  kind: 'setField',
  category: 'data',
  does: 'set a field',
  alsoCalled: ['update', 'change', 'fill in', 'empty', 'write', 'copy a field'],
  objects: OBJECTS,
  params: z.strictObject({
    field: z.string().max(100).nullable(),
    source: zSource,
    keepByHand: z.boolean().optional(),
  }),
  form: {
    field: { widget: 'field', writable: true },
    source: { widget: 'source', of: 'field' },
    keepByHand: { widget: 'toggle', on: 'unless a person set it', off: 'even if a person set it' },
  },
  start: { field: null, source: { from: 'value', value: null }, keepByHand: false },
  sentence({ field: key, source, keepByHand }, { catalogue, object }) {
    const field = key === null ? null : catalogue.field(object, key)
    const own = word('field', field ? `the ${fieldWord(field)}` : null, 'a field')
    const said = word('source', field ? saySource(source, field, object, catalogue) : null, '…')
    const more = [
      say(', '),
      extra('keepByHand', keepByHand ? 'unless a person set it' : 'even if a person set it', !keepByHand),
    ]
    switch (field ? source.from : 'value') {
      case 'add':
        return FIELD_TYPES[field?.type ?? 'text'].widget === 'number'
          ? [say('change '), own, say(' by '), said, ...more]
          : [say('add '), said, say(' to '), own, ...more]
      case 'empty':
        return [{ param: 'source', text: 'clear' }, say(' '), own, ...more]
      default:
        return [say('set '), own, say(' to '), said, ...more]
    }
  },
  check({ field: key, source }, { catalogue, object }) {
    const field = key === null ? null : catalogue.field(object, key)
    if (!field)
      return [
        {
          param: 'field',
          problem: key === null ? { code: 'missing', what: 'field' } : { code: 'unknownField', field: key },
        },
      ]
    if (field.keptBy)
      return [{ param: 'field', problem: { code: 'readOnly', field: field.label, keptBy: field.keptBy } }]
    const problem = checkSource(source, field, object, catalogue)
    return problem ? [{ param: 'source', problem }] : []
  },
  touches: ({ field, source }, { object }) =>
    field === null
      ? []
      : [
          {
            object,
            field,
            ...(source.from === 'value' ? { value: source.value } : source.from === 'empty' ? { value: null } : {}),
          },
        ],
  run({ field: key, source, keepByHand }, { catalogue, record, moment, setBy, related, linked }) {
    const field = key === null ? null : catalogue.field(record.object, key)
    if (!field) return { go: 'fail', reason: { code: 'unknownField', field: String(key) } }
    const value = resolveSource(source, field, record, moment, related, { catalogue, linked })
    if (!value.ok)
      return {
        go: 'fail',
        reason:
          'fault' in value
            ? { code: 'formula', field: field.label, fault: value.fault }
            : { code: 'refused', reason: sayProblem(value.problem) },
      }
    if ('nothing' in value) return { go: 'skip', reason: { code: 'nothingCame', field: field.label } }
    if (sameValue(valueOf(record, field.key), value.value))
      return { go: 'skip', reason: { code: 'sameValue', field: field.label } }
    if (keepByHand && valueOf(record, field.key) !== null && byHand(setBy(field.key)))
      return {
        go: 'skip',
        reason: {
          code: 'setByHand',
          field: field.label,
          value: sayValue(valueOf(record, field.key), field, catalogue, record.values),
        },
      }
    return {
      go: 'on',
      effects: [
        { effect: 'fields', ref: { object: record.object, id: record.id }, values: { [field.key]: value.value } },
      ],
    }
  },
  examples: [
    {
      say: 'writes a value',
      params: { field: 'amount', source: { from: 'value', value: 5 } },
      record: { amount: 4 },
      expect: { go: 'on', effects: [{ effect: 'fields', ref: { object: 'deal', id: 1 }, values: { amount: 5 } }] },
    },
    {
      say: 'writes today',
      params: { field: 'quoteSentOn', source: { from: 'today' } },
      expect: {
        go: 'on',
        effects: [{ effect: 'fields', ref: { object: 'deal', id: 1 }, values: { quoteSentOn: '2026-11-24' } }],
      },
    },
    {
      say: 'leaves what stands there',
      params: { field: 'amount', source: { from: 'value', value: 4 } },
      record: { amount: 4 },
      expect: { go: 'skip', reason: { code: 'sameValue', field: 'Amount' } },
    },
    {
      say: 'empties',
      params: { field: 'amount', source: { from: 'empty' } },
      record: { amount: 4 },
      expect: { go: 'on', effects: [{ effect: 'fields', ref: { object: 'deal', id: 1 }, values: { amount: null } }] },
    },
    {
      say: 'adds to what stands there',
      params: { field: 'amount', source: { from: 'add', value: 5 } },
      record: { amount: 4 },
      expect: { go: 'on', effects: [{ effect: 'fields', ref: { object: 'deal', id: 1 }, values: { amount: 9 } }] },
    },
    {
      say: 'begins where nothing stands',
      params: { field: 'units', source: { from: 'add', value: -1 } },
      record: { units: null },
      expect: { go: 'on', effects: [{ effect: 'fields', ref: { object: 'deal', id: 1 }, values: { units: -1 } }] },
    },
    {
      say: 'takes a linked record’s value, or nothing',
      params: { field: 'notes', source: { from: 'linked', via: 'company', field: 'name' } },
      record: { notes: 'old' },
      expect: { go: 'on', effects: [{ effect: 'fields', ref: { object: 'deal', id: 1 }, values: { notes: null } }] },
    },
    {
      say: 'leaves what a person set',
      params: { field: 'amount', source: { from: 'value', value: 5 }, keepByHand: true },
      record: { amount: 4 },
      expect: { go: 'skip', reason: { code: 'setByHand', field: 'Amount', value: '€4' } },
    },
    {
      say: 'fills what is empty, also then',
      params: { field: 'amount', source: { from: 'value', value: 5 }, keepByHand: true },
      record: { amount: null },
      expect: { go: 'on', effects: [{ effect: 'fields', ref: { object: 'deal', id: 1 }, values: { amount: 5 } }] },
    },
    {
      say: 'works it out',
      params: { field: 'amount', source: { from: 'formula', text: 'units * 250.5' } },
      record: { amount: 4, units: 3 },
      expect: { go: 'on', effects: [{ effect: 'fields', ref: { object: 'deal', id: 1 }, values: { amount: 751.5 } }] },
    },
    {
      say: 'leaves the field where nothing comes of nothing',
      params: { field: 'amount', source: { from: 'formula', text: 'units * 250' } },
      record: { amount: 4, units: null },
      expect: { go: 'skip', reason: { code: 'nothingCame', field: 'Amount' } },
    },
    {
      say: 'clears it then, where that is wanted',
      params: { field: 'amount', source: { from: 'formula', text: 'units * 250', clears: true } },
      record: { amount: 4, units: null },
      expect: { go: 'on', effects: [{ effect: 'fields', ref: { object: 'deal', id: 1 }, values: { amount: null } }] },
    },
    {
      say: 'fails and clears nothing where it divides by zero',
      params: { field: 'amount', source: { from: 'formula', text: 'amount / units', clears: true } },
      record: { amount: 4, units: 0 },
      expect: { go: 'fail', reason: { code: 'formula', field: 'Amount', fault: { code: 'dividedByZero' } } },
    },
    {
      say: 'fails where a text is no date',
      params: { field: 'quoteSentOn', source: { from: 'formula', text: 'date(notes)' } },
      record: { notes: 'next week' },
      expect: {
        go: 'fail',
        reason: {
          code: 'formula',
          field: 'Quote sent on',
          fault: { code: 'unfit', name: 'date', given: '“next week”' },
        },
      },
    },
    {
      say: 'fails where the result is too large',
      params: { field: 'amount', source: { from: 'formula', text: 'amount ** 400' } },
      record: { amount: 10 },
      expect: { go: 'fail', reason: { code: 'formula', field: 'Amount', fault: { code: 'outOfRange' } } },
    },
    {
      say: 'makes up for what went wrong by itself',
      params: { field: 'amount', source: { from: 'formula', text: 'if units > 0 then amount / units else 1' } },
      record: { amount: 4, units: 0 },
      expect: { go: 'on', effects: [{ effect: 'fields', ref: { object: 'deal', id: 1 }, values: { amount: 1 } }] },
    },
    {
      say: 'a formula that no longer reads',
      params: { field: 'amount', source: { from: 'formula', text: 'gone * 2' } },
      expect: { go: 'fail', reason: { code: 'refused', reason: 'there is no “gone” of a deal' } },
    },
    {
      say: 'a field that has gone',
      params: { field: 'gone', source: { from: 'empty' } },
      expect: { go: 'fail', reason: { code: 'unknownField', field: 'gone' } },
    },
  ],
})
