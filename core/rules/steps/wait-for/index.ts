import { z } from 'zod'
import { say, word, type SentencePart } from '../../../language/sentence'
import { isEmpty, type Value, zValue } from '../../../language/value'
import { fieldWord, quoteValue } from '../../../fields/say-value'
import type { FieldChange } from '../../../records/record'
import { oneOf } from '../../../records/kinds'
import type { Names } from '../../../fields/names'
import { onField } from '../../../signals/field'
import { defineAwait } from '../awaiting'

const HOW = ['changes', 'to', 'filled', 'emptied'] as const
type How = (typeof HOW)[number]
const HOW_WORDS: { readonly [H in How]: string } = {
  changes: 'changes',
  to: 'becomes',
  filled: 'is filled in',
  emptied: 'is cleared',
}

interface Params {
  field: string | null
  how: How
  to: Value
}

/** Whether a change of the field is the one that is waited for. */
function wanted({ how, to }: Params, change: FieldChange, { catalogue, object }: Names): boolean {
  if (how === 'changes') return true
  if (how === 'filled') return isEmpty(change.old) && !isEmpty(change.new)
  if (how === 'emptied') return isEmpty(change.new)
  const field = catalogue.field(object, change.field)
  return (
    field !== null && !isEmpty(change.new) && catalogue.compared(field, change.new) === catalogue.compared(field, to)
  )
}

/** Lets time pass until a field of the record changes. */
export const waitFor = defineAwait<'waitFor', Params>({
  kind: 'waitFor',
  does: 'wait until a field changes',
  alsoCalled: ['answer', 'becomes', 'something happens', 'stage'],
  params: z.strictObject({ field: z.string().max(100).nullable(), how: z.enum(HOW), to: zValue }),
  form: {
    field: { widget: 'field', writable: false },
    how: {
      label: 'Change to wait for',
      widget: 'pick',
      options: HOW.map((value) => ({ value, label: HOW_WORDS[value] })),
    },
    to: { widget: 'value', of: 'field' },
  },
  start: { field: null, how: 'to', to: null },
  sentence({ field: key, how, to }, { catalogue, object }) {
    const field = key === null ? null : catalogue.field(object, key)
    const parts: SentencePart[] = [
      say(`the ${oneOf(object)}’s `),
      word('field', fieldWord(field), 'field'),
      say(' '),
      word('how', HOW_WORDS[how], ''),
    ]
    if (how === 'to') parts.push(say(' '), word('to', field ? quoteValue(to, field, catalogue) : null, '…'))
    return parts
  },
  check({ field: key, how, to }, { catalogue, object }) {
    const field = key === null ? null : catalogue.field(object, key)
    if (!field)
      return [
        {
          param: 'field',
          problem: key === null ? { code: 'missing', what: 'field' } : { code: 'unknownField', field: key },
        },
      ]
    return how === 'to' && isEmpty(to) ? [{ param: 'to', problem: { code: 'missing', what: 'value' } }] : []
  },
  signals: ({ field }) => (field === null ? [] : [onField(field)]),
  comes: (params, event, names) =>
    event.changes.some((change) => change.field === params.field && wanted(params, change, names)),
  examples: [
    {
      say: 'waits two working days at most',
      params: { field: 'stage', how: 'to', to: 'hp-terms', most: { count: 2, unit: 'workdays' }, recheck: true },
      expect: { go: 'wait', dueMs: Date.UTC(2026, 10, 26, 9, 12) },
    },
    {
      say: 'waiting, no time limit',
      params: { field: 'amount', how: 'filled', to: null, most: { count: 0, unit: 'days' }, recheck: false },
      expect: { go: 'wait', dueMs: null },
    },
  ],
})
