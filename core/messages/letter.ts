import type { ObjectKind, RecordRef } from '../records/kinds'
import { isEitherWayLinkable } from '../records/record'
import type { AddressFacts, MessageChannel } from './guards'

/** A message to a customer, as it is handed over: from here on nothing of it changes. */
export interface Letter {
  readonly channel: MessageChannel
  /** The contact it is for. */
  readonly who: RecordRef
  readonly name: string
  readonly address: string
  readonly from: { readonly name: string; readonly address: string; readonly personId: string | null }
  /** Colleagues in copy. */
  readonly copy: readonly string[]
  readonly subject: string
  readonly text: string
  /** To compare what different messages bring; may be empty. */
  readonly label: string
  readonly template: number | null
  /** By what clock the contact lives. */
  readonly zone: string
}

/** What is compared to tell whether somebody got the same before. */
export const textOf = ({ subject, text }: Pick<Letter, 'subject' | 'text'>): string => `${subject}\n${text}`

/** The rule and step that want it. */
export interface LetterOf {
  /** What the rule runs for. */
  readonly ref: RecordRef
  readonly ruleId: number
  readonly runId: number
  readonly stepId: string
}

/** Whether a number is one that gets text messages. */
export type Line = 'mobile' | 'landline' | 'unknown'

/** What sending messages needs of a world. */
export interface PostPort {
  /** What is known of an address, of the person, and of the rule. */
  addressFacts(channel: MessageChannel, address: string, who: RecordRef, ruleId: number): AddressFacts
  lineOf(number: string): Line
  /** When a run sent the contact its first message; `null` when it has not. */
  firstSentTo(runId: number, who: RecordRef): number | null
  /** The addresses that a step of a run has sent to. */
  sentByStep(runId: number, stepId: string): readonly string[]
  /** Keeps a message until after the commit; the same key is never kept twice. */
  post(letter: Letter, of: LetterOf, key: string): void
}

/** What a message to a customer has beside its text. */
export interface MessageMore {
  readonly from: { readonly name: string; readonly address: string }
  /** Whom it is for. */
  readonly name: string
  readonly copy: readonly string[]
  /** As mails name each other, without the brackets: the same for every attempt. */
  readonly messageId: string
  /** What it answers, and all of that conversation, the oldest first. */
  readonly inReplyTo: string | null
  readonly references: readonly string[]
  /** The contact, signed: for links that are theirs alone. */
  readonly contactId: number
  /** Whether it says how to opt out: not where somebody answers by hand. */
  readonly optOut: boolean
}

/** Whether a kind of record has contacts that can be written to. */
export const canWriteFrom = (object: ObjectKind): boolean =>
  object === 'contact' || isEitherWayLinkable(object, 'contact')
