import { randomUUID } from 'node:crypto'
import type { RecordRef } from '../../core/records/kinds'

/** What open screens are told. Only what changed, never the data itself: each screen reads what it may see. */
export type LiveMessage =
  | { readonly about: 'records'; readonly refs: readonly RecordRef[] }
  | {
      readonly about: 'run'
      readonly runId: number
      readonly ruleId: number
      readonly ruleName: string
      readonly ref: RecordRef
      readonly recordName: string
      readonly state: string
      readonly text: string
    }
  | { readonly about: 'tasks'; readonly people: readonly string[] }
  /** These people are told something. */
  | { readonly about: 'notices'; readonly people: readonly string[] }
  | { readonly about: 'rules' }
  | { readonly about: 'segments' }
  /** How long things are kept, or how much of them there is. */
  | { readonly about: 'storage' }
  /** How far work of a rule over many records has come. */
  | {
      readonly about: 'jobs'
      readonly ruleId: number
      readonly id: number
      readonly state: 'running' | 'stopped' | 'done'
      readonly done: number
      readonly total: number
    }
  /** `progress` while it is under way; without it, read the import again. */
  | { readonly about: 'imports'; readonly id: number; readonly progress?: ImportProgress }
  /** Messages were handed over, or were not taken. */
  | { readonly about: 'sent' }
  /** The clock of the workspace was turned. */
  | { readonly about: 'clock' }
  /** What waits is other than it was. */
  | { readonly about: 'ahead' }
  /** What rules came to was counted anew. */
  | { readonly about: 'results' }
  /** Something needs somebody, or does no more. */
  | { readonly about: 'problems' }
  /** Fields, pipelines or people are other than they were. */
  | { readonly about: 'catalogue' }

export interface ImportProgress {
  /** The row of the file that was written last, of how many. */
  readonly row: number
  readonly total: number
  readonly perSecond: number
  readonly leftSeconds: number
}

/** Something that was told, with its place in the order of telling. */
export interface Told {
  readonly n: number
  readonly message: LiveMessage
}

type Listener = (told: Told) => void

/** So many of the last messages are kept for those whose connection broke off. */
const KEPT = 2_000

/** Hands messages to every screen that listens. A listener that throws does not keep the others from hearing. */
export class LiveHub {
  private readonly listeners = new Set<Listener>()
  private readonly kept: Told[] = []
  private last = 0
  private readonly counter = randomUUID()

  listen(listener: Listener): () => void {
    this.listeners.add(listener)
    return () => this.listeners.delete(listener)
  }

  /** The number of what was told last. */
  get position(): number {
    return this.last
  }

  /**
   * Where the telling stands, as a text that a screen gives back: of this process only, whose numbers mean nothing
   * elsewhere.
   */
  markOf(n = this.last): string {
    return `${this.counter} ${n}`
  }

  /** What was told behind a mark, oldest first; `null` when nobody can say any more. */
  sinceMark(mark: string): readonly Told[] | null {
    const [counter, n] = mark.split(' ')
    return counter === this.counter && /^\d{1,15}$/.test(n ?? '') ? this.since(Number(n)) : null
  }

  /** What was told behind a number, oldest first; `null` when some of it is not kept any more. */
  since(n: number): readonly Told[] | null {
    if (n > this.last) return null
    const first = this.kept[0]?.n ?? this.last + 1
    return n + 1 < first ? null : this.kept.slice(this.kept.length - (this.last - n))
  }

  /** How many listen. */
  get size(): number {
    return this.listeners.size
  }

  /** Whether anybody would hear, now or when a connection that broke off comes back. */
  get heard(): boolean {
    return this.listeners.size > 0 || this.last > 0
  }

  tell(message: LiveMessage): void {
    const told = { n: ++this.last, message }
    this.kept.push(told)
    if (this.kept.length > 2 * KEPT) this.kept.splice(0, KEPT)
    for (const listener of this.listeners) {
      try {
        listener(told)
      } catch {
        this.listeners.delete(listener)
      }
    }
  }
}
