import { index, integer, primaryKey, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core'
import type { Value, Values } from '../../../core/language/value'
import type { ObjectKind } from '../../../core/records/kinds'
import type { Cause, EventKind, FieldChange, Link } from '../../../core/records/record'
import type { GivenBookingPage } from '../../../core/booking/page'
import type { ActivityName } from '../../../core/activities'
import { people, fields } from './catalogue'
const recordColumns = {
  id: integer().primaryKey({ autoIncrement: true }),
  version: integer().notNull(),
  createdAt: integer('created_at').notNull(),
  updatedAt: integer('updated_at').notNull(),
}

export const deals = sqliteTable('deals', recordColumns)

export const contacts = sqliteTable('contacts', recordColumns)

export const companies = sqliteTable('companies', recordColumns)

export const appointments = sqliteTable('appointments', recordColumns)

/** One row that stands for no record. */
export const noRecords = sqliteTable('no_records', recordColumns)

export const links = sqliteTable(
  'links',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    fromObject: text('from_object').$type<ObjectKind>().notNull(),
    fromId: integer('from_id').notNull(),
    toObject: text('to_object').$type<ObjectKind>().notNull(),
    toId: integer('to_id').notNull(),
    role: text().notNull(),
    main: integer({ mode: 'boolean' }).notNull(),
    createdAt: integer('created_at').notNull(),
  },
  (t) => [
    uniqueIndex('links_pair').on(t.fromObject, t.fromId, t.toObject, t.toId),
    index('links_to').on(t.toObject, t.toId),
  ],
)

/** What was done with links, by whom or what: for the record's page. Rows are only ever added. */
export const linkActs = sqliteTable(
  'link_acts',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    atMs: integer('at_ms').notNull(),
    fromObject: text('from_object').$type<ObjectKind>().notNull(),
    fromId: integer('from_id').notNull(),
    toObject: text('to_object').$type<ObjectKind>().notNull(),
    toId: integer('to_id').notNull(),
    act: text().$type<'linked' | 'unlinked'>().notNull(),
    cause: text({ mode: 'json' }).$type<Cause>().notNull(),
  },
  (t) => [index('link_acts_from').on(t.fromObject, t.fromId), index('link_acts_to').on(t.toObject, t.toId)],
)

/** The log of committed changes. Rows are only ever added. */
export const events = sqliteTable(
  'events',
  {
    seq: integer().primaryKey({ autoIncrement: true }),
    atMs: integer('at_ms').notNull(),
    kind: text().$type<EventKind>().notNull(),
    object: text().$type<ObjectKind>().notNull(),
    recordId: integer('record_id').notNull(),
    changes: text({ mode: 'json' }).$type<readonly FieldChange[]>().notNull(),
    cause: text({ mode: 'json' }).$type<Cause>().notNull(),
    chainId: text('chain_id').notNull(),
    depth: integer().notNull(),
    rulesOff: integer('rules_off', { mode: 'boolean' }).notNull(),
  },
  (t) => [
    index('events_record').on(t.object, t.recordId, t.seq),
    index('events_chain').on(t.chainId),
    index('events_at').on(t.atMs),
  ],
)

/** Records that were deleted or went into another one, with all it takes to bring them back. */
export const goneRecords = sqliteTable(
  'gone_records',
  {
    object: text().$type<ObjectKind>().notNull(),
    id: integer().notNull(),
    name: text().notNull(),
    /** Values by the ids of their fields, which stay when keys and types do not. */
    held: text({ mode: 'json' }).$type<Readonly<Record<string, Value>>>().notNull(),
    version: integer().notNull(),
    createdAt: integer('created_at').notNull(),
    links: text({ mode: 'json' }).$type<readonly Link[]>().notNull(),
    /** The record it went into; null when it was deleted. */
    intoId: integer('into_id'),
    /** The change that it made of that one; null when it changed nothing there. */
    intoSeq: integer('into_seq'),
    /** Links that the other one got because of it. */
    linksGiven: text('links_given', { mode: 'json' }).$type<readonly Link[]>().notNull(),
    /** Tasks that the other one got because of it. */
    tasksGiven: text('tasks_given', { mode: 'json' }).$type<readonly number[]>().notNull(),
    activitiesGiven: text('activities_given', { mode: 'json' }).$type<readonly number[]>().notNull().default([]),
    /** The event that tells of it. */
    seq: integer()
      .notNull()
      .unique()
      .references(() => events.seq),
    atMs: integer('at_ms').notNull(),
    personId: text('person_id')
      .notNull()
      .references(() => people.id),
  },
  (t) => [primaryKey({ columns: [t.object, t.id] }), index('gone_records_into').on(t.object, t.intoId)],
)

/** One row a field of each event, for "who set this?". */
export const history = sqliteTable(
  'history',
  {
    eventSeq: integer('event_seq')
      .notNull()
      .references(() => events.seq),
    fieldId: integer('field_id')
      .notNull()
      .references(() => fields.id),
    object: text().$type<ObjectKind>().notNull(),
    recordId: integer('record_id').notNull(),
    old: text({ mode: 'json' }).$type<Value>(),
    new: text({ mode: 'json' }).$type<Value>(),
  },
  (t) => [
    primaryKey({ columns: [t.eventSeq, t.fieldId] }),
    index('history_field').on(t.object, t.recordId, t.fieldId, t.eventSeq),
  ],
)

/** How far each reader of the log has come. */
export const eventPositions = sqliteTable('event_positions', { reader: text().primaryKey(), seq: integer().notNull() })

/** What happened around records. */
export const activities = sqliteTable(
  'activities',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    object: text().$type<ObjectKind>().notNull(),
    recordId: integer('record_id').notNull(),
    kind: text().$type<ActivityName>().notNull(),
    about: text().notNull(),
    /** What else was told, by the keys of its kind. */
    data: text({ mode: 'json' }).$type<Values>().notNull().default({}),
    atMs: integer('at_ms').notNull(),
    /** What whoever told of it calls it, so that it is kept once. */
    key: text().unique(),
    toldAt: integer('told_at').notNull(),
  },
  (t) => [index('activities_record').on(t.object, t.recordId, t.atMs), index('activities_at').on(t.atMs)],
)

/** Browsers that visited the firm's pages; whose they are is known once somebody says so there. */
export const visitors = sqliteTable(
  'visitors',
  {
    key: text().primaryKey(),
    contactId: integer('contact_id'),
    /** The address that was given there, for which there is no contact yet. */
    email: text(),
    seenAt: integer('seen_at').notNull(),
  },
  (t) => [index('visitors_contact').on(t.contactId), index('visitors_email').on(t.email)],
)

/** What visitors did of whom nobody knows yet who they are. */
export const unknownActivities = sqliteTable(
  'unknown_activities',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    visitor: text().notNull(),
    kind: text().$type<ActivityName>().notNull(),
    about: text().notNull(),
    data: text({ mode: 'json' }).$type<Values>().notNull().default({}),
    atMs: integer('at_ms').notNull(),
    key: text().unique(),
    toldAt: integer('told_at').notNull(),
  },
  (t) => [index('unknown_activities_visitor').on(t.visitor, t.atMs), index('unknown_activities_at').on(t.atMs)],
)

/** What links that lead to a person are signed with; made once, shown nowhere. */
export const secrets = sqliteTable('secrets', { name: text().primaryKey(), value: text().notNull() })

/** Kinds of appointments that people book by themselves. */
export const bookingPages = sqliteTable('booking_pages', {
  slug: text().primaryKey(),
  page: text({ mode: 'json' }).$type<GivenBookingPage>().notNull(),
  addedAt: integer('added_at').notNull(),
})

/** By which page an appointment was booked: moving it goes by its lengths. */
export const bookings = sqliteTable('bookings', {
  appointmentId: integer('appointment_id').primaryKey(),
  slug: text().notNull(),
})

/** Appointments that came from a calendar file, by what that calls them: brought in again, they are the same. */
export const calendarUids = sqliteTable('calendar_uids', {
  uid: text().primaryKey(),
  appointmentId: integer('appointment_id').notNull(),
})

/** Who reads somebody's appointments by a secret address. */
export const calendarFeeds = sqliteTable('calendar_feeds', {
  personId: text('person_id')
    .primaryKey()
    .references(() => people.id),
  secret: text().notNull().unique(),
  madeAt: integer('made_at').notNull(),
})

/** Hosts whose pages may tell of visits. */
export const websites = sqliteTable('websites', { host: text().primaryKey(), addedAt: integer('added_at').notNull() })

/** How far values that hang on the day were worked out for the day it is. */
export const dayTurn = sqliteTable('day_turn', {
  id: integer().primaryKey(),
  through: text().notNull(),
  turning: text(),
  object: text().$type<ObjectKind>(),
  afterId: integer('after_id').notNull(),
})

/** Records whose roll-ups are to be worked out once more: of very many changes, once for all of them. */
export const putOff = sqliteTable(
  'put_off',
  {
    object: text().$type<ObjectKind>().notNull(),
    recordId: integer('record_id').notNull(),
  },
  (t) => [primaryKey({ columns: [t.object, t.recordId] })],
)

/** Fields that are being worked out for all records, after somebody said how. */
export const deriveJobs = sqliteTable(
  'derive_jobs',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    /** Ids of the fields, in the order in which they are worked out. */
    fieldIds: text('field_ids', { mode: 'json' }).$type<readonly number[]>().notNull(),
    /** The field it has come to, and the last record of it. */
    at: integer().notNull(),
    afterId: integer('after_id').notNull(),
    done: integer().notNull(),
    total: integer().notNull(),
    personId: text('person_id')
      .notNull()
      .references(() => people.id),
    createdAt: integer('created_at').notNull(),
    endedAt: integer('ended_at'),
  },
  (t) => [index('derive_jobs_open').on(t.endedAt)],
)
