import type { Catalogue } from '../../../fields/catalogue'
import type { Names } from '../../../fields/names'
import type { Problem } from '../../../language/problems'
import { sayValue } from '../../../fields/say-value'
import { foldText } from '../../../language/value'
import type { MessageChannel } from '../../../messages/guards'
import { variantFor, type Template } from '../../../messages/template'
import { oneOf, type ObjectKind } from '../../../records/kinds'
import type { RecordSnapshot } from '../../../records/record'
import { decentFor } from '../../clock'
import type { StepContext } from '../../step'
import { chooseWho } from '../../who'

/** Whom a message is for: the contact of the record, each that is linked to it, or those with a role there. */
export const RECIPIENTS = ['main', 'all', 'role'] as const
export type Recipients = (typeof RECIPIENTS)[number]

export const sayRecipients = (to: Recipients, object: ObjectKind): string =>
  object === 'contact'
    ? 'the contact'
    : to === 'main'
      ? `the ${oneOf(object)}’s main contact`
      : to === 'all'
        ? `every contact of the ${oneOf(object)}`
        : `every contact of the ${oneOf(object)} with role`

/** Whom a step writes to. */
export interface ForWhom {
  readonly to: Recipients
  readonly role: string
}

export function recipientsOf(
  { to, role }: ForWhom,
  { record, related, linked }: StepContext,
): readonly RecordSnapshot[] {
  if (record.object === 'contact') return [record]
  if (to !== 'main')
    return linked('contact')
      .filter((one) => to === 'all' || foldText(one.role.trim()) === foldText(role.trim()))
      .map((one) => one.record)
  const main = related('contact') ?? linked('contact')[0]?.record
  return main ? [main] : []
}

/** Who a message comes from: the record's owner, somebody, or an address of a team. */
const PERSON = 'person:'
const TEAM = 'team:'
export const OWNER_SENDS = 'owner'

export interface Sender {
  readonly name: string
  readonly address: string
  readonly personId: string | null
}

/** All that can be chosen as the sender, with their words. */
export const senderOptions = (
  catalogue: Catalogue,
  object: ObjectKind,
): readonly { readonly value: string; readonly label: string; readonly hint: string }[] => [
  ...(object === 'none' ? [] : [{ value: OWNER_SENDS, label: `the ${oneOf(object)}’s owner`, hint: '' }]),
  ...catalogue.messaging.senders.map(({ team, name, address }) => ({
    value: `${TEAM}${team}`,
    label: name,
    hint: address,
  })),
  ...catalogue.people
    .filter((person) => person.active)
    .map(({ id, name, email }) => ({ value: `${PERSON}${id}`, label: name, hint: email })),
]

/** The templates for a channel that can be chosen, and a text of one’s own. */
export const templateOptions = (
  catalogue: Catalogue,
  channel: unknown,
): readonly { readonly value: string; readonly label: string; readonly hint: string }[] => [
  { value: '', label: 'Own text', hint: '' },
  ...(catalogue.data.templates ?? [])
    .filter((one) => !one.archived && one.channel === channel)
    .map(({ id, name, folder }) => ({ value: String(id), label: name, hint: folder })),
]

export function saySender(from: string, { catalogue, object }: Names): string | null {
  if (from === OWNER_SENDS) return `the ${oneOf(object)}’s owner`
  const person = personSending(from)
  if (person !== null) return catalogue.person(person)?.name ?? person
  return catalogue.messaging.senders.find(({ team }) => from === `${TEAM}${team}`)?.name ?? null
}

/** The id of whoever sends it, where somebody was named. */
export const personSending = (from: string): string | null =>
  from.startsWith(PERSON) ? from.slice(PERSON.length) : null

export function checkSender(from: string, { catalogue, object }: Names): Problem | null {
  if (from === OWNER_SENDS) return object === 'none' ? { code: 'noOwner' } : null
  const person = personSending(from)
  if (person !== null) return catalogue.person(person)?.active ? null : { code: 'unknownPerson', raw: person }
  return catalogue.messaging.senders.some(({ team }) => from === `${TEAM}${team}`)
    ? null
    : { code: 'missing', what: 'sender' }
}

/** Who sends a message, or why it is nobody. */
export function senderOf(from: string, context: StepContext) {
  const { catalogue, record, moment } = context
  const team = catalogue.messaging.senders.find((one) => from === `${TEAM}${one.team}`)
  if (team) return { sender: { name: team.name, address: team.address, personId: null } satisfies Sender }
  const named = personSending(from)
  const who = named === null ? ({ by: 'owner' } as const) : ({ by: 'person', person: named } as const)
  const chosen = chooseWho(who, record.values, moment.today, context)
  if ('none' in chosen) return chosen
  const { id, name, email } = chosen.person
  return { sender: { name, address: email, personId: id } satisfies Sender }
}

/** By what clock somebody lives, and when they may be written to: their own zone, else their company's country's. */
export function hoursOfContact(contact: RecordSnapshot, { catalogue, linkedOf }: StepContext) {
  const companies = linkedOf({ object: 'contact', id: contact.id }, 'company')
  const company = (companies.find((one) => one.main) ?? companies[0])?.record
  return decentFor(contact.values, company?.values ?? {}, catalogue.messaging, catalogue.workspace.zone)
}

/**
 * The field under which somebody is reached: the one that was chosen, else, where that may be, any other of its type.
 */
export function addressOf(
  contact: RecordSnapshot,
  /** `voice` for a call, for which any line will do. */
  channel: MessageChannel | 'voice',
  { phone, otherPhone }: { readonly phone: string; readonly otherPhone: boolean },
  { catalogue, post }: StepContext,
): { readonly address: string | null; readonly reachable: boolean; readonly field: string } {
  const text = (key: string): string | null => {
    const value = contact.values[key]
    return typeof value === 'string' && value !== '' ? value : null
  }
  if (channel === 'mail') return { address: text('email'), reachable: true, field: 'email' }
  const keys = [
    phone,
    ...(otherPhone
      ? catalogue
          .fields('contact')
          .filter((field) => field.type === 'phone' && field.key !== phone)
          .map((field) => field.key)
      : []),
  ]
  const found = keys.flatMap((key) => {
    const address = text(key)
    return address === null ? [] : [{ address, reachable: channel === 'voice' || post.lineOf(address) !== 'landline' }]
  })
  const best = found.find((one) => one.reachable) ?? found[0] ?? { address: null, reachable: true }
  return { ...best, field: catalogue.field('contact', phone)?.label.toLowerCase() ?? 'phone number' }
}

/** The variant of a template in somebody's language. */
export function variantOf(template: Template, contact: RecordSnapshot, catalogue: Catalogue) {
  const field = catalogue.field('contact', 'language')
  const value = contact.values.language ?? null
  return variantFor(
    template,
    typeof value === 'string' ? value : null,
    field && value !== null ? sayValue(value, field, catalogue) : null,
  )
}
