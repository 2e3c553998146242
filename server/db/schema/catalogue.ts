import type { Area } from '../../../core/access/areas'
import type { ActivityKind, ActivityValue } from '../../../core/activities/kind'
import {
  index,
  integer,
  primaryKey,
  real,
  sqliteTable,
  text,
  uniqueIndex,
  type AnySQLiteColumn,
} from 'drizzle-orm/sqlite-core'
import type { Group } from '../../../core/conditions/document'
import type { FormerName } from '../../../core/fields/catalogue'
import type { Role, TeamHours } from '../../../core/fields/field'
import type { ObjectKind } from '../../../core/records/kinds'
import type { RatesFrom } from '../../../core/money/rates'
import type { RetentionKind } from '../../../core/records/retention'
import type { MessageChannel } from '../../../core/messages/guards'
import type { Messaging } from '../../../core/messages/settings'
import type { TemplateVariant } from '../../../core/messages/template'
import type { Making } from '../../../core/derived/making'
import type { Band, ScoreLine } from '../../../core/scoring/card'
import type { FieldTypeName } from '../../../core/language/field-types'
/**
 * The static tables. Values of records live in `deals`, `contacts` and `companies`, whose value columns (`c_17`) are
 * added by `store/records.ts` as fields come; nothing else touches those. Instants are integer milliseconds UTC.
 */

export const workspace = sqliteTable('workspace', {
  id: integer().primaryKey(),
  name: text().notNull(),
  zone: text().notNull(),
  locale: text().notNull(),
  currency: text().notNull(),
  demo: integer({ mode: 'boolean' }).notNull(),
  workdays: text({ mode: 'json' }).$type<readonly number[]>().notNull(),
  /** Office hours, in minutes from midnight. */
  opensAt: integer('opens_at').notNull().default(540),
  closesAt: integer('closes_at').notNull().default(1020),
  /** Teams that work at other hours than the firm. */
  teams: text({ mode: 'json' }).$type<readonly TeamHours[]>().notNull().default([]),
  /** How far the clock of a demo workspace was turned forward. */
  clockAheadMs: integer('clock_ahead_ms').notNull().default(0),
  /** How messages to customers are sent, where somebody has said so. */
  messaging: text({ mode: 'json' }).$type<Messaging>(),
  /** Of so many messages in a hundred the simulated customers of a demo take notice by themselves. */
  /** What the simulated service outside answers, where somebody said so. */
  simulatedAnswer: text('simulated_answer', { mode: 'json' }).$type<{
    readonly status: number
    readonly body: string
  }>(),
  simulatedShare: integer('simulated_share').notNull().default(0),
  /** Who delivers the rates of each working day; nobody does, where it is null. */
  ratesFrom: text('rates_from').$type<RatesFrom>(),
})

/** How many units of a currency one unit of the workspace's own buys, from a day on. */
export const rates = sqliteTable(
  'rates',
  { code: text().notNull(), day: text().notNull(), perOwn: real('per_own').notNull() },
  (table) => [primaryKey({ columns: [table.code, table.day] })],
)

/** How long things are kept, where somebody said so, and how far they were gone through. */
export const retention = sqliteTable('retention', {
  kind: text().$type<RetentionKind>().primaryKey(),
  /** Whether somebody said how long; otherwise it is the usual time. */
  said: integer({ mode: 'boolean' }).notNull(),
  /** Null for always. */
  days: integer(),
  personId: text('person_id').references((): AnySQLiteColumn => people.id),
  /** The instant from before which some are gone; null while all there ever was is there. */
  cutMs: integer('cut_ms'),
  sweptAt: integer('swept_at'),
})

export const holidays = sqliteTable('holidays', { date: text().primaryKey(), name: text().notNull() })

export const people = sqliteTable('people', {
  id: text().primaryKey(),
  name: text().notNull(),
  email: text().notNull().unique(),
  role: text().$type<Role>().notNull(),
  team: text().notNull(),
  title: text().notNull(),
  awayFrom: text(),
  awayTo: text(),
  deputyId: text(),
  active: integer({ mode: 'boolean' }).notNull(),
  /** IANA name of the zone the person lives by; null for the workspace's. */
  zone: text(),
  /** As `auth/password` makes it; null for somebody who cannot sign in. Leaves the people store never. */
  passwordHash: text('password_hash'),
})

/**
 * A browser in which somebody is signed in. What its cookie holds is known to the browser alone; here is its SHA-256.
 */
export const sessions = sqliteTable(
  'sessions',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    personId: text('person_id')
      .notNull()
      .references(() => people.id),
    hash: text().notNull().unique(),
    /** How the browser names itself, so that its owner knows it again. */
    agent: text().notNull(),
    createdAt: integer('created_at').notNull(),
    lastSeenAt: integer('last_seen_at').notNull(),
  },
  (t) => [index('sessions_person').on(t.personId)],
)

/** Personal keys for the API. The key itself is shown once and only its SHA-256 is kept. */
export const apiTokens = sqliteTable(
  'api_tokens',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    personId: text('person_id')
      .notNull()
      .references(() => people.id),
    name: text().notNull(),
    hash: text().notNull().unique(),
    /** Its first letters, to tell one from another. */
    start: text().notNull(),
    createdAt: integer('created_at').notNull(),
    lastUsedAt: integer('last_used_at'),
    /** Whether it may only look. */
    readOnly: integer('read_only', { mode: 'boolean' }).notNull().default(false),
    /** The areas it is for; null for all. */
    areas: text({ mode: 'json' }).$type<readonly Area[]>(),
    expiresAt: integer('expires_at'),
    revokedAt: integer('revoked_at'),
  },
  (t) => [index('api_tokens_person').on(t.personId)],
)

export const fields = sqliteTable(
  'fields',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    object: text().$type<ObjectKind>().notNull(),
    key: text().notNull(),
    label: text().notNull(),
    /** How sentences call it, where that is not its label. */
    phrase: text(),
    type: text().$type<FieldTypeName>().notNull(),
    description: text().notNull(),
    keptBy: text(),
    /** How its value comes about, where it is worked out. */
    made: text({ mode: 'json' }).$type<Making>(),
    required: integer({ mode: 'boolean' }).notNull(),
    currencyKey: text(),
    /** For texts: the set of spellings that count as one value. */
    synonyms: integer().references((): AnySQLiteColumn => synonymSets.id),
    /** Out of sight, with its values kept; rules cannot name it. */
    archived: integer({ mode: 'boolean' }).notNull().default(false),
    /** Whether the value column has an index of its own. */
    indexed: integer({ mode: 'boolean' }).notNull(),
    position: integer().notNull(),
  },
  (t) => [uniqueIndex('fields_key').on(t.object, t.key)],
)

/** Spellings that count as one value: lists of lists, the first of each being what the others count as. */
export const synonymSets = sqliteTable('synonym_sets', {
  id: integer().primaryKey({ autoIncrement: true }),
  name: text().notNull().unique(),
  groups: text({ mode: 'json' }).$type<readonly (readonly string[])[]>().notNull(),
})

export const templates = sqliteTable('templates', {
  id: integer().primaryKey({ autoIncrement: true }),
  name: text().notNull(),
  folder: text().notNull().default(''),
  channel: text().$type<MessageChannel>().notNull(),
  variants: text({ mode: 'json' }).$type<readonly TemplateVariant[]>().notNull(),
  version: integer().notNull().default(1),
  archived: integer({ mode: 'boolean' }).notNull().default(false),
  changedBy: text('changed_by').references((): AnySQLiteColumn => people.id),
  changedAt: integer('changed_at').notNull(),
})

/** What a template said before it was changed. */
export const templateVersions = sqliteTable(
  'template_versions',
  {
    templateId: integer('template_id')
      .notNull()
      .references(() => templates.id),
    version: integer().notNull(),
    variants: text({ mode: 'json' }).$type<readonly TemplateVariant[]>().notNull(),
    changedBy: text('changed_by'),
    changedAt: integer('changed_at').notNull(),
  },
  (t) => [primaryKey({ columns: [t.templateId, t.version] })],
)

/** Kinds of activities that the workspace made for itself. */
export const activityKinds = sqliteTable('activity_kinds', {
  id: integer().primaryKey({ autoIncrement: true }),
  kind: text().notNull().unique(),
  did: text().notNull(),
  does: text().notNull(),
  one: text().notNull(),
  many: text().notNull(),
  about: text().notNull(),
  data: text({ mode: 'json' }).$type<readonly ActivityValue[]>().notNull(),
  example: text({ mode: 'json' }).$type<ActivityKind['example']>().notNull(),
  /** Nothing names it any more; what was done is still told. */
  archived: integer({ mode: 'boolean' }).notNull().default(false),
})

export const choices = sqliteTable(
  'choices',
  {
    fieldId: integer()
      .notNull()
      .references(() => fields.id),
    id: text().notNull(),
    label: text().notNull(),
    position: integer().notNull(),
    /**
     * Merged into another one, or taken out: nobody chooses it any more, and what happened with it can still be told.
     */
    archived: integer({ mode: 'boolean' }).notNull().default(false),
  },
  (t) => [primaryKey({ columns: [t.fieldId, t.id] })],
)

export const pipelines = sqliteTable('pipelines', {
  id: text().primaryKey(),
  name: text().notNull(),
  position: integer().notNull(),
})

export const stages = sqliteTable('stages', {
  id: text().primaryKey(),
  pipelineId: text()
    .notNull()
    .references(() => pipelines.id),
  name: text().notNull(),
  position: integer().notNull(),
  outcome: text().$type<'open' | 'won' | 'lost'>().notNull(),
  /** How likely a deal in it is to be won, in percent; null where nobody has said. */
  probability: integer(),
  /** Taken out of its pipeline: no deal is in it, and what happened with it can still be told. */
  archived: integer({ mode: 'boolean' }).notNull().default(false),
})

/**
 * What fields, choices, stages and pipelines were called before, so that what happened then is told in the words of
 * then.
 */
export const formerNames = sqliteTable('former_names', {
  id: integer().primaryKey({ autoIncrement: true }),
  what: text().$type<FormerName['what']>().notNull(),
  of: text().notNull(),
  name: text().notNull(),
  untilMs: integer('until_ms').notNull(),
})

/** Saved filters with the columns and the order in which their records are looked at. */
export const segments = sqliteTable(
  'segments',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    object: text().$type<ObjectKind>().notNull(),
    name: text().notNull(),
    filter: text({ mode: 'json' }).$type<Group>().notNull(),
    columns: text({ mode: 'json' }).$type<readonly string[]>().notNull(),
    sort: text().notNull(),
    down: integer({ mode: 'boolean' }).notNull(),
    createdBy: text('created_by')
      .notNull()
      .references(() => people.id),
    createdAt: integer('created_at').notNull(),
    changedAt: integer('changed_at').notNull(),
  },
  (t) => [uniqueIndex('segments_name').on(t.object, t.name)],
)

/** Who covers where: the first whose conditions a company meets, in order of position. */
export const territories = sqliteTable('territories', {
  id: integer().primaryKey({ autoIncrement: true }),
  name: text().notNull().unique(),
  filter: text({ mode: 'json' }).$type<Group>().notNull(),
  personId: text('person_id')
    .notNull()
    .references(() => people.id),
  position: integer().notNull(),
})

/** Counts the changes of what every process and thread keeps in memory, so that each notices when it is out of date. */
export const revisions = sqliteTable('revisions', {
  what: text().$type<'rules' | 'catalogue' | 'stock' | 'clock'>().primaryKey(),
  n: integer().notNull(),
})

/** Scorecards; each keeps two fields, of its points and of its band. */
export const scorecards = sqliteTable('scorecards', {
  id: integer().primaryKey({ autoIncrement: true }),
  object: text().$type<ObjectKind>().notNull(),
  name: text().notNull(),
  key: text().notNull(),
  lines: text({ mode: 'json' }).$type<readonly ScoreLine[]>().notNull(),
  least: real(),
  most: real(),
  bands: text({ mode: 'json' }).$type<readonly Band[]>().notNull(),
  changedBy: text('changed_by')
    .notNull()
    .references(() => people.id),
  changedAt: integer('changed_at').notNull(),
})
