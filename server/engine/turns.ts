import type { Turns } from '../db/connect'

/**
 * How the thread that serves pages gets in between the batches of the one that works in bulk. SQLite lets one writer
 * in at a time and wakes nobody: without this, a page's write would sleep and try again while the next batch begins.
 */
export class TurnTaker implements Turns {
  private readonly waiting: Int32Array

  /** One for both threads: hand the buffer over when the other is started. */
  constructor(readonly buffer: SharedArrayBuffer = new SharedArrayBuffer(Int32Array.BYTES_PER_ELEMENT)) {
    this.waiting = new Int32Array(buffer)
  }

  /** Whoever calls this is served before the next batch begins. */
  before(): void {
    Atomics.add(this.waiting, 0, 1)
  }

  after(): void {
    Atomics.sub(this.waiting, 0, 1)
  }

  awaited(): boolean {
    return Atomics.load(this.waiting, 0) > 0
  }
}
