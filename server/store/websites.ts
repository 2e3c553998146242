import { randomBytes } from 'node:crypto'
import { asc, eq } from 'drizzle-orm'
import type { Db } from '../db/connect'
import { secrets, websites } from '../db/schema/records'

/** Hosts whose pages may tell of visits, and what personal links are signed with. */
export class WebsiteStore {
  private key: string | null = null

  constructor(private readonly db: Db) {}

  all(): readonly { readonly host: string; readonly addedAt: number }[] {
    return this.db.orm.select().from(websites).orderBy(asc(websites.host)).all()
  }

  has(host: string): boolean {
    return this.db.orm.select().from(websites).where(eq(websites.host, host)).get() !== undefined
  }

  add(host: string, nowMs: number): void {
    this.db.orm.insert(websites).values({ host, addedAt: nowMs }).onConflictDoNothing().run()
  }

  remove(host: string): boolean {
    return this.db.orm.delete(websites).where(eq(websites.host, host)).run().changes > 0
  }

  /** The secret of personal links, 32 random bytes as hex digits; made when it is asked for first. */
  secret(): string {
    if (this.key !== null) return this.key
    const value = randomBytes(32).toString('hex')
    this.db.inTurn(() => this.db.orm.insert(secrets).values({ name: 'links', value }).onConflictDoNothing().run())
    this.key = this.db.orm.select().from(secrets).where(eq(secrets.name, 'links')).get()?.value ?? value
    return this.key
  }
}
