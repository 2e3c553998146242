import { index, integer, primaryKey, sqliteTable, text } from 'drizzle-orm/sqlite-core'
import type { ImportCounts, ImportMapping, RefusedRow } from '../../../core/formats/csv/import'
import { people } from './catalogue'
export const imports = sqliteTable('imports', {
  id: integer().primaryKey({ autoIncrement: true }),
  fileName: text('file_name').notNull(),
  mapping: text({ mode: 'json' }).$type<ImportMapping>().notNull(),
  state: text().$type<'ready' | 'running' | 'stopped' | 'done'>().notNull(),
  rulesOn: integer('rules_on', { mode: 'boolean' }).notNull(),
  counts: text({ mode: 'json' }).$type<ImportCounts>(),
  refused: text({ mode: 'json' }).$type<readonly RefusedRow[]>(),
  /** Rows written so far, so that a stopped import goes on where it was. */
  position: integer().notNull(),
  personId: text('person_id')
    .notNull()
    .references(() => people.id),
  /** The name of the API key by which it was begun. */
  apiKey: text('api_key'),
  createdAt: integer('created_at').notNull(),
  endedAt: integer('ended_at'),
})

/** What stands in a file: apart from how far it has come, which is written with every batch. */
export const importFiles = sqliteTable('import_files', {
  importId: integer('import_id')
    .primaryKey()
    .references(() => imports.id),
  content: text().notNull(),
})

/** Where the columns of a file went that had these headings: the next one with the same begins there. */
export const knownHeadings = sqliteTable('known_headings', {
  /** The headings, folded and in order, as JSON. */
  headings: text().primaryKey(),
  mapping: text({ mode: 'json' }).$type<ImportMapping>().notNull(),
  usedAt: integer('used_at').notNull(),
})

/**
 * Answers to requests that came with a key of their own: the same request again gets the same answer and does nothing.
 */
export const keptAnswers = sqliteTable(
  'kept_answers',
  {
    personId: text('person_id')
      .notNull()
      .references(() => people.id),
    key: text().notNull(),
    /** What the request was, so that a key used for something else is noticed. */
    fingerprint: text().notNull(),
    answer: text({ mode: 'json' }).$type<unknown>(),
    tag: text(),
    atMs: integer('at_ms').notNull(),
  },
  (t) => [primaryKey({ columns: [t.personId, t.key] }), index('kept_answers_at').on(t.atMs)],
)
