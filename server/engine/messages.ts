import { createHash } from 'node:crypto'
import { answerKind, asksToStop, ownWords, type AnswerKind } from '../../core/messages/answer-kind'
import { CHANNEL_WORDS, type MessageChannel } from '../../core/messages/guards'
import type { RecordRef } from '../../core/records/kinds'
import type { MessageRow } from '../store/messages'
import { known } from './post'
import type { Workspace } from './workspace'
import { refuse } from './refuse'

/** What becomes of messages to customers: that they went, came back, were opened and answered. */

/** An answer by the address alone belongs to the newest message of so many days. */
const LATELY_MS = 30 * 86_400_000
const ANSWER_MOST = 5000
const KEPT_MOST = 20_000

/** What came in from outside, as a channel read it. */
export interface Incoming {
  readonly channel: MessageChannel
  readonly from: string
  readonly subject: string
  readonly text: string
  /** Its own name, by which a repeat is told; made from its content where it has none. */
  readonly messageId: string | null
  /** Messages it says it answers, the nearest first. */
  readonly answers: readonly string[]
  /** Whether a program answered by itself (RFC 3834). */
  readonly automatic: boolean
  /** Where it says that one of ours did not arrive. */
  readonly bounce: { readonly recipient: string; readonly final: boolean; readonly reason: string } | null
}

export type TakenAs = 'answer' | 'automatic' | 'bounce' | 'stop' | 'known' | 'unknown'

/** Keeps what came in and lets rules hear of it; what answers nothing of ours and is from nobody known is left. */
export function takeIncoming(workspace: Workspace, given: Incoming): TakenAs {
  const taken = workspace.db.inTurn(() => workspace.db.atomically(() => take(workspace, given)))
  workspace.drain()
  workspace.live.tell({ about: 'sent' })
  return taken
}

/** The message of ours that something is about: by its name, else the newest to that address of 30 days. */
function ours({ store, clock }: Workspace, { channel, answers, from, bounce }: Incoming): MessageRow | null {
  return (
    store.messages.sentWith(answers) ??
    store.messages.newestTo(channel, (bounce?.recipient ?? from).toLowerCase(), clock.nowMs() - LATELY_MS)
  )
}

function take(workspace: Workspace, given: Incoming): TakenAs {
  const { store, clock, world } = workspace
  const { channel, subject, text, automatic, bounce } = given
  const from = given.from.trim().toLowerCase()
  const nowMs = clock.nowMs()
  const sent = ours(workspace, given)
  if (bounce) {
    if (!sent) return 'unknown'
    store.messages.bounced(sent.id, bounce.reason)
    if (bounce.final)
      store.addresses.stop({
        channel: sent.channel,
        address: sent.address,
        because: 'bounced',
        how: bounce.reason.slice(0, 200),
        atMs: nowMs,
      })
    world.keepActivity(contactOf(sent.contactId), {
      kind: 'messageBounced',
      about: sent.subject,
      data: known({ channel: sent.channel, reason: bounce.reason.slice(0, 500) }),
      atMs: nowMs,
      key: `bounced ${sent.key}`,
    })
    return 'bounce'
  }
  const contactId =
    sent?.contactId ?? store.records.findBy('contact', channel === 'mail' ? 'email' : 'phone', from)[0]?.id ?? null
  if (channel === 'text' && asksToStop(text)) {
    optOut(workspace, channel, from, 'by text message')
    if (contactId === null) return 'stop'
  }
  if (contactId === null) return 'unknown'
  const messageId =
    given.messageId ?? createHash('sha256').update(`${channel}\n${from}\n${nowMs}\n${text}`).digest('hex').slice(0, 32)
  const own = channel === 'mail' ? ownWords(text) : text.trim()
  const { kind, phrase } = automatic
    ? { kind: 'automatic' as const, phrase: null }
    : answerKind(`${own}`, workspace.catalogue().messaging.phrases)
  const isNew = store.messages.add({
    key: `in ${messageId}`,
    channel,
    way: 'in',
    contactId,
    object: 'contact',
    recordId: contactId,
    ruleId: sent?.ruleId ?? null,
    runId: sent?.runId ?? null,
    stepId: null,
    personId: sent?.personId ?? null,
    fromName: sent?.fromName ?? '',
    fromAddress: sent?.fromAddress ?? '',
    name: sent?.name ?? String(store.records.read(contactOf(contactId))?.values.name ?? from),
    address: from,
    subject: subject.slice(0, 500),
    text: text.slice(0, KEPT_MOST),
    label: sent?.label ?? '',
    templateId: sent?.templateId ?? null,
    messageId,
    inReplyTo: sent?.messageId ?? null,
    state: 'received',
    atMs: nowMs,
    kind,
    phrase,
  })
  if (!isNew) return 'known'
  if (channel === 'text' && asksToStop(text)) return 'stop'
  if (!automatic && sent) store.messages.answered(sent.id, nowMs)
  world.keepActivity(contactOf(contactId), {
    kind: automatic ? 'messageAutomatic' : 'message',
    about: subject.slice(0, 500),
    data: known({
      channel,
      answer: own.slice(0, ANSWER_MOST),
      ...(automatic ? {} : { kind, label: sent?.label }),
    }),
    atMs: nowMs,
    key: `in ${messageId}`,
  })
  return automatic ? 'automatic' : 'answer'
}

const contactOf = (id: number): RecordRef => ({ object: 'contact', id })

/** An address wants nothing more of a channel; what waits for it finds out when its moment comes. */
export function optOut(workspace: Workspace, channel: MessageChannel, address: string, how: string): void {
  workspace.store.addresses.stop({
    channel,
    address,
    because: 'optedOut',
    how,
    atMs: workspace.clock.nowMs(),
  })
  workspace.store.messages.optedOut(channel, address, workspace.clock.nowMs())
}

/** A contact’s own addresses, by channel. */
export function addressesOf(
  workspace: Workspace,
  contactId: number,
): readonly {
  readonly channel: MessageChannel
  readonly address: string
}[] {
  const record = workspace.store.records.read(contactOf(contactId))
  if (!record) return []
  const { email } = record.values
  const phones = workspace
    .catalogue()
    .fields('contact')
    .filter(({ type }) => type === 'phone')
    .flatMap(({ key }) => (typeof record.values[key] === 'string' ? [String(record.values[key])] : []))
  return [
    ...(typeof email === 'string' && email !== '' ? [{ channel: 'mail' as const, address: email.toLowerCase() }] : []),
    ...[...new Set(phones)].map((address) => ({ channel: 'text' as const, address })),
  ]
}

/** Says that an answer is of another kind than its phrases made it; rules hear nothing of that: they have heard. */
export function correctAnswer(workspace: Workspace, id: number, kind: AnswerKind, personId: string): void {
  const row = workspace.store.messages.get(id)
  if (!row || row.way !== 'in') throw refuse('', { code: 'answerGone', id })
  if (row.kind === 'automatic') throw refuse('kind', { code: 'automaticReply' })
  workspace.db.inTurn(() => workspace.store.messages.correct(id, kind, personId))
  workspace.live.tell({ about: 'sent' })
}

/** Why somebody cannot be written to now by a channel, in words. */
export const noAddressWords = (channel: MessageChannel): string =>
  `The contact has no ${channel === 'mail' ? 'email' : 'mobile number'} for ${CHANNEL_WORDS[channel].many}.`
