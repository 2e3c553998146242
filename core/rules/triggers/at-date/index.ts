import { listOf } from '../../../language/counts'
import { z } from 'zod'
import { MOMENT_UNITS, sayCount, sayMinute, sayZone, type Leap } from '../../../time/moments'
import { ZONE_OF, ZONE_WORDS, type ZoneOf } from '../../clock'
import { clockOfDate, type DateMoments } from '../../date-moments'
import { BY_CLOCK } from '../../../signals/clock'
import { defineTrigger } from '../../trigger'
import { SIDES, zCount, zMinute, type Side } from '../../when'
import { say, word, type SentencePart, extra } from '../../../language/sentence'
import { OBJECTS, oneOf } from '../../../records/kinds'
import type { Names } from '../../../fields/names'
import { fieldWord } from '../../../fields/say-value'

interface Params {
  field: string | null
  side: Side
  amount: z.infer<typeof zCount>
  /** Minutes from midnight; `null` for the time of day that the field itself holds. */
  minute: number | null
  zone: ZoneOf
  every: 'once' | 'month' | 'year'
  leap: Leap
  months: number[]
  weekdays: number[]
}

export const MONTHS = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
] as const
export const DAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'] as const
const EVERY_WORDS = { once: 'once', month: 'then every month', year: 'then every year' } as const
const SIDE_WORDS: { readonly [S in Side]: string } = { before: 'before', on: 'on', after: 'after' }
const some = (numbers: readonly number[], names: readonly string[]): string =>
  listOf(
    numbers.flatMap((n) => names[n - 1] ?? []),
    'or',
  )
const exact = (unit: Params['amount']['unit']): boolean => unit === 'minutes' || unit === 'hours'
const DATES = ['date', 'dateTime'] as const

/** "Lisbon" of "Europe/Lisbon". */
const fieldOf = ({ field }: Params, { catalogue, object }: Names) =>
  field === null ? null : catalogue.field(object, field)

export const atDate = defineTrigger<'atDate', Params>({
  kind: 'atDate',
  does: 'before, on or after a date',
  hint: 'Counts from a date field. If the date changes, the rule moves with it. Dates already past don’t trigger it.',
  objects: OBJECTS,
  params: z.strictObject({
    field: z.string().max(100).nullable(),
    side: z.enum(SIDES),
    amount: zCount,
    minute: zMinute.nullable(),
    zone: z.enum(ZONE_OF),
    every: z.enum(['once', 'month', 'year']),
    leap: z.enum(['feb28', 'mar1']),
    months: z.array(z.int().min(1).max(12)).max(12),
    weekdays: z.array(z.int().min(1).max(7)).max(7),
  }),
  form: {
    field: { widget: 'field', writable: false, types: DATES },
    side: {
      widget: 'pick',
      options: [
        { value: 'before', label: 'before the date' },
        { value: 'on', label: 'on the date' },
        { value: 'after', label: 'after the date' },
      ],
    },
    amount: {
      widget: 'amount',
      min: 0,
      max: 3650,
      units: MOMENT_UNITS,
      note: 'One month before 31 March is 28 or 29 February. Minutes and hours need a field with a time.',
    },
    minute: { widget: 'minute', own: 'at the time in the field' },
    zone: {
      widget: 'pick',
      options: ZONE_OF.map((value) => ({
        value,
        label: ZONE_WORDS[value],
        hint: value === 'workspace' ? '' : 'workspace time if the time zone is unknown',
      })),
    },
    every: {
      widget: 'pick',
      options: [
        { value: 'once', label: EVERY_WORDS.once },
        { value: 'month', label: 'every month', hint: 'on the same day of the month' },
        { value: 'year', label: 'every year', hint: 'for example birthdays' },
      ],
    },
    leap: {
      widget: 'pick',
      options: [
        { value: 'feb28', label: '28 February in other years', hint: 'for 29 February' },
        { value: 'mar1', label: '1 March in other years', hint: 'for 29 February' },
      ],
    },
    months: { widget: 'several', options: MONTHS.map((label, i) => ({ value: i + 1, label })), none: 'any month' },
    weekdays: { widget: 'several', options: DAYS.map((label, i) => ({ value: i + 1, label })), none: 'any weekday' },
  },
  start: {
    field: null,
    side: 'before',
    amount: { count: 7, unit: 'days' },
    minute: 510,
    zone: 'workspace',
    every: 'once',
    leap: 'feb28',
    months: [],
    weekdays: [],
  },
  sentence(params, names) {
    const { side, amount, minute, zone, every, leap, months, weekdays } = params
    const field = fieldOf(params, names)
    const parts: SentencePart[] =
      side === 'on'
        ? [word('side', SIDE_WORDS.on, '')]
        : [word('amount', sayCount(amount.count, amount.unit), ''), say(' '), word('side', SIDE_WORDS[side], '')]
    parts.push(say(` a ${oneOf(names.object)}’s `), word('field', fieldWord(field), 'date'))
    if (side === 'on' || !exact(amount.unit))
      parts.push(
        say(', '),
        word('minute', minute === null ? 'at the time in the field' : `at ${sayMinute(minute)}`, ''),
        say(' '),
        word(
          'zone',
          zone === 'workspace' ? `(${sayZone(names.catalogue.workspace.zone)})` : `(${ZONE_WORDS[zone]})`,
          '',
        ),
      )
    parts.push(say(', '), extra('every', EVERY_WORDS[every], every === 'once'))
    if (every === 'year')
      parts.push(say(', '), {
        param: 'leap',
        text: leap === 'feb28' ? '29 February counts as 28 February' : '29 February counts as 1 March',
        usual: leap === 'feb28',
      })
    parts.push(
      say(', '),
      months.length > 0 ? word('months', `only in ${some(months, MONTHS)}`, '') : extra('months', 'any month', true),
    )
    parts.push(
      say(', '),
      weekdays.length > 0
        ? word('weekdays', `only on a ${some(weekdays, DAYS)}`, '')
        : extra('weekdays', 'any weekday', true),
    )
    return parts
  },
  check(params, names) {
    const field = fieldOf(params, names)
    if (!field)
      return [
        {
          param: 'field',
          problem:
            params.field === null
              ? { code: 'missing', what: 'dateField' }
              : { code: 'unknownField', field: params.field },
        },
      ]
    if (field.type !== 'date' && field.type !== 'dateTime')
      return [{ param: 'field', problem: { code: 'notADateField', field: field.label } }]
    if (field.type === 'date' && params.side !== 'on' && exact(params.amount.unit))
      return [{ param: 'amount', problem: { code: 'noTimeOfDay', field: field.label } }]
    if (field.type === 'date' && params.minute === null)
      return [{ param: 'minute', problem: { code: 'noTimeGiven', field: field.label } }]
    if (field.type === 'dateTime' && params.every !== 'once')
      return [{ param: 'every', problem: { code: 'timeRepeats', field: field.label } }]
    return []
  },
  listen: () => [BY_CLOCK],
  compile: () => () => false,
  stands: () => ({ where: null, say: 'that reached that time' }),
  clock(params, names) {
    const field = fieldOf(params, names)
    if (!field || (field.type !== 'date' && field.type !== 'dateTime')) return null
    const { side, amount, minute, zone, every, leap, months, weekdays } = params
    const moments: DateMoments = {
      field,
      count: side === 'on' ? 0 : side === 'before' ? -amount.count : amount.count,
      unit: side === 'on' ? 'days' : amount.unit,
      minute,
      zone,
      every,
      leap,
      months,
      weekdays,
    }
    return clockOfDate(moments)
  },
  because: () => 'its scheduled time was reached',
  examples: [
    {
      say: 'a change of the date itself starts nothing',
      object: 'deal',
      params: {
        field: 'closeDate',
        side: 'before',
        amount: { count: 3, unit: 'days' },
        minute: 510,
        zone: 'workspace',
        every: 'once',
        leap: 'feb28',
        months: [],
        weekdays: [],
      },
      event: { kind: 'changed', changes: [{ field: 'closeDate', old: null, new: '2026-12-01' }] },
      starts: false,
    },
  ],
})
