import { z } from 'zod'
import type { Catalogue } from '../../../fields/catalogue'
import type { Field } from '../../../fields/field'
import { FIELD_TYPES } from '../../../fields/types'
import { isEmpty, type Value, type Values, zValue } from '../../../language/value'
import { isForeign, worthIn } from '../../../money/worth'
import type { FieldChange } from '../../../records/record'
import { valuesBefore } from '../../../records/subject'
import { standsBy } from '../../standing'
import { defineTrigger } from '../../trigger'
import type { Listen } from '../../../signals'
import { onField, onValue } from '../../../signals/field'
import { say, word, type SentencePart } from '../../../language/sentence'
import { OBJECTS, aOne } from '../../../records/kinds'
import { fieldWord, quoteValue, sayValue } from '../../../fields/say-value'

const HOW = ['anything', 'to', 'fromTo', 'filled', 'emptied', 'up', 'down', 'past', 'below'] as const
type How = (typeof HOW)[number]

const HOW_WORDS: { readonly [K in How]: string } = {
  anything: 'changes',
  to: 'becomes',
  fromTo: 'changes from',
  filled: 'is filled in',
  emptied: 'is cleared',
  up: 'goes up',
  down: 'goes down',
  past: 'rises above',
  below: 'falls below',
}

/** For values that have an order. */
const ORDERED: ReadonlySet<How> = new Set<How>(['up', 'down', 'past', 'below'])

/** Those that look at how much it is, and not only at whether there is something. */
const COMPARING: ReadonlySet<How> = new Set<How>([...ORDERED, 'to', 'fromTo'])

interface Params {
  field: string | null
  how: How
  from: Value
  to: Value
}

/** What a field was and is worth: an amount in the workspace's currency, whose code may have changed along with it. */
function worthChange(field: Field, catalogue: Catalogue) {
  const worth = worthIn(field, catalogue)
  return (changes: readonly FieldChange[], values: Values): FieldChange | null => {
    const own = changes.find((change) => change.field === field.key)
    if (!isForeign(field)) return own ?? null
    if (!own && !changes.some((change) => change.field === field.currencyKey)) return null
    const now = { ...values, ...Object.fromEntries(changes.map((change) => [change.field, change.new])) }
    const made = { field: field.key, old: worth(valuesBefore(now, changes)), new: worth(now) }
    return (own ?? made.old !== made.new) ? made : null
  }
}

/** Whether one change of the field is the wanted one. Up and down need a value on both sides. */
function wants({ how, from, to }: Params, field: Field, catalogue: Catalogue): (change: FieldChange) => boolean {
  const key = (value: Value) => catalogue.compared(field, value)
  const same = (a: Value, b: Value) => (isEmpty(a) || isEmpty(b) ? isEmpty(a) && isEmpty(b) : key(a) === key(b))
  switch (how) {
    case 'anything':
      return () => true
    case 'to':
      return (change) => same(change.new, to) && !same(change.old, to)
    case 'fromTo':
      return (change) => same(change.old, from) && same(change.new, to)
    case 'filled':
      return (change) => isEmpty(change.old) && !isEmpty(change.new)
    case 'emptied':
      return (change) => !isEmpty(change.old) && isEmpty(change.new)
    case 'up':
      return (change) => !isEmpty(change.old) && !isEmpty(change.new) && key(change.new) > key(change.old)
    case 'down':
      return (change) => !isEmpty(change.old) && !isEmpty(change.new) && key(change.new) < key(change.old)
    // Having had no value is not having been beyond it.
    case 'past':
      return (change) =>
        !isEmpty(to) &&
        !isEmpty(change.new) &&
        key(change.new) > key(to) &&
        (isEmpty(change.old) || key(change.old) <= key(to))
    case 'below':
      return (change) =>
        !isEmpty(to) &&
        !isEmpty(change.new) &&
        key(change.new) < key(to) &&
        (isEmpty(change.old) || key(change.old) >= key(to))
  }
}

export const fieldChanges = defineTrigger<'fieldChanges', Params>({
  kind: 'fieldChanges',
  does: 'a field changes',
  hint: 'A field of an existing record. Creating a record and saving the same value don’t count.',
  objects: OBJECTS,
  params: z.strictObject({ field: z.string().max(100).nullable(), how: z.enum(HOW), from: zValue, to: zValue }),
  form: {
    field: { widget: 'field', writable: false },
    how: {
      widget: 'pick',
      options: HOW.map((value) => ({
        value,
        label: HOW_WORDS[value],
        ...(ORDERED.has(value) ? { hint: 'for numbers and dates' } : {}),
      })),
    },
    from: { widget: 'value', of: 'field' },
    to: { widget: 'value', of: 'field' },
  },
  start: { field: null, how: 'anything', from: null, to: null },
  sentence({ field: key, how, from, to }, { catalogue, object }) {
    const field = key === null ? null : catalogue.field(object, key)
    const parts: SentencePart[] = [
      say(`${aOne(object)}’s `),
      word('field', fieldWord(field), 'field'),
      say(' '),
      word('how', HOW_WORDS[how], ''),
    ]
    const value = (param: 'from' | 'to', given: Value) =>
      word(param, field ? quoteValue(given, field, catalogue) : null, '…')
    if (how === 'to' || how === 'past' || how === 'below') parts.push(say(' '), value('to', to))
    if (how === 'fromTo') parts.push(say(' '), value('from', from), say(' to '), value('to', to))
    return parts
  },
  check({ field: key, how, from, to }, { catalogue, object }) {
    const field = key === null ? null : catalogue.field(object, key)
    if (!field)
      return [
        {
          param: 'field',
          problem: key === null ? { code: 'missing', what: 'field' } : { code: 'unknownField', field: key },
        },
      ]
    if (ORDERED.has(how) && !FIELD_TYPES[field.type].ordered) {
      return [
        { param: 'how', problem: { code: 'unknownOperator', op: HOW_WORDS[how], type: FIELD_TYPES[field.type].word } },
      ]
    }
    if ((how === 'past' || how === 'below') && isEmpty(to))
      return [{ param: 'to', problem: { code: 'missing', what: 'limit' } }]
    if ((how === 'to' || how === 'fromTo') && isEmpty(to))
      return [{ param: 'to', problem: { code: 'missing', what: 'newValue' } }]
    return how === 'fromTo' && isEmpty(from) ? [{ param: 'from', problem: { code: 'missing', what: 'oldValue' } }] : []
  },
  listen({ field: key, how, to }, { catalogue, object }): readonly Listen[] {
    const field = key === null ? null : catalogue.field(object, key)
    if (!field) return []
    if (isForeign(field) && COMPARING.has(how))
      return [onField(field.key), ...(field.currencyKey === null ? [] : [onField(field.currencyKey)])]
    return (how === 'to' || how === 'fromTo') && !isEmpty(to)
      ? [onValue(field.key, catalogue.compared(field, to))]
      : [onField(field.key)]
  },
  compile(params, { catalogue, object }) {
    const field = params.field === null ? null : catalogue.field(object, params.field)
    if (!field) return () => false
    const wanted = wants(params, field, catalogue)
    if (!isForeign(field) || !COMPARING.has(params.how))
      return (event) =>
        event.kind === 'changed' && event.changes.some((change) => change.field === field.key && wanted(change))
    const worth = worthChange(field, catalogue)
    return (event, _past, held) => {
      const change = event.kind === 'changed' ? worth(event.changes, held?.() ?? {}) : null
      return change !== null && wanted(change)
    }
  },
  stands({ field: key, how, to }, { catalogue, object }) {
    const field = key === null ? null : catalogue.field(object, key)
    if (!field) return null
    const word = fieldWord(field)
    const value = quoteValue(to, field, catalogue) ?? ''
    const isDate = field.type === 'date' || field.type === 'dateTime'
    switch (how) {
      case 'to':
      case 'fromTo':
        return standsBy(field, 'is', { value: to }, { say: `with ${word} ${value}` })
      case 'filled':
        return standsBy(field, 'isEmpty', {}, { not: true, say: `with ${word} filled in` })
      case 'emptied':
        return standsBy(field, 'isEmpty', {}, { say: `with an empty ${word}` })
      case 'past':
        return standsBy(field, isDate ? 'after' : 'moreThan', isDate ? { date: to } : { value: to }, {
          say: `with ${word} above ${value}`,
        })
      case 'below':
        return standsBy(field, isDate ? 'before' : 'lessThan', isDate ? { date: to } : { value: to }, {
          say: `with ${word} below ${value}`,
        })
      default:
        return null
    }
  },
  after: ({ field, how, to }): Values =>
    field !== null && (how === 'to' || how === 'fromTo') && !isEmpty(to)
      ? { [field]: to }
      : field !== null && how === 'emptied'
        ? { [field]: null }
        : {},
  because({ field: key }, event, { catalogue, object }, held) {
    const field = key === null ? null : catalogue.field(object, key)
    const change = event.changes.find((one) => one.field === key || one.field === field?.currencyKey)
    if (!field || !change) return 'a field changed'
    const now = { ...held?.(), ...Object.fromEntries(event.changes.map((one) => [one.field, one.new])) }
    const [old, fresh] = [valuesBefore(now, event.changes), now].map((values) =>
      sayValue(values[field.key] ?? null, field, catalogue, values),
    )
    return `${fieldWord(field)} changed from ${old} to ${fresh}`
  },
  examples: [
    {
      say: 'anything',
      object: 'deal',
      params: { field: 'amount', how: 'anything', from: null, to: null },
      event: { kind: 'changed', changes: [{ field: 'amount', old: 1, new: 2 }] },
      starts: true,
    },
    {
      say: 'creation is not a change',
      object: 'deal',
      params: { field: 'amount', how: 'anything', from: null, to: null },
      event: { kind: 'created', changes: [{ field: 'amount', old: null, new: 2 }] },
      starts: false,
    },
    {
      say: 'to a value',
      object: 'deal',
      params: { field: 'kind', how: 'to', from: null, to: 'hire' },
      event: { kind: 'changed', changes: [{ field: 'kind', old: 'purchase', new: 'hire' }] },
      starts: true,
    },
    {
      say: 'from a value to another',
      object: 'deal',
      params: { field: 'kind', how: 'fromTo', from: 'purchase', to: 'hire' },
      event: { kind: 'changed', changes: [{ field: 'kind', old: 'service', new: 'hire' }] },
      starts: false,
    },
    {
      say: 'filled',
      object: 'deal',
      params: { field: 'amount', how: 'filled', from: null, to: null },
      event: { kind: 'changed', changes: [{ field: 'amount', old: null, new: 0 }] },
      starts: true,
    },
    {
      say: 'emptied',
      object: 'deal',
      params: { field: 'amount', how: 'emptied', from: null, to: null },
      event: { kind: 'changed', changes: [{ field: 'amount', old: 5, new: null }] },
      starts: true,
    },
    {
      say: 'up from empty is not up',
      object: 'deal',
      params: { field: 'amount', how: 'up', from: null, to: null },
      event: { kind: 'changed', changes: [{ field: 'amount', old: null, new: 5 }] },
      starts: false,
    },
    {
      say: 'down',
      object: 'deal',
      params: { field: 'closeDate', how: 'down', from: null, to: null },
      event: { kind: 'changed', changes: [{ field: 'closeDate', old: '2026-12-01', new: '2026-11-30' }] },
      starts: true,
    },
    {
      say: 'past a number',
      object: 'deal',
      params: { field: 'amount', how: 'past', from: null, to: 40_000 },
      event: { kind: 'changed', changes: [{ field: 'amount', old: 40_000, new: 40_001 }] },
      starts: true,
    },
    {
      say: 'past it already',
      object: 'deal',
      params: { field: 'amount', how: 'past', from: null, to: 40_000 },
      event: { kind: 'changed', changes: [{ field: 'amount', old: 50_000, new: 60_000 }] },
      starts: false,
    },
    {
      say: 'past it from nothing',
      object: 'deal',
      params: { field: 'amount', how: 'past', from: null, to: 40_000 },
      event: { kind: 'changed', changes: [{ field: 'amount', old: null, new: 50_000 }] },
      starts: true,
    },
    {
      say: 'below a number',
      object: 'deal',
      params: { field: 'amount', how: 'below', from: null, to: 40_000 },
      event: { kind: 'changed', changes: [{ field: 'amount', old: 40_000, new: 39_999.5 }] },
      starts: true,
    },
    {
      say: 'not below it yet',
      object: 'deal',
      params: { field: 'amount', how: 'below', from: null, to: 40_000 },
      event: { kind: 'changed', changes: [{ field: 'amount', old: 50_000, new: 40_000 }] },
      starts: false,
    },
    {
      say: 'another field',
      object: 'deal',
      params: { field: 'amount', how: 'anything', from: null, to: null },
      event: { kind: 'changed', changes: [{ field: 'kind', old: null, new: 'hire' }] },
      starts: false,
    },
  ],
})
