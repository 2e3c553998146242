import { figure } from '../language/counts'
import { sayInstant } from '../time/say'
import { sayZone } from '../time/moments'
import { nextDecent, type DecentHours } from './hours'

/** What keeps a message from going out, or from going out now. Every message passes here, whoever wrote it. */

export const MESSAGE_CHANNELS = ['mail', 'text'] as const
export type MessageChannel = (typeof MESSAGE_CHANNELS)[number]

/** Everything that leaves the house, and by what. */
export type OutboxChannel = MessageChannel | 'call' | 'web'

export const CHANNEL_WORDS: { readonly [C in MessageChannel]: { readonly one: string; readonly many: string } } = {
  mail: { one: 'email', many: 'emails' },
  text: { one: 'text message', many: 'text messages' },
}

/** Everything that leaves the house, in a word. */
export const OUTBOX_WORDS: { readonly [C in OutboxChannel]: string } = {
  mail: CHANNEL_WORDS.mail.one,
  text: CHANNEL_WORDS.text.one,
  call: 'call',
  web: 'web request',
}

/** Why a message does not go at all. */
export type Held =
  | { readonly code: 'noAddress'; readonly name: string; readonly field: string }
  | { readonly code: 'notMobile'; readonly name: string; readonly number: string }
  | { readonly code: 'optedOut'; readonly name: string; readonly how: string }
  | { readonly code: 'neverTo'; readonly address: string }
  | { readonly code: 'bounced'; readonly address: string }
  | { readonly code: 'sameText'; readonly name: string; readonly atMs: number; readonly zone: string }

export function sayHeld(held: Held): string {
  switch (held.code) {
    case 'noAddress':
      return `${held.name} has no ${held.field}`
    case 'notMobile':
      return `${held.number} of ${held.name} is a landline`
    case 'optedOut':
      return `${held.name} opted out${held.how === '' ? '' : ` (${held.how})`}`
    case 'neverTo':
      return `${held.address} is on the list of addresses never to write to`
    case 'bounced':
      return `${held.address} can’t be reached: an earlier message came back`
    case 'sameText':
      return `${held.name} got the same text on ${sayInstant(held.atMs, held.zone)}`
  }
}

/** Why an address gets nothing more of a channel. */
export interface Stopped {
  readonly because: 'optedOut' | 'never' | 'bounced'
  /** "by link", "by text message". */
  readonly how: string
}

/** What is known of an address before something is sent there. */
export interface AddressFacts {
  readonly stopped: Stopped | null
  /** What went there lately on this channel, the newest first. */
  readonly sent: readonly { readonly text: string; readonly atMs: number }[]
  /** When messages of any channel went to the person lately, the newest first. */
  readonly toPerson: readonly number[]
  /** When the newest messages of the rule went out, the newest first. */
  readonly ofRule: readonly number[]
  /** Whether the rule is paused until somebody lets it go on. */
  readonly paused?: boolean
}

/** An address of which nothing is known. */
export const UNKNOWN_ADDRESS: AddressFacts = Object.freeze({ stopped: null, sent: [], toPerson: [], ofRule: [] })

export interface Asked {
  readonly channel: MessageChannel
  readonly name: string
  /** `null` where the record has none. */
  readonly address: string | null
  /** What the address is called, for whoever has none: “email”. */
  readonly field: string
  /** Whether a number can get text messages; true for mail. */
  readonly reachable: boolean
  /** Whether the person’s own record says that they want none. */
  readonly optedOut: boolean
  readonly text: string
  /** The same text goes to an address again only after so many days; `null` for never again. */
  readonly againDays: number | null
  /** Whether it may go at any hour. */
  readonly urgent: boolean
  readonly zone: string
  readonly hours: DecentHours
  readonly personDay: number
  readonly ruleHour: number
}

export type Verdict =
  | { readonly go: 'now'; readonly address: string }
  | {
      readonly go: 'later'
      readonly atMs: number
      readonly say: string
      /** Whether it is later because the rule sent as much in an hour as it may. */
      readonly capped?: boolean
    }
  | { readonly go: 'never'; readonly held: Held }

const DAY_MS = 86_400_000
const HOUR_MS = 3_600_000

/** When the oldest of the newest `most` falls out of a span, so that one more may go; `null` where one may now. */
function freeAt(sent: readonly number[], most: number, spanMs: number, nowMs: number): number | null {
  const within = sent.filter((atMs) => atMs > nowMs - spanMs)
  if (within.length < most) return null
  const oldest = [...within].sort((a, b) => b - a)[most - 1] ?? nowMs
  return oldest + spanMs
}

/** Whether a message may go to an address now, at which later moment, or why never. */
export function judge(asked: Asked, facts: AddressFacts, nowMs: number): Verdict {
  const { address, name, againDays, zone } = asked
  if (address === null) return { go: 'never', held: { code: 'noAddress', name, field: asked.field } }
  if (!asked.reachable) return { go: 'never', held: { code: 'notMobile', name, number: address } }
  if (asked.optedOut) return { go: 'never', held: { code: 'optedOut', name, how: 'it says so on the record' } }
  switch (facts.stopped?.because) {
    case 'optedOut':
      return { go: 'never', held: { code: 'optedOut', name, how: facts.stopped.how } }
    case 'never':
      return { go: 'never', held: { code: 'neverTo', address } }
    case 'bounced':
      return { go: 'never', held: { code: 'bounced', address } }
    case undefined:
      break
  }
  const before = facts.sent.find(({ text }) => text === asked.text)
  if (before && (againDays === null || before.atMs > nowMs - againDays * DAY_MS))
    return { go: 'never', held: { code: 'sameText', name, atMs: before.atMs, zone } }
  const decent = (atMs: number): number => (asked.urgent ? atMs : nextDecent(atMs, zone, asked.hours))
  const person = freeAt(facts.toPerson, asked.personDay, DAY_MS, nowMs)
  if (person !== null) {
    const atMs = decent(person)
    const many = `${figure(asked.personDay)} in 24 hours`
    return { go: 'later', atMs, say: `${name} got ${many}; it goes on ${sayInstant(atMs, zone)} their time` }
  }
  if (facts.paused)
    return { go: 'later', atMs: decent(nowMs + DAY_MS), say: 'the rule is paused; it goes on when the rule does' }
  const rule = freeAt(facts.ofRule, asked.ruleHour, HOUR_MS, nowMs)
  if (rule !== null) {
    const atMs = decent(rule)
    return {
      go: 'later',
      atMs,
      say: `the rule sent ${figure(asked.ruleHour)} in an hour; it goes on ${sayInstant(atMs, zone)}`,
      capped: true,
    }
  }
  const at = decent(nowMs)
  if (at > nowMs)
    return {
      go: 'later',
      atMs: at,
      say: `for ${name} it is ${sayInstant(nowMs, zone)} (${sayZone(zone)}); it goes on ${sayInstant(at, zone)} their time`,
    }
  return { go: 'now', address }
}
