import { desc, eq, sql } from 'drizzle-orm'
import type { ImportCounts, ImportMapping, RefusedRow } from '../../core/formats/csv/import'
import type { ObjectKind } from '../../core/records/kinds'
import type { Db } from '../db/connect'
import { importFiles, imports, knownHeadings } from '../db/schema/imports'

/** An import with its file; that is empty once it is no longer kept. */
export type ImportRow = typeof imports.$inferSelect & {
  /** Empty where the file is not stored any more. */
  readonly content: string
  readonly hasFile: boolean
}

/** Files of before rows could be anything but deals say nothing about it. */
const whole = (mapping: ImportMapping): ImportMapping => ({ ...{ object: 'deal', knownBy: null }, ...mapping })

/** Files brought in, with their mapping and what came of them. */
export class ImportStore {
  private readonly writePosition

  constructor(private readonly db: Db) {
    this.writePosition = db.sqlite.prepare<[number, number]>('UPDATE imports SET position = ? WHERE id = ?')
  }

  create(
    given: {
      readonly fileName: string
      readonly content: string
      readonly mapping: ImportMapping
      readonly personId: string
    },
    nowMs: number,
  ): number {
    const { content, ...rest } = given
    return this.db.together(() => {
      const { id } = this.db.orm
        .insert(imports)
        .values({ ...rest, state: 'ready', rulesOn: true, position: 0, createdAt: nowMs })
        .returning({ id: imports.id })
        .get()
      this.db.orm.insert(importFiles).values({ importId: id, content }).run()
      return id
    })
  }

  get(id: number): ImportRow | null {
    const found = this.db.orm
      .select()
      .from(imports)
      .leftJoin(importFiles, eq(importFiles.importId, imports.id))
      .where(eq(imports.id, id))
      .get()
    return found
      ? {
          ...found.imports,
          content: found.import_files?.content ?? '',
          hasFile: found.import_files !== null,
          mapping: whole(found.imports.mapping),
        }
      : null
  }

  list(): readonly (Omit<ImportRow, 'apiKey' | 'content' | 'hasFile' | 'mapping' | 'refused'> & {
    readonly object: ObjectKind
  })[] {
    const { id, fileName, state, rulesOn, counts, position, personId, createdAt, endedAt } = imports
    const object = sql<ObjectKind>`coalesce(json_extract(${imports.mapping}, '$.object'), 'deal')`
    return this.db.orm
      .select({ id, object, fileName, state, rulesOn, counts, position, personId, createdAt, endedAt })
      .from(imports)
      .orderBy(desc(imports.id))
      .limit(50)
      .all()
  }

  /** Where the columns went of the last file with these headings; `null` when there was none. */
  remembered(headings: string): ImportMapping | null {
    const found = this.db.orm
      .select({ mapping: knownHeadings.mapping })
      .from(knownHeadings)
      .where(eq(knownHeadings.headings, headings))
      .get()
    return found ? whole(found.mapping) : null
  }

  remember(headings: string, mapping: ImportMapping, nowMs: number): void {
    const set = { mapping, usedAt: nowMs }
    this.db.orm
      .insert(knownHeadings)
      .values({ headings, ...set })
      .onConflictDoUpdate({ target: knownHeadings.headings, set })
      .run()
  }

  setMapping(id: number, mapping: ImportMapping): void {
    this.db.orm.update(imports).set({ mapping }).where(eq(imports.id, id)).run()
  }

  /** From now on it is under way, and is gone on with after a stop, however early that came. */
  begin(id: number, rulesOn: boolean): void {
    this.db.orm.update(imports).set({ state: 'running', rulesOn, counts: null }).where(eq(imports.id, id)).run()
  }

  /** The counts are those of the plan at this moment, so that an import that goes on after a restart keeps them. */
  start(id: number, rulesOn: boolean, counts: ImportCounts, refused: readonly RefusedRow[]): void {
    this.db.orm.update(imports).set({ state: 'running', rulesOn, counts, refused }).where(eq(imports.id, id)).run()
  }

  /** By which API key it was begun; `null` for none. */
  setKey(id: number, apiKey: string | null): void {
    this.db.orm.update(imports).set({ apiKey }).where(eq(imports.id, id)).run()
  }

  setState(id: number, state: ImportRow['state']): void {
    this.db.orm.update(imports).set({ state }).where(eq(imports.id, id)).run()
  }

  /** Without its content, which may be large. */
  stateOf(id: number): ImportRow['state'] | null {
    return this.db.orm.select({ state: imports.state }).from(imports).where(eq(imports.id, id)).get()?.state ?? null
  }

  running(): readonly number[] {
    return this.db.orm
      .select({ id: imports.id })
      .from(imports)
      .where(eq(imports.state, 'running'))
      .all()
      .map((row) => row.id)
  }

  refuse(id: number, row: RefusedRow, verdict: 'new' | 'changed' | 'same' | 'refused'): void {
    const found = this.get(id)
    if (!found?.counts) return
    const counts = { ...found.counts, [verdict]: found.counts[verdict] - 1, refused: found.counts.refused + 1 }
    this.db.orm
      .update(imports)
      .set({ counts, refused: [...(found.refused ?? []), row] })
      .where(eq(imports.id, id))
      .run()
  }

  /** Rows up to `position` are written; belongs into the transaction that wrote them. */
  advance(id: number, position: number): void {
    this.writePosition.run(position, id)
  }

  end(id: number, nowMs: number): void {
    this.db.orm.update(imports).set({ state: 'done', endedAt: nowMs }).where(eq(imports.id, id)).run()
  }
}
