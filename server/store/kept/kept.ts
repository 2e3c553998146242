import type { RetentionKind } from '../../../core/records/retention'

/**
 * One kind of thing that the workspace keeps for some time: where it lies, and which of it may go. Rows are gone
 * through in the order of their keys, a piece a commit.
 */
export interface Kept {
  readonly kind: RetentionKind
  readonly table: string
  /** A column that grows: rows of one key go together. */
  readonly key: string
  /**
   * Which rows may go, in SQL over the table, called `one`. `@before` is the instant up to which nothing has to be
   * kept.
   */
  readonly gone: string
  /** The instant of the oldest row, in SQL. */
  readonly oldest: string
  /** Whether rows lie in the order of their time, so that one that is too young ends the pass; in SQL over `one`. */
  readonly young: string | null
  /** Tables and indexes whose pages count as its size. */
  readonly tables: readonly string[]
  /** Rows of other tables that belong to those that go, in SQL over `@from`, `@to` and `@before`; they go first. */
  readonly with?: string
}
