import { createHash, randomBytes } from 'node:crypto'
import { and, desc, eq, lt, ne, or, sql } from 'drizzle-orm'
import type { Db } from '../db/connect'
import { sessions } from '../db/schema/catalogue'

/** A browser that nobody has used for so long is signed out; and any one after so long (OWASP ASVS 5.0, 7.3). */
export const IDLE_MS = 7 * 86_400_000
export const LONGEST_MS = 30 * 86_400_000
/** Being seen is kept every few minutes: a write for each request would cost more than it tells. */
const SEEN_EVERY_MS = 300_000
const SECRET_BYTES = 32
const AGENT_MOST = 200

export interface SessionLine {
  readonly id: number
  readonly agent: string
  readonly createdAt: number
  readonly lastSeenAt: number
}

export interface KnownSession {
  readonly id: number
  readonly personId: string
  /** Whether it is time to note that it was seen. */
  readonly note: boolean
}

const hashOf = (secret: string): string => createHash('sha256').update(secret).digest('hex')

/** In which browsers people are signed in. Instants are those of the machine, whatever a demo's clock says. */
export class SessionStore {
  private readonly byHash

  constructor(private readonly db: Db) {
    this.byHash = db.orm
      .select()
      .from(sessions)
      .where(eq(sessions.hash, sql.placeholder('hash')))
      .prepare()
  }

  /** Begins one and returns what its cookie holds: kept nowhere else. Old ones are cleared away. */
  begin(personId: string, agent: string, nowMs: number): string {
    const secret = randomBytes(SECRET_BYTES).toString('base64url')
    this.db.orm
      .delete(sessions)
      .where(or(lt(sessions.lastSeenAt, nowMs - IDLE_MS), lt(sessions.createdAt, nowMs - LONGEST_MS)))
      .run()
    this.db.orm
      .insert(sessions)
      .values({
        personId,
        hash: hashOf(secret),
        agent: agent.slice(0, AGENT_MOST),
        createdAt: nowMs,
        lastSeenAt: nowMs,
      })
      .run()
    return secret
  }

  /** Whose it is; `null` for one that has ended, or was never begun. */
  of(secret: string, nowMs: number): KnownSession | null {
    const found = this.byHash.get({ hash: hashOf(secret) })
    if (!found || nowMs - found.lastSeenAt > IDLE_MS || nowMs - found.createdAt > LONGEST_MS) return null
    return { id: found.id, personId: found.personId, note: nowMs - found.lastSeenAt > SEEN_EVERY_MS }
  }

  seen(id: number, nowMs: number): void {
    this.db.orm.update(sessions).set({ lastSeenAt: nowMs }).where(eq(sessions.id, id)).run()
  }

  list(personId: string, nowMs: number): readonly SessionLine[] {
    const { id, agent, createdAt, lastSeenAt } = sessions
    return this.db.orm
      .select({ id, agent, createdAt, lastSeenAt })
      .from(sessions)
      .where(eq(sessions.personId, personId))
      .orderBy(desc(sessions.lastSeenAt))
      .all()
      .filter((one) => nowMs - one.lastSeenAt <= IDLE_MS && nowMs - one.createdAt <= LONGEST_MS)
  }

  /** Whether it goes on: asked by what stays open for long. */
  goesOn(id: number, nowMs: number): boolean {
    const found = this.db.orm.select().from(sessions).where(eq(sessions.id, id)).get()
    return found !== undefined && nowMs - found.createdAt <= LONGEST_MS
  }

  /** Ends one of somebody's; answers whether there was one. */
  end(personId: string, id: number): boolean {
    return (
      this.db.orm
        .delete(sessions)
        .where(and(eq(sessions.id, id), eq(sessions.personId, personId)))
        .run().changes > 0
    )
  }

  /** Ends all of somebody's, but for one when it is named. */
  endAll(personId: string, but = 0): void {
    this.db.orm
      .delete(sessions)
      .where(and(eq(sessions.personId, personId), ne(sessions.id, but)))
      .run()
  }
}
