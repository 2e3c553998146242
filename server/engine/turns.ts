import type { Turns } from '../db/connect'

/** Cells of the buffer: how many want to be served first, and whether somebody writes. */
const [WAITING, WRITING] = [0, 1]

/** Whoever holds the turn longer than this has died, or holds it for a reason: SQLite's own lock has the last word. */
const MOST_MS = 1_000

/**
 * Who writes next, among the threads of a process. SQLite lets one writer in at a time and wakes nobody: without this,
 * whoever waits sleeps for ever longer pauses and tries again while the next one begins. The thread that serves pages
 * goes before those that work in bulk, which hold their next batch back for it.
 */
export class TurnTaker implements Turns {
  private readonly cells: Int32Array
  /** A turn inside of a turn is the same one. */
  private depth = 0
  private holds = false

  /**
   * One buffer for all threads: hand it over when another is started. `first` is for the one that serves pages.
   */
  constructor(
    readonly buffer: SharedArrayBuffer = new SharedArrayBuffer(2 * Int32Array.BYTES_PER_ELEMENT),
    private readonly first = true,
  ) {
    this.cells = new Int32Array(buffer)
  }

  /** Waits for one's turn. */
  before(): void {
    if (this.depth++ > 0) return
    if (this.first) Atomics.add(this.cells, WAITING, 1)
    this.holds = this.take()
  }

  private take(): boolean {
    const until = performance.now() + MOST_MS
    for (let left = MOST_MS; left > 0; left = until - performance.now()) {
      const waiting = this.first ? 0 : Atomics.load(this.cells, WAITING)
      if (waiting > 0) Atomics.wait(this.cells, WAITING, waiting, left)
      else if (Atomics.compareExchange(this.cells, WRITING, 0, 1) === 0) return true
      else Atomics.wait(this.cells, WRITING, 1, left)
    }
    return false
  }

  after(): void {
    if (--this.depth > 0) return
    if (this.holds) this.free()
    this.holds = false
    if (!this.first) return
    Atomics.sub(this.cells, WAITING, 1)
    Atomics.notify(this.cells, WAITING)
  }

  /** Gives back what a thread held that has ended. */
  free(): void {
    Atomics.store(this.cells, WRITING, 0)
    Atomics.notify(this.cells, WRITING, 1)
  }

  /** Whether the thread that serves pages waits for its turn, or has it. */
  awaited(): boolean {
    return Atomics.load(this.cells, WAITING) > 0
  }
}
