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
  /** Why the document cannot be read, with the path; `null` when it can. */
  readonly problem: string | null
}

/** Stands in for a document that cannot be read. */
const EMPTY: Case = {
  format: 1,
  name: '',
  zone: 'Etc/UTC',
  start: '2000-01-01 0:00',
  until: '2000-01-01 0:00',
  workdays: [1, 2, 3, 4, 5],
  hours: { opens: '9:00', closes: '17:00' },
  holidays: [],
  people: [],
  fields: [],
  records: [],
  links: [],
  rules: [],
  script: [],
}

/** Rehearsals that were kept with what is expected of them. */
export class CaseStore {
  constructor(private readonly db: Db) {}

  /** Stored documents are read like foreign ones: one that no longer fits is set aside with the path and the reason. */
  private parse(row: typeof cases.$inferSelect): KeptCase {
    const document = zCase.safeParse(row.document)
    if (document.success) return { ...row, document: document.data, problem: null }
    const [issue] = document.error.issues
    return { ...row, document: EMPTY, problem: `${issue?.path.join('.') ?? ''}: ${issue?.message ?? ''}` }
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

  add(given: Omit<KeptCase, 'id' | 'problem'>): number {
    return this.db.orm.insert(cases).values(given).returning({ id: cases.id }).get().id
  }

  change(id: number, given: Pick<KeptCase, 'name' | 'document' | 'changedBy' | 'changedAt'>): void {
    this.db.orm.update(cases).set(given).where(eq(cases.id, id)).run()
  }

  remove(id: number): void {
    this.db.orm.delete(cases).where(eq(cases.id, id)).run()
  }
}
