import type { PlacedProblem } from '../../core/language/problems'
import type { LiveMessage } from '../engine/live'
import type { Wanted } from '../engine/rehearsal'
import type { QuestionName } from './questions'
import type { RehearsalState } from './rehearsal-state'

/** What the thread that serves pages asks of the others. */
export type Ask =
  | { readonly ask: 'question'; readonly n: number; readonly name: QuestionName; readonly given: unknown }
  /** What rules will give people to do, asked of the thread for rehearsals. */
  | { readonly ask: 'load'; readonly n: number; readonly days: number }
  /** Begins an import, or goes on with one that stopped. */
  | { readonly ask: 'import'; readonly id: number }
  /** Works an order of a rule over many records. */
  | { readonly ask: 'job'; readonly id: number }
  /** Begins a rehearsal, in the thread that is there for them; or ends one. */
  | { readonly ask: 'rehearse'; readonly id: number; readonly wanted: Wanted; readonly other: Wanted | null }
  | { readonly ask: 'endRehearsal'; readonly id: number }
  /** Turns the clock of a demo workspace forward. */
  | { readonly ask: 'turn'; readonly toMs: number }
  | { readonly ask: 'close' }

/** What comes back. */
export type Told =
  | { readonly told: 'ready' }
  | { readonly told: 'answer'; readonly n: number; readonly value: unknown }
  | {
      readonly told: 'failed'
      readonly n: number
      readonly text: string
      /** Where it was refused, with its reasons. */
      readonly problems: readonly PlacedProblem[] | null
    }
  | { readonly told: 'live'; readonly message: LiveMessage }
  /** How many runs ended which way since the last time. */
  | { readonly told: 'ran'; readonly counts: Readonly<Record<string, number>> }
  | {
      readonly told: 'rehearsal'
      readonly id: number
      readonly state: RehearsalState
      readonly progress: number
      readonly text: string
    }
  | { readonly told: 'trouble'; readonly text: string }

export interface WorkerSetting {
  /**
   * `bulk` writes imports and reads for them; `reader` only answers what screens ask, and never waits for an import;
   * `rehearsal` tries rules on a copy.
   */
  readonly role: 'bulk' | 'reader' | 'rehearsal'
  readonly dbFile: string
  readonly migrationsFolder: string
  readonly turns: SharedArrayBuffer
}
