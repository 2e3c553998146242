/** The time a workspace lives by. The engine and the stores take it from here and from nowhere else. */
export interface Clock {
  nowMs(): number
}

/** A clock that can be turned forward; in a workspace that is no demo it goes as the machine's does. */
export class TurnedClock implements Clock {
  /** How far it is ahead of the machine's, in ms. */
  aheadMs = 0

  nowMs(): number {
    return Date.now() + this.aheadMs
  }
}

/** A clock that is set by hand, for tests and for making the past of the demo. */
export class SetClock implements Clock {
  constructor(private atMs: number) {}

  nowMs(): number {
    return this.atMs
  }

  set(atMs: number): void {
    this.atMs = atMs
  }
}
