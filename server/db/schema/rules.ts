import { index, integer, primaryKey, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core'
import type { RuleDocument } from '../../../core/rules/document'
import { people } from './catalogue'
import { events } from './records'

import type { Group } from '../../../core/conditions/document'
import type { Value } from '../../../core/language/value'
import type { ObjectKind } from '../../../core/records/kinds'
export const rules = sqliteTable('rules', {
  id: integer().primaryKey({ autoIncrement: true }),
  state: text().$type<'draft' | 'on' | 'off' | 'archived'>().notNull(),
  order: integer('order_no').notNull(),
  /** The published version that runs; null until the rule was switched on once. */
  versionId: integer('version_id'),
  draft: text({ mode: 'json' }).$type<RuleDocument>().notNull(),
  /** Grows with every saved edit of the draft; an edit on an older one is refused. */
  draftRev: integer('draft_rev').notNull(),
  createdBy: text('created_by')
    .notNull()
    .references(() => people.id),
  createdAt: integer('created_at').notNull(),
  changedBy: text('changed_by')
    .notNull()
    .references(() => people.id),
  changedAt: integer('changed_at').notNull(),
  /** Set while it waits for somebody to say whether it may go on: it ran far more often than usual. */
  paused: text({ mode: 'json' }).$type<Pause>(),
  /** When somebody last let it go on: what it sent before does not count any more. */
  resumedAt: integer('resumed_at').notNull().default(0),
})

/** How often a rule was started in an hour of the clock, so that its usual rate is known. */
export const ruleHours = sqliteTable(
  'rule_hours',
  {
    ruleId: integer('rule_id')
      .notNull()
      .references(() => rules.id),
    /** Hours since 1970, UTC. */
    hour: integer().notNull(),
    starts: integer().notNull(),
  },
  (t) => [primaryKey({ columns: [t.ruleId, t.hour] })],
)

/** What would have started a rule while it was paused. */
export const heldStarts = sqliteTable(
  'held_starts',
  {
    ruleId: integer('rule_id')
      .notNull()
      .references(() => rules.id),
    eventSeq: integer('event_seq')
      .notNull()
      .references(() => events.seq),
  },
  (t) => [primaryKey({ columns: [t.ruleId, t.eventSeq] })],
)

/**
 * Work of a rule over many records, done in small commits: letting records through, starting by hand, taking runs back.
 */
export const ruleJobs = sqliteTable(
  'rule_jobs',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    ruleId: integer('rule_id')
      .notNull()
      .references(() => rules.id),
    order: text('work', { mode: 'json' }).$type<RuleJobOrder>().notNull(),
    state: text().$type<'running' | 'stopped' | 'done'>().notNull(),
    /** The last record or run that was worked, so that it goes on there. */
    position: integer().notNull(),
    done: integer().notNull(),
    total: integer().notNull(),
    /** What could not be taken back; the first thousand. */
    left: text({ mode: 'json' }).$type<readonly string[]>().notNull(),
    personId: text('person_id')
      .notNull()
      .references(() => people.id),
    createdAt: integer('created_at').notNull(),
    endedAt: integer('ended_at'),
  },
  (t) => [index('rule_jobs_rule').on(t.ruleId)],
)

/** Unchangeable once written: the migration adds triggers that refuse updates and deletes. */
export const ruleVersions = sqliteTable(
  'rule_versions',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    ruleId: integer('rule_id')
      .notNull()
      .references(() => rules.id),
    number: integer().notNull(),
    document: text({ mode: 'json' }).$type<RuleDocument>().notNull(),
    publishedBy: text('published_by')
      .notNull()
      .references(() => people.id),
    publishedAt: integer('published_at').notNull(),
    /** What whoever published it said about it. */
    note: text().notNull().default(''),
  },
  (t) => [uniqueIndex('rule_versions_number').on(t.ruleId, t.number)],
)

/** Findings of preflight that somebody looked at and let stand, with why. */
export const acceptedFindings = sqliteTable(
  'accepted_findings',
  {
    ruleId: integer('rule_id')
      .notNull()
      .references(() => rules.id),
    key: text().notNull(),
    reason: text().notNull(),
    personId: text('person_id')
      .notNull()
      .references(() => people.id),
    atMs: integer('at_ms').notNull(),
  },
  (t) => [primaryKey({ columns: [t.ruleId, t.key] })],
)

/**
 * Rehearsals that were kept with what is expected of them. The rules of the document are those of `ruleIds`, in that
 * order.
 */
export const cases = sqliteTable('cases', {
  id: integer().primaryKey({ autoIncrement: true }),
  name: text().notNull(),
  ruleIds: text('rule_ids', { mode: 'json' }).$type<readonly number[]>().notNull(),
  document: text({ mode: 'json' }).notNull(),
  changedBy: text('changed_by')
    .notNull()
    .references(() => people.id),
  changedAt: integer('changed_at').notNull(),
})

/** Why a rule was paused: it was started so many times in an hour, when so many are usual; or it sent too much. */
export interface Pause {
  readonly atMs: number
  readonly starts: number
  readonly usual: number
  /** How many messages it had sent in an hour, where that was why. */
  readonly messages?: number
}

/** What a job of a rule is to do, and the name of the API key by which somebody wanted it. */
export type RuleJobOrder = RuleJobWork & { readonly key?: string }

type RuleJobWork =
  | {
      readonly what: 'backfill'
      readonly object: ObjectKind
      /** Which records, as far as conditions can say it; `null` where only a moment says it. */
      readonly filter: Group | null
      /** Besides those whose moment lay in a span, by the triggers and conditions of the rule as it was then. */
      readonly passed?: { readonly document: RuleDocument; readonly fromMs: number; readonly toMs: number } | null
      /** Whether those for which the rule did something before go through once more. */ readonly again?: boolean
    }
  | {
      readonly what: 'hand'
      readonly object: ObjectKind
      readonly filter: Group
      readonly triggerId: string
      readonly answers: Readonly<Record<string, Value>>
      /** Whose records; null for all. */ readonly owners: readonly string[] | null
    }
  | { readonly what: 'undo'; readonly fromMs: number; readonly toMs: number }
  /** What was kept while the rule was paused. */
  | { readonly what: 'held' }
