import { createHash, randomBytes } from 'node:crypto'
import { and, desc, eq, isNull, sql } from 'drizzle-orm'
import type { Person } from '../../core/fields/field'
import type { Db } from '../db/connect'
import { apiTokens, people } from '../db/schema/catalogue'

export interface Account {
  readonly id: string
  readonly active: boolean
  readonly passwordHash: string | null
  readonly sessionEpoch: number
}

export interface TokenLine {
  readonly id: number
  readonly name: string
  readonly start: string
  readonly createdAt: number
  readonly lastUsedAt: number | null
}

const TOKEN_BYTES = 24
const START_LENGTH = 9
/** `lastUsedAt` is kept to the hour: a write for every request would cost more than it tells. */
const USED_EVERY_MS = 3_600_000

const hashToken = (token: string): string => createHash('sha256').update(token).digest('hex')

/** Who works here and how they prove it. The only place that sees hashes of passwords and tokens. */
export class PeopleStore {
  private readonly account
  private readonly byToken

  constructor(private readonly db: Db) {
    const fields = {
      id: people.id,
      active: people.active,
      passwordHash: people.passwordHash,
      sessionEpoch: people.sessionEpoch,
    }
    this.account = db.orm
      .select(fields)
      .from(people)
      .where(eq(people.id, sql.placeholder('id')))
      .prepare()
    this.byToken = db.orm
      .select({
        id: apiTokens.id,
        name: apiTokens.name,
        personId: apiTokens.personId,
        lastUsedAt: apiTokens.lastUsedAt,
      })
      .from(apiTokens)
      .where(and(eq(apiTokens.hash, sql.placeholder('hash')), isNull(apiTokens.revokedAt)))
      .prepare()
  }

  add(person: Person, passwordHash: string | null = null): void {
    this.db.orm
      .insert(people)
      .values({ ...person, passwordHash })
      .run()
  }

  update(id: string, change: Partial<Omit<Person, 'id'>>): void {
    if (Object.keys(change).length > 0) this.db.orm.update(people).set(change).where(eq(people.id, id)).run()
  }

  accountOf(id: string): Account | null {
    return (this.account.get({ id }) as Account | undefined) ?? null
  }

  /** Sets the password and makes every cookie of the person void. */
  setPassword(id: string, passwordHash: string): void {
    this.db.orm
      .update(people)
      .set({ passwordHash, sessionEpoch: sql`${people.sessionEpoch} + 1` })
      .where(eq(people.id, id))
      .run()
  }

  /** Makes every cookie of the person void. */
  endSessions(id: string): void {
    this.db.orm
      .update(people)
      .set({ sessionEpoch: sql`${people.sessionEpoch} + 1` })
      .where(eq(people.id, id))
      .run()
  }

  /** Makes a key for the API and returns it: the only time anybody can read it. */
  createToken(personId: string, name: string, nowMs: number): string {
    const token = `slv_${randomBytes(TOKEN_BYTES).toString('base64url')}`
    this.db.orm
      .insert(apiTokens)
      .values({ personId, name, hash: hashToken(token), start: token.slice(0, START_LENGTH), createdAt: nowMs })
      .run()
    return token
  }

  /** Whose key it is and what it is called, or `null` when it is none or was revoked. */
  ofToken(token: string, nowMs: number): { readonly personId: string; readonly name: string } | null {
    const found = this.byToken.get({ hash: hashToken(token) }) as
      { id: number; personId: string; name: string; lastUsedAt: number | null } | undefined
    if (!found) return null
    if (found.lastUsedAt === null || nowMs - found.lastUsedAt > USED_EVERY_MS) {
      this.db.orm.update(apiTokens).set({ lastUsedAt: nowMs }).where(eq(apiTokens.id, found.id)).run()
    }
    return { personId: found.personId, name: found.name }
  }

  tokensOf(personId: string): readonly TokenLine[] {
    const { id, name, start, createdAt, lastUsedAt } = apiTokens
    return this.db.orm
      .select({ id, name, start, createdAt, lastUsedAt })
      .from(apiTokens)
      .where(and(eq(apiTokens.personId, personId), isNull(apiTokens.revokedAt)))
      .orderBy(desc(apiTokens.id))
      .all()
  }

  /** Revokes a key of the person; answers whether there was one. */
  revokeToken(personId: string, id: number, nowMs: number): boolean {
    return (
      this.db.orm
        .update(apiTokens)
        .set({ revokedAt: nowMs })
        .where(and(eq(apiTokens.id, id), eq(apiTokens.personId, personId), isNull(apiTokens.revokedAt)))
        .run().changes > 0
    )
  }
}
