import { randomUUID } from 'node:crypto'
import type { Channels, Handed } from '../channels/channel'
import type { Db } from '../db/connect'
import type { OutboxRow, OutboxStore } from '../store/outbox'

/** What is not taken is tried again after these pauses, and given up after the last. */
const PAUSES_MS = [10_000, 60_000, 600_000, 3_600_000, 6 * 3_600_000] as const

/** So many are on their way at once. */
const AT_ONCE = 50

/**
 * What was claimed belongs to one courier for so long, by the machine's clock; what a crash left behind is claimed
 * again after that.
 */
const LEASE_MS = 60_000

export interface CourierSetting {
  readonly db: Db
  readonly outbox: OutboxStore
  readonly channels: Channels
  /** The clock of the workspace. */
  readonly nowMs: () => number
  /** When something that was taken was; now, when left out. */
  readonly atOf?: (row: OutboxRow) => number
  /** Hears that something was handed over, or was not taken. */
  readonly handed?: () => void
  readonly trouble?: (error: unknown) => void
  /** Hears what was handed over, in the commit that says so. */
  readonly delivered?: (row: OutboxRow, atMs: number, handed: Handed) => void
  /** Hears what was given up, in the commit that does so. */
  readonly gaveUp?: (row: OutboxRow, because: string, handed: Handed) => void
  readonly leaseMs?: number
}

/**
 * Carries what is to leave the house. A row is claimed in a commit of its own, handed over while nothing is held, and
 * acknowledged: two threads or two processes never hand over the same row at once. A crash in between repeats it under
 * the same key once the claim has run out, which the receiver drops.
 */
export class Courier {
  private readonly owner = randomUUID()
  private under: Promise<number> = Promise.resolve(0)
  private woken = false
  private closed = false

  constructor(private readonly given: CourierSetting) {}

  /** Sees to what is due as soon as there is time for it; nobody waits for it. */
  wake(): void {
    if (this.woken || this.closed) return
    this.woken = true
    setImmediate(() => {
      this.woken = false
      this.run().catch((error: unknown) => this.given.trouble?.(error))
    })
  }

  /** Hands over everything that is due and nobody else has; answers how many there were. */
  run(): Promise<number> {
    this.under = this.under.catch(() => 0).then(() => this.pass())
    return this.under
  }

  /** Claims nothing more; ends when what is on its way has arrived. */
  async stop(): Promise<void> {
    this.closed = true
    await this.under.catch(() => 0)
    this.letGo()
  }

  /** Claims nothing more, and forgets what is on its way: the database is about to be closed. */
  drop(): void {
    this.closed = true
    this.dropped = true
    this.letGo()
  }
  private letGo(): void {
    for (const channel of Object.values(this.given.channels)) channel.close?.()
  }
  private dropped = false

  private async pass(): Promise<number> {
    const { db, outbox, nowMs, leaseMs = LEASE_MS } = this.given
    // What was taken is acknowledged as soon as there is time for it, with whatever else was taken meanwhile: a crash
    // repeats only what was on its way just then.
    const taken: (readonly [OutboxRow, Handed])[] = []
    let trouble: { readonly error: unknown } | null = null
    const acknowledgeAll = (): void => {
      const some = taken.splice(0)
      if (this.dropped || some.length === 0) return
      try {
        // What a power cut takes from it goes out again under its key, as what was on its way does.
        db.inTurn(() =>
          db.unhurriedly(() => {
            for (const [row, what] of some) this.acknowledge(row, what)
          }),
        )
      } catch (error) {
        trouble = { error }
      }
    }
    let under = 0
    let oneIsHome: (() => void) | undefined
    const carry = async (row: OutboxRow): Promise<void> => {
      taken.push([row, await this.hand(row, leaseMs / 2)])
      if (taken.length === 1) setImmediate(acknowledgeAll)
      under--
      oneIsHome?.()
    }
    let idle = false
    for (let count = 0; ;) {
      // What is taken at once would otherwise be claimed and taken on and on, and acknowledged only in the end.
      if (under <= AT_ONCE / 2) acknowledgeAll()
      const rows =
        !this.closed && !trouble && under <= AT_ONCE / 2 && outbox.anyDue(nowMs(), Date.now())
          ? db.inTurn(() => outbox.claim(this.owner, nowMs(), Date.now(), leaseMs, AT_ONCE - under))
          : []
      under += rows.length
      count += rows.length
      for (const row of rows) void carry(row)
      if (rows.length > 0) this.given.handed?.()
      if (under > 0) {
        idle = false
        await new Promise<void>((resolve) => (oneIsHome = resolve))
        continue
      }
      if (trouble) throw (trouble as { readonly error: unknown }).error
      if (count > 0 && !this.dropped) this.given.handed?.()
      // What was heard of the last may have asked for more; what others hold is theirs.
      if (idle) return count
      idle = true
    }
  }

  private async hand(row: OutboxRow, mostMs: number): Promise<Handed> {
    const { channels, nowMs, atOf = nowMs } = this.given
    const { key, recipient, subject, body, more } = row
    try {
      return await channels[row.channel].deliver(
        { key, recipient, subject, body, more, atMs: atOf(row) },
        AbortSignal.timeout(mostMs),
      )
    } catch (error) {
      return { is: 'later', because: error instanceof Error ? error.message : String(error) }
    }
  }

  private acknowledge(row: OutboxRow, handed: Handed): void {
    const { outbox, nowMs, atOf = nowMs } = this.given
    if (handed.is === 'taken') {
      if (outbox.delivered(row.id, this.owner, atOf(row))) this.given.delivered?.(row, atOf(row), handed)
    } else {
      const pause = handed.is === 'never' ? undefined : PAUSES_MS[row.attempts]
      const mine = outbox.failed(row.id, this.owner, handed.because, pause === undefined ? null : nowMs() + pause)
      if (mine && pause === undefined) this.given.gaveUp?.(row, handed.because, handed)
    }
  }
}
