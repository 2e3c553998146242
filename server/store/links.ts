import { and, desc, eq, lt, or } from 'drizzle-orm'
import type { ObjectKind, RecordRef } from '../../core/records/kinds'
import { isLinkable, LINKABLE, type Cause, type Link } from '../../core/records/record'
import type { LinkEnd } from '../../core/records/subject'
import type { Db } from '../db/connect'
import { prepareInsert } from '../db/prepared'
import { linkActs, links } from '../db/schema/records'

type Row = typeof links.$inferSelect
const toLink = (row: Row): Link => ({
  from: { object: row.fromObject, id: row.fromId },
  to: { object: row.toObject, id: row.toId },
  role: row.role,
  main: row.main,
})

const between = (from: RecordRef, to: RecordRef) =>
  and(
    eq(links.fromObject, from.object),
    eq(links.fromId, from.id),
    eq(links.toObject, to.object),
    eq(links.toId, to.id),
  )

/** One thing that was done with a link of a record. */
export interface LinkAct {
  readonly id: number
  readonly atMs: number
  readonly act: 'linked' | 'unlinked'
  readonly cause: Cause
  /** The record on the other end. */
  readonly other: RecordRef
}

/** Links between records; kept in one direction only, as `LINKABLE` says. */
export class LinkStore {
  private readonly mainOf
  private readonly outOf
  private readonly backOf
  private readonly insert
  private readonly mainsOf

  constructor(private readonly db: Db) {
    this.insert = prepareInsert(
      db.sqlite,
      links,
      ['fromObject', 'fromId', 'toObject', 'toId', 'role', 'main', 'createdAt'],
      'nothing',
    )
    this.mainOf = db.sqlite.prepare<[string, number, string], { id: number }>(
      'SELECT to_id AS id FROM links WHERE from_object = ? AND from_id = ? AND to_object = ? ORDER BY main DESC, id LIMIT 1',
    )
    this.mainsOf = db.sqlite.prepare<[string, string, string], { from_id: number; to_id: number }>(
      'SELECT from_id, to_id FROM links WHERE from_object = ? AND from_id IN (SELECT value FROM json_each(?)) AND to_object = ? ORDER BY from_id, main DESC, id',
    )
    this.outOf = db.sqlite.prepare<[string, number, string], { id: number; main: number; role: string }>(
      'SELECT to_id AS id, main, role FROM links WHERE from_object = ? AND from_id = ? AND to_object = ? ORDER BY main DESC, id',
    )
    this.backOf = db.sqlite.prepare<[string, number, string], { id: number; main: number; role: string }>(
      'SELECT from_id AS id, main, role FROM links INDEXED BY links_to WHERE to_object = ? AND to_id = ? AND from_object = ? ORDER BY id',
    )
  }

  /** The id of the record's main linked record of a kind; the oldest link stands in for a main one that is missing. */
  main(ref: RecordRef, object: ObjectKind): number | null {
    return this.mainOf.get(ref.object, ref.id, object)?.id ?? null
  }

  /** As `main`, for several records of one kind at once. */
  mains(object: ObjectKind, ids: readonly number[], to: ObjectKind): ReadonlyMap<number, number> {
    const found = new Map<number, number>()
    if (ids.length === 0) return found
    for (const { from_id: from, to_id: id } of this.mainsOf.all(object, JSON.stringify(ids), to))
      if (!found.has(from)) found.set(from, id)
    return found
  }

  /** The records linked to one, of a kind, whichever way the links are kept; main ones first. */
  linked(ref: RecordRef, object: ObjectKind): readonly LinkEnd[] {
    const forward = LINKABLE.some((pair) => pair.from === ref.object && pair.to === object)
    const rows = (forward ? this.outOf : this.backOf).all(ref.object, ref.id, object)
    return rows.map(({ id, main, role }) => ({ id, main: forward && main === 1, role }))
  }

  /** The role of a link; `null` when there is no such link. */
  roleOf(from: RecordRef, to: RecordRef): string | null {
    return this.db.orm.select({ role: links.role }).from(links).where(between(from, to)).get()?.role ?? null
  }

  /** Gives a link that is there another role, and makes it the main one when asked. */
  change(from: RecordRef, to: RecordRef, role: string, main: boolean): void {
    const { orm } = this.db
    if (main)
      orm
        .update(links)
        .set({ main: false })
        .where(and(eq(links.fromObject, from.object), eq(links.fromId, from.id), eq(links.toObject, to.object)))
        .run()
    orm
      .update(links)
      .set({ role, ...(main ? { main: true } : {}) })
      .where(between(from, to))
      .run()
  }

  /**
   * Takes a link away; when it was the main one, the oldest that is left takes its place. Answers whether there was
   * one.
   */
  remove(from: RecordRef, to: RecordRef): boolean {
    const { orm } = this.db
    const gone = orm.delete(links).where(between(from, to)).returning({ main: links.main }).get()
    const next = gone?.main ? this.main(from, to.object) : null
    if (next !== null)
      orm
        .update(links)
        .set({ main: true })
        .where(between(from, { object: to.object, id: next }))
        .run()
    return gone !== undefined
  }

  /**
   * Adds a link and answers whether it is new; does nothing when the two are linked already. The first of its kind
   * becomes the main one.
   */
  add(from: RecordRef, to: RecordRef, role: string, nowMs: number): boolean {
    if (!isLinkable(from, to)) {
      throw new RangeError(`a ${from.object} cannot be linked to a ${to.object} in this direction`)
    }
    const main = this.main(from, to.object) === null
    const { changes } = this.insert({
      fromObject: from.object,
      fromId: from.id,
      toObject: to.object,
      toId: to.id,
      role,
      main,
      createdAt: nowMs,
    })
    return changes > 0
  }

  /** Takes all links of a record away, in both directions, and answers them. Main ones are not replaced. */
  take(ref: RecordRef): readonly Link[] {
    const { object, id } = ref
    return this.db.orm
      .delete(links)
      .where(
        or(
          and(eq(links.fromObject, object), eq(links.fromId, id)),
          and(eq(links.toObject, object), eq(links.toId, id)),
        ),
      )
      .returning()
      .all()
      .map(toLink)
  }

  /**
   * Puts a link in as it is told; a main one takes the place of the main one that is there. Answers whether it is new.
   */
  put({ from, to, role, main }: Link, nowMs: number): boolean {
    const added = this.add(from, to, role, nowMs)
    if (main) this.change(from, to, added ? role : (this.between(from, to)?.role ?? role), true)
    return added
  }

  /** Gives a record whose main link of a kind has gone the oldest that is left as its main one. */
  mend(from: RecordRef, object: ObjectKind): void {
    const id = this.main(from, object)
    if (id !== null) this.db.orm.update(links).set({ main: true }).where(between(from, { object, id })).run()
  }

  private between(from: RecordRef, to: RecordRef): Row | undefined {
    return this.db.orm.select().from(links).where(between(from, to)).get()
  }

  /** Keeps that two records were linked, or are no longer, and by whom or what. */
  log(act: LinkAct['act'], from: RecordRef, to: RecordRef, cause: Cause, atMs: number): void {
    this.db.orm
      .insert(linkActs)
      .values({ act, fromObject: from.object, fromId: from.id, toObject: to.object, toId: to.id, cause, atMs })
      .run()
  }

  /** What was done with a record's links, newest first. */
  acts({ object, id }: RecordRef, limit: number, before = Number.MAX_SAFE_INTEGER): readonly LinkAct[] {
    return this.db.orm
      .select()
      .from(linkActs)
      .where(
        and(
          lt(linkActs.id, before),
          or(
            and(eq(linkActs.fromObject, object), eq(linkActs.fromId, id)),
            and(eq(linkActs.toObject, object), eq(linkActs.toId, id)),
          ),
        ),
      )
      .orderBy(desc(linkActs.id))
      .limit(limit)
      .all()
      .map((row) => ({
        id: row.id,
        atMs: row.atMs,
        act: row.act,
        cause: row.cause,
        other:
          row.fromObject === object && row.fromId === id
            ? { object: row.toObject, id: row.toId }
            : { object: row.fromObject, id: row.fromId },
      }))
  }

  /** All links of a record, in both directions, main ones first. */
  of({ object, id }: RecordRef): readonly Link[] {
    const { orm } = this.db
    const out = orm
      .select()
      .from(links)
      .where(and(eq(links.fromObject, object), eq(links.fromId, id)))
      .orderBy(desc(links.main), links.id)
      .all()
    const back = orm
      .select()
      .from(links)
      .where(and(eq(links.toObject, object), eq(links.toId, id)))
      .orderBy(desc(links.main), links.id)
      .limit(200)
      .all()
    return [...out, ...back].map(toLink)
  }
}
