import type { LiveMessage } from '../engine/live'

/** What the thread that serves pages asks of the one that works in bulk. */
export type Ask =
  | { readonly ask: 'preview' | 'refused'; readonly n: number; readonly id: number }
  /** Begins an import, or goes on with one that stopped. */
  | { readonly ask: 'import'; readonly id: number; readonly rulesOn: boolean }
  | { readonly ask: 'close' }

/** What comes back. */
export type Told =
  | { readonly told: 'ready' }
  | { readonly told: 'answer'; readonly n: number; readonly value: unknown }
  | { readonly told: 'failed'; readonly n: number; readonly text: string }
  | { readonly told: 'live'; readonly message: LiveMessage }
  | { readonly told: 'trouble'; readonly text: string }

export interface WorkerSetting {
  readonly dbFile: string
  readonly migrationsFolder: string
  readonly turns: SharedArrayBuffer
}
