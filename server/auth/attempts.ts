const FORGET_AFTER_MS = 24 * 3_600_000
const FIRST_PAUSE_MS = 30_000
const LONGEST_PAUSE_MS = 3_600_000
/** Names and addresses that are remembered at once; who floods this forgets the oldest. */
const TALLIES_MOST = 50_000

interface Tally {
  tried: number
  lastAt: number
  until: number
}

/**
 * What is tried for: a name may be guessed at seldom, an address (behind which there may be a whole firm) more often.
 */
export interface Target {
  readonly name: string
  /** Tries that are free before each one makes the next wait. */
  readonly free: number
  /** Whether only one try at a time is let in. */
  readonly alone: boolean
}

export const forName = (name: string): Target => ({ name: `name ${name}`, free: 5, alone: true })
export const forAddress = (address: string): Target => ({ name: `address ${address}`, free: 50, alone: false })

/** A try that was let in. */
export interface Try {
  /** It was right: it counts for nothing, and nor do those before it of the same name. */
  readonly right: () => void
  /** It is over, right or wrong. */
  readonly over: () => void
}

/**
 * Slows guessing down. A try counts from the moment it begins, so that many at once are as many; behind those that are
 * free each further one makes the next wait twice as long, from 30 seconds up to an hour. A right one, or a day without
 * a try, forgets them.
 */
export class Attempts {
  private readonly tallies = new Map<string, Tally>()
  private readonly underWay = new Set<string>()

  /** Milliseconds until a try may be made. */
  waitMs(targets: readonly Target[], nowMs: number): number {
    return Math.max(
      0,
      ...targets.map(({ name, alone }) =>
        alone && this.underWay.has(name) ? 1000 : (this.tallies.get(name)?.until ?? 0) - nowMs,
      ),
    )
  }

  /** Begins a try; `waitMs` must have said that it may be made. */
  begin(targets: readonly Target[], nowMs: number): Try {
    this.forgetOld(nowMs)
    for (const { name, free, alone } of targets) {
      const tally = this.tallies.get(name) ?? { tried: 0, lastAt: nowMs, until: 0 }
      tally.tried++
      tally.lastAt = nowMs
      if (tally.tried >= free)
        tally.until = nowMs + Math.min(LONGEST_PAUSE_MS, FIRST_PAUSE_MS * 2 ** (tally.tried - free))
      this.tallies.set(name, tally)
      if (alone) this.underWay.add(name)
    }
    return {
      right: () => {
        for (const { name, free, alone } of targets) {
          const tally = this.tallies.get(name)
          if (alone || !tally) this.tallies.delete(name)
          else if (--tally.tried < free) tally.until = 0
        }
      },
      over: () => {
        for (const { name } of targets) this.underWay.delete(name)
      },
    }
  }

  private forgetOld(nowMs: number): void {
    for (const [name, tally] of this.tallies)
      if (nowMs - tally.lastAt > FORGET_AFTER_MS && tally.until <= nowMs) this.tallies.delete(name)
    for (const name of this.tallies.keys()) {
      if (this.tallies.size < TALLIES_MOST) break
      this.tallies.delete(name)
    }
  }
}
