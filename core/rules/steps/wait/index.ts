import { OBJECTS } from '../../../records/kinds'
import { z } from 'zod'
import { saySkip } from '../../../language/reasons'
import { sayInstant } from '../../../time/say'
import { RECHECK, sayRecheck } from '../../recheck'
import { defineStep } from '../../step'
import { anchorOf, checkWhen, sayWhen, shortWhen, whenAt, zWhen, type When } from '../../when'
import { say, word, extra } from '../../../language/sentence'

interface Params {
  until: When
  /** Whether conditions are asked again before the next step. */
  recheck: boolean
  /** What happens where the date to wait for is empty; the run ends, when left out. */
  whenEmpty?: 'stop' | 'continue' | undefined
}

const WHEN_EMPTY = {
  stop: 'end the run if the date is empty',
  continue: 'continue at once if the date is empty',
} as const

/** Lets time pass. What lies behind it is done then, if it is still wanted. */
export const wait = defineStep<'wait', Params>({
  kind: 'wait',
  category: 'time',
  does: 'wait',
  alsoCalled: ['delay', 'pause', 'later', 'sleep', 'until', 'days', 'office hours'],
  objects: [...OBJECTS, 'none'],
  params: z.strictObject({ until: zWhen, recheck: z.boolean(), whenEmpty: z.enum(['stop', 'continue']).optional() }),
  form: {
    until: { widget: 'when', none: null },
    recheck: RECHECK,
    whenEmpty: {
      widget: 'pick',
      options: [
        { value: 'stop', label: WHEN_EMPTY.stop },
        { value: 'continue', label: WHEN_EMPTY.continue, hint: 'what follows happens at once then' },
      ],
    },
  },
  start: {
    until: { at: 'after', amount: { count: 2, unit: 'workdays' }, minute: null },
    recheck: true,
    whenEmpty: 'stop',
  },
  sentence: ({ until, recheck, whenEmpty = 'stop' }, { object, catalogue }) => [
    say(until.at === 'after' ? 'wait ' : 'wait until '),
    word('until', sayWhen(until, object, catalogue), 'a time'),
    say(', '),
    sayRecheck(recheck),
    ...(until.at === 'field' ? [say(', '), extra('whenEmpty', WHEN_EMPTY[whenEmpty], whenEmpty === 'stop')] : []),
  ],
  check({ until }, { object, catalogue }) {
    const problem = checkWhen(until, object, catalogue)
    return problem ? [{ param: 'until', problem }] : []
  },
  rail: ({ until }) => ({ next: shortWhen(until) }),
  mayWait: () => true,
  waitsFor: ({ until }) => ({ anchor: anchorOf(until), signals: [] }),
  movedTo: ({ until }, { record, moment, catalogue }) => whenAt(until, record.values, record.object, moment, catalogue),
  recheck: ({ recheck }) => (recheck ? null : false),
  over: (_params, how) => ({ say: how === 'byHand' ? 'continued by hand' : '' }),
  run({ until, whenEmpty = 'stop' }, { record, moment, catalogue }) {
    const at = whenAt(until, record.values, record.object, moment, catalogue)
    // Nothing behind a wait comes before its end, unless somebody wanted it so.
    if (typeof at !== 'number')
      return whenEmpty === 'continue' ? { go: 'skip', reason: at.none } : { go: 'stop', because: saySkip(at.none) }
    // A moment that has come already keeps nobody waiting.
    return at <= moment.nowMs
      ? { go: 'on', effects: [], say: `the time was already past (${sayInstant(at, moment.zone)})` }
      : { go: 'wait', dueMs: at, say: '' }
  },
  examples: [
    {
      say: 'waits two working days',
      params: { until: { at: 'after', amount: { count: 2, unit: 'workdays' }, minute: null }, recheck: true },
      expect: { go: 'wait', dueMs: Date.UTC(2026, 10, 26, 9, 12) },
    },
    {
      say: 'waits until before a date',
      params: {
        until: { at: 'field', field: 'closeDate', side: 'before', amount: { count: 1, unit: 'weeks' }, minute: 510 },
        recheck: true,
      },
      record: { closeDate: '2026-12-10' },
      expect: { go: 'wait', dueMs: Date.UTC(2026, 11, 3, 8, 30) },
    },
    {
      say: 'has no date to wait for',
      params: {
        until: { at: 'field', field: 'closeDate', side: 'on', amount: { count: 0, unit: 'days' }, minute: 510 },
        recheck: true,
      },
      record: { closeDate: null },
      expect: { go: 'stop', because: 'Expected close is empty' },
    },
    {
      say: 'goes on at once without a date, where that is wanted',
      params: {
        until: { at: 'field', field: 'closeDate', side: 'on', amount: { count: 0, unit: 'days' }, minute: 510 },
        recheck: true,
        whenEmpty: 'continue',
      },
      record: { closeDate: null },
      expect: { go: 'skip', reason: { code: 'emptyField', field: 'Expected close' } },
    },
    {
      say: 'goes on at once within the hours',
      params: { until: { at: 'hours', from: 540, to: 1020, workdays: true }, recheck: true },
      expect: { go: 'on' },
    },
    {
      say: 'waits for the hours to begin',
      params: { until: { at: 'hours', from: 600, to: 1020, workdays: true }, recheck: true },
      expect: { go: 'wait', dueMs: Date.UTC(2026, 10, 24, 10) },
    },
  ],
})
