import { eq } from 'drizzle-orm'
import type { Db } from '../db/connect'
import { visits } from '../db/schema/watch'

/** Whoever comes back sooner has hardly been away. */
const AWAY_MS = 30 * 60_000

/** When people looked at the overview last. */
export class VisitStore {
  constructor(private readonly db: Db) {}

  /** Notes that somebody looks now. */
  note(personId: string, nowMs: number): void {
    const known = this.db.orm.select().from(visits).where(eq(visits.personId, personId)).get()
    const beforeMs = known && nowMs - known.atMs >= AWAY_MS ? known.atMs : (known?.beforeMs ?? null)
    this.db.orm
      .insert(visits)
      .values({ personId, atMs: nowMs, beforeMs: null })
      .onConflictDoUpdate({ target: visits.personId, set: { atMs: nowMs, beforeMs } })
      .run()
  }

  /** When somebody was here the last time, before this one; `null` the first time. */
  before(personId: string, nowMs: number): number | null {
    const known = this.db.orm.select().from(visits).where(eq(visits.personId, personId)).get()
    return known && nowMs - known.atMs >= AWAY_MS ? known.atMs : (known?.beforeMs ?? null)
  }
}
