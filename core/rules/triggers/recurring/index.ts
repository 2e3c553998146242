import { count, listOf } from '../../../language/counts'
import { z } from 'zod'
import { sayMinute, sayZone } from '../../../time/moments'
import {
  nextRecurrence,
  OFF_DAYS,
  readPlain,
  WEEKDAY_WORDS,
  wrongRule,
  type OffDays,
  type Plain,
  type Recurrence,
} from '../../../time/recurrence'
import { OBJECTS, OBJECT_WORDS } from '../../../records/kinds'
import { NO_RECORD } from '../../../records/record'
import { calendarOf, type ClockTrigger } from '../../clock'
import { BY_CLOCK } from '../../../signals/clock'
import { defineTrigger } from '../../trigger'
import { zMinute } from '../../when'
import { say, word, extra } from '../../../language/sentence'

interface Params {
  /** RFC 5545, without its beginning. */
  rule: { rule: string; from: string }
  minute: number
  offDays: OffDays
}

const OFF_WORDS: { readonly [O in OffDays]: string } = {
  keep: 'also on days off',
  next: 'moved to the next working day if it is a day off',
  before: 'moved to the working day before if it is a day off',
  skip: 'skipped on days off',
}
const ordinal = (n: number): string =>
  `${n}${n % 10 === 1 && n !== 11 ? 'st' : n % 10 === 2 && n !== 12 ? 'nd' : n % 10 === 3 && n !== 13 ? 'rd' : 'th'}`

/** "every Thursday", "every 2 months on the 15th", or the rule itself when it says more than words do. */
export function sayRecurrence(rule: string): string {
  const plain = readPlain(rule)
  if (!plain) return rule
  const { every, interval, weekdays, day }: Plain = plain
  const often = interval === 1 ? `every ${every}` : `every ${count(interval, every)}`
  if (every === 'week' && weekdays.length > 0) {
    const days = listOf(weekdays.map((one) => WEEKDAY_WORDS[one]))
    return interval === 1 ? `every ${days}` : `${often} on ${days}`
  }
  return every === 'month' ? `${often} on ${day === 31 ? 'the last day' : `the ${ordinal(day)}`}` : often
}

const recurrenceOf = ({ rule, minute, offDays }: Params): Recurrence => ({ ...rule, minute, offDays })

export const recurring = defineTrigger<'recurring', Params>({
  kind: 'recurring',
  does: 'on a schedule',
  hint: 'Runs for every record that meets the conditions at that time, or once if the rule is about no record. For example every Thursday, or on the first working day of the month.',
  objects: [...OBJECTS, 'none'],
  params: z.strictObject({
    rule: z.strictObject({ rule: z.string().max(500), from: z.iso.date() }),
    minute: zMinute,
    offDays: z.enum(OFF_DAYS),
  }),
  form: {
    rule: { widget: 'recurrence' },
    minute: { widget: 'minute', own: null },
    offDays: { widget: 'pick', options: OFF_DAYS.map((value) => ({ value, label: OFF_WORDS[value] })) },
  },
  start: { rule: { rule: 'FREQ=WEEKLY;BYDAY=MO', from: '2026-01-01' }, minute: 510, offDays: 'keep' },
  sentence: ({ rule, minute, offDays }, { catalogue, object }) => [
    word('rule', sayRecurrence(rule.rule), ''),
    say(' at '),
    word('minute', sayMinute(minute), ''),
    say(` (${sayZone(catalogue.workspace.zone)}), `),
    extra('offDays', OFF_WORDS[offDays], offDays === 'keep'),
    ...(object === 'none' ? [] : [say(`, for all ${OBJECT_WORDS[object].many} that meet the conditions`)]),
  ],
  check({ rule }) {
    const wrong = wrongRule(rule.rule, rule.from)
    return wrong === null ? [] : [{ param: 'rule', problem: { code: 'recurrence', said: wrong } }]
  },
  listen: () => [BY_CLOCK],
  compile: () => () => false,
  clock(params, { object }, conditions): ClockTrigger {
    const recurrence = recurrenceOf(params)
    const said = sayRecurrence(params.rule.rule)
    const next: ClockTrigger['next'] = (records, afterMs) => {
      const catalogue = records.catalogue()
      return nextRecurrence(recurrence, afterMs, catalogue.workspace.zone, calendarOf(catalogue))
    }
    return {
      fields: [],
      zone: 'workspace',
      next,
      due(records, atMs, afterId, limit) {
        const ids = object === 'none' ? [NO_RECORD.id] : records.matching(object, conditions, afterId, limit)
        const because = `it runs ${said} at ${sayMinute(recurrence.minute)}`
        return {
          starts: ids.map((id) => ({ ref: { object, id }, occurrence: `every:${atMs}`, because, coming: because })),
          last: ids.length < limit ? null : (ids.at(-1) ?? null),
        }
      },
      momentOf: (records, _record, afterMs) => next(records, afterMs),
    }
  },
  because: () => 'its scheduled time was reached',
  examples: [
    {
      say: 'a change starts nothing',
      object: 'deal',
      params: { rule: { rule: 'FREQ=WEEKLY;BYDAY=TH', from: '2026-01-01' }, minute: 930, offDays: 'next' },
      event: { kind: 'changed', changes: [] },
      starts: false,
    },
  ],
})
