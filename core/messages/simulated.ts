import type { CallResult } from '../asks/call'
import type { MessageChannel } from './guards'

/** What a simulated customer does with a message by themselves, so that a demo’s clock brings answers too. */

export interface SimulatedAct {
  readonly as: 'answer' | 'automatic' | 'bounce' | 'stop' | 'open'
  readonly text: string
}

const ANSWERS = [
  'Yes please, that sounds good.',
  'Gladly. Does Tuesday suit you?',
  'How much would a second unit be?',
  'When could you deliver?',
  'No thank you, we are not interested.',
  'We are moving to a new building next month.',
] as const
const AWAY = 'I am away until Monday and will read your message then.'

/** How calls go, the more frequent ones first. */
const CALLS: readonly CallResult[] = [
  { outcome: 'noAnswer', ended: null, notes: '', minutes: null },
  { outcome: 'finished', ended: 'interested', notes: 'Would like to see the unit.', minutes: 6 },
  { outcome: 'finished', ended: 'callBack', notes: 'In a meeting, asks for a call in the afternoon.', minutes: 1 },
  { outcome: 'finished', ended: 'information', notes: 'Wants the data sheet by email.', minutes: 4 },
  { outcome: 'busy', ended: null, notes: '', minutes: null },
  { outcome: 'finished', ended: 'notInterested', notes: 'Has bought elsewhere.', minutes: 2 },
  { outcome: 'finished', ended: 'appointment', notes: 'Tuesday at ten.', minutes: 8 },
  { outcome: 'voicemail', ended: null, notes: 'Left the number.', minutes: 1 },
  { outcome: 'finished', ended: 'otherPerson', notes: 'Purchasing decides.', minutes: 2 },
  { outcome: 'wrongNumber', ended: null, notes: '', minutes: null },
  { outcome: 'failed', ended: null, notes: '', minutes: null },
]

/** How a call goes by itself, in the same way, and that at once: the phone is picked up or not. */
export function actOnCall(share: number, chance: number): CallResult | null {
  if (100 * chance >= share) return null
  // Squared, so that those at the beginning come more often.
  const at = ((100 * chance) / share) ** 1.5
  return CALLS[Math.min(CALLS.length - 1, Math.floor(at * CALLS.length))] ?? null
}

const HOUR_MS = 3_600_000
/** Nobody answers sooner than after some minutes, and nobody later than after so many hours. */
const SOONEST_MS = 5 * 60_000
const LATEST_MS = 30 * HOUR_MS

/**
 * What becomes of a message: of `share` in a hundred something, of the others nothing. `chance` and `when` lie from 0
 * to below 1; the same ones always come to the same.
 *
 * @returns what is done and after how many milliseconds; `null` for nothing
 */
export function actOn(
  channel: MessageChannel,
  share: number,
  chance: number,
  when: number,
): { readonly act: SimulatedAct; readonly afterMs: number } | null {
  if (100 * chance >= share) return null
  const of = (100 * chance) / share
  const afterMs = Math.round(SOONEST_MS + when * (LATEST_MS - SOONEST_MS))
  const text = ANSWERS[Math.min(ANSWERS.length - 1, Math.floor((of / 0.6) * ANSWERS.length))] ?? ANSWERS[0]
  const act: SimulatedAct =
    of < 0.6
      ? { as: 'answer', text }
      : of < 0.92
        ? channel === 'mail'
          ? { as: 'open', text: '' }
          : { as: 'answer', text: ANSWERS[0] }
        : of < 0.97 && channel === 'mail'
          ? { as: 'automatic', text: AWAY }
          : of < 0.99
            ? { as: 'stop', text: '' }
            : { as: 'bounce', text: '' }
  return { act, afterMs }
}
