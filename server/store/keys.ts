import { createHash, randomBytes } from 'node:crypto'
import { and, desc, eq, isNull, sql } from 'drizzle-orm'
import type { Area } from '../../core/access/areas'
import type { Db } from '../db/connect'
import { apiTokens } from '../db/schema/catalogue'

/** What a key may do: look only, or change; in some areas, or in all. */
export interface KeyScope {
  readonly readOnly: boolean
  readonly areas: readonly Area[] | null
}

export interface KeyLine extends KeyScope {
  readonly id: number
  readonly personId: string
  readonly name: string
  readonly start: string
  readonly createdAt: number
  readonly lastUsedAt: number | null
  readonly expiresAt: number | null
}

/** A key that a request brought. */
export interface KnownKey extends KeyScope {
  readonly id: number
  readonly personId: string
  readonly name: string
  /** Whether it is time to note that it was used. */
  readonly note: boolean
}

const KEY_BYTES = 24
const START_LENGTH = 9
/** `lastUsedAt` is kept to the hour: a write for every request would cost more than it tells. */
const USED_EVERY_MS = 3_600_000

const hashOf = (key: string): string => createHash('sha256').update(key).digest('hex')

/** Keys for the API. The key itself is shown once and only its SHA-256 is kept. */
export class KeyStore {
  private readonly byHash

  constructor(private readonly db: Db) {
    this.byHash = db.orm
      .select()
      .from(apiTokens)
      .where(and(eq(apiTokens.hash, sql.placeholder('hash')), isNull(apiTokens.revokedAt)))
      .prepare()
  }

  /** Makes a key and returns it: the only time anybody can read it. */
  create(
    personId: string,
    name: string,
    nowMs: number,
    { readOnly, areas, expiresAt }: KeyScope & { readonly expiresAt: number | null } = {
      readOnly: false,
      areas: null,
      expiresAt: null,
    },
  ): string {
    const key = `slv_${randomBytes(KEY_BYTES).toString('base64url')}`
    this.db.orm
      .insert(apiTokens)
      .values({
        personId,
        name,
        hash: hashOf(key),
        start: key.slice(0, START_LENGTH),
        createdAt: nowMs,
        readOnly,
        areas,
        expiresAt,
      })
      .run()
    return key
  }

  /** Whose key it is, what it is called and may do; `null` when it is none, was revoked or has expired. */
  of(key: string, nowMs: number): KnownKey | null {
    const found = this.byHash.get({ hash: hashOf(key) })
    if (!found || (found.expiresAt !== null && found.expiresAt <= nowMs)) return null
    const { id, personId, name, readOnly, areas, lastUsedAt } = found
    const note = lastUsedAt === null || nowMs - lastUsedAt > USED_EVERY_MS
    return { id, personId, name, readOnly, areas, note }
  }

  seen(id: number, nowMs: number): void {
    this.db.orm.update(apiTokens).set({ lastUsedAt: nowMs }).where(eq(apiTokens.id, id)).run()
  }

  /** Whether it is good for more requests: asked by what stays open for long. */
  goesOn(id: number, nowMs: number): boolean {
    const found = this.db.orm.select().from(apiTokens).where(eq(apiTokens.id, id)).get()
    return found !== undefined && found.revokedAt === null && (found.expiresAt === null || found.expiresAt > nowMs)
  }

  /** The keys of somebody, or of everybody, the newest first; those that have expired among them. */
  list(personId: string | null): readonly KeyLine[] {
    const { id, name, start, createdAt, lastUsedAt, readOnly, areas, expiresAt } = apiTokens
    return this.db.orm
      .select({
        id,
        personId: apiTokens.personId,
        name,
        start,
        createdAt,
        lastUsedAt,
        readOnly,
        areas,
        expiresAt,
      })
      .from(apiTokens)
      .where(and(isNull(apiTokens.revokedAt), personId === null ? undefined : eq(apiTokens.personId, personId)))
      .orderBy(desc(apiTokens.id))
      .all()
  }

  /** Revokes a key, of one person where that is said; answers whether there was one. */
  revoke(id: number, nowMs: number, personId?: string): boolean {
    return (
      this.db.orm
        .update(apiTokens)
        .set({ revokedAt: nowMs })
        .where(
          and(
            eq(apiTokens.id, id),
            isNull(apiTokens.revokedAt),
            personId === undefined ? undefined : eq(apiTokens.personId, personId),
          ),
        )
        .run().changes > 0
    )
  }

  revokeAll(personId: string, nowMs: number): void {
    this.db.orm
      .update(apiTokens)
      .set({ revokedAt: nowMs })
      .where(and(eq(apiTokens.personId, personId), isNull(apiTokens.revokedAt)))
      .run()
  }
}
