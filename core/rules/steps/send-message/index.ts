import { z } from 'zod'
import type { Effect } from '../../../effects'
import type { Outcome } from '../../../engine/outcome'
import { count, listOf } from '../../../language/counts'
import type { SkipReason } from '../../../language/reasons'
import { extra, say, word, type SentencePart } from '../../../language/sentence'
import {
  judge,
  MESSAGE_CHANNELS,
  sayHeld,
  UNKNOWN_ADDRESS,
  type MessageChannel,
  type Verdict,
  type Held,
} from '../../../messages/guards'
import { canWriteFrom, textOf } from '../../../messages/letter'
import { SUBJECT_MOST, TEXT_MOST } from '../../../messages/template'
import { OBJECTS, type ObjectKind } from '../../../records/kinds'
import type { RecordSnapshot } from '../../../records/record'
import { fieldWord } from '../../../fields/say-value'
import { sayInstant } from '../../../time/say'
import { checkText, fillForOthers, mergeParts } from '../../merge'
import { defineStep, type StepContext, type StepProblem } from '../../step'
import {
  addressOf,
  checkSender,
  hoursOfContact,
  OWNER_SENDS,
  RECIPIENTS,
  recipientsOf,
  sayRecipients,
  saySender,
  senderOf,
  variantOf,
  type Recipients,
} from './recipients'

interface Params {
  channel: MessageChannel
  to: Recipients
  /** What they are to the record, where only some of its contacts are written to. */
  role: string
  /** `owner`, `person:rosa` or `team:Hire`. */
  from: string
  /** Colleagues in copy; for mail. */
  copy: string[]
  template: number | null
  /** Where no template is chosen. */
  subject: string
  body: string
  /** The field with the number, for text messages; whether any other number of theirs will do. */
  phone: string
  otherPhone: boolean
  /** The same text goes to an address again only after so many days; 0 for never again. */
  again: number
  /** Why it may go at any hour; empty where it may not. */
  urgent: string
  /** Whether it goes also to whoever has answered a message of this run. */
  answered: boolean
  /** To compare what different messages bring. */
  label: string
}

const LABEL_MOST = 60
const ROLE_MOST = 60
const REASON_MOST = 200
const DAYS_MOST = 3650

/** What becomes of the message to one contact. */
type Fate = { readonly contact: RecordSnapshot } & (
  | { readonly go: 'now'; readonly effect: Effect }
  | Extract<Verdict, { readonly go: 'later' }>
  | { readonly go: 'never'; readonly say: string; readonly held?: Held }
  | { readonly go: 'answered'; readonly atMs: number }
  | { readonly go: 'sent' }
)

/** Why nothing was sent to anybody: what somebody can mend by its name, where it is the one reason there is. */
function neverReason(held: readonly Held[], recipients: number, say: string): SkipReason {
  const [only] = held
  if (recipients === 1 && only?.code === 'noAddress') return only
  if (recipients === 1 && only?.code === 'bounced') return only
  return { code: 'own', say }
}

const nameOf = (contact: RecordSnapshot): string => String(contact.values.name ?? 'the contact')

function fateOf(params: Params, contact: RecordSnapshot, context: StepContext): Fate {
  const { channel, template: id, again, urgent, answered, copy, label } = params
  const { catalogue, post, moment } = context
  const who = { object: 'contact', id: contact.id } as const
  const { address, reachable, field } = addressOf(contact, channel, params, context)
  if (address !== null && context.sentHere().includes(address)) return { contact, go: 'sent' }
  const firstMs = answered ? null : context.firstSentTo(who)
  const answer =
    firstMs === null
      ? undefined
      : context.activities(who).find(({ kind, atMs }) => kind === 'message' && atMs > firstMs)
  if (answer) return { contact, go: 'answered', atMs: answer.atMs }
  const template = id === null ? null : catalogue.template(id)
  if (id !== null && !template) return { contact, go: 'never', say: 'the template does not exist any more' }
  const text = template ? variantOf(template, contact, catalogue) : { subject: params.subject, text: params.body }
  // Whoever it is for is the contact that the text speaks of, also where the record has another main one.
  const related = (object: ObjectKind): RecordSnapshot | null =>
    object === 'contact' ? contact : context.related(object)
  const fill = (given: string) => fillForOthers(given, context.record, related, catalogue)
  const [subject, body] = [channel === 'mail' ? fill(text.subject) : { text: '' }, fill(text.text)]
  if ('blank' in subject || 'blank' in body)
    return {
      contact,
      go: 'never',
      say: `${'blank' in subject ? subject.blank : 'blank' in body ? body.blank : ''} of ${nameOf(contact)} is empty, and the text has nothing for that`,
    }
  const from = senderOf(params.from, context)
  if ('none' in from) return { contact, go: 'never', say: 'there is no one to send it' }
  const { zone, hours } = hoursOfContact(contact, context)
  const { personDay, ruleHour } = catalogue.messaging
  const said = { subject: subject.text.trim().replace(/\s+/g, ' ').slice(0, SUBJECT_MOST), text: body.text.trim() }
  const facts = address === null ? UNKNOWN_ADDRESS : post.addressFacts(channel, address, who, context.ruleId)
  const verdict = judge(
    {
      channel,
      name: nameOf(contact),
      address,
      field,
      reachable,
      optedOut: contact.values.optedOut === true,
      text: textOf(said),
      againDays: again === 0 ? null : again,
      urgent: urgent.trim() !== '',
      zone,
      hours,
      personDay,
      ruleHour,
    },
    facts,
    moment.nowMs,
  )
  if (verdict.go === 'never') return { contact, go: 'never', say: sayHeld(verdict.held), held: verdict.held }
  if (verdict.go === 'later') return { contact, ...verdict }
  return {
    contact,
    go: 'now',
    effect: {
      effect: 'letter',
      letter: {
        channel,
        who,
        name: nameOf(contact),
        address: verdict.address,
        from: from.sender,
        copy: channel === 'mail' ? copy.flatMap((one) => catalogue.person(one)?.email ?? []) : [],
        ...said,
        label: label.trim(),
        template: id,
        zone,
      },
    },
  }
}

/** Writes to a customer: once, at a decent hour, and not to those who do not want it. */
export const sendMessage = defineStep<'sendMessage', Params>({
  kind: 'sendMessage',
  category: 'outside',
  does: 'message the customer',
  alsoCalled: ['email', 'mail', 'sms', 'text message', 'letter', 'write', 'send', 'newsletter'],
  objects: OBJECTS,
  params: z.strictObject({
    channel: z.enum(MESSAGE_CHANNELS),
    to: z.enum(RECIPIENTS),
    role: z.string().max(ROLE_MOST).default(''),
    from: z.string().max(120),
    copy: z.array(z.string().max(100)).max(20),
    template: z.int().positive().nullable(),
    subject: z.string().max(SUBJECT_MOST),
    body: z.string().max(TEXT_MOST),
    phone: z.string().max(100),
    otherPhone: z.boolean(),
    again: z.int().min(0).max(DAYS_MOST),
    urgent: z.string().max(REASON_MOST),
    answered: z.boolean(),
    label: z.string().max(LABEL_MOST),
  }),
  form: {
    channel: {
      widget: 'pick',
      options: [
        { value: 'mail', label: 'an email' },
        { value: 'text', label: 'a text message', hint: 'to a mobile number' },
      ],
    },
    to: {
      label: 'Recipient',
      widget: 'pick',
      options: [
        { value: 'main', label: 'the contact', hint: 'of a deal, company or appointment its main contact' },
        { value: 'all', label: 'every contact', hint: 'all that are linked, one message each' },
        { value: 'role', label: 'every contact with role', hint: 'those whose link has it, one message each' },
      ],
    },
    role: { widget: 'words', most: ROLE_MOST, label: 'Role' },
    from: { label: 'Sender', widget: 'sender' },
    copy: { widget: 'people', none: 'No copy' },
    template: { widget: 'template', channel: 'channel' },
    subject: { widget: 'mergeText', lines: 'one', most: SUBJECT_MOST },
    body: { label: 'Text', widget: 'mergeText', lines: 'many', most: TEXT_MOST },
    phone: { widget: 'phoneField' },
    otherPhone: { widget: 'toggle', on: 'or another number of theirs', off: 'no other number' },
    again: { label: 'Days until the same text may go again (0: never)', widget: 'count', min: 0, max: DAYS_MOST },
    urgent: { widget: 'words', most: REASON_MOST, label: 'Reason to send at any hour' },
    answered: { widget: 'toggle', on: 'also if they have answered', off: 'not if they have answered' },
    label: { widget: 'words', most: LABEL_MOST, label: 'Report label' },
  },
  start: {
    channel: 'mail',
    to: 'main',
    role: '',
    from: OWNER_SENDS,
    copy: [],
    template: null,
    subject: '',
    body: '',
    phone: 'phone',
    otherPhone: false,
    again: 0,
    urgent: '',
    answered: false,
    label: '',
  },
  sentence(params, names): readonly SentencePart[] {
    const { channel, to, role, from, copy, template, phone, otherPhone, again, urgent, answered, label } = params
    const { catalogue, object } = names
    const isMail = channel === 'mail'
    const chosen = template === null ? null : catalogue.template(template)
    const field = catalogue.field('contact', phone)
    return [
      say('send '),
      word('channel', isMail ? 'an email' : 'a text message', ''),
      say(' to '),
      object === 'contact' ? say('the contact') : word('to', sayRecipients(to, object), ''),
      ...(object !== 'contact' && to === 'role'
        ? [say(' '), word('role', role.trim() === '' ? null : `“${role.trim()}”`, 'role')]
        : []),
      say(' from '),
      word('from', saySender(from, names), 'someone'),
      ...(isMail
        ? [
            say(', '),
            extra(
              'copy',
              copy.length === 0
                ? 'no copy'
                : `${listOf(copy.map((one) => catalogue.person(one)?.name ?? one))} in copy`,
              copy.length === 0,
            ),
          ]
        : [
            say(', '),
            extra('phone', `to ${fieldWord(field) ?? phone}`, phone === 'phone'),
            say(', '),
            extra('otherPhone', otherPhone ? 'or another number of theirs' : 'no other number', !otherPhone),
          ]),
      say(', '),
      extra(
        'again',
        again === 0 ? 'the same text never again' : `the same text not within ${count(again, 'day')}`,
        again === 0,
      ),
      say(', '),
      extra(
        'urgent',
        urgent.trim() === '' ? 'only at decent hours' : `at any hour (${urgent.trim()})`,
        urgent.trim() === '',
      ),
      say(', '),
      extra('answered', answered ? 'also if they have answered' : 'not if they have answered', !answered),
      say(', '),
      extra('label', label.trim() === '' ? 'no report label' : `report label “${label.trim()}”`, label.trim() === ''),
      say(', '),
      extra(
        'template',
        chosen ? `template “${chosen.name}”` : template === null ? 'own text' : 'a template that is gone',
        template === null,
      ),
      ...(template === null
        ? [
            ...(isMail
              ? [
                  { break: true } as const,
                  say('“'),
                  ...mergeParts('subject', params.subject, word('subject', null, 'subject'), names),
                  say('”'),
                ]
              : []),
            { break: true } as const,
            ...mergeParts('body', params.body, word('body', null, 'text'), names),
          ]
        : []),
    ]
  },
  check(params, names) {
    const { channel, to, role, from, template, subject, body, phone } = params
    const { catalogue, object } = names
    const problems: StepProblem[] = []
    if (!canWriteFrom(object)) problems.push({ param: 'to', problem: { code: 'notLinked', object, to: 'contact' } })
    if (object !== 'contact' && to === 'role' && role.trim() === '')
      problems.push({ param: 'role', problem: { code: 'missing', what: 'role' } })
    const sender = checkSender(from, names)
    if (sender) problems.push({ param: 'from', problem: sender })
    if (channel === 'text' && catalogue.field('contact', phone)?.type !== 'phone')
      problems.push({ param: 'phone', problem: { code: 'unknownField', field: phone } })
    if (template !== null) {
      const chosen = catalogue.template(template)
      if (!chosen || chosen.archived || chosen.channel !== channel)
        problems.push({ param: 'template', problem: { code: 'missing', what: 'template' } })
      for (const variant of chosen?.variants ?? [])
        for (const text of [variant.subject, variant.text])
          for (const problem of checkText(text, object, catalogue)) problems.push({ param: 'template', problem })
      return problems
    }
    if (channel === 'mail' && subject.trim() === '')
      problems.push({ param: 'subject', problem: { code: 'missing', what: 'subject' } })
    if (body.trim() === '') problems.push({ param: 'body', problem: { code: 'missing', what: 'messageText' } })
    for (const problem of channel === 'mail' ? checkText(subject, object, catalogue) : [])
      problems.push({ param: 'subject', problem })
    for (const problem of checkText(body, object, catalogue)) problems.push({ param: 'body', problem })
    return problems
  },
  writes({ channel, template: id, subject, body, phone, otherPhone, urgent }, catalogue) {
    const template = id === null ? null : catalogue.template(id)
    const isMail = channel === 'mail'
    const own = [...(isMail ? [{ param: 'subject', text: subject }] : []), { param: 'body', text: body }]
    return {
      channel,
      field: isMail ? 'email' : otherPhone ? null : phone,
      texts:
        id === null
          ? own
          : (template?.variants ?? []).flatMap((one) =>
              [...(isMail ? [one.subject] : []), one.text].map((text) => ({ param: 'template', text })),
            ),
      template,
      urgent: urgent.trim(),
    }
  },
  // It may have to wait for a decent hour.
  mayWait: () => true,
  recheck: () => true,
  run(params, context): Outcome {
    const recipients = recipientsOf(params, context)
    if (recipients.length === 0) return { go: 'skip', reason: { code: 'noLinks', to: 'contact' } }
    const fates = recipients.map((contact) => fateOf(params, contact, context))
    const answered = fates.find((fate) => fate.go === 'answered')
    if (answered?.go === 'answered' && fates.every(({ go }) => go === 'answered'))
      return {
        go: 'stop',
        because: `${nameOf(answered.contact)} answered on ${sayInstant(answered.atMs, context.moment.zone)}`,
      }
    const effects = fates.flatMap((fate) => (fate.go === 'now' ? [fate.effect] : []))
    const never = fates.flatMap((fate) =>
      fate.go === 'never' ? [fate.say] : fate.go === 'answered' ? [`${nameOf(fate.contact)} has answered`] : [],
    )
    const later = fates.flatMap((fate) => (fate.go === 'later' ? [fate] : [])).sort((a, b) => a.atMs - b.atMs)
    const [next] = later
    if (next) {
      const say = later.map((one) => one.say).join('; ')
      return { go: 'hold', dueMs: next.atMs, say, effects, capped: later.some((one) => one.capped) }
    }
    const held = fates.flatMap((fate) => (fate.go === 'never' && fate.held ? [fate.held] : []))
    const reason = neverReason(held, fates.length, never.join('; '))
    if (effects.length === 0 && !fates.some(({ go }) => go === 'sent')) return { go: 'skip', reason }
    return { go: 'on', effects, ...(never.length > 0 ? { say: `not sent: ${never.join('; ')}` } : {}) }
  },
  examples: [
    {
      say: 'writes to the contact in the owner’s name',
      object: 'contact',
      params: {
        channel: 'mail',
        to: 'main',
        role: '',
        from: OWNER_SENDS,
        copy: [],
        template: null,
        subject: 'Welcome, {{contact.firstName or "there"}}',
        body: 'Good to have you, {{contact.name}}.',
        phone: 'phone',
        otherPhone: false,
        again: 0,
        urgent: '',
        answered: false,
        label: 'welcome',
      },
      record: { name: 'Vera Lima', email: 'vera@lima.example', owner: 'rosa' },
      expect: {
        go: 'on',
        effects: [
          {
            effect: 'letter',
            letter: {
              channel: 'mail',
              who: { object: 'contact', id: 1 },
              name: 'Vera Lima',
              address: 'vera@lima.example',
              from: { name: 'Rosa Amara', address: 'rosa@larkmoor.example', personId: 'rosa' },
              copy: [],
              subject: 'Welcome, Vera',
              text: 'Good to have you, Vera Lima.',
              label: 'welcome',
              template: null,
              zone: 'Europe/Lisbon',
            },
          },
        ],
      },
    },
    {
      say: 'does not go out with a gap in it',
      object: 'contact',
      params: {
        channel: 'text',
        to: 'main',
        role: '',
        from: 'person:jude',
        copy: [],
        template: null,
        subject: '',
        body: 'See you at {{contact.notes}}',
        phone: 'phone',
        otherPhone: true,
        again: 30,
        urgent: 'a visit within the hour',
        answered: true,
        label: '',
      },
      record: { name: 'Vera Lima', phone: '+351912000123' },
      expect: {
        go: 'skip',
        reason: { code: 'own', say: 'notes of Vera Lima is empty, and the text has nothing for that' },
      },
    },
  ],
})
