/** Addresses that are remembered at once; who floods this forgets the oldest. */
const REMEMBERED = 20_000

/**
 * Lets in so many a minute from each address, and refuses the rest. Time is the machine's: it is about requests, not
 * about the workspace.
 */
export class Pace {
  private readonly counts = new Map<string, number>()
  private minute = 0

  constructor(private readonly most: number) {}

  /** Whether one more is let in at an instant (ms). */
  letsIn(address: string, nowMs: number): boolean {
    const minute = Math.floor(nowMs / 60_000)
    if (minute !== this.minute || this.counts.size > REMEMBERED) this.counts.clear()
    this.minute = minute
    const count = (this.counts.get(address) ?? 0) + 1
    this.counts.set(address, count)
    return count <= this.most
  }
}
