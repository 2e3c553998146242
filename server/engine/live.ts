import type { RecordRef } from '../../core/records/kinds'

/** What open screens are told. Only what changed, never the data itself: each screen reads what it may see. */
export type LiveMessage =
  | { readonly about: 'records'; readonly refs: readonly RecordRef[] }
  | { readonly about: 'run'; readonly runId: number; readonly ruleId: number; readonly ruleName: string; readonly ref: RecordRef; readonly recordName: string; readonly state: string; readonly text: string }
  | { readonly about: 'tasks'; readonly people: readonly string[] }
  | { readonly about: 'rules' }
  /** `progress` while it is under way; without it, read the import again. */
  | { readonly about: 'imports'; readonly id: number; readonly progress?: ImportProgress }
  /** Fields, pipelines or people are other than they were. */
  | { readonly about: 'catalogue' }

export interface ImportProgress {
  /** The row of the file that was written last, of how many. */
  readonly row: number
  readonly total: number
  readonly perSecond: number
  readonly leftSeconds: number
}

type Listener = (message: LiveMessage) => void

/** Hands messages to every screen that listens. A listener that throws does not keep the others from hearing. */
export class LiveHub {
  private readonly listeners = new Set<Listener>()

  listen(listener: Listener): () => void {
    this.listeners.add(listener)
    return () => this.listeners.delete(listener)
  }

  /** Whether anybody would hear. */
  get heard(): boolean {
    return this.listeners.size > 0
  }

  tell(message: LiveMessage): void {
    for (const listener of this.listeners) {
      try {
        listener(message)
      } catch {
        this.listeners.delete(listener)
      }
    }
  }
}
