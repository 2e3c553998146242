import { dateAt, instantOf, isDate, plainDate, readInstant } from '../../time/dates'
import { dayOfText, dayOfYear, monthsBetween, readSpan, textOfDay, weekdayOf, weekOfYear, civilOf } from '../calendar'
import { constant, type Built } from '../build'
import { refuse, type Span } from '../problems'
import { DATE, DATE_TIME, DAYS, MONTHS, NUMBER, STRING, sayType, type FeelValue } from '../types'
import { plain, type FeelFunction } from './define'

const DAY_NAMES = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday']
const MONTH_NAMES = [
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
]

const dayFrom = (text: string): number | null => (isDate(text) ? dayOfText(text) : null)

/** The wanted form of a text that stands in a formula; a wrong one is told while it is written. */
function spelled(name: string, form: string, args: readonly Built[], places: readonly Span[], at: Span): string | null {
  const [first] = args
  if (!first) return refuse(at, `${name} needs ${form}.`)
  return args.length === 1 && typeof first.literal === 'string'
    ? first.literal
    : args.length === 1 && first.type.is === 'null'
      ? refuse(places[0] ?? at, `${name} needs ${form}.`)
      : null
}

const datePlain = plain(
  'date',
  'text',
  'a date: date("2026-11-24"), from a date and time, or from year, month, day',
  { takes: [STRING], gives: DATE, run: ([text]) => dayFrom(String(text)) },
  { takes: [DATE_TIME], gives: DATE, run: ([atMs], { zone }) => dayOfText(dateAt(Number(atMs), zone)) },
  { takes: [DATE], gives: DATE, run: ([day]) => day ?? null },
  {
    takes: [NUMBER, NUMBER, NUMBER],
    gives: DATE,
    run: ([y, m, d]) => {
      const text = plainDate(Number(y), Number(m), Number(d))
      return text === null ? null : dayOfText(text)
    },
  },
)

const dateTimePlain = plain(
  'date and time',
  'text',
  'a date and time in the workspace time zone: date and time("2026-11-24T09:30:00")',
  { takes: [STRING], gives: DATE_TIME, run: ([text], { zone }) => instantFrom(String(text), zone) },
  { takes: [DATE_TIME], gives: DATE_TIME, run: ([atMs]) => atMs ?? null },
  {
    takes: [DATE],
    gives: DATE_TIME,
    run: ([day], { zone }) => {
      const text = textOfDay(Number(day))
      return text === null ? null : instantOf(text, 0, 0, zone)
    },
  },
)

const MOMENT = /^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}:\d{2}(?:\.\d+)?(?:Z|[+-]\d{2}:\d{2})?$/
const instantFrom = (text: string, zone: string): number | null =>
  MOMENT.test(text) && isDate(text.slice(0, 10)) ? readInstant(text, zone, 'dayFirst') : null

/** A date, moment or span that stands in a formula as `@"…"`. */
export function literalAt(text: string, at: Span): Built {
  const span = readSpan(text)
  if (span) return constant(span.is === 'days' ? DAYS : MONTHS, span.value)
  if (isDate(text)) return constant(DATE, dayOfText(text))
  if (MOMENT.test(text)) return { type: DATE_TIME, run: ({ zone }) => instantFrom(text, zone) }
  return refuse(at, `“${text}” is not a date, a date and time or a duration.`)
}

/** DMN 1.3, 10.3.4.1 and 10.3.4.9; times without a day are left out, no field holds one. */
export const DATE_FUNCTIONS: readonly FeelFunction[] = [
  {
    name: 'today',
    takes: 'today()',
    does: 'today’s date in the workspace time zone',
    looksAt: 'today',
    build: (args, _places, at) =>
      args.length > 0 ? refuse(at, 'today takes nothing') : { type: DATE, run: (env) => env.today },
  },
  {
    name: 'now',
    takes: 'now()',
    does: 'the current date and time',
    looksAt: 'now',
    build: (args, _places, at) =>
      args.length > 0 ? refuse(at, 'now takes nothing') : { type: DATE_TIME, run: (env) => env.nowMs },
  },
  {
    ...datePlain,
    build(args, places, at) {
      const text = spelled('date', 'a date such as "2026-11-24"', args, places, at)
      if (text === null) return datePlain.build(args, places, at)
      const day = dayFrom(text)
      return day === null
        ? refuse(places[0] ?? at, `“${text}” is not a date. Example: "2026-11-24"`)
        : constant(DATE, day)
    },
  },
  {
    ...dateTimePlain,
    build(args, places, at) {
      const text = spelled('date and time', 'a date and time such as "2026-11-24T09:30:00"', args, places, at)
      if (text !== null && instantFrom(text, 'UTC') === null)
        return refuse(places[0] ?? at, `“${text}” is not a date and time. Example: "2026-11-24T09:30:00"`)
      return dateTimePlain.build(args, places, at)
    },
  },
  {
    name: 'duration',
    takes: 'duration(text)',
    does: 'a duration: duration("P14D") is 14 days, duration("P3M") 3 months',
    build(args, places, at) {
      const text = spelled('duration', 'a duration such as "P14D" or "P3M"', args, places, at)
      // Days or months: what it is has to be known before it is worked out.
      if (text === null)
        return refuse(
          places[0] ?? at,
          `duration needs a fixed duration such as "P14D", but this is ${sayType(args[0]?.type ?? STRING)}`,
        )
      const span = readSpan(text)
      return span
        ? constant(span.is === 'days' ? DAYS : MONTHS, span.value)
        : refuse(
            places[0] ?? at,
            `“${text}” is not a duration. Examples: "P14D" (14 days), "PT2H" (2 hours), "P3M" (3 months)`,
          )
    },
  },
  plain(
    'years and months duration',
    'from, to',
    'whole months from one date to another',
    { takes: [DATE, DATE], gives: MONTHS, run: ([a, b]) => monthsBetween(Number(a), Number(b)) },
    {
      takes: [DATE_TIME, DATE_TIME],
      gives: MONTHS,
      run: ([a, b], { zone }) => monthsBetween(dayOfText(dateAt(Number(a), zone)), dayOfText(dateAt(Number(b), zone))),
    },
  ),
  ...(
    [
      ['day of week', 'the name of its weekday, "Monday"', STRING, (day) => DAY_NAMES[weekdayOf(day) - 1] ?? null],
      ['day of year', 'which day of the year', NUMBER, dayOfYear],
      ['week of year', 'which week of the year (ISO 8601)', NUMBER, weekOfYear],
      [
        'month of year',
        'the name of its month, "January"',
        STRING,
        (day) => MONTH_NAMES[civilOf(day).month - 1] ?? null,
      ],
    ] as readonly (readonly [string, string, typeof STRING, (day: number) => FeelValue])[]
  ).map(([name, does, gives, run]) =>
    plain(
      name,
      'date',
      does,
      { takes: [DATE], gives, run: ([day]) => run(Number(day)) },
      { takes: [DATE_TIME], gives, run: ([atMs], { zone }) => run(dayOfText(dateAt(Number(atMs), zone))) },
    ),
  ),
]
