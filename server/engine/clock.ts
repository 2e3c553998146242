/** The time a workspace lives by. The engine and the stores take it from here and from nowhere else. */
export interface Clock {
  nowMs(): number
}

export const systemClock: Clock = { nowMs: () => Date.now() }

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
