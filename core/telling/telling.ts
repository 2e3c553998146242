import { z } from 'zod'
import { addDays, dateAt, weekday } from '../time/dates'
import { instantAt, minuteAt } from '../time/moments'
import { isWorkday, type WorkCalendar } from '../time/calendar'

/** How somebody wants to be told what rules tell them, beside the bell in the app. */

export const TELLING_WAYS = ['app', 'mail', 'chat'] as const
export const TELLING_WORDS: Readonly<Record<(typeof TELLING_WAYS)[number], string>> = {
  app: 'In the app only',
  mail: 'Also by email',
  chat: 'Also to a chat address',
}

export const TELLING_TIMES = ['now', 'day', 'week'] as const
export const TELLING_TIME_WORDS: Readonly<Record<(typeof TELLING_TIMES)[number], string>> = {
  now: 'At once',
  day: 'Once a day',
  week: 'Once a week',
}

export const zTelling = z.strictObject({
  by: z.enum(TELLING_WAYS),
  often: z.enum(TELLING_TIMES),
  /** Minutes from midnight, in their own zone. */
  minute: z.int().min(0).max(1439),
  /** ISO number of the day of the week, for once a week. */
  weekday: z.int().min(1).max(7),
  /** Whether it comes on days off as well. */
  daysOff: z.boolean(),
  /** Kinds of problems that they are not told of. */
  muted: z.array(z.string().max(40)).max(50),
})
export type Telling = z.infer<typeof zTelling>

export const USUAL_TELLING: Telling = {
  by: 'app',
  often: 'now',
  minute: 8 * 60,
  weekday: 1,
  daysOff: false,
  muted: [],
}

/** Where a calendar has hardly a day on which anybody works, it is not looked for for ever. */
const DAYS_MOST = 400

/**
 * When somebody is told next of what came by now; `null` where they look for themselves.
 *
 * @param nowMs the instant behind which it is looked for; what is told at once may be told then
 */
export function nextTelling(
  { by, often, minute, weekday: wanted, daysOff }: Telling,
  nowMs: number,
  zone: string,
  calendar: WorkCalendar,
): number | null {
  if (by === 'app') return null
  const today = dateAt(nowMs, zone)
  const fits = (date: string): boolean => daysOff || isWorkday(date, calendar)
  if (often === 'now' && fits(today)) return nowMs
  const first = often === 'now' || minuteAt(nowMs, zone) >= minute ? addDays(today, 1) : today
  for (let date = first, looked = 0; looked < DAYS_MOST; date = addDays(date, 1), looked++) {
    // A week's day that is off is made up for on the next that is not.
    if (often === 'week' && !isTurn(date, wanted, fits)) continue
    if (fits(date)) return instantAt(date, minute, zone)
  }
  return null
}

/** Whether nothing but days off lies between the wanted day of the week and this one. */
function isTurn(date: string, wanted: number, fits: (date: string) => boolean): boolean {
  let at = date
  while (weekday(at) !== wanted) {
    at = addDays(at, -1)
    if (fits(at)) return false
  }
  return true
}

/** So many lines stand in one message. */
const LINES_MOST = 40

export interface Told {
  readonly subject: string
  readonly body: string
  readonly recordName: string
  /** How many others of the kind it stands for. */
  readonly more: number
}

/** One message of all that came. */
export function sayTold(told: readonly Told[], firm: string): { readonly subject: string; readonly body: string } {
  const [only, ...others] = told
  const line = ({ subject, body, recordName, more }: Told): string =>
    [`${subject} (${recordName}${more > 0 ? `, and ${more} more` : ''})`, ...(body === '' ? [] : [body])].join('\n')
  return {
    subject: only && others.length === 0 ? only.subject : `${told.length} notifications from ${firm}`,
    body: [
      ...told.slice(0, LINES_MOST).map(line),
      ...(told.length > LINES_MOST ? [`And ${told.length - LINES_MOST} more; see Notifications.`] : []),
    ].join('\n\n'),
  }
}
