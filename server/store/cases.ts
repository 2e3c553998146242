import { asc, eq, sql } from 'drizzle-orm'
import { zCase, type Case } from '../../core/rehearsal/case-file'
import type { Db } from '../db/connect'
import { cases } from '../db/schema/rules'

export interface KeptCase {
  readonly id: number
  readonly name: string
  /** The rules of the document, in its order. */
  readonly ruleIds: readonly number[]
  readonly document: Case
  readonly changedBy: string
  readonly changedAt: number
}

/** Rehearsals that were kept with what is expected of them. */
export class CaseStore {
  constructor(private readonly db: Db) {}

  /** Stored documents are read like foreign ones: one that no longer fits is refused by name. */
  private parse(row: typeof cases.$inferSelect): KeptCase {
    const document = zCase.safeParse(row.document)
    if (!document.success)
      throw new Error(
        `case ${row.id} cannot be read: ${document.error.issues[0]?.path.join('.') ?? ''} ${document.error.issues[0]?.message ?? ''}`,
      )
    return { ...row, document: document.data }
  }

  /** Those of a rule, or all. */
  list(ruleId: number | null): readonly KeptCase[] {
    const ofRule =
      ruleId === null ? undefined : sql`exists (select 1 from json_each(${cases.ruleIds}) where value = ${ruleId})`
    return this.db.orm
      .select()
      .from(cases)
      .where(ofRule)
      .orderBy(asc(cases.id))
      .all()
      .map((row) => this.parse(row))
  }

  get(id: number): KeptCase | null {
    const row = this.db.orm.select().from(cases).where(eq(cases.id, id)).get()
    return row ? this.parse(row) : null
  }

  add(given: Omit<KeptCase, 'id'>): number {
    return this.db.orm.insert(cases).values(given).returning({ id: cases.id }).get().id
  }

  change(id: number, given: Pick<KeptCase, 'name' | 'document' | 'changedBy' | 'changedAt'>): void {
    this.db.orm.update(cases).set(given).where(eq(cases.id, id)).run()
  }

  remove(id: number): void {
    this.db.orm.delete(cases).where(eq(cases.id, id)).run()
  }
}
