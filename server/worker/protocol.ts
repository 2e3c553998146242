import type { LiveMessage } from '../engine/live'
import type { QuestionName } from './questions'

/** What the thread that serves pages asks of the others. */
export type Ask =
  | { readonly ask: 'question'; readonly n: number; readonly name: QuestionName; readonly given: unknown }
  /** Begins an import, or goes on with one that stopped. */
  | { readonly ask: 'import'; readonly id: number; readonly rulesOn: boolean }
  /** Works an order of a rule over many records. */
  | { readonly ask: 'job'; readonly id: number }
  /** Turns the clock of a demo workspace forward. */
  | { readonly ask: 'turn'; readonly toMs: number }
  | { readonly ask: 'close' }

/** What comes back. */
export type Told =
  | { readonly told: 'ready' }
  | { readonly told: 'answer'; readonly n: number; readonly value: unknown }
  | { readonly told: 'failed'; readonly n: number; readonly text: string }
  | { readonly told: 'live'; readonly message: LiveMessage }
  /** How many runs ended which way since the last time. */
  | { readonly told: 'ran'; readonly counts: Readonly<Record<string, number>> }
  | { readonly told: 'trouble'; readonly text: string }

export interface WorkerSetting {
  /** `bulk` writes imports and reads for them; `reader` only answers what screens ask, and never waits for an import. */
  readonly role: 'bulk' | 'reader'
  readonly dbFile: string
  readonly migrationsFolder: string
  readonly turns: SharedArrayBuffer
}
