import type { Noun } from '../../core/language/nouns'
import type { ObjectKind } from '../../core/records/kinds'
import type { Workspace } from '../engine/workspace'

/** One cause that needs somebody. */
export interface Found {
  /** Tells it from others of its kind; stays the same as long as the cause does. */
  readonly key: string
  /** What is wrong, in one sentence without a full stop. */
  readonly says: string
  /** How many it concerns: runs, records, messages. */
  readonly count: number
  readonly ruleId?: number
  readonly ref?: { readonly object: ObjectKind; readonly id: number }
  /** Since when it is so, where that is known; else since it was found. */
  readonly sinceMs?: number
  /** Where it can be mended. */
  readonly path: string
}

/** A kind of problems: how they are found, what it takes to mend one, and whether it can be tried again. */
export interface ProblemKind<K extends string = string> {
  readonly kind: K
  readonly title: string
  /** What is counted, where the words do not say it. */
  readonly unit?: Noun
  /** One sentence: how it is mended. */
  readonly fix: string
  /** Everything of the kind that is so now. Reads, and writes nothing but what it keeps for itself. */
  find(workspace: Workspace): readonly Found[]
  /** Tries all of one cause again; answers how many there were, and how many of them work now. */
  again?(workspace: Workspace, key: string, personId: string): { readonly tried: number; readonly done: number }
}

export const defineProblem = <const K extends string>(kind: ProblemKind<K>): ProblemKind<K> => Object.freeze(kind)
