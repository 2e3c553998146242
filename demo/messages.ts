import type { GivenTemplate } from '../core/messages/template'
import { USUAL_MESSAGING, type Messaging } from '../core/messages/settings'
import { takeIncoming } from '../server/engine/messages'
import { letterSent } from '../server/engine/post'
import { makeTemplate } from '../server/engine/templates'
import { setMessaging } from '../server/engine/message-settings'
import type { Workspace } from '../server/engine/workspace'
import { replied } from '../server/engine/web-replies'
import { standInMailbox } from '../server/stand-ins/mailbox'
import { standInPhone } from '../server/stand-ins/phone'
import { USUAL_ANSWER } from '../server/stand-ins/receiver'

/** What the demo writes to its customers with, and what they have answered. */

const DAYTIME = { from: 480, to: 1200, days: [1, 2, 3, 4, 5, 6] }

const MESSAGING: Messaging = {
  ...USUAL_MESSAGING,
  countries: [
    { name: 'Ireland', zone: 'Europe/Dublin', hours: { ...DAYTIME, from: 540 } },
    { name: 'Poland', zone: 'Europe/Warsaw', hours: DAYTIME },
    { name: 'Canada', zone: 'America/Halifax', hours: { ...DAYTIME, to: 1140 } },
    { name: 'New Zealand', zone: 'Pacific/Auckland', hours: { ...DAYTIME, days: [1, 2, 3, 4, 5] } },
  ],
  senders: [
    { team: 'Hire', name: 'Larkmoor Hire', address: 'hire@larkmoor.example' },
    { team: 'Purchase', name: 'Larkmoor Purchase', address: 'purchase@larkmoor.example' },
  ],
}

const TEMPLATES: readonly GivenTemplate[] = [
  {
    name: 'Welcome',
    folder: 'First contact',
    channel: 'mail',
    variants: [
      {
        language: '',
        subject: 'Thank you for writing to Larkmoor, {{contact.firstName or "and welcome"}}',
        text: 'Dear {{contact.firstName or "Sir or Madam"}},\n\nthank you for getting in touch. I will look after you from here.\n\n- **Hire** by the week or the season\n- **Purchase** with delivery and setting up\n- Temperatures watched day and night\n\nWhen would a short call suit you?\n\n{{contact.owner or "Larkmoor Cold Rooms"}}',
      },
      {
        language: 'Portuguese',
        subject: 'Obrigado pelo seu contacto, {{contact.firstName or "e bem-vindo"}}',
        text: 'Caro(a) {{contact.firstName or "cliente"}},\n\nobrigado pelo seu contacto. Quando lhe convém uma breve chamada?\n\n{{contact.owner or "Larkmoor Cold Rooms"}}',
      },
      {
        language: 'Polish',
        subject: 'Dziękujemy za wiadomość, {{contact.firstName or "witamy"}}',
        text: 'Dzień dobry,\n\ndziękujemy za kontakt. Kiedy możemy zadzwonić?\n\n{{contact.owner or "Larkmoor Cold Rooms"}}',
      },
    ],
  },
  {
    name: 'Welcome back',
    folder: 'First contact',
    channel: 'mail',
    variants: [
      {
        language: '',
        subject: 'Good to hear from you again, {{contact.firstName or "and welcome back"}}',
        text: 'Dear {{contact.firstName or "customer"}},\n\ngood to hear from you again. I have your open deal here, and add what you sent to it.\n\n{{contact.owner or "Larkmoor Cold Rooms"}}',
      },
    ],
  },
  {
    name: 'Birthday',
    folder: 'Greetings',
    channel: 'mail',
    variants: [
      {
        language: '',
        subject: 'Many happy returns, {{contact.firstName or "from Larkmoor"}}',
        text: 'Dear {{contact.firstName or "customer"}},\n\nall of us at Larkmoor wish you a happy birthday.\n\n{{contact.owner or "Larkmoor Cold Rooms"}}',
      },
    ],
  },
]

/** Hours, senders and templates; answers the templates’ numbers by their names. */
export function addMessaging(workspace: Workspace, personId: string): ReadonlyMap<string, number> {
  setMessaging(workspace, MESSAGING)
  return new Map(TEMPLATES.map((template) => [template.name, makeTemplate(workspace, template, personId)]))
}

const ANSWERS = [
  'Yes please, that sounds good. Tuesday morning suits me.',
  'No thank you, we have found another supplier.',
  'How much would a second unit be?',
  'We are moving to a new building in spring, I will write again.',
] as const

/** Lets everything that is on its way arrive when it was written, and every second who got something answer. */
export function deliverAll(workspace: Workspace): void {
  const { outbox } = workspace.store
  const mailbox = standInMailbox(workspace.db)
  const phone = standInPhone(workspace.db)
  const arrived = workspace.db.atomically(() => {
    const rows = outbox.claim('demo', workspace.clock.nowMs(), 0, 60_000, 5000)
    for (const row of rows) {
      if (row.channel === 'web') replied(workspace, row.key, 'taken', { status: 200, text: USUAL_ANSWER.body })
      else if (row.channel === 'call') phone({ ...row, atMs: row.createdAt })
      else mailbox({ ...row, atMs: row.createdAt }, null)
      outbox.delivered(row.id, 'demo', row.createdAt)
      letterSent(workspace, row, row.createdAt)
    }
    return rows.flatMap(({ channel, ...row }) =>
      row.more === null || channel === 'call' || channel === 'web' ? [] : [{ ...row, channel }],
    )
  })
  workspace.drain()
  arrived
    .filter((_, i) => i % 2 === 1)
    .forEach((row, i) => {
      takeIncoming(workspace, {
        channel: row.channel,
        from: row.recipient,
        subject: row.channel === 'mail' ? `Re: ${row.subject}` : '',
        text: ANSWERS[i % ANSWERS.length] ?? '',
        messageId: `demo-${row.id}@simulated.invalid`,
        answers: row.more ? [row.more.messageId] : [],
        automatic: false,
        bounce: null,
      })
    })
}
