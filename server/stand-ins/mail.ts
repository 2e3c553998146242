import type { Db } from '../db/connect'
import type { OutboxRow } from '../store/outbox'
import { standInMail } from '../db/schema/runs'

/** Takes a message off our hands, or throws. The same key twice is the same message, and is kept once. */
export type Deliver = (message: Pick<OutboxRow, 'key' | 'recipient' | 'subject' | 'body'>, nowMs: number) => void

/** The simulated mail service: no message ever leaves the machine. */
export const standInMailbox =
  (db: Db): Deliver =>
  ({ key, recipient, subject, body }, nowMs) => {
    db.orm.insert(standInMail).values({ key, recipient, subject, body, receivedAt: nowMs }).onConflictDoNothing().run()
  }
