import { createHash } from 'node:crypto'
import { asc, desc, eq, isNotNull, lte, min } from 'drizzle-orm'
import { actOn } from '../../core/messages/simulated'
import type { Parcel } from '../channels/channel'
import type { Db } from '../db/connect'
import { workspace } from '../db/schema/catalogue'
import { standInMail } from '../db/schema/outside'

/** Takes a message; with mails as they would stand on the wire. The same key twice is the same message, kept once. */
export type Mailbox = (parcel: Parcel, raw: Buffer | null) => void

/** The simulated mail and phone service: everything that reached somebody. */
export const standInMailbox =
  (db: Db): Mailbox =>
  ({ key, recipient, subject, body, more, atMs }, raw) => {
    const channel = recipient.includes('@') ? 'mail' : 'text'
    const { share } = db.orm.select({ share: workspace.simulatedShare }).from(workspace).get() ?? { share: 0 }
    const will = more && share > 0 ? actOn(channel, share, partOf(key), partOf(`${key} when`)) : null
    db.orm
      .insert(standInMail)
      .values({
        key,
        channel,
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
        act: will?.act ?? null,
        actAt: will ? atMs + will.afterMs : null,
      })
      .onConflictDoNothing()
      .run()
  }

/** A part from 0 to below 1 that belongs to a text: the same for the same text. */
export const partOf = (text: string): number => createHash('sha256').update(text).digest().readUInt32BE(0) / 2 ** 32

/** When a simulated customer does something next; `null` when none will. */
export const nextAct = (db: Db): number | null =>
  db.orm
    .select({ at: min(standInMail.actAt) })
    .from(standInMail)
    .where(isNotNull(standInMail.actAt))
    .get()?.at ?? null

/** Takes what customers will have done by a moment, the earliest first: from now on it is done. */
export const takeActs = (db: Db, untilMs: number): readonly MailboxRow[] =>
  db.orm.update(standInMail).set({ actAt: null }).where(lte(standInMail.actAt, untilMs)).returning().all()

export type MailboxRow = typeof standInMail.$inferSelect

/** What came to customers, the newest first. */
export const mailboxRows = (db: Db, limit: number): readonly MailboxRow[] =>
  db.orm.select().from(standInMail).orderBy(desc(standInMail.receivedAt), asc(standInMail.key)).limit(limit).all()

export const mailboxRow = (db: Db, key: string): MailboxRow | null =>
  db.orm.select().from(standInMail).where(eq(standInMail.key, key)).get() ?? null
