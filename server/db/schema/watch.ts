import { index, integer, primaryKey, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core'
import { sql } from 'drizzle-orm'
import type { Habit, HabitPast } from '../../../core/habits/habit'
import type { ObjectKind, RecordKind } from '../../../core/records/kinds'
import type { Figures, PartKind } from '../../../core/results/figures'
import type { Telling } from '../../../core/telling/telling'
import { people } from './catalogue'

/** What comes to people by itself: how they are told, what needs somebody, whether rules did any good. */

/** How somebody is told beside the bell, and how far that has got; those who look in the app alone have no row. */
export const tellings = sqliteTable(
  'tellings',
  {
    personId: text('person_id')
      .primaryKey()
      .references(() => people.id),
    telling: text({ mode: 'json' }).$type<Telling>().notNull(),
    /** The last notification that was told. */
    toldTo: integer('told_to').notNull(),
    /** Problems that began by then were told. */
    toldMs: integer('told_ms').notNull().default(0),
    /** When the next ones are told; null while nobody is told anything outside. */
    nextAt: integer('next_at'),
    /** How many messages there have been: each has a key of its own. */
    sent: integer().notNull().default(0),
  },
  (t) => [index('tellings_due').on(t.nextAt)],
)

/** Records that are measured: whether they come to the target of a rule. One a record, rule and way of counting. */
export const measures = sqliteTable(
  'measures',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    ruleId: integer('rule_id').notNull(),
    versionId: integer('version_id').notNull(),
    runId: integer('run_id').notNull(),
    object: text().$type<ObjectKind>().notNull(),
    recordId: integer('record_id').notNull(),
    key: text().notNull(),
    atMs: integer('at_ms').notNull(),
    untilMs: integer('until_ms').notNull(),
    alone: integer({ mode: 'boolean' }).notNull(),
    already: integer({ mode: 'boolean' }).notNull(),
    ownerId: text('owner_id'),
    labels: text({ mode: 'json' }).$type<readonly string[]>().notNull(),
    byDay: integer('by_day', { mode: 'boolean' }).notNull(),
    reachedAt: integer('reached_at'),
    /** The run was taken back: it is counted no more. */
    undone: integer({ mode: 'boolean' }).notNull().default(false),
  },
  (t) => [
    uniqueIndex('measures_once').on(t.ruleId, t.key, t.object, t.recordId),
    index('measures_rule').on(t.ruleId, t.id),
    index('measures_run').on(t.runId),
    index('measures_open')
      .on(t.object, t.recordId)
      .where(sql`reached_at is null and already = 0`),
    index('measures_by_day')
      .on(t.id)
      .where(sql`reached_at is null and already = 0 and by_day = 1`),
  ],
)

/**
 * Figures of a rule, counted in parts of 4,096 rows each: a part in which something changed is counted anew in the
 * background, from the rows themselves. Triggers of the database mark it, so that nothing that writes can forget to.
 */
export const resultParts = sqliteTable(
  'result_parts',
  {
    ruleId: integer('rule_id').notNull(),
    kind: text().$type<PartKind>().notNull(),
    part: integer().notNull(),
    /** Something changed since it was counted. */
    stale: integer({ mode: 'boolean' }).notNull().default(true),
    figures: text({ mode: 'json' }).$type<Figures>(),
    /** Of rows that are kept no more. */
    gone: text({ mode: 'json' }).$type<Figures>(),
  },
  (t) => [
    primaryKey({ columns: [t.ruleId, t.kind, t.part] }),
    index('result_parts_stale')
      .on(t.ruleId)
      .where(sql`stale = 1`),
  ],
)

/** The sum of the parts of a rule. */
export const resultTotals = sqliteTable('result_totals', {
  ruleId: integer('rule_id').primaryKey(),
  figures: text({ mode: 'json' }).$type<Figures>().notNull(),
})

/** Steps that were left out for a reason that somebody can mend; until it is, or for a month. */
export const leftOut = sqliteTable(
  'left_out',
  {
    runId: integer('run_id').notNull(),
    stepId: text('step_id').notNull(),
    object: text().$type<ObjectKind>().notNull(),
    recordId: integer('record_id').notNull(),
    ruleId: integer('rule_id').notNull(),
    code: text().notNull(),
    says: text().notNull(),
    atMs: integer('at_ms').notNull(),
  },
  (t) => [primaryKey({ columns: [t.runId, t.stepId, t.object, t.recordId] }), index('left_out_moment').on(t.atMs)],
)

/** What needs somebody: one row a cause, as long as it is so. */
export const problems = sqliteTable(
  'problems',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    kind: text().notNull(),
    /** Tells one cause of a kind from another; the same cause is the same row. */
    key: text().notNull(),
    says: text().notNull(),
    count: integer().notNull(),
    ruleId: integer('rule_id'),
    object: text().$type<ObjectKind>(),
    recordId: integer('record_id'),
    /** Where in the app it can be mended. */
    path: text().notNull(),
    sinceMs: integer('since_ms').notNull(),
    /** When it was found, and seen last. */
    foundMs: integer('found_ms').notNull().default(0),
    seenMs: integer('seen_ms').notNull(),
    /** Who looks at it. */
    personId: text('person_id').references(() => people.id),
    /** It is fine for now: nobody hears of it until then. */
    acceptedUntil: integer('accepted_until'),
    acceptedBy: text('accepted_by').references(() => people.id),
  },
  (t) => [uniqueIndex('problems_cause').on(t.kind, t.key)],
)

/** What people do again and again, as it was found in the history of their records. */
export const habits = sqliteTable(
  'habits',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    object: text().$type<RecordKind>().notNull(),
    /** Tells one habit from another, also in the next search. */
    name: text().notNull(),
    habit: text({ mode: 'json' }).$type<Habit>().notNull(),
    /** What a rule would have done over the last 90 days. */
    past: text({ mode: 'json' }).$type<HabitPast>().notNull(),
    foundAt: integer('found_at').notNull(),
    /** Nobody wants to hear of it again. */
    dismissedBy: text('dismissed_by').references(() => people.id),
    /** The rule that was made of it. */
    ruleId: integer('rule_id'),
  },
  (t) => [uniqueIndex('habits_name').on(t.object, t.name)],
)

/** How far the search for habits has come; one row. */
export const habitSearches = sqliteTable('habit_searches', {
  id: integer().primaryKey(),
  state: text().$type<'running' | 'done' | 'stopped'>().notNull(),
  begunAt: integer('begun_at').notNull(),
  endedAt: integer('ended_at'),
  /** Events of the log that were looked at, of about how many. */
  looked: integer().notNull(),
  total: integer().notNull(),
  /** Somebody asked for a search, or for its end. */
  asked: text().$type<'begin' | 'stop'>(),
})

/** When somebody looked at the overview last, and the time before that. */
export const visits = sqliteTable('visits', {
  personId: text('person_id')
    .primaryKey()
    .references(() => people.id),
  atMs: integer('at_ms').notNull(),
  beforeMs: integer('before_ms'),
})
