import { desc, eq } from 'drizzle-orm'
import type { GivenTemplate } from '../../core/messages/template'
import type { Db } from '../db/connect'
import { templates, templateVersions } from '../db/schema/catalogue'

/** Templates of messages, with what they said before. */
export class TemplateStore {
  constructor(private readonly db: Db) {}

  add({ name, folder, channel, variants }: GivenTemplate, personId: string, nowMs: number): number {
    return this.db.orm
      .insert(templates)
      .values({ name, folder, channel, variants, changedBy: personId, changedAt: nowMs })
      .returning({ id: templates.id })
      .get().id
  }

  /** Changes one, and keeps what it said. */
  change(id: number, { name, folder, channel, variants }: GivenTemplate, personId: string, nowMs: number): void {
    const before = this.db.orm.select().from(templates).where(eq(templates.id, id)).get()
    if (!before) return
    const other = JSON.stringify(before.variants) !== JSON.stringify(variants)
    if (other)
      this.db.orm
        .insert(templateVersions)
        .values({
          templateId: id,
          version: before.version,
          variants: before.variants,
          changedBy: before.changedBy,
          changedAt: before.changedAt,
        })
        .run()
    this.db.orm
      .update(templates)
      .set({
        name,
        folder,
        channel,
        variants,
        changedBy: personId,
        changedAt: nowMs,
        ...(other ? { version: before.version + 1 } : {}),
      })
      .where(eq(templates.id, id))
      .run()
  }

  setArchived(id: number, archived: boolean): void {
    this.db.orm.update(templates).set({ archived }).where(eq(templates.id, id)).run()
  }

  /** Who changed each last, and when. */
  changes(): ReadonlyMap<number, { readonly by: string | null; readonly atMs: number }> {
    return new Map(
      this.db.orm
        .select({ id: templates.id, by: templates.changedBy, atMs: templates.changedAt })
        .from(templates)
        .all()
        .map(({ id, by, atMs }) => [id, { by, atMs }]),
    )
  }

  /** What one said before, the newest first. */
  versions(id: number): readonly (typeof templateVersions.$inferSelect)[] {
    return this.db.orm
      .select()
      .from(templateVersions)
      .where(eq(templateVersions.templateId, id))
      .orderBy(desc(templateVersions.version))
      .limit(50)
      .all()
  }
}
