import { newSigningSecret } from '../../store/connections'
import type { Outgoing } from '.'

/** Chat rooms take a text at an address of their own: nobody verifies a signature there. */
const UNREAD = newSigningSecret()

/** What a colleague is told in a chat: `{ "text": … }` by POST; `null` for any other key. */
export const chatMessage = (address: string | null, key: string, subject: string, body: string): Outgoing | null =>
  address !== null && key.startsWith('told-')
    ? {
        method: 'POST',
        url: address,
        body: JSON.stringify({ text: body === '' ? subject : body }),
        secret: UNREAD,
        headers: {},
      }
    : null
