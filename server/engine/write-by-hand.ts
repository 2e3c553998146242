import { randomUUID } from 'node:crypto'
import type { Person } from '../../core/fields/field'
import { judge, sayHeld, type MessageChannel } from '../../core/messages/guards'
import { textOf, type Letter } from '../../core/messages/letter'
import { decentFor } from '../../core/rules/clock'
import { addressesOf, noAddressWords } from './messages'
import { lineOf } from './phone-line'
import { postLetter } from './post'
import type { Workspace } from './workspace'
import { refuse } from './refuse'

/** A message that somebody writes by hand. */

export interface WrittenMessage {
  readonly contactId: number
  readonly channel: MessageChannel
  readonly subject: string
  readonly text: string
  readonly answerTo: number | null
}

/** Sends it, at once or at the next decent hour; refuses it with the reason where it may not go. */
export function writeByHand(
  workspace: Workspace,
  { contactId, channel, subject, text, answerTo }: WrittenMessage,
  person: Person,
): { readonly id: number; readonly says: string } {
  const { store, clock } = workspace
  const who = { object: 'contact', id: contactId } as const
  const contact = store.records.read(who)
  if (!contact) throw refuse('contactId', { code: 'recordGone', object: 'contact', id: contactId })
  if (channel === 'mail' && subject === '') throw refuse('subject', { code: 'noSubject' })
  const answered = answerTo === null ? null : store.messages.get(answerTo)
  if (answerTo !== null && answered?.contactId !== contactId)
    throw refuse('answerTo', { code: 'messageOfOther', id: answerTo })
  const own = addressesOf(workspace, contactId).filter((one) => one.channel === channel)
  const address = own.find((one) => channel === 'mail' || lineOf(one.address) !== 'landline')?.address ?? null
  if (address === null && own.length === 0)
    throw refuse('', { code: 'contactWithoutAddress', said: noAddressWords(channel) })
  const { messaging, workspace: firm } = workspace.catalogue()
  const company = workspace.world.related(who, 'company')
  const decent = decentFor(contact.values, company?.values ?? {}, messaging, firm.zone)
  const name = String(contact.values.name ?? '')
  const nowMs = clock.nowMs()
  const reachable = address ?? own[0]?.address ?? ''
  const verdict = judge(
    {
      channel,
      name,
      address: reachable,
      field: channel === 'mail' ? 'email' : 'phone number',
      reachable: address !== null,
      optedOut: contact.values.optedOut === true,
      text: textOf({ subject, text }),
      // Whoever writes by hand knows what they wrote before; an answer is no campaign.
      againDays: 0,
      urgent: false,
      ...decent,
      personDay: messaging.personDay,
      ruleHour: messaging.ruleHour,
    },
    {
      stopped: store.addresses.stopped(channel, reachable),
      sent: [],
      toPerson: answered ? [] : store.messages.toPerson(who, nowMs - 86_400_000),
      ofRule: [],
    },
    nowMs,
  )
  if (verdict.go === 'never') throw refuse('', { code: 'notSent', said: sayHeld(verdict.held) })
  const letter: Letter = {
    channel,
    who,
    name,
    address: reachable,
    from: { name: person.name, address: person.email, personId: person.id },
    copy: [],
    subject,
    text,
    label: '',
    template: null,
    zone: decent.zone,
  }
  const key = `hand-${randomUUID()}`
  const atMs = verdict.go === 'later' ? verdict.atMs : nowMs
  workspace.db.inTurn(() =>
    workspace.db.atomically(() =>
      postLetter(store, letter, { personId: person.id, inReplyTo: answered?.messageId ?? null }, key, nowMs, atMs),
    ),
  )
  workspace.courier.wake()
  workspace.live.tell({ about: 'sent' })
  return { id: store.messages.byKey(key)?.id ?? 0, says: verdict.go === 'later' ? verdict.say : 'sent' }
}
