import type { Db } from '../db/connect'
import { standInMailbox } from '../stand-ins/mailbox'
import { simulatedAnswer } from '../stand-ins/receiver'
import { standInPhone } from '../stand-ins/phone'
import { openAccounts } from '../store/accounts'
import { TellingStore } from '../store/tellings'
import { chatMessage } from './web/chat'
import { ConnectionStore } from '../store/connections'
import { WebsiteStore } from '../store/websites'
import { signedWith } from '../store/signature'
import { baseOf } from './base'
import { call } from './call'
import type { Channels } from './channel'
import { mail } from './mail'
import { text } from './text'
import { web } from './web'

/** Every channel there is, with the simulated other side that ships with the product. */
export function openChannels(db: Db): Channels {
  const accounts = openAccounts(db)
  const websites = new WebsiteStore(db)
  const connections = new ConnectionStore(db)
  const tellings = new TellingStore(db)
  const answerTo = (id: number): string => `${baseOf()}/replies/${signedWith(websites.secret(), 'reply', String(id))}`
  const mailbox = standInMailbox(db)
  return {
    mail: mail({
      account: () => accounts.mail(),
      mailbox,
      place: {
        base: baseOf(),
        personOf: (contactId) => signedWith(websites.secret(), 'contact', String(contactId)),
        replyTo(messageId, from) {
          const domain = accounts.mail()?.replyDomain ?? ''
          return domain === ''
            ? from
            : `reply+${signedWith(websites.secret(), 'message', messageId.split('@')[0] ?? '')}@${domain}`
        },
      },
    }),
    text: text({ gateway: () => accounts.text(), mailbox }),
    web: web({
      outgoing: ({ key, recipient, subject, body }) =>
        chatMessage(tellings.chat(recipient), key, subject, body) ?? connections.outgoing(key, answerTo),
      simulated: (_parcel, outgoing) => simulatedAnswer(db, outgoing),
    }),
    call: call({ dialler: () => accounts.dialler(), secret: () => websites.secret(), phone: standInPhone(db) }),
  }
}
