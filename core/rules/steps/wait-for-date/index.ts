import { OBJECTS } from '../../../records/kinds'
import { z } from 'zod'
import { say, word } from '../../../language/sentence'
import type { Problem } from '../../../language/problems'
import { sayInstant } from '../../../time/say'
import { RECHECK, sayRecheck } from '../../recheck'
import { defineStep } from '../../step'
import { anchorOf, checkWhen, sayWhen, shortWhen, whenAt, zWhen, type When } from '../../when'

interface Params {
  until: When
  recheck: boolean
}

/** Its two paths as they stand on the sheet. */
const ENDS = ['when that time comes', 'if the date is empty'] as const
const [CAME, EMPTY] = [0, 1]
const OUTCOMES = [
  { id: 'came', label: 'The time came' },
  { id: 'empty', label: 'The date was empty' },
]

/**
 * Lets time pass until a date of the record, with a path of its own for a record that has none, or has none any more.
 */
export const waitForDate = defineStep<'waitForDate', Params>({
  kind: 'waitForDate',
  category: 'time',
  does: 'wait until a date, with a path if it is empty',
  alsoCalled: ['delay', 'until', 'missing date', 'no date', 'empty'],
  objects: OBJECTS,
  params: z.strictObject({ until: zWhen, recheck: z.boolean() }),
  form: {
    until: { widget: 'when', none: null, ways: ['field'] },
    recheck: RECHECK,
  },
  start: {
    until: { at: 'field', field: null, side: 'before', amount: { count: 1, unit: 'weeks' }, minute: 540 },
    recheck: true,
  },
  sentence: ({ until, recheck }, { object, catalogue }) => [
    say('wait until '),
    word('until', sayWhen(until, object, catalogue), 'a date'),
    say(', '),
    sayRecheck(recheck),
  ],
  check({ until }, { object, catalogue }) {
    const problem: Problem | null =
      until.at === 'field' ? checkWhen(until, object, catalogue) : { code: 'missing', what: 'dateField' }
    return problem ? [{ param: 'until', problem }] : []
  },
  rail: ({ until }) => ({ next: shortWhen(until) }),
  mayWait: () => true,
  waitsFor: ({ until }) => ({ anchor: anchorOf(until), signals: [] }),
  movedTo: ({ until }, { record, moment, catalogue }) => whenAt(until, record.values, record.object, moment, catalogue),
  recheck: ({ recheck }) => (recheck ? null : false),
  gives: () => [{ key: 'came', label: 'how the wait ended', type: 'choice', choices: OUTCOMES }],
  over: (_params, how) =>
    how === 'emptied'
      ? { gives: { came: 'empty' }, say: 'the date was cleared' }
      : { gives: { came: 'came' }, say: how === 'byHand' ? 'continued by hand' : '' },
  ways: {
    otherwise: false,
    single: false,
    object: (_params, object) => object,
    begin: (_params, _names, fresh) => ENDS.map(() => ({ id: fresh('b'), steps: [] })),
    misfit: (branches, branch) =>
      branches.length !== ENDS.length
        ? 'A wait for a date has exactly two paths.'
        : branch.when !== undefined || branch.value !== undefined
          ? 'The path of a wait can’t have conditions or a value.'
          : null,
    label: (_branch, index) => ENDS[index] ?? '',
    check: () => [],
    end: (how) => (how === 'emptied' ? EMPTY : CAME),
    whenEmptied: true,
  },
  run({ until }, { record, moment, catalogue }) {
    const at = whenAt(until, record.values, record.object, moment, catalogue)
    if (typeof at !== 'number') return { go: 'on', effects: [], way: EMPTY, gives: { came: 'empty' } }
    // A moment that has come already keeps nobody waiting.
    return at <= moment.nowMs
      ? {
          go: 'on',
          effects: [],
          way: CAME,
          gives: { came: 'came' },
          say: `the time was already past (${sayInstant(at, moment.zone)})`,
        }
      : { go: 'wait', dueMs: at, say: '' }
  },
  examples: [
    {
      say: 'waits until a week before the date',
      params: {
        until: { at: 'field', field: 'closeDate', side: 'before', amount: { count: 1, unit: 'weeks' }, minute: 510 },
        recheck: true,
      },
      record: { closeDate: '2026-12-10' },
      expect: { go: 'wait', dueMs: Date.UTC(2026, 11, 3, 8, 30) },
    },
    {
      say: 'takes the path for an empty date at once',
      params: {
        until: { at: 'field', field: 'closeDate', side: 'on', amount: { count: 0, unit: 'days' }, minute: 510 },
        recheck: true,
      },
      record: { closeDate: null },
      expect: { go: 'on', way: EMPTY },
    },
    {
      say: 'continues at once where the time has passed',
      params: {
        until: { at: 'field', field: 'closeDate', side: 'on', amount: { count: 0, unit: 'days' }, minute: 510 },
        recheck: true,
      },
      record: { closeDate: '2026-10-10' },
      expect: { go: 'on', way: CAME },
    },
  ],
})
