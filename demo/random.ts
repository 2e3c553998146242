/** A small seeded generator (mulberry32, public domain): the same seed gives the same data on every machine. */
export class Random {
  constructor(private state: number) {}

  /** At least 0, below 1. */
  next(): number {
    this.state = (this.state + 0x6d2b79f5) | 0
    let t = Math.imul(this.state ^ (this.state >>> 15), 1 | this.state)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296
  }

  /** A whole number from `low` to `high`, both included. */
  int(low: number, high: number): number {
    return low + Math.floor(this.next() * (high - low + 1))
  }

  pick<T>(items: readonly T[]): T {
    const found = items[this.int(0, items.length - 1)]
    if (found === undefined) throw new RangeError('nothing to pick from')
    return found
  }

  chance(share: number): boolean {
    return this.next() < share
  }
}
