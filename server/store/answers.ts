import { and, eq, lt } from 'drizzle-orm'
import type { Db } from '../db/connect'
import { keptAnswers } from '../db/schema/imports'

/** So long an answer is kept; whoever repeats a request does so within minutes. */
const KEPT_MS = 24 * 3_600_000

export interface KeptAnswer {
  readonly fingerprint: string
  readonly answer: unknown
  readonly tag: string | null
}

/** Answers kept under the keys that requests came with. */
export class AnswerStore {
  constructor(private readonly db: Db) {}

  get(personId: string, key: string): KeptAnswer | null {
    const { fingerprint, answer, tag } = keptAnswers
    return (
      this.db.orm
        .select({ fingerprint, answer, tag })
        .from(keptAnswers)
        .where(and(eq(keptAnswers.personId, personId), eq(keptAnswers.key, key)))
        .get() ?? null
    )
  }

  /** Belongs into the transaction of what was asked for. Forgets the answers that are too old. */
  keep(personId: string, key: string, kept: KeptAnswer, nowMs: number): void {
    const { orm } = this.db
    orm
      .delete(keptAnswers)
      .where(lt(keptAnswers.atMs, nowMs - KEPT_MS))
      .run()
    orm
      .insert(keptAnswers)
      .values({ personId, key, ...kept, atMs: nowMs })
      .run()
  }
}
