import { and, asc, eq, inArray, isNull, lte, or, sql } from 'drizzle-orm'
import type { OutboxChannel } from '../../core/messages/guards'
import type { MessageMore } from '../../core/messages/letter'
import type { Db } from '../db/connect'
import { prepareInsert } from '../db/prepared'
import { outbox } from '../db/schema/runs'

export type OutboxRow = typeof outbox.$inferSelect

export interface NewMessage {
  /** The same for every attempt, so that the receiver can drop a repeat. */
  readonly key: string
  readonly channel: OutboxChannel
  readonly recipient: string
  readonly subject: string
  readonly body: string
  readonly runId: number | null
  readonly more: MessageMore | null
}

/** What is to leave the house, and how far it has got. */
export class OutboxStore {
  private readonly insert
  private readonly there
  private readonly markDelivered
  private readonly claimDue

  constructor(private readonly db: Db) {
    this.there = db.sqlite.prepare<[number, number]>(
      "SELECT 1 FROM outbox WHERE state = 'pending' AND next_at <= ? AND (leased_until IS NULL OR leased_until <= ?) LIMIT 1",
    )
    this.markDelivered = db.sqlite.prepare<[number, number, string]>(
      `UPDATE outbox SET state = 'delivered', delivered_at = ?, attempts = attempts + 1, last_error = NULL, owner = NULL,
         leased_until = NULL WHERE id = ? AND owner = ?`,
    )
    const due = db.orm
      .select({ id: outbox.id })
      .from(outbox)
      .where(
        and(
          // Said outright, so that SQLite sees that the index of what is pending holds it.
          sql`${outbox.state} = 'pending'`,
          lte(outbox.nextAt, sql.placeholder('now')),
          or(isNull(outbox.leasedUntil), lte(outbox.leasedUntil, sql.placeholder('machine'))),
        ),
      )
      .orderBy(asc(outbox.nextAt), asc(outbox.id))
      .limit(sql.placeholder('limit'))
    this.claimDue = db.orm
      .update(outbox)
      .set({ owner: sql`${sql.placeholder('owner')}`, leasedUntil: sql`${sql.placeholder('until')}` })
      .where(inArray(outbox.id, due))
      .returning()
      .prepare()
    this.insert = prepareInsert(
      db.sqlite,
      outbox,
      ['key', 'channel', 'recipient', 'subject', 'body', 'runId', 'more', 'state', 'attempts', 'nextAt', 'createdAt'],
      'nothing',
    )
  }

  /** Belongs into the transaction of the run that wants it. A key that is there already is not added again. */
  add(message: NewMessage, nowMs: number, goesMs: number = nowMs): void {
    const { key, channel, recipient, subject, body, runId, more } = message
    this.insert({
      key,
      channel,
      recipient,
      subject,
      body,
      runId,
      more,
      state: 'pending',
      attempts: 0,
      nextAt: goesMs,
      createdAt: nowMs,
    })
  }

  /** Whether anything is due that nobody carries. `machineMs` is the machine's clock, by which claims run out. */
  anyDue(nowMs: number, machineMs: number): boolean {
    return this.there.get(nowMs, machineMs) !== undefined
  }

  /** Takes what is due and nobody carries, the earliest first, for `leaseMs`: until then nobody else gets it. */
  claim(owner: string, nowMs: number, machineMs: number, leaseMs: number, limit: number): readonly OutboxRow[] {
    return this.claimDue
      .all({ owner, until: machineMs + leaseMs, now: nowMs, machine: machineMs, limit })
      .sort((a, b) => a.nextAt - b.nextAt || a.id - b.id)
  }

  pending(): number {
    return (
      this.db.orm
        .select({ n: sql<number>`count(*)` })
        .from(outbox)
        .where(sql`${outbox.state} = 'pending'`)
        .get()?.n ?? 0
    )
  }

  /** It was handed over by whoever carried it; answers whether it was still theirs to say so. */
  delivered(id: number, owner: string, atMs: number): boolean {
    return this.markDelivered.run(atMs, id, owner).changes > 0
  }

  /** It was not taken; given up where there is no next time. Answers whether it was still the owner’s to say so. */
  failed(id: number, owner: string, error: string, nextAt: number | null): boolean {
    const { changes } = this.db.orm
      .update(outbox)
      .set({
        attempts: sql`${outbox.attempts} + 1`,
        lastError: error.slice(0, 500),
        owner: null,
        leasedUntil: null,
        ...(nextAt === null ? { state: 'givenUp' as const } : { nextAt }),
      })
      .where(and(eq(outbox.id, id), eq(outbox.owner, owner)))
      .run()
    return changes > 0
  }

  /** What has not left yet is not wanted any more. */
  drop(key: string): void {
    this.db.orm
      .delete(outbox)
      .where(and(eq(outbox.key, key), eq(outbox.state, 'pending'), isNull(outbox.owner)))
      .run()
  }

  /** What was given up begins anew, under its key. */
  revive(id: number, nowMs: number): void {
    this.db.orm.update(outbox).set({ state: 'pending', attempts: 0, nextAt: nowMs }).where(eq(outbox.id, id)).run()
  }

  /** How many were given up. */
  givenUp(): number {
    return (
      this.db.orm
        .select({ n: sql<number>`count(*)` })
        .from(outbox)
        .where(eq(outbox.state, 'givenUp'))
        .get()?.n ?? 0
    )
  }

  ofRun(runId: number): readonly OutboxRow[] {
    return this.db.orm.select().from(outbox).where(eq(outbox.runId, runId)).orderBy(asc(outbox.id)).all()
  }
}
