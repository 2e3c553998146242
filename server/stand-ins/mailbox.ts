import { asc, desc, eq } from 'drizzle-orm'
import type { Parcel } from '../channels/channel'
import type { Db } from '../db/connect'
import { standInMail } from '../db/schema/runs'

/** Takes a message; with mails as they would stand on the wire. The same key twice is the same message, kept once. */
export type Mailbox = (parcel: Parcel, raw: Buffer | null) => void

/** The simulated mail and phone service: everything that reached somebody. */
export const standInMailbox =
  (db: Db): Mailbox =>
  ({ key, recipient, subject, body, more, atMs }, raw) => {
    db.orm
      .insert(standInMail)
      .values({
        key,
        channel: recipient.includes('@') ? 'mail' : 'text',
        recipient,
        name: more?.name ?? '',
        sender: more?.from.address ?? '',
        senderName: more?.from.name ?? '',
        contactId: more?.contactId ?? null,
        messageId: more?.messageId ?? null,
        subject,
        body,
        raw: raw?.toString('utf8') ?? null,
        receivedAt: atMs,
      })
      .onConflictDoNothing()
      .run()
  }

export type MailboxRow = typeof standInMail.$inferSelect

/** What came to customers, the newest first. */
export const mailboxRows = (db: Db, limit: number): readonly MailboxRow[] =>
  db.orm.select().from(standInMail).orderBy(desc(standInMail.receivedAt), asc(standInMail.key)).limit(limit).all()

export const mailboxRow = (db: Db, key: string): MailboxRow | null =>
  db.orm.select().from(standInMail).where(eq(standInMail.key, key)).get() ?? null
