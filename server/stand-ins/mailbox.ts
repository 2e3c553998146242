import type { Parcel } from '../channels/channel'
import type { Db } from '../db/connect'
import { standInMail } from '../db/schema/runs'

/** Takes a message. The same key twice is the same message, and is kept once. */
export type Mailbox = (parcel: Parcel) => void

/** The simulated mail service. */
export const standInMailbox =
  (db: Db): Mailbox =>
  ({ key, recipient, subject, body, atMs }) => {
    db.orm.insert(standInMail).values({ key, recipient, subject, body, receivedAt: atMs }).onConflictDoNothing().run()
  }
