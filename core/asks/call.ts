import { z } from 'zod'
import { count } from '../language/counts'
import type { Values } from '../language/value'
import type { RecordRef } from '../records/kinds'

/** A call as somebody has to make it, and what came of it. */

/** How a try went. Permanent: rules choose paths by them. */
export const CALL_OUTCOMES = [
  { id: 'finished', label: 'Talked' },
  { id: 'noAnswer', label: 'No answer' },
  { id: 'busy', label: 'Busy' },
  { id: 'voicemail', label: 'Left a voicemail' },
  { id: 'wrongNumber', label: 'Wrong number' },
  { id: 'failed', label: 'Could not be placed' },
] as const
export type CallOutcome = (typeof CALL_OUTCOMES)[number]['id']

/** How a call ended in which somebody was talked to. */
export const CALL_ENDS = [
  { id: 'interested', label: 'Interested' },
  { id: 'appointment', label: 'Made an appointment' },
  { id: 'callBack', label: 'Wants a call back' },
  { id: 'information', label: 'Wants something in writing' },
  { id: 'notInterested', label: 'Not interested' },
  { id: 'otherPerson', label: 'Not the right person' },
] as const
export type CallEnd = (typeof CALL_ENDS)[number]['id']

/** What may go better at another time. */
const TRIES_AGAIN: readonly CallOutcome[] = ['noAnswer', 'busy', 'failed']
export const triesAgain = (outcome: CallOutcome): boolean => TRIES_AGAIN.includes(outcome)

const ids = <const T extends readonly { readonly id: string }[]>(list: T): [T[number]['id'], ...T[number]['id'][]] =>
  list.map((one) => one.id) as [T[number]['id'], ...T[number]['id'][]]

export const CALL_NOTES_MOST = 4000

export const zCallResult = z
  .strictObject({
    outcome: z.enum(ids(CALL_OUTCOMES)),
    ended: z.enum(ids(CALL_ENDS)).nullable().default(null),
    notes: z.string().trim().max(CALL_NOTES_MOST).default(''),
    minutes: z.number().min(0).max(1440).nullable().default(null),
  })
  .refine(({ outcome, ended }) => ended === null || outcome === 'finished', {
    path: ['ended'],
    message: 'Only a call in which you talked has a way it ended.',
  })
  .meta({ id: 'CallResult' })
export type CallResult = z.infer<typeof zCallResult>

export interface CallAsks {
  readonly about: 'call'
  /** Whom it is to. */
  readonly contact: RecordRef
  readonly name: string
  readonly number: string
  readonly script: string
  /** Whether a dialler places it, and nobody has to. */
  readonly automatic: boolean
  /** Which try it is, from 1; how many there are at most, and how long lies between two. */
  readonly attempt: number
  readonly most: number
  readonly pauseMs: number
  /** Not before; `null` for whenever. */
  readonly notBeforeMs: number | null
}

/** The next try, where this one reached nobody and there are tries left; not before `atMs`. */
export const nextTry = (asks: CallAsks, outcome: CallOutcome, atMs: number): CallAsks | null =>
  triesAgain(outcome) && asks.attempt < asks.most ? { ...asks, attempt: asks.attempt + 1, notBeforeMs: atMs } : null

const labelIn = (list: readonly { readonly id: string; readonly label: string }[], id: string | null): string =>
  list.find((one) => one.id === id)?.label ?? ''

/** "Talked, 7 minutes: Interested. Two units from May." */
export function sayCall({ outcome, ended, notes, minutes }: CallResult): string {
  const head = [labelIn(CALL_OUTCOMES, outcome), ...(minutes === null ? [] : [count(minutes, 'minute')])].join(', ')
  const end = labelIn(CALL_ENDS, ended)
  return `${head}${end === '' ? '' : `: ${end}`}${notes === '' ? '' : `. ${notes}`}`
}

/** What stands on the contact’s rail of it. */
export const callActivity = (title: string, values: Values) => ({
  kind: 'call' as const,
  about: title,
  data: {
    direction: 'out',
    ...Object.fromEntries(Object.entries(values).filter(([, value]) => value !== null)),
  } as Values,
})

/** What steps behind it can use of it. */
export const callValues = ({ outcome, ended, notes, minutes }: CallResult): Values => ({
  outcome,
  ended,
  notes: notes === '' ? null : notes,
  minutes,
})
