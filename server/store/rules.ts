import { and, asc, desc, eq, getTableColumns, max, sql } from 'drizzle-orm'
import type { ActiveRule } from '../../core/engine/matcher'
import { sayProblem } from '../../core/language/problems'
import type { RuleDocument } from '../../core/rules/document'
import type { Db } from '../db/connect'
import { readRule } from '../../core/rules/schema'
import { standIn } from '../../core/rules/unreadable'
import { acceptedFindings, rules, ruleVersions, type Pause } from '../db/schema/rules'

export type RuleState = 'draft' | 'on' | 'off' | 'archived'

export interface StoredRule {
  readonly id: number
  readonly state: RuleState
  readonly order: number
  readonly draft: RuleDocument
  /** Why the draft cannot be read, with the path; `null` when it can. */
  readonly draftProblem: string | null
  readonly draftRev: number
  readonly version: {
    readonly id: number
    readonly number: number
    readonly publishedAt: number
    readonly document: RuleDocument
    /** Why it cannot be read, with the path; it does not run then. */
    readonly problem: string | null
  } | null
  readonly createdBy: string
  readonly createdAt: number
  readonly changedBy: string
  readonly changedAt: number
  /** Set while it waits for somebody to say whether it may go on. */
  readonly paused: Pause | null
}

export type AcceptedFinding = typeof acceptedFindings.$inferSelect

export interface RuleVersion {
  readonly id: number
  readonly number: number
  readonly publishedBy: string
  readonly publishedAt: number
  readonly note: string
  readonly document: RuleDocument
  readonly problem: string | null
}

/** A stored document, and why it cannot be read where that is so. */
interface Read {
  readonly document: RuleDocument
  /** The path and the reason; `null` when it can. */
  readonly problem: string | null
}

/**
 * Stored documents are read like foreign ones. One that no longer fits the schema is set aside: something that does
 * nothing stands in for it, with the path and the reason, and everything else goes on.
 */
function parse(document: unknown, ruleId: number): Read {
  const read = readRule(document)
  return read.ok
    ? { document: read.value, problem: null }
    : { document: standIn(document, ruleId), problem: sayProblem(read.problem) }
}

/** Rules with their draft and their unchangeable versions. */
export class RuleStore {
  /** What was read and checked stays so: a version never changes, a draft only with its count of edits. */
  private readonly drafts = new Map<number, Read & { readonly rev: number }>()
  private readonly versionsRead = new Map<number, Read>()

  constructor(private readonly db: Db) {}

  private draftOf({ id, draftRev: rev }: Pick<typeof rules.$inferSelect, 'id' | 'draftRev'>): Read {
    const known = this.drafts.get(id)
    if (known?.rev === rev) return known
    const read = { rev, ...parse(this.stored(id, 'draft'), id) }
    this.drafts.set(id, read)
    return read
  }

  private versionOf({ id, ruleId }: Pick<typeof ruleVersions.$inferSelect, 'id' | 'ruleId'>): Read {
    const known = this.versionsRead.get(id)
    if (known) return known
    const where = eq(ruleVersions.id, id)
    const row = this.db.orm.select({ document: ruleVersions.document }).from(ruleVersions).where(where).get()
    const read = parse(row?.document, ruleId)
    this.versionsRead.set(id, read)
    return read
  }

  /** Rules without their documents: those are long, and are read once. */
  private query() {
    const { draft: _draft, ...rule } = getTableColumns(rules)
    const { id, ruleId, number, publishedAt } = ruleVersions
    return this.db.orm
      .select({ rule, version: { id, ruleId, number, publishedAt } })
      .from(rules)
      .leftJoin(ruleVersions, eq(ruleVersions.id, rules.versionId))
  }

  private toRule({ rule, version }: ReturnType<ReturnType<RuleStore['query']>['all']>[number]): StoredRule {
    const { versionId: _v, ...rest } = rule
    const draft = this.draftOf(rule)
    const read = version && this.versionOf(version)
    return {
      ...rest,
      draft: draft.document,
      draftProblem: draft.problem,
      version: version &&
        read && {
          id: version.id,
          number: version.number,
          publishedAt: version.publishedAt,
          document: read.document,
          problem: read.problem,
        },
    }
  }

  get(id: number): StoredRule | null {
    const row = this.query().where(eq(rules.id, id)).get()
    return row ? this.toRule(row) : null
  }

  /** The names of rules as their drafts have them, without reading the rules. */
  names(): ReadonlyMap<number, string> {
    const name = sql<string>`json_extract(${rules.draft}, '$.name')`
    return new Map(
      this.db.orm
        .select({ id: rules.id, name })
        .from(rules)
        .all()
        .map((row) => [row.id, row.name]),
    )
  }

  all(): readonly StoredRule[] {
    return this.query()
      .orderBy(asc(rules.order), asc(rules.id))
      .all()
      .map((row) => this.toRule(row))
  }

  /** The rules that run: those that are on, apart from those whose version cannot be read. */
  active(): readonly ActiveRule[] {
    return this.query()
      .where(eq(rules.state, 'on'))
      .orderBy(asc(rules.order), asc(rules.id))
      .all()
      .flatMap((row) => {
        const rule = this.toRule(row)
        return rule.version?.problem === null
          ? [
              {
                ruleId: rule.id,
                versionId: rule.version.id,
                order: rule.order,
                document: rule.version.document,
                changedAt: rule.changedAt,
              },
            ]
          : []
      })
  }

  create(document: RuleDocument, personId: string, nowMs: number): number {
    const last =
      this.db.orm
        .select({ order: max(rules.order) })
        .from(rules)
        .get()?.order ?? 0
    return this.db.orm
      .insert(rules)
      .values({
        state: 'draft',
        order: last + 10,
        draft: document,
        draftRev: 1,
        createdBy: personId,
        createdAt: nowMs,
        changedBy: personId,
        changedAt: nowMs,
      })
      .returning({ id: rules.id })
      .get().id
  }

  /** Saves the draft if `rev` is still the newest; `null` when somebody else saved in between. */
  saveDraft(id: number, document: RuleDocument, rev: number, personId: string, nowMs: number): number | null {
    const row = this.db.orm
      .update(rules)
      .set({ draft: document, draftRev: sql`${rules.draftRev} + 1`, changedBy: personId, changedAt: nowMs })
      .where(and(eq(rules.id, id), eq(rules.draftRev, rev)))
      .returning({ rev: rules.draftRev })
      .get()
    return row?.rev ?? null
  }

  /** Makes the draft the next version and the one that runs. */
  publish(id: number, document: RuleDocument, personId: string, nowMs: number, note = ''): number {
    const last =
      this.db.orm
        .select({ number: max(ruleVersions.number) })
        .from(ruleVersions)
        .where(eq(ruleVersions.ruleId, id))
        .get()?.number ?? 0
    const version = this.db.orm
      .insert(ruleVersions)
      .values({ ruleId: id, number: last + 1, document, publishedBy: personId, publishedAt: nowMs, note })
      .returning({ id: ruleVersions.id })
      .get()
    this.db.orm.update(rules).set({ versionId: version.id }).where(eq(rules.id, id)).run()
    return last + 1
  }

  setState(id: number, state: RuleState, personId: string, nowMs: number): void {
    this.db.orm.update(rules).set({ state, changedBy: personId, changedAt: nowMs }).where(eq(rules.id, id)).run()
  }

  /** Every version of a rule, the newest first. */
  versions(ruleId: number): readonly RuleVersion[] {
    return this.db.orm
      .select()
      .from(ruleVersions)
      .where(eq(ruleVersions.ruleId, ruleId))
      .orderBy(desc(ruleVersions.number))
      .all()
      .map((row) => ({
        id: row.id,
        number: row.number,
        publishedBy: row.publishedBy,
        publishedAt: row.publishedAt,
        note: row.note,
        ...this.versionOf(row),
      }))
  }

  /** Gives a rule another place among those that start on the same. */
  setOrder(id: number, order: number): void {
    this.db.orm.update(rules).set({ order }).where(eq(rules.id, id)).run()
  }

  /** Takes a rule that has never run away for good. */
  remove(id: number): void {
    this.db.orm.delete(acceptedFindings).where(eq(acceptedFindings.ruleId, id)).run()
    this.db.orm.delete(rules).where(eq(rules.id, id)).run()
  }

  /** Findings that were let stand, of one rule or of all. */
  accepted(ruleId: number | null): readonly AcceptedFinding[] {
    return this.db.orm
      .select()
      .from(acceptedFindings)
      .where(ruleId === null ? undefined : eq(acceptedFindings.ruleId, ruleId))
      .all()
  }

  accept(given: AcceptedFinding): void {
    this.db.orm
      .insert(acceptedFindings)
      .values(given)
      .onConflictDoUpdate({
        target: [acceptedFindings.ruleId, acceptedFindings.key],
        set: { reason: given.reason, personId: given.personId, atMs: given.atMs },
      })
      .run()
  }

  /** Takes up a finding again; answers whether it had been let stand. */
  takeUp(ruleId: number, key: string): boolean {
    return (
      this.db.orm
        .delete(acceptedFindings)
        .where(and(eq(acceptedFindings.ruleId, ruleId), eq(acceptedFindings.key, key)))
        .run().changes > 0
    )
  }

  version(id: number): (Read & { readonly number: number }) | null {
    const row = this.db.orm.select().from(ruleVersions).where(eq(ruleVersions.id, id)).get()
    return row ? { number: row.number, ...this.versionOf(row) } : null
  }

  /** What is stored of a draft or the newest version, as it is: for what cannot be read otherwise. */
  stored(id: number, what: 'draft' | 'version'): unknown {
    const row = this.db.orm
      .select({ draft: rules.draft, version: ruleVersions.document })
      .from(rules)
      .leftJoin(ruleVersions, eq(ruleVersions.id, rules.versionId))
      .where(eq(rules.id, id))
      .get()
    return what === 'draft' ? row?.draft : row?.version
  }
}
