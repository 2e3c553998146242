import { and, desc, eq } from 'drizzle-orm'
import type { ObjectKind, RecordRef } from '../../core/records/kinds'
import { LINKABLE, type Link } from '../../core/records/record'
import type { Db } from '../db/connect'
import { links } from '../db/schema'

type Row = typeof links.$inferSelect
const toLink = (row: Row): Link => ({
  from: { object: row.fromObject, id: row.fromId }, to: { object: row.toObject, id: row.toId }, role: row.role, main: row.main,
})

/** Links between records; kept in one direction only, as `LINKABLE` says. */
export class LinkStore {
  private readonly mainOf

  constructor(private readonly db: Db) {
    this.mainOf = db.sqlite.prepare<[string, number, string], { id: number }>(
      'SELECT to_id AS id FROM links WHERE from_object = ? AND from_id = ? AND to_object = ? ORDER BY main DESC, id LIMIT 1',
    )
  }

  /** The id of the record's main linked record of a kind; the oldest link stands in for a main one that is missing. */
  main(ref: RecordRef, object: ObjectKind): number | null {
    return this.mainOf.get(ref.object, ref.id, object)?.id ?? null
  }

  /** Adds a link; does nothing when the two are linked already. The first of its kind becomes the main one. */
  add(from: RecordRef, to: RecordRef, role: string, nowMs: number): void {
    if (!LINKABLE.some((pair) => pair.from === from.object && pair.to === to.object)) {
      throw new RangeError(`a ${from.object} cannot be linked to a ${to.object} in this direction`)
    }
    const main = this.main(from, to.object) === null
    this.db.orm.insert(links).values({ fromObject: from.object, fromId: from.id, toObject: to.object, toId: to.id, role, main, createdAt: nowMs })
      .onConflictDoNothing().run()
  }

  /** All links of a record, in both directions, main ones first. */
  of({ object, id }: RecordRef): readonly Link[] {
    const { orm } = this.db
    const out = orm.select().from(links).where(and(eq(links.fromObject, object), eq(links.fromId, id))).orderBy(desc(links.main), links.id).all()
    const back = orm.select().from(links).where(and(eq(links.toObject, object), eq(links.toId, id))).orderBy(desc(links.main), links.id).limit(200).all()
    return [...out, ...back].map(toLink)
  }
}
