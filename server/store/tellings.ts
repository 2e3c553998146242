import { and, asc, eq, gt, isNull, lte, max } from 'drizzle-orm'
import { z } from 'zod'
import type { Telling } from '../../core/telling/telling'
import type { Db } from '../db/connect'
import { notices } from '../db/schema/runs'
import { tellings } from '../db/schema/watch'
import { readSecret, writeSecret } from './secret'

export type TellingRow = typeof tellings.$inferSelect

const zChat = z.strictObject({ address: z.string() })
const chatOf = (personId: string): string => `chat ${personId}`

/** How people are told outside of the app. */
export class TellingStore {
  private readonly due

  constructor(private readonly db: Db) {
    // Those who hear at once are always due: they are looked at when something came.
    this.due = db.sqlite
      .prepare<[number], number>(
        `SELECT 1 FROM tellings AS t WHERE next_at <= ? AND (telling ->> '$.often' <> 'now' OR EXISTS (
           SELECT 1 FROM notices AS n WHERE n.person_id = t.person_id AND n.read_at IS NULL AND n.id > t.told_to)
           OR EXISTS (SELECT 1 FROM problems AS p WHERE p.found_ms > t.told_ms)) LIMIT 1`,
      )
      .pluck()
  }

  of(personId: string): TellingRow | null {
    return this.db.orm.select().from(tellings).where(eq(tellings.personId, personId)).get() ?? null
  }

  /** What was told before stays told: from now on they hear of what comes. */
  set(personId: string, telling: Telling, nextAt: number | null, nowMs: number): void {
    const toldTo =
      this.db.orm
        .select({ id: max(notices.id) })
        .from(notices)
        .get()?.id ?? 0
    const before = this.of(personId)
    this.db.orm
      .insert(tellings)
      .values({ personId, telling, toldTo, toldMs: nowMs, nextAt })
      .onConflictDoUpdate({
        target: tellings.personId,
        set: { telling, nextAt, ...(before?.telling.by === 'app' && { toldTo, toldMs: nowMs }) },
      })
      .run()
  }

  anyDue(nowMs: number): boolean {
    return this.due.get(nowMs) !== undefined
  }

  dueBy(nowMs: number): readonly TellingRow[] {
    return this.db.orm.select().from(tellings).where(lte(tellings.nextAt, nowMs)).all()
  }

  /** What came for somebody behind what they were told, unread, oldest first. */
  untold({ personId, toldTo }: TellingRow) {
    return this.db.orm
      .select()
      .from(notices)
      .where(
        and(eq(notices.personId, personId), isNull(notices.readAt), gt(notices.id, toldTo), isNull(notices.bundle)),
      )
      .orderBy(asc(notices.id))
      .all()
  }

  told(personId: string, told: Pick<TellingRow, 'toldTo' | 'toldMs' | 'sent' | 'nextAt'>): void {
    this.db.orm.update(tellings).set(told).where(eq(tellings.personId, personId)).run()
  }

  chat(personId: string): string | null {
    return readSecret(this.db, chatOf(personId), zChat)?.address ?? null
  }

  setChat(personId: string, address: string | null): void {
    writeSecret(this.db, chatOf(personId), address === null ? null : { address })
  }
}
