import type { Db } from '../db/connect'
import { standInMailbox } from '../stand-ins/mailbox'
import { openAccounts } from '../store/accounts'
import { WebsiteStore } from '../store/websites'
import { signedWith } from '../store/signature'
import type { Channels } from './channel'
import { mail } from './mail'
import { text } from './text'

/** Where this workspace is found from outside. */
const baseOf = (): string => (process.env.SKY_LEVER_URL ?? 'http://localhost:3000').replace(/\/+$/, '')

/** Every channel there is, with the simulated other side that ships with the product. */
export function openChannels(db: Db): Channels {
  const accounts = openAccounts(db)
  const websites = new WebsiteStore(db)
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
  }
}
