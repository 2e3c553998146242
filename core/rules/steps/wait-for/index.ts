import { z } from 'zod'
import { isEmpty, type Value, zValue } from '../../../language/value'
import { zCount } from '../../when'
import { fromInstant, MOMENT_UNITS, sayCount } from '../../../time/moments'
import { defineStep } from '../../step'
import { say, word, type SentencePart, extra } from '../../../language/sentence'
import { oneOf } from '../../../records/kinds'
import { fieldWord, quoteValue } from '../../../fields/say-value'

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
  /** The longest it waits; 0 for as long as it takes. */
  most: z.infer<typeof zCount>
  recheck: boolean
}

const OUTCOMES = [
  { id: 'came', label: 'It happened' },
  { id: 'ranOut', label: 'Time limit reached' },
]

/** Its two ends as they stand on the sheet. */
const ENDS = ['if it happens', 'if the time limit is reached'] as const

/**
 * Lets time pass until a field of the record changes, or at most so long. Only what changes behind its beginning
 * counts.
 */
export const waitFor = defineStep<'waitFor', Params>({
  kind: 'waitFor',
  hue: 'time',
  does: 'wait until something happens',
  alsoCalled: ['until', 'answer', 'becomes', 'event', 'timeout', 'at most'],
  objects: ['deal', 'contact', 'company'],
  params: z.strictObject({
    field: z.string().max(100).nullable(),
    how: z.enum(HOW),
    to: zValue,
    most: zCount,
    recheck: z.boolean(),
  }),
  form: {
    field: { widget: 'field', writable: false },
    how: {
      label: 'Change to wait for',
      widget: 'pick',
      options: HOW.map((value) => ({ value, label: HOW_WORDS[value] })),
    },
    to: { widget: 'value', of: 'field' },
    most: { widget: 'amount', min: 0, max: 3650, units: MOMENT_UNITS, note: '0 means no time limit.' },
    recheck: {
      widget: 'toggle',
      on: 'then continue only if the conditions are still true',
      off: 'then continue in any case',
    },
  },
  start: { field: null, how: 'to', to: null, most: { count: 2, unit: 'workdays' }, recheck: true },
  sentence({ field: key, how, to, most, recheck }, { catalogue, object }) {
    const field = key === null ? null : catalogue.field(object, key)
    const parts: SentencePart[] = [
      say(`wait until the ${oneOf(object)}’s `),
      word('field', fieldWord(field), 'field'),
      say(' '),
      word('how', HOW_WORDS[how], ''),
    ]
    if (how === 'to') parts.push(say(' '), word('to', field ? quoteValue(to, field, catalogue) : null, '…'))
    parts.push(
      say(', '),
      word('most', most.count === 0 ? 'with no time limit' : `for at most ${sayCount(most.count, most.unit)}`, ''),
      say(', '),
      extra(
        'recheck',
        recheck ? 'then continue only if the conditions are still true' : 'then continue in any case',
        recheck,
      ),
    )
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
  rail: ({ most }) => ({ next: most.count === 0 ? 'then' : `up to ${sayCount(most.count, most.unit)}` }),
  mayWait: () => true,
  waitsFor: ({ field }) => ({ anchor: null, awaited: field }),
  comes({ how, to }, change, { catalogue, object }) {
    if (how === 'changes') return true
    if (how === 'filled') return isEmpty(change.old) && !isEmpty(change.new)
    if (how === 'emptied') return isEmpty(change.new)
    const field = catalogue.field(object, change.field)
    return (
      field !== null && !isEmpty(change.new) && catalogue.compared(field, change.new) === catalogue.compared(field, to)
    )
  },
  recheck: ({ recheck }) => (recheck ? null : false),
  ways: {
    otherwise: false,
    single: false,
    object: (_params, object) => object,
    begin: (_params, _names, fresh) => [
      { id: fresh('b'), steps: [] },
      { id: fresh('b'), steps: [] },
    ],
    misfit: (branches, branch) =>
      branches.length !== ENDS.length
        ? 'A wait has exactly two paths, one for each end.'
        : branch.when !== undefined || branch.value !== undefined
          ? 'The path of a wait can’t have conditions or a value.'
          : null,
    label: (_branch, index) => ENDS[index] ?? '',
    check: (branch, index, _branches, { most }) =>
      index === 1 && branch.steps.length > 0 && most.count === 0 ? [{ code: 'noTimeLimit' }] : [],
    end: (how) => (how === 'came' ? 0 : 1),
  },
  gives: () => [{ key: 'came', label: 'how the wait ended', type: 'choice', choices: OUTCOMES }],
  over: (_params, how) =>
    how === 'came'
      ? { gives: { came: 'came' }, say: 'it happened' }
      : { gives: { came: 'ranOut' }, say: how === 'due' ? 'time limit reached' : 'continued by hand' },
  run: ({ most }, { moment }) => ({
    go: 'wait',
    dueMs: most.count === 0 ? null : fromInstant(moment.nowMs, { ...most, minute: null }, moment.zone, moment.calendar),
    say: '',
  }),
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
