import { and, asc, eq, gt, inArray } from 'drizzle-orm'
import type { MessageChannel, Stopped } from '../../core/messages/guards'
import type { Db } from '../db/connect'
import { stoppedAddresses } from '../db/schema/runs'

export type StoppedRow = typeof stoppedAddresses.$inferSelect

/** Addresses that get nothing more: who opted out, where mails come back, and whom nobody is to write to. */
export class AddressStore {
  private readonly found

  constructor(private readonly db: Db) {
    this.found = db.sqlite.prepare<[string, string, string], Stopped>(
      `SELECT because, how FROM stopped_addresses
       WHERE channel IN (?, 'any') AND address IN (?, ?)
       ORDER BY because = 'optedOut' DESC, because = 'never' DESC LIMIT 1`,
    )
  }

  /** Why an address gets nothing of a channel; `null` where it may. A whole domain may be stopped. */
  stopped(channel: MessageChannel, address: string): Stopped | null {
    const folded = address.toLowerCase()
    const domain = folded.slice(folded.indexOf('@'))
    return this.found.get(channel, folded, domain.startsWith('@') ? domain : folded) ?? null
  }

  /** Stops an address; one that is stopped keeps its first reason, unless somebody opts out. */
  stop(row: Omit<StoppedRow, 'personId'> & { readonly personId?: string | null }): void {
    const given = { ...row, address: row.address.trim().toLowerCase(), personId: row.personId ?? null }
    const insert = this.db.orm.insert(stoppedAddresses).values(given)
    if (given.because === 'optedOut')
      insert
        .onConflictDoUpdate({
          target: [stoppedAddresses.channel, stoppedAddresses.address],
          set: { because: given.because, how: given.how, atMs: given.atMs },
        })
        .run()
    else insert.onConflictDoNothing().run()
  }

  /** Lets an address get messages again; answers whether it was stopped. */
  free(channel: StoppedRow['channel'], address: string): boolean {
    return (
      this.db.orm
        .delete(stoppedAddresses)
        .where(and(eq(stoppedAddresses.channel, channel), eq(stoppedAddresses.address, address.trim().toLowerCase())))
        .run().changes > 0
    )
  }

  /** All, by address, behind one. */
  page(after: string, limit: number): readonly StoppedRow[] {
    return this.db.orm
      .select()
      .from(stoppedAddresses)
      .where(gt(stoppedAddresses.address, after))
      .orderBy(asc(stoppedAddresses.address), asc(stoppedAddresses.channel))
      .limit(limit)
      .all()
  }

  of(addresses: readonly string[]): readonly StoppedRow[] {
    return addresses.length === 0
      ? []
      : this.db.orm
          .select()
          .from(stoppedAddresses)
          .where(
            inArray(
              stoppedAddresses.address,
              addresses.map((one) => one.toLowerCase()),
            ),
          )
          .all()
  }
}
