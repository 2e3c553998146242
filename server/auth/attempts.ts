const FREE = 5
const FIRST_PAUSE_MS = 30_000
const LONGEST_PAUSE_MS = 3_600_000
const FORGET_AFTER_MS = 24 * 3_600_000

interface Tally {
  failed: number
  lastAt: number
  until: number
}

/**
 * Slows guessing down. After five wrong passwords for a name each further one makes the next try wait twice as long,
 * from 30 seconds up to an hour; a right one, or a day without a try, forgets them.
 */
export class Attempts {
  private readonly tallies = new Map<string, Tally>()

  /** Milliseconds until the name may be tried again; 0 when it may be tried now. */
  waitMs(name: string, nowMs: number): number {
    return Math.max(0, (this.tallies.get(name)?.until ?? 0) - nowMs)
  }

  failed(name: string, nowMs: number): void {
    this.forgetOld(nowMs)
    const tally = this.tallies.get(name) ?? { failed: 0, lastAt: nowMs, until: 0 }
    tally.failed++
    tally.lastAt = nowMs
    if (tally.failed >= FREE)
      tally.until = nowMs + Math.min(LONGEST_PAUSE_MS, FIRST_PAUSE_MS * 2 ** (tally.failed - FREE))
    this.tallies.set(name, tally)
  }

  succeeded(name: string): void {
    this.tallies.delete(name)
  }

  private forgetOld(nowMs: number): void {
    for (const [name, tally] of this.tallies)
      if (nowMs - tally.lastAt > FORGET_AFTER_MS && tally.until <= nowMs) this.tallies.delete(name)
  }
}
