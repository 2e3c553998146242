import { sql } from 'drizzle-orm'
import { index, integer, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core'
import type { ObjectKind } from '../../../core/records/kinds'
import type { CallResult } from '../../../core/asks/call'
import type { MessageChannel } from '../../../core/messages/guards'
import type { Into, Verify } from '../../../core/web/intake'
import type { Method, RequestOutcome } from '../../../core/web/request'
import type { SimulatedAct } from '../../../core/messages/simulated'
import { people } from './catalogue'

/** What lies outside: services that rules ask or that tell something, and the simulated ones that ship with the app. */

/** The mailboxes and phones of the simulated service that ships with the app. */
export const standInMail = sqliteTable(
  'stand_in_mail',
  {
    key: text().primaryKey(),
    channel: text().$type<MessageChannel>().notNull().default('mail'),
    recipient: text().notNull(),
    name: text().notNull().default(''),
    sender: text().notNull().default(''),
    senderName: text('sender_name').notNull().default(''),
    contactId: integer('contact_id'),
    messageId: text('message_id'),
    /** Mails as they would stand on the wire. */
    raw: text(),
    subject: text().notNull(),
    body: text().notNull(),
    receivedAt: integer('received_at').notNull(),
    /** What the customer will do with it by themselves, and when; `null` for nothing more. */
    act: text({ mode: 'json' }).$type<SimulatedAct>(),
    actAt: integer('act_at'),
  },
  (t) => [
    index('stand_in_mail_act')
      .on(t.actAt)
      .where(sql`act_at is not null`),
  ],
)

/** Calls that reached the simulated phone. */
export const standInCalls = sqliteTable(
  'stand_in_calls',
  {
    key: text().primaryKey(),
    number: text().notNull(),
    name: text().notNull(),
    script: text().notNull(),
    receivedAt: integer('received_at').notNull(),
    /** How it went; `null` while it rings. */
    result: text({ mode: 'json' }).$type<CallResult>(),
    /** How it will go by itself, and when; `null` where somebody has to choose. */
    act: text({ mode: 'json' }).$type<CallResult>(),
    actAt: integer('act_at'),
  },
  (t) => [
    index('stand_in_calls_act')
      .on(t.actAt)
      .where(sql`act_at is not null`),
  ],
)

/** Services outside that rules may ask. Their secrets are sealed elsewhere. */
export const connections = sqliteTable('connections', {
  id: integer().primaryKey({ autoIncrement: true }),
  name: text().notNull(),
  /** Without a slash at its end; empty for the simulated receiver. */
  address: text().notNull(),
  headers: text({ mode: 'json' }).$type<readonly string[]>().notNull(),
  archived: integer({ mode: 'boolean' }).notNull().default(false),
})

/** Requests to services outside, with what they answered. */
export const webRequests = sqliteTable(
  'web_requests',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    key: text().notNull().unique(),
    connectionId: integer('connection_id').notNull(),
    object: text().$type<ObjectKind>().notNull(),
    recordId: integer('record_id').notNull(),
    ruleId: integer('rule_id').notNull(),
    runId: integer('run_id').notNull(),
    stepId: text('step_id').notNull(),
    method: text().$type<Method>().notNull(),
    path: text().notNull(),
    body: text(),
    /** Whether its answer comes later, at an address of its own. */
    later: integer({ mode: 'boolean' }).notNull().default(false),
    outcome: text().$type<RequestOutcome>(),
    status: integer(),
    answer: text(),
    atMs: integer('at_ms').notNull(),
    answeredAt: integer('answered_at'),
  },
  (t) => [index('web_requests_run').on(t.runId), index('web_requests_moment').on(t.atMs, t.id)],
)

/** Addresses at which services outside tell something. */
export const intakes = sqliteTable('intakes', {
  id: integer().primaryKey({ autoIncrement: true }),
  /** What stands in the address; nobody guesses it. */
  slug: text().notNull().unique(),
  name: text().notNull(),
  verify: text().$type<Verify>().notNull(),
  into: text({ mode: 'json' }).$type<Into>().notNull(),
  /** In whose name records are written. */
  personId: text('person_id')
    .notNull()
    .references(() => people.id),
  archived: integer({ mode: 'boolean' }).notNull().default(false),
})

/** What came in, and what became of it. */
export const intakeRequests = sqliteTable(
  'intake_requests',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    intakeId: integer('intake_id')
      .notNull()
      .references(() => intakes.id),
    /** The same for every attempt; `null` for what was refused: it may come again, put right. */
    key: text(),
    body: text().notNull(),
    state: text().$type<'taken' | 'refused'>().notNull(),
    /** What was made of it, or why nothing was. */
    says: text().notNull(),
    object: text().$type<ObjectKind>(),
    recordId: integer('record_id'),
    atMs: integer('at_ms').notNull(),
  },
  (t) => [uniqueIndex('intake_requests_key').on(t.intakeId, t.key), index('intake_requests_moment').on(t.atMs)],
)
