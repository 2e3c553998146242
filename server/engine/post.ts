import { createHash } from 'node:crypto'
import { isEmpty, type Value, type Values } from '../../core/language/value'
import type { Letter, LetterOf } from '../../core/messages/letter'
import type { RecordRef } from '../../core/records/kinds'
import type { Store } from '../store'
import type { OutboxRow } from '../store/outbox'

/** Messages to customers on their way out. */

/** What comes behind the @ of a Message-ID where the sender’s address has no domain. */
const NO_DOMAIN = 'sky-lever.invalid'

/** The Message-ID of a message, without brackets: by its key, so that every attempt has the same (RFC 5322, 3.6.4). */
export function messageIdOf(key: string, fromAddress: string): string {
  const domain = fromAddress.split('@')[1] ?? NO_DOMAIN
  return `${createHash('sha256').update(key).digest('hex').slice(0, 32)}@${domain}`
}

/** Keeps a message, and puts it into the outbox; belongs into the transaction of whoever wants it. */
export function postLetter(
  { messages, outbox }: Store,
  letter: Letter,
  of: LetterOf | { readonly personId: string; readonly inReplyTo: string | null },
  key: string,
  nowMs: number,
  /** When it may go. */
  goesMs: number = nowMs,
): void {
  const { channel, who, name, address, from, copy, subject, text, label, template } = letter
  const messageId = messageIdOf(key, from.address)
  const byHand = 'personId' in of
  // What a run writes to somebody once more belongs to what it wrote before.
  const last = byHand
    ? of.inReplyTo === null
      ? null
      : messages.byMessageId(of.inReplyTo)
    : messages.lastOfRun(of.runId, channel, who.id)
  const inReplyTo = last?.messageId ?? null
  const isNew = messages.add({
    key,
    channel,
    way: 'out',
    contactId: who.id,
    object: byHand ? 'contact' : of.ref.object,
    recordId: byHand ? who.id : of.ref.id,
    ruleId: byHand ? null : of.ruleId,
    runId: byHand ? null : of.runId,
    stepId: byHand ? null : of.stepId,
    personId: byHand ? of.personId : from.personId,
    fromName: from.name,
    fromAddress: from.address,
    name,
    address,
    subject,
    text,
    label,
    templateId: template,
    messageId,
    inReplyTo,
    state: 'waiting',
    atMs: nowMs,
  })
  if (!isNew) return
  outbox.add(
    {
      key,
      channel,
      recipient: address,
      subject,
      body: text,
      runId: byHand ? null : of.runId,
      more: {
        from: { name: from.name, address: from.address },
        name,
        copy,
        messageId,
        inReplyTo,
        references: last ? [...(last.inReplyTo === null ? [] : [last.inReplyTo]), last.messageId] : [],
        contactId: who.id,
        optOut: !byHand,
      },
    },
    nowMs,
    goesMs,
  )
}

/** What an activity tells, without what is empty. */
export const known = (data: Readonly<Record<string, Value | undefined>>): Record<string, Value> =>
  Object.fromEntries(
    Object.entries(data).flatMap(([key, value]): [string, Value][] =>
      value === undefined || isEmpty(value) ? [] : [[key, value]],
    ),
  )

interface KeepsActivities {
  keepActivity(ref: RecordRef, happened: ActivityKept): boolean
}
interface ActivityKept {
  readonly kind: string
  readonly about: string
  readonly data: Values
  readonly atMs: number
  readonly key: string
}

/** A message was handed over: belongs into the commit that says so. */
export function letterSent(
  { store: { messages }, world }: { readonly store: Store; readonly world: KeepsActivities },
  { key, subject, channel, more }: OutboxRow,
  atMs: number,
): void {
  if (!more) return
  const label = messages.sent(key, atMs)
  if (label === null) return
  world.keepActivity(
    { object: 'contact', id: more.contactId },
    { kind: 'messageSent', about: subject, data: known({ channel, label }), atMs, key: `sent ${key}` },
  )
}
