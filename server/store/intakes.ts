import { randomBytes } from 'node:crypto'
import { and, desc, eq } from 'drizzle-orm'
import type { Into, Verify } from '../../core/web/intake'
import type { RecordRef } from '../../core/records/kinds'
import type { Db } from '../db/connect'
import { readSealed, writeSealed } from './secret'
import { intakeRequests, intakes } from '../db/schema/outside'
import { newSigningSecret } from './connections'

export type IntakeRow = typeof intakes.$inferSelect
export type IntakeRequestRow = typeof intakeRequests.$inferSelect

const nameOf = (id: number): string => `intake ${id}`

/** Addresses at which services outside tell something, their secrets, and what came in. */
export class IntakeStore {
  constructor(private readonly db: Db) {}

  /** Makes an address with a secret, which is told this once. */
  add(name: string, verify: Verify, into: Into, personId: string): { readonly id: number; readonly secret: string } {
    const slug = randomBytes(15).toString('base64url')
    const id = Number(this.db.orm.insert(intakes).values({ slug, name, verify, into, personId }).run().lastInsertRowid)
    return { id, secret: this.renew(id) }
  }

  change(id: number, change: Partial<Pick<IntakeRow, 'name' | 'verify' | 'into' | 'archived'>>): void {
    if (Object.keys(change).length > 0) this.db.orm.update(intakes).set(change).where(eq(intakes.id, id)).run()
  }

  /** A new secret in place of the one before. */
  renew(id: number): string {
    const secret = newSigningSecret()
    writeSealed(this.db, nameOf(id), secret)
    return secret
  }

  secret(id: number): string | null {
    return readSealed(this.db, nameOf(id))
  }

  get(id: number): IntakeRow | null {
    return this.db.orm.select().from(intakes).where(eq(intakes.id, id)).get() ?? null
  }

  bySlug(slug: string): IntakeRow | null {
    return (
      this.db.orm
        .select()
        .from(intakes)
        .where(and(eq(intakes.slug, slug), eq(intakes.archived, false)))
        .get() ?? null
    )
  }

  all(): readonly IntakeRow[] {
    return this.db.orm.select().from(intakes).where(eq(intakes.archived, false)).all()
  }

  /** Whether something with this key was taken before. */
  has(intakeId: number, key: string): boolean {
    const where = and(eq(intakeRequests.intakeId, intakeId), eq(intakeRequests.key, key))
    return this.db.orm.select({ id: intakeRequests.id }).from(intakeRequests).where(where).get() !== undefined
  }

  keep(
    intakeId: number,
    key: string | null,
    body: string,
    came: { readonly state: IntakeRequestRow['state']; readonly says: string; readonly ref: RecordRef | null },
    atMs: number,
  ): void {
    const { state, says, ref } = came
    this.db.orm
      .insert(intakeRequests)
      .values({ intakeId, key, body, state, says, object: ref?.object ?? null, recordId: ref?.id ?? null, atMs })
      .onConflictDoNothing()
      .run()
  }

  /** Newest first. */
  requests(limit: number): readonly IntakeRequestRow[] {
    return this.db.orm.select().from(intakeRequests).orderBy(desc(intakeRequests.id)).limit(limit).all()
  }
}
