import { addDays, dateAt } from './dates'
import { addWorkdays, isWorkday, type WorkCalendar } from './calendar'
import { instantAt } from './moments'

/**
 * What comes again and again, as a recurrence rule of RFC 5545. Only its days are taken from it: the time of day stands
 * beside it, so that gaps and overlaps of daylight saving are decided in one place.
 */

export const WEEKDAYS = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'] as const
export type Weekday = (typeof WEEKDAYS)[number]
export const WEEKDAY_WORDS: { readonly [D in Weekday]: string } = {
  MO: 'Monday',
  TU: 'Tuesday',
  WE: 'Wednesday',
  TH: 'Thursday',
  FR: 'Friday',
  SA: 'Saturday',
  SU: 'Sunday',
}

export const EVERY = ['day', 'week', 'month', 'year'] as const
export type Every = (typeof EVERY)[number]
const FREQUENCY: { readonly [E in Every]: string } = { day: 'DAILY', week: 'WEEKLY', month: 'MONTHLY', year: 'YEARLY' }

/** The part of RFC 5545 that people set word by word; anything else of it can be written as text. */
export interface Plain {
  readonly every: Every
  readonly interval: number
  /** For weeks. */
  readonly weekdays: readonly Weekday[]
  /** For months: 1 to 31, or -1 for the last. A month that is shorter has its last day. */
  readonly day: number
}

/** The rule as RFC 5545 writes it; of a day that a month lacks its last one is meant, which takes `BYSETPOS`. */
export function toRule({ every, interval, weekdays, day }: Plain): string {
  const parts = [`FREQ=${FREQUENCY[every]}`, ...(interval > 1 ? [`INTERVAL=${interval}`] : [])]
  if (every === 'week' && weekdays.length > 0)
    parts.push(`BYDAY=${WEEKDAYS.filter((one) => weekdays.includes(one)).join(',')}`)
  if (every === 'month')
    parts.push(
      ...(day > 28
        ? [`BYMONTHDAY=${Array.from({ length: day - 27 }, (_, i) => 28 + i).join(',')}`, 'BYSETPOS=-1']
        : [`BYMONTHDAY=${day}`]),
    )
  return parts.join(';')
}

/** What people set, of a rule that says no more than that; `null` of any other. */
export function readPlain(rule: string): Plain | null {
  const part = new Map(rule.split(';').map((one) => [one.split('=')[0] ?? '', one.split('=')[1] ?? '']))
  const every = EVERY.find((one) => FREQUENCY[one] === part.get('FREQ'))
  if (!every) return null
  const days = (part.get('BYMONTHDAY') ?? '1').split(',').map(Number)
  const plain: Plain = {
    every,
    interval: Number(part.get('INTERVAL') ?? 1),
    weekdays: WEEKDAYS.filter((one) => part.get('BYDAY')?.split(',').includes(one)),
    day: days.at(-1) ?? 1,
  }
  return toRule(plain) === rule ? plain : null
}

/** The first day of a rule that begins on `from` after a day; `null` when there is none. Throws where it is no rule. */
export type NextDay = (rule: string, from: string, after: string) => string | null

let engine: NextDay | null = null
/** Hands in what finds the days of rules. It is large, so a page has it only when it shows days. */
export function useRecurrences(given: NextDay): void {
  engine = given
}
function nextDay(rule: string, from: string, after: string): string | null {
  if (!engine) throw new Error('days of a recurrence are asked for where none can be found')
  return engine(rule, from, after)
}

const within = (text: string, most: number, negative = true): boolean =>
  /^[+-]?\d+$/.test(text) && Number(text) !== 0 && Math.abs(Number(text)) <= most && (negative || Number(text) > 0)
/**
 * What RFC 5545, section 3.3.10, lets stand in the parts of a rule; the package passes over what does not fit.
 */
const IN_RANGE: Readonly<Record<string, (text: string) => boolean>> = {
  BYMONTHDAY: (text) => within(text, 31),
  BYMONTH: (text) => within(text, 12, false),
  INTERVAL: (text) => within(text, 1000, false),
  BYDAY: (text) => /^([+-]?\d{1,2})?(MO|TU|WE|TH|FR|SA|SU)$/.test(text),
  BYYEARDAY: (text) => within(text, 366),
  // The last weeks of a year reach into the next one, where libraries lose them.
  BYWEEKNO: (text) => within(text, 51, false),
  BYSETPOS: (text) => within(text, 366),
  COUNT: (text) => within(text, 10_000, false),
  WKST: (text) => WEEKDAYS.some((one) => one === text),
  UNTIL: (text) => /^\d{8}$/.test(text),
  FREQ: () => true,
}

/** What goes together is read in more than one way, or wrongly by the package: nobody should have to find out which. */
function unclear(part: ReadonlyMap<string, string>): string | null {
  const [every, has] = [part.get('FREQ'), (name: string): boolean => part.has(name)]
  if (has('COUNT') && has('UNTIL')) return 'Use COUNT or UNTIL, not both.'
  if (has('BYYEARDAY') && every !== 'YEARLY') return 'BYYEARDAY needs FREQ=YEARLY.'
  if (has('BYYEARDAY') && (has('BYDAY') || has('BYMONTHDAY') || has('BYMONTH') || has('BYWEEKNO')))
    return 'BYYEARDAY can’t be combined with other days. Use it alone.'
  if (has('BYWEEKNO') && every !== 'YEARLY') return 'BYWEEKNO needs FREQ=YEARLY.'
  if (has('BYWEEKNO') && !has('BYDAY')) return 'BYWEEKNO needs BYDAY: say which day of the week.'
  if (has('BYWEEKNO') && (has('BYMONTHDAY') || has('BYMONTH'))) return 'BYWEEKNO can’t be combined with months.'
  // Week 1 often begins in the old year: whether that is a year to be counted nobody can tell.
  if (has('BYWEEKNO') && (part.get('INTERVAL') ?? '1') !== '1') return 'BYWEEKNO can’t be combined with INTERVAL.'
  if (has('BYMONTHDAY') && every === 'WEEKLY') return 'BYMONTHDAY can’t be used with FREQ=WEEKLY.'
  if (/\d/.test(part.get('BYDAY') ?? '') && (every === 'DAILY' || every === 'WEEKLY' || has('BYWEEKNO')))
    return 'Numbered weekdays need FREQ=MONTHLY or FREQ=YEARLY.'
  // The fourth Tuesday may be the last one: whether that is one day to choose from or two is read either way.
  for (const name of ['BYDAY', 'BYMONTHDAY']) {
    const list = part.get(name) ?? ''
    if (has('BYSETPOS') && /(?:^|,)\+?\d/.test(list) && /-\d/.test(list))
      return `BYSETPOS can’t be combined with ${name} counted from both ends.`
  }
  if (has('BYSETPOS') && ![...part.keys()].some((name) => /^BY(?!SETPOS)/.test(name)))
    return 'BYSETPOS needs days to choose from.'
  return null
}

/**
 * What is wrong with a rule, in words; `null` when it can be used, as far as can be told without its days. Hours and
 * smaller are refused: the time of day stands beside it.
 */
export function wrongRule(rule: string, from: string): string | null {
  if (!/^FREQ=(DAILY|WEEKLY|MONTHLY|YEARLY)(;[A-Z]+=[-+A-Z0-9,]+)*$/.test(rule))
    return 'This is not a recurrence rule. Example: FREQ=WEEKLY;BYDAY=TH'
  if (/BY(HOUR|MINUTE|SECOND)=/.test(rule)) return 'Remove the time; it is set separately.'
  const given = rule.split(';').map((one) => [one.split('=')[0] ?? '', one.split('=')[1] ?? ''] as const)
  const part = new Map(given)
  if (part.size < given.length) return 'A part of the rule stands in it twice.'
  if (/^\d{8}T/.test(part.get('UNTIL') ?? ''))
    return 'UNTIL must be a day, for example UNTIL=20261231. The time is set separately.'
  const outside = given.find(([name, list]) => list.split(',').some((one) => !IN_RANGE[name]?.(one)))
  if (outside) return `${outside.join('=')} is not supported.`
  const mixed = unclear(part)
  if (mixed !== null) return mixed
  if (!engine) return null
  try {
    return nextDay(rule, from, addDays(from, -1)) === null ? 'This date never occurs.' : null
  } catch (error) {
    const said = error instanceof Error ? error.message : String(error)
    return said.includes('iterations') ? 'This date never occurs.' : `This is not a recurrence rule: ${said}`
  }
}

/** What becomes of a day on which nobody works. */
export const OFF_DAYS = ['keep', 'next', 'before', 'skip'] as const
export type OffDays = (typeof OFF_DAYS)[number]

export interface Recurrence {
  /** RFC 5545, without its beginning. */
  readonly rule: string
  /** The first day from which it is counted. */
  readonly from: string
  /** Minutes from midnight. */
  readonly minute: number
  readonly offDays: OffDays
}

function moved(day: string, offDays: OffDays, calendar: WorkCalendar): string | null {
  if (offDays === 'keep' || isWorkday(day, calendar)) return day
  return offDays === 'skip' ? null : addWorkdays(day, offDays === 'next' ? 1 : -1, calendar)
}

/** More days than these are not looked through for one on which somebody works. */
const TRIES = 400
/** A moved day can come this much earlier than the one it was moved from. */
const MOVED_MOST = 31

/** The first moment after an instant; `null` when there is none. */
export function nextRecurrence(
  { rule, from, minute, offDays }: Recurrence,
  afterMs: number,
  zone: string,
  calendar: WorkCalendar,
): number | null {
  let best: number | null = null
  const today = dateAt(afterMs, zone)
  let day: string | null = addDays(today, offDays === 'next' ? -MOVED_MOST : -1)
  for (let i = 0; i < TRIES; i++) {
    day = nextDay(rule, from, day)
    if (day === null) return best
    const to = moved(day, offDays, calendar)
    const at = to === null ? null : instantAt(to, minute, zone)
    if (at !== null && at > afterMs && (best === null || at < best)) best = at
    // Days that are moved back may come before one that was found.
    if (best !== null && (offDays !== 'before' || addDays(day, -MOVED_MOST) > dateAt(best, zone))) return best
  }
  return best
}
