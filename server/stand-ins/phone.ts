import { and, desc, eq, isNotNull, isNull, lte, min } from 'drizzle-orm'
import type { CallResult } from '../../core/asks/call'
import { actOnCall } from '../../core/messages/simulated'
import type { Parcel } from '../channels/channel'
import type { Db } from '../db/connect'
import { workspace } from '../db/schema/catalogue'
import { standInCalls } from '../db/schema/outside'
import { partOf } from './mailbox'

/** It rings so long before somebody picks up, or does not. */
const RINGS_MS = 20_000

/** The simulated phone: every call that the dialler would place. The same key twice is the same call. */
export const standInPhone =
  (db: Db) =>
  ({ key, recipient, subject, body, atMs }: Parcel): void => {
    const { share } = db.orm.select({ share: workspace.simulatedShare }).from(workspace).get() ?? { share: 0 }
    const act = share > 0 ? actOnCall(share, partOf(key)) : null
    db.orm
      .insert(standInCalls)
      .values({
        key,
        number: recipient,
        name: subject,
        script: body,
        receivedAt: atMs,
        act,
        actAt: act ? atMs + RINGS_MS : null,
      })
      .onConflictDoNothing()
      .run()
  }

export type CallRow = typeof standInCalls.$inferSelect

/** Calls, those that ring first, then the newest. */
export const callRows = (db: Db, limit: number): readonly CallRow[] =>
  db.orm
    .select()
    .from(standInCalls)
    .orderBy(isNotNull(standInCalls.result), desc(standInCalls.receivedAt), desc(standInCalls.key))
    .limit(limit)
    .all()

/** Ends a call that rings; answers whether it still did. */
export const endCall = (db: Db, key: string, result: CallResult): boolean =>
  db.orm
    .update(standInCalls)
    .set({ result, actAt: null })
    .where(and(eq(standInCalls.key, key), isNull(standInCalls.result)))
    .run().changes > 0

/** When a call is picked up by itself next; `null` when none is. */
export const nextPickUp = (db: Db): number | null =>
  db.orm
    .select({ at: min(standInCalls.actAt) })
    .from(standInCalls)
    .where(isNotNull(standInCalls.actAt))
    .get()?.at ?? null

/** Takes the calls that are picked up by themselves by a moment. */
export const takePickUps = (db: Db, untilMs: number): readonly CallRow[] =>
  db.orm.update(standInCalls).set({ actAt: null }).where(lte(standInCalls.actAt, untilMs)).returning().all()
