import { and, asc, desc, eq, gt, gte, inArray, lt, sql } from 'drizzle-orm'
import type { AnswerKind } from '../../core/messages/answer-kind'
import type { AddressFacts, MessageChannel } from '../../core/messages/guards'
import { textOf } from '../../core/messages/letter'
import type { RecordRef } from '../../core/records/kinds'
import type { Db } from '../db/connect'
import { messages } from '../db/schema/runs'

export type MessageRow = typeof messages.$inferSelect
export type NewMessageRow = Omit<
  typeof messages.$inferInsert,
  'id' | 'sentAt' | 'openedAt' | 'answeredAt' | 'correctedBy' | 'reason'
>

/** So many earlier texts are compared: who got more than this of one address is written to by hand. */
const SENT_MOST = 200

/** Messages to customers, and their answers. */
export class MessageStore {
  private readonly toAddress
  private readonly ofContact
  private readonly ofRuleCount
  private readonly ofRuleTimes
  private readonly first
  private readonly byStep
  private readonly markSent

  constructor(private readonly db: Db) {
    const { sqlite } = db
    this.toAddress = sqlite.prepare<
      [string, string, number],
      { readonly subject: string; readonly text: string; readonly atMs: number }
    >(
      `SELECT subject, text, at_ms AS atMs FROM messages
       WHERE channel = ? AND address = ? AND way = 'out' ORDER BY at_ms DESC LIMIT ?`,
    )
    this.ofContact = sqlite
      .prepare<[number, number], number>(
        `SELECT at_ms FROM messages WHERE contact_id = ? AND at_ms > ? AND way = 'out' ORDER BY at_ms DESC`,
      )
      .pluck()
    this.ofRuleCount = sqlite
      .prepare<[number, number, number], number>(
        `SELECT count(*) FROM messages WHERE rule_id = ? AND at_ms > max(?, (SELECT resumed_at FROM rules WHERE id = ?))`,
      )
      .pluck()
    this.ofRuleTimes = sqlite
      .prepare<[number, number, number, number], number>(
        `SELECT at_ms FROM messages WHERE rule_id = ? AND at_ms > max(?, (SELECT resumed_at FROM rules WHERE id = ?))
         ORDER BY at_ms DESC LIMIT ?`,
      )
      .pluck()
    this.first = sqlite
      .prepare<[number, number], number | null>('SELECT min(at_ms) FROM messages WHERE run_id = ? AND contact_id = ?')
      .pluck()
    this.markSent = sqlite
      .prepare<[number, string], string>(
        "UPDATE messages SET state = 'sent', sent_at = ? WHERE key = ? RETURNING label",
      )
      .pluck()
    this.byStep = sqlite
      .prepare<[number, string], string>('SELECT address FROM messages WHERE run_id = ? AND step_id = ?')
      .pluck()
  }

  /** Keeps one; answers whether its key is new. */
  add(row: NewMessageRow): boolean {
    return this.db.orm.insert(messages).values(row).onConflictDoNothing().run().changes > 0
  }

  get(id: number): MessageRow | null {
    return this.db.orm.select().from(messages).where(eq(messages.id, id)).get() ?? null
  }

  byKey(key: string): MessageRow | null {
    return this.db.orm.select().from(messages).where(eq(messages.key, key)).get() ?? null
  }

  /** The newest with that Message-ID. */
  byMessageId(messageId: string): MessageRow | null {
    return (
      this.db.orm
        .select()
        .from(messages)
        .where(eq(messages.messageId, messageId))
        .orderBy(desc(messages.id))
        .limit(1)
        .get() ?? null
    )
  }

  /** The one that we sent whose Message-ID begins so, up to the @. */
  withLocalPart(name: string): MessageRow | null {
    return (
      this.db.orm
        .select()
        .from(messages)
        .where(and(gte(messages.messageId, `${name}@`), lt(messages.messageId, `${name}A`), eq(messages.way, 'out')))
        .limit(1)
        .get() ?? null
    )
  }

  /** What came in as an answer to one, the oldest first. */
  answersTo(messageId: string): readonly MessageRow[] {
    return this.db.orm
      .select()
      .from(messages)
      .where(and(eq(messages.inReplyTo, messageId), eq(messages.way, 'in')))
      .orderBy(asc(messages.id))
      .all()
  }

  /** The newest of several Message-IDs that we sent. */
  sentWith(messageIds: readonly string[]): MessageRow | null {
    if (messageIds.length === 0) return null
    return (
      this.db.orm
        .select()
        .from(messages)
        .where(and(inArray(messages.messageId, [...messageIds]), eq(messages.way, 'out')))
        .orderBy(desc(messages.id))
        .limit(1)
        .get() ?? null
    )
  }

  /** Notes at the newest that went to an address lately that nothing more was wanted after it. */
  optedOut(channel: MessageChannel, address: string, nowMs: number): void {
    const newest = this.newestTo(channel, address.trim().toLowerCase(), nowMs - 30 * 86_400_000)
    if (newest) this.db.orm.update(messages).set({ optedOutAt: nowMs }).where(eq(messages.id, newest.id)).run()
  }

  /** The newest that went to an address since an instant. */
  newestTo(channel: MessageChannel, address: string, sinceMs: number): MessageRow | null {
    return (
      this.db.orm
        .select()
        .from(messages)
        .where(
          and(
            eq(messages.channel, channel),
            eq(messages.address, address),
            eq(messages.way, 'out'),
            gt(messages.atMs, sinceMs),
          ),
        )
        .orderBy(desc(messages.atMs), desc(messages.id))
        .limit(1)
        .get() ?? null
    )
  }

  sentTo(channel: MessageChannel, address: string): AddressFacts['sent'] {
    return this.toAddress.all(channel, address, SENT_MOST).map((one) => ({ text: textOf(one), atMs: one.atMs }))
  }

  toPerson(who: RecordRef, sinceMs: number): readonly number[] {
    return this.ofContact.all(who.id, sinceMs)
  }

  /** When the newest of a rule went, since somebody last let it go on; nothing where there are fewer than `most`. */
  ofRule(ruleId: number, sinceMs: number, most: number): readonly number[] {
    if ((this.ofRuleCount.get(ruleId, sinceMs, ruleId) ?? 0) < most) return []
    return this.ofRuleTimes.all(ruleId, sinceMs, ruleId, most)
  }

  firstOfRun(runId: number, who: RecordRef): number | null {
    return this.first.get(runId, who.id) ?? null
  }

  ofStep(runId: number, stepId: string): readonly string[] {
    return this.byStep.all(runId, stepId)
  }

  /** The newest that a run sent a contact by a channel. */
  lastOfRun(runId: number, channel: MessageChannel, contactId: number): MessageRow | null {
    return (
      this.db.orm
        .select()
        .from(messages)
        .where(
          and(
            eq(messages.runId, runId),
            eq(messages.channel, channel),
            eq(messages.contactId, contactId),
            eq(messages.way, 'out'),
          ),
        )
        .orderBy(desc(messages.id))
        .limit(1)
        .get() ?? null
    )
  }

  /** Those of a contact, the newest first, behind an id. */
  ofContactPage(contactId: number, before: number, limit: number): readonly MessageRow[] {
    return this.db.orm
      .select()
      .from(messages)
      .where(and(eq(messages.contactId, contactId), lt(messages.id, before)))
      .orderBy(desc(messages.id))
      .limit(limit)
      .all()
  }

  ofRun(runId: number): readonly MessageRow[] {
    return this.db.orm.select().from(messages).where(eq(messages.runId, runId)).orderBy(asc(messages.id)).all()
  }

  /** The newest of all, behind an id. */
  newest(before: number, limit: number): readonly MessageRow[] {
    return this.db.orm
      .select()
      .from(messages)
      .where(lt(messages.id, before))
      .orderBy(desc(messages.id))
      .limit(limit)
      .all()
  }

  /** It was handed over; answers its report label, `null` where there is no such message. */
  sent(key: string, atMs: number): string | null {
    return this.markSent.get(atMs, key) ?? null
  }

  failed(key: string, reason: string): void {
    this.db.orm.update(messages).set({ state: 'failed', reason }).where(eq(messages.key, key)).run()
  }

  bounced(id: number, reason: string): void {
    this.db.orm.update(messages).set({ state: 'bounced', reason }).where(eq(messages.id, id)).run()
  }

  answered(id: number, atMs: number): void {
    this.db.orm
      .update(messages)
      .set({ answeredAt: sql`coalesce(${messages.answeredAt}, ${atMs})` })
      .where(eq(messages.id, id))
      .run()
  }

  opened(id: number, atMs: number): boolean {
    return (
      this.db.orm
        .update(messages)
        .set({ openedAt: atMs })
        .where(and(eq(messages.id, id), sql`${messages.openedAt} IS NULL`))
        .run().changes > 0
    )
  }

  correct(id: number, kind: AnswerKind, personId: string): void {
    this.db.orm.update(messages).set({ kind, correctedBy: personId }).where(eq(messages.id, id)).run()
  }
}
