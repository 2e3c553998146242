import type { Effect } from '../effects'
import type { FailReason, SkipReason } from '../language/reasons'
import type { Values } from '../language/value'

/** What came of a step. Steps only return it; the engine carries it out in the run's own commit. */
export type Outcome =
  /**
   * `gives` are its results by their keys; `say` is what it found, for the journal. `way` is the path, from 0, that a
   * step goes at once where it would otherwise have waited.
   */
  | {
      readonly go: 'on'
      readonly effects: readonly Effect[]
      readonly gives?: Values
      readonly say?: string
      readonly way?: number
    }
  /** The run ends here, as it was meant to. */
  | { readonly go: 'stop'; readonly because: string }
  /**
   * The run waits here: until a moment, until something happens to the record, or whichever comes first. What is to be
   * done before is done in the same commit.
   */
  | { readonly go: 'wait'; readonly dueMs: number | null; readonly say: string; readonly effects?: readonly Effect[] }
  /** The run waits here, and then comes to this very step once more: it may not be done yet. */
  | {
      readonly go: 'hold'
      readonly dueMs: number
      readonly say: string
      readonly effects?: readonly Effect[]
      /** Whether the rule has done as much of it as it may for now. */
      readonly capped?: boolean
    }
  /** This step is done at a later moment, and the run goes on meanwhile. */
  | { readonly go: 'later'; readonly dueMs: number; readonly say: string }
  | { readonly go: 'skip'; readonly reason: SkipReason }
  | { readonly go: 'fail'; readonly reason: FailReason }
