import { z } from 'zod'
import { ANSWER_KIND_CHOICES } from '../../core/messages/answer-kind'
import { MESSAGE_CHANNELS } from '../../core/messages/guards'
import { zMessaging } from '../../core/messages/settings'
import { SUBJECT_MOST, TEXT_MOST, zGivenTemplate } from '../../core/messages/template'
import { zMailAccount } from '../channels/mail/account'
import { zTextGateway } from '../channels/text'
import { zCallResult } from '../../core/asks/call'
import { zDialler } from '../channels/call'
import { contract, zId, zIdParam, zInstant, zOk, zPersonId, zRef, zRefParams } from './contract'

const zChannel = z.enum(MESSAGE_CHANNELS)
const zKind = z.enum(ANSWER_KIND_CHOICES.map(({ id }) => id) as ['positive', 'negative', 'question', 'other'])
const zRuleRun = z.strictObject({ id: zId, name: z.string(), runId: zId }).meta({ id: 'SendingRule' }).nullable()
const zMessage = z
  .strictObject({
    id: zId,
    channel: zChannel,
    way: z.enum(['out', 'in']),
    contactId: zId,
    contact: z.string().describe('name'),
    from: z.string(),
    address: z.string(),
    subject: z.string(),
    text: z.string(),
    label: z.string(),
    state: z.enum(['waiting', 'sent', 'failed', 'bounced', 'received']),
    atMs: zInstant,
    openedAt: zInstant.nullable(),
    answeredAt: zInstant.nullable(),
    kind: z.string().nullable().describe('of an answer'),
    phrase: z.string().nullable().describe('what decided its kind'),
    corrected: z.boolean(),
    reason: z.string().nullable().describe('why it failed or came back'),
    rule: zRuleRun,
  })
  .meta({ id: 'Message' })

const zSettings = zMessaging.meta({ id: 'Messaging' })
const zTemplate = zGivenTemplate.meta({ id: 'MessageTemplate' })
const zVariants = zGivenTemplate.shape.variants.meta({ id: 'TemplateTexts' })

const zStopped = z.strictObject({
  channel: z.enum([...MESSAGE_CHANNELS, 'any']),
  address: z.string(),
  because: z.enum(['optedOut', 'never', 'bounced']),
  how: z.string(),
  atMs: zInstant,
})

const zPreview = z.strictObject({
  contact: z.string(),
  address: z.string().nullable(),
  from: z.string().nullable(),
  subject: z.string(),
  text: z.string(),
  html: z.string().describe('for a frame without scripts'),
  language: z.string(),
  says: z.string().describe('when it would go, or why it would not'),
  goes: z.enum(['now', 'later', 'never']),
})

export const messages = {
  'GET /records/:object/:id/messages': contract({
    section: 'Messages',
    does: 'List messages to and from a contact, or the contacts of a record',
    params: zRefParams,
    query: z.object({ before: z.coerce.number().int().positive().optional() }),
    answer: z.strictObject({
      messages: z.array(zMessage),
      next: zId.nullable(),
      contacts: z.array(
        z.strictObject({
          id: zId,
          name: z.string(),
          addresses: z.array(
            z.strictObject({ channel: zChannel, address: z.string(), stopped: z.string().nullable() }),
          ),
        }),
      ),
    }),
  }),
  'POST /messages': contract({
    section: 'Messages',
    does: 'Write to a contact by hand',
    more: 'Kept to the same limits as messages of rules; outside decent hours it goes at the next allowed time.',
    body: z.strictObject({
      contactId: zId,
      channel: zChannel,
      subject: z.string().trim().max(SUBJECT_MOST).default(''),
      text: z.string().trim().min(1).max(TEXT_MOST),
      answerTo: zId.nullable().default(null).describe('message it answers'),
    }),
    answer: z.strictObject({ id: zId, says: z.string() }),
  }),
  'PATCH /messages/:id': contract({
    section: 'Messages',
    does: 'Correct the kind of an answer',
    params: zIdParam,
    body: z.strictObject({ kind: zKind }),
    answer: zOk,
  }),
  'POST /message-previews': contract({
    section: 'Messages',
    does: 'Preview a message step or a template for a record',
    body: z.strictObject({
      ref: zRef,
      rule: zId.optional(),
      params: z.record(z.string(), z.unknown()),
    }),
    answer: z.strictObject({ letters: z.array(zPreview), says: z.string() }),
  }),
  'GET /message-settings': contract({
    section: 'Messages',
    does: 'Get hours, limits, senders and phrases of messages',
    answer: z.strictObject({
      messaging: zSettings,
      mail: zMailAccount
        .pick({ host: true, port: true, security: true, user: true, replyDomain: true })
        .extend({ signed: z.boolean() })
        .nullable()
        .describe('null for the simulated mailbox'),
      text: zTextGateway.pick({ address: true }).nullable().describe('null for the simulated phones'),
      dialler: zDialler.pick({ address: true }).nullable().describe('null for the simulated phone'),
    }),
  }),
  'PUT /message-settings': contract({
    section: 'Messages',
    does: 'Change hours, limits, senders and phrases of messages',
    body: zSettings,
    answer: zOk,
  }),
  'PUT /message-settings/mail': contract({
    section: 'Messages',
    does: 'Set the account that mail is sent by',
    more: 'The password is kept sealed and never shown again. `null` for the simulated mailbox.',
    body: z.strictObject({ account: zMailAccount.nullable() }),
    answer: zOk,
  }),
  'PUT /message-settings/text': contract({
    section: 'Messages',
    does: 'Set the gateway that text messages are sent by',
    body: z.strictObject({ gateway: zTextGateway.nullable() }),
    answer: zOk,
  }),
  'GET /stopped-addresses': contract({
    section: 'Messages',
    does: 'List addresses that get no messages',
    query: z.object({ after: z.string().max(300).default('') }),
    answer: z.strictObject({ addresses: z.array(zStopped), next: z.string().nullable() }),
  }),
  'POST /stopped-addresses': contract({
    section: 'Messages',
    does: 'Add addresses never to write to',
    more: 'Mail addresses, phone numbers, or whole domains as `@acme.example`.',
    most: 2_000_000,
    body: z.strictObject({ addresses: z.array(z.string().max(300)).min(1).max(20_000) }),
    answer: z.strictObject({
      added: z.int(),
      refused: z.array(z.strictObject({ row: z.int(), text: z.string() })),
    }),
  }),
  'POST /stopped-addresses/freed': contract({
    section: 'Messages',
    does: 'Let an address get messages again',
    body: zStopped.pick({ channel: true, address: true }),
    answer: zOk,
  }),
  'GET /templates': contract({
    section: 'Messages',
    does: 'List templates with the rules that use them',
    answer: z.strictObject({
      templates: z.array(
        z.strictObject({
          id: zId,
          name: z.string(),
          folder: z.string(),
          channel: zChannel,
          variants: zVariants,
          version: z.int(),
          archived: z.boolean(),
          changedBy: zPersonId.nullable(),
          changedAt: zInstant,
          rules: z.array(z.strictObject({ id: zId, name: z.string() })),
          findings: z.array(z.string()).describe('what is wrong with it, or may be'),
        }),
      ),
      languages: z.array(z.string()).describe('of contacts'),
    }),
  }),
  'POST /templates': contract({
    section: 'Messages',
    does: 'Create a template',
    body: zTemplate,
    answer: z.strictObject({ id: zId }),
  }),
  'PATCH /templates/:id': contract({
    section: 'Messages',
    does: 'Change or archive a template',
    more: 'Earlier texts are kept. Refused while rules use a template that is archived.',
    params: zIdParam,
    body: z.strictObject({ template: zTemplate.optional(), archived: z.boolean().optional() }),
    answer: zOk,
  }),
  'GET /templates/:id/versions': contract({
    section: 'Messages',
    does: 'List earlier texts of a template',
    params: zIdParam,
    answer: z.strictObject({
      versions: z.array(
        z.strictObject({
          version: z.int(),
          variants: zVariants,
          changedBy: z.string().nullable(),
          changedAt: zInstant,
        }),
      ),
    }),
  }),
  'POST /templates/:id/tests': contract({
    section: 'Messages',
    does: 'Send a template to yourself',
    params: zIdParam,
    body: z.strictObject({ contactId: zId, language: z.string().max(60).default('') }),
    answer: z.strictObject({ address: z.string() }),
  }),
  'GET /simulated-messages': contract({
    section: 'Messages',
    does: 'List what reached the simulated mailboxes and phones',
    answer: z.strictObject({
      share: z.number().int().describe('percent of the messages that customers act on by themselves'),
      messages: z.array(
        z.strictObject({
          key: z.string(),
          channel: zChannel,
          recipient: z.string(),
          name: z.string(),
          contactId: zId.nullable(),
          sender: z.string(),
          senderName: z.string(),
          subject: z.string(),
          body: z.string(),
          html: z.string().nullable(),
          atMs: zInstant,
          answers: z.array(z.strictObject({ text: z.string(), atMs: zInstant, kind: z.string().nullable() })),
          rule: zRuleRun,
        }),
      ),
    }),
  }),
  'GET /simulated-calls': contract({
    section: 'Messages',
    does: 'List calls on the simulated phone',
    answer: z.strictObject({
      calls: z.array(
        z.strictObject({
          key: z.string(),
          number: z.string(),
          name: z.string(),
          script: z.string(),
          atMs: zInstant,
          result: zCallResult.nullable().describe('`null` while it rings'),
          ref: zRef,
          attempt: z.number().int(),
          most: z.number().int(),
          runId: zId,
          ruleName: z.string(),
        }),
      ),
    }),
  }),
  'POST /simulated-calls': contract({
    section: 'Messages',
    does: 'End a call on the simulated phone',
    body: z.strictObject({ key: z.string().max(400), result: zCallResult }),
    answer: z.strictObject({ taken: z.string() }),
  }),
  'PUT /message-settings/dialler': contract({
    section: 'Messages',
    does: 'Set the dialler that calls are placed by',
    body: z.strictObject({ dialler: zDialler.nullable() }),
    answer: zOk,
  }),
  'PUT /simulated-messages': contract({
    section: 'Messages',
    does: 'Let simulated customers act by themselves',
    body: z.strictObject({
      share: z.number().int().min(0).max(100).describe('percent of the messages they answer, open or object to'),
    }),
    answer: zOk,
  }),
  'POST /simulated-messages': contract({
    section: 'Messages',
    does: 'Answer a simulated message as the customer',
    body: z.strictObject({
      key: z.string().max(400),
      as: z.enum(['answer', 'automatic', 'bounce', 'stop', 'open', 'optOut']),
      text: z.string().max(TEXT_MOST).default(''),
    }),
    answer: z.strictObject({ taken: z.string() }),
  }),
} as const
