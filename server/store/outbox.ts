import { and, asc, eq, lte, sql } from 'drizzle-orm'
import type { Db } from '../db/connect'
import { prepareInsert } from '../db/prepared'
import { outbox } from '../db/schema/runs'

export type OutboxRow = typeof outbox.$inferSelect

export interface NewMessage {
  /** The same for every attempt, so that the receiver can drop a repeat. */
  readonly key: string
  readonly channel: 'mail'
  readonly recipient: string
  readonly subject: string
  readonly body: string
  readonly runId: number
}

/** What is to leave the house, and how far it has got. */
export class OutboxStore {
  private readonly insert

  constructor(private readonly db: Db) {
    this.insert = prepareInsert(
      db.sqlite,
      outbox,
      ['key', 'channel', 'recipient', 'subject', 'body', 'runId', 'state', 'attempts', 'nextAt', 'createdAt'],
      'nothing',
    )
  }

  /** Belongs into the transaction of the run that wants it. A key that is there already is not added again. */
  add(message: NewMessage, nowMs: number): void {
    const { key, channel, recipient, subject, body, runId } = message
    this.insert({
      key,
      channel,
      recipient,
      subject,
      body,
      runId,
      state: 'pending',
      attempts: 0,
      nextAt: nowMs,
      createdAt: nowMs,
    })
  }

  due(nowMs: number, limit: number): readonly OutboxRow[] {
    return this.db.orm
      .select()
      .from(outbox)
      .where(and(eq(outbox.state, 'pending'), lte(outbox.nextAt, nowMs)))
      .orderBy(asc(outbox.nextAt), asc(outbox.id))
      .limit(limit)
      .all()
  }

  pending(): number {
    return (
      this.db.orm
        .select({ n: sql<number>`count(*)` })
        .from(outbox)
        .where(eq(outbox.state, 'pending'))
        .get()?.n ?? 0
    )
  }

  delivered(id: number, nowMs: number): void {
    this.db.orm
      .update(outbox)
      .set({ state: 'delivered', deliveredAt: nowMs, attempts: sql`${outbox.attempts} + 1`, lastError: null })
      .where(eq(outbox.id, id))
      .run()
  }

  failed(id: number, error: string, nextAt: number | null): void {
    this.db.orm
      .update(outbox)
      .set({
        attempts: sql`${outbox.attempts} + 1`,
        lastError: error.slice(0, 500),
        ...(nextAt === null ? { state: 'givenUp' as const } : { nextAt }),
      })
      .where(eq(outbox.id, id))
      .run()
  }

  ofRun(runId: number): readonly OutboxRow[] {
    return this.db.orm.select().from(outbox).where(eq(outbox.runId, runId)).orderBy(asc(outbox.id)).all()
  }
}
