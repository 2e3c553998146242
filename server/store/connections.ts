import { randomBytes } from 'node:crypto'
import { and, desc, eq, lt } from 'drizzle-orm'
import { z } from 'zod'
import type { RequestOf, WebRequest } from '../../core/web/request'
import type { Reply } from '../../core/signals/reply'
import type { Outgoing } from '../channels/web'
import type { Db } from '../db/connect'
import { connections, webRequests } from '../db/schema/outside'
import { readSecret, writeSecret } from './secret'

export type WebRequestRow = typeof webRequests.$inferSelect

const zSecrets = z.strictObject({ signing: z.string(), headers: z.record(z.string(), z.string()) })
export type ConnectionSecrets = z.infer<typeof zSecrets>

/** A secret for signatures, as Standard Webhooks has them: `whsec_` and 24 random bytes. */
export const newSigningSecret = (): string => `whsec_${randomBytes(24).toString('base64')}`

const NO_SECRETS: ConnectionSecrets = { signing: newSigningSecret(), headers: {} }

const nameOf = (id: number): string => `connection ${id}`

/** Services outside, their secrets, and what was asked of them. */
export class ConnectionStore {
  constructor(private readonly db: Db) {}

  add(name: string, address: string, given: ConnectionSecrets): number {
    const id = Number(
      this.db.orm
        .insert(connections)
        .values({ name, address, headers: Object.keys(given.headers) })
        .run().lastInsertRowid,
    )
    this.keep(id, given)
    return id
  }

  change(id: number, name: string, address: string, given: ConnectionSecrets): void {
    this.db.orm
      .update(connections)
      .set({ name, address, headers: Object.keys(given.headers) })
      .where(eq(connections.id, id))
      .run()
    this.keep(id, given)
  }

  archive(id: number, archived: boolean): void {
    this.db.orm.update(connections).set({ archived }).where(eq(connections.id, id)).run()
  }

  private keep(id: number, given: ConnectionSecrets): void {
    writeSecret(this.db, nameOf(id), given)
  }

  secrets(id: number): ConnectionSecrets | null {
    return readSecret(this.db, nameOf(id), zSecrets)
  }

  /** Keeps a request; answers whether it is new. */
  addRequest(
    { connection, method, path, body, later = false }: WebRequest,
    of: RequestOf,
    key: string,
    atMs: number,
  ): boolean {
    const { ref, ruleId, runId, stepId } = of
    return (
      this.db.orm
        .insert(webRequests)
        .values({
          key,
          connectionId: connection,
          object: ref.object,
          recordId: ref.id,
          ruleId,
          runId,
          stepId,
          method,
          path,
          body,
          later,
          atMs,
        })
        .onConflictDoNothing()
        .run().changes > 0
    )
  }

  request(key: string): WebRequestRow | null {
    return this.db.orm.select().from(webRequests).where(eq(webRequests.key, key)).get() ?? null
  }

  requestOf(id: number): WebRequestRow | null {
    return this.db.orm.select().from(webRequests).where(eq(webRequests.id, id)).get() ?? null
  }

  /** It was taken; its answer comes later. */
  accepted(key: string, status: number | null): void {
    this.db.orm.update(webRequests).set({ outcome: 'taken', status }).where(eq(webRequests.key, key)).run()
  }

  answered(key: string, { outcome, status, text }: Reply, atMs: number): void {
    this.db.orm
      .update(webRequests)
      .set({ outcome, status, answer: text, answeredAt: atMs })
      .where(eq(webRequests.key, key))
      .run()
  }

  /** Newest first. */
  requests(before: number | null, limit: number, connection?: number): readonly WebRequestRow[] {
    return this.db.orm
      .select()
      .from(webRequests)
      .where(
        and(
          before === null ? undefined : lt(webRequests.id, before),
          connection === undefined ? undefined : eq(webRequests.connectionId, connection),
        ),
      )
      .orderBy(desc(webRequests.id))
      .limit(limit)
      .all()
  }

  /**
   * What is sent for a key; `null` where its connection is gone.
   *
   * @param answerTo where an answer that comes later is to be sent
   */
  outgoing(key: string, answerTo: (id: number) => string): Outgoing | null {
    const row = this.request(key)
    const to = row && this.db.orm.select().from(connections).where(eq(connections.id, row.connectionId)).get()
    // The simulated receiver asks for no signature; a file that was copied without its key has none to give.
    const given = to && (this.secrets(to.id) ?? (to.address === '' ? NO_SECRETS : null))
    if (!given) return null
    return {
      method: row.method,
      url: `${to.address}${row.path}`,
      body: row.body,
      secret: given.signing,
      headers: { ...given.headers, ...(row.later && { 'answer-to': answerTo(row.id) }) },
    }
  }
}
