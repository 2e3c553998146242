import { sql } from 'drizzle-orm'
import { index, integer, primaryKey, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core'
import type { Seen } from '../../../core/conditions/compile'
import type { Priority, TaskKind } from '../../../core/records/task'
import type { RunState, StepRecord, WaitMoved, WaitThen } from '../../../core/engine/world'
import type { StopReason } from '../../../core/language/reasons'
import type { ObjectKind } from '../../../core/records/kinds'
import type { Listen } from '../../../core/signals'
import type { TaskAsks } from '../../../core/asks'
import type { AnswerKind } from '../../../core/messages/answer-kind'
import type { MessageChannel, OutboxChannel } from '../../../core/messages/guards'
import type { MessageMore } from '../../../core/messages/letter'
import { people } from './catalogue'
import { events } from './records'
import { rules, ruleVersions } from './rules'
export const runs = sqliteTable(
  'runs',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    ruleId: integer('rule_id')
      .notNull()
      .references(() => rules.id),
    versionId: integer('version_id')
      .notNull()
      .references(() => ruleVersions.id),
    object: text().$type<ObjectKind>().notNull(),
    recordId: integer('record_id').notNull(),
    occurrence: text().notNull(),
    eventSeq: integer('event_seq')
      .notNull()
      .references(() => events.seq),
    chainId: text('chain_id').notNull(),
    depth: integer().notNull(),
    state: text().$type<RunState>().notNull(),
    because: text().notNull(),
    stop: text({ mode: 'json' }).$type<StopReason>(),
    seen: text({ mode: 'json' }).$type<readonly Seen[]>().notNull(),
    startedAt: integer('started_at').notNull(),
    endedAt: integer('ended_at'),
    /** When it did something last: it began, went on after a wait, or ended. */
    lastAt: integer('last_at').notNull().default(0),
    /** The run that stands for it in the journal, where very many ended alike: missed while nothing ran. */
    bundle: integer(),
    /** Set once somebody has taken it back. */
    undoneBy: text('undone_by').references(() => people.id),
    undoneAt: integer('undone_at'),
  },
  (t) => [
    uniqueIndex('runs_identity').on(t.ruleId, t.object, t.recordId, t.occurrence),
    index('runs_chain').on(t.chainId, t.ruleId),
    index('runs_record').on(t.object, t.recordId, t.id),
    index('runs_event').on(t.eventSeq),
    index('runs_rule').on(t.ruleId, t.id),
    index('runs_bundle')
      .on(t.bundle)
      .where(sql`bundle is not null`),
    index('runs_moment').on(t.lastAt, t.id),
    index('runs_rule_moment').on(t.ruleId, t.lastAt, t.id),
    index('runs_failed')
      .on(t.lastAt, t.id)
      .where(sql`state = 'failed'`),
    index('runs_waiting')
      .on(t.lastAt, t.id)
      .where(sql`state = 'waiting'`),
  ],
)

/** How many runs of a rule got to their steps on a day (counted from 1970, UTC), kept as they begin and end. */
export const ruleDays = sqliteTable(
  'rule_days',
  {
    ruleId: integer('rule_id')
      .notNull()
      .references(() => rules.id),
    day: integer().notNull(),
    runs: integer().notNull(),
    failed: integer().notNull(),
    lastAt: integer('last_at').notNull(),
  },
  (t) => [primaryKey({ columns: [t.ruleId, t.day] }), index('rule_days_day').on(t.day)],
)

/** For each trigger of a rule that is on and goes by the clock: the next moment at which it may start something. */
export const timers = sqliteTable(
  'timers',
  {
    ruleId: integer('rule_id')
      .notNull()
      .references(() => rules.id),
    triggerId: text('trigger_id').notNull(),
    dueMs: integer('due_ms').notNull(),
    /** The last record that was started at this moment, so that many go in small commits. */
    position: integer().notNull(),
  },
  (t) => [primaryKey({ columns: [t.ruleId, t.triggerId] }), index('timers_due').on(t.dueMs)],
)

/** What runs wait for: a moment, something that happens, or whichever comes first. */
export const waits = sqliteTable(
  'waits',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    runId: integer('run_id')
      .notNull()
      .references(() => runs.id),
    ruleId: integer('rule_id')
      .notNull()
      .references(() => rules.id),
    object: text().$type<ObjectKind>().notNull(),
    recordId: integer('record_id').notNull(),
    stepId: text('step_id').notNull(),
    /** `go`: the run goes on behind the step. `do`: the step itself is done then, and the run has gone on meanwhile. */
    then: text().$type<WaitThen>().notNull(),
    dueMs: integer('due_ms'),
    /** The date field of the record that the moment is counted from. */
    anchor: text(),
    signals: text({ mode: 'json' }).$type<readonly Listen[]>().notNull().default([]),
    sinceMs: integer('since_ms').notNull(),
    /** The last change there was when it began. */
    sinceSeq: integer('since_seq').notNull(),
    /** Who put it off, and why. */
    moved: text({ mode: 'json' }).$type<WaitMoved>(),
  },
  (t) => [
    index('waits_due').on(t.dueMs),
    index('waits_record').on(t.object, t.recordId),
    index('waits_rule').on(t.ruleId),
    index('waits_run').on(t.runId),
  ],
)

export const runSteps = sqliteTable(
  'run_steps',
  {
    runId: integer('run_id')
      .notNull()
      .references(() => runs.id),
    position: integer().notNull(),
    stepId: text('step_id').notNull(),
    kind: text().notNull(),
    result: text({ mode: 'json' }).$type<StepRecord>().notNull(),
    atMs: integer('at_ms').notNull(),
  },
  (t) => [primaryKey({ columns: [t.runId, t.position] })],
)

export const tasks = sqliteTable(
  'tasks',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    object: text().$type<ObjectKind>().notNull(),
    recordId: integer('record_id').notNull(),
    title: text().notNull(),
    notes: text().notNull(),
    taskKind: text('task_kind').$type<TaskKind>().notNull(),
    priority: text().$type<Priority>().notNull(),
    due: text().notNull(),
    /** Null while it lies in a queue. */
    assigneeId: text('assignee_id').references(() => people.id),
    /** The team whose queue it was put into. */
    queue: text(),
    /** When whoever has it is reminded; null when nobody is, or was already. */
    remindAt: integer('remind_at'),
    /** `withdrawn` when the run that made it was taken back. */
    state: text().$type<'open' | 'done' | 'withdrawn'>().notNull(),
    outcome: text().notNull(),
    /** What is asked when it is finished. */
    asks: text({ mode: 'json' }).$type<TaskAsks>(),
    because: text().notNull(),
    ruleId: integer('rule_id')
      .notNull()
      .references(() => rules.id),
    runId: integer('run_id')
      .notNull()
      .references(() => runs.id),
    stepId: text('step_id').notNull(),
    createdAt: integer('created_at').notNull(),
    doneAt: integer('done_at'),
    doneBy: text('done_by').references(() => people.id),
  },
  (t) => [
    index('tasks_step').on(t.runId, t.stepId),
    index('tasks_assignee').on(t.assigneeId, t.state, t.due),
    index('tasks_record').on(t.object, t.recordId, t.state),
    index('tasks_queue').on(t.queue, t.state, t.due),
    index('tasks_remind').on(t.remindAt),
    index('tasks_done').on(t.doneBy, t.doneAt),
    index('tasks_rule').on(t.ruleId, t.id),
  ],
)

/** What colleagues are told in the app. */
export const notices = sqliteTable(
  'notices',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    personId: text('person_id')
      .notNull()
      .references(() => people.id),
    object: text().$type<ObjectKind>().notNull(),
    recordId: integer('record_id').notNull(),
    subject: text().notNull(),
    body: text().notNull(),
    ruleId: integer('rule_id')
      .notNull()
      .references(() => rules.id),
    runId: integer('run_id')
      .notNull()
      .references(() => runs.id),
    atMs: integer('at_ms').notNull(),
    readAt: integer('read_at'),
    /** The first of several of one rule within a few minutes: it stands for them all in the list. */
    bundle: integer(),
  },
  (t) => [
    index('notices_person').on(t.personId, t.readAt, t.id),
    index('notices_bundle')
      .on(t.bundle)
      .where(sql`${t.bundle} is not null`),
    index('notices_heads')
      .on(t.personId, t.ruleId, t.atMs)
      .where(sql`${t.bundle} is null`),
  ],
)

/** How often a step has given something to somebody in turn. */
export const turns = sqliteTable(
  'turns',
  {
    ruleId: integer('rule_id')
      .notNull()
      .references(() => rules.id),
    stepId: text('step_id').notNull(),
    taken: integer().notNull(),
  },
  (t) => [primaryKey({ columns: [t.ruleId, t.stepId] })],
)

/** Who sees a task beside whoever has it, and hears when it is done. */
export const taskFollowers = sqliteTable(
  'task_followers',
  {
    personId: text('person_id')
      .notNull()
      .references(() => people.id),
    taskId: integer('task_id')
      .notNull()
      .references(() => tasks.id),
  },
  (t) => [primaryKey({ columns: [t.taskId, t.personId] }), index('task_followers_person').on(t.personId, t.taskId)],
)

/** What people did with a task, in order. */
export const taskActs = sqliteTable(
  'task_acts',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    taskId: integer('task_id')
      .notNull()
      .references(() => tasks.id),
    atMs: integer('at_ms').notNull(),
    personId: text('person_id')
      .notNull()
      .references(() => people.id),
    act: text()
      .$type<'done' | 'reopened' | 'postponed' | 'handedOver' | 'withdrawn' | 'pulled' | 'returned' | 'tried'>()
      .notNull(),
    detail: text().notNull(),
  },
  (t) => [index('task_acts_task').on(t.taskId)],
)

/** What is to leave the house: written with the run that wants it, delivered after the commit under a stable key. */
export const outbox = sqliteTable(
  'outbox',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    key: text().notNull().unique(),
    channel: text().$type<OutboxChannel>().notNull(),
    recipient: text().notNull(),
    subject: text().notNull(),
    body: text().notNull(),
    /** Null for what somebody wrote by hand. */
    runId: integer('run_id').references(() => runs.id),
    /** What a message to a customer has beside that. */
    more: text({ mode: 'json' }).$type<MessageMore | null>(),
    state: text().$type<'pending' | 'delivered' | 'givenUp'>().notNull(),
    attempts: integer().notNull(),
    nextAt: integer('next_at').notNull(),
    createdAt: integer('created_at').notNull(),
    deliveredAt: integer('delivered_at'),
    lastError: text('last_error'),
    /** Who carries it now, until when by the machine's clock. */
    owner: text(),
    leasedUntil: integer('leased_until'),
  },
  (t) => [
    index('outbox_due')
      .on(t.nextAt, t.id)
      .where(sql`state = 'pending'`),
    index('outbox_run').on(t.runId),
    index('outbox_given_up')
      .on(t.id)
      .where(sql`state = 'givenUp'`),
  ],
)

/** Messages to customers and their answers. */
export const messages = sqliteTable(
  'messages',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    key: text().notNull().unique(),
    channel: text().$type<MessageChannel>().notNull(),
    way: text().$type<'out' | 'in'>().notNull(),
    contactId: integer('contact_id').notNull(),
    /** What the rule ran for; the contact for what was written by hand, and for answers. */
    object: text().$type<ObjectKind>().notNull(),
    recordId: integer('record_id').notNull(),
    /** Of whatever rule and run, also when these are kept no more. */
    ruleId: integer('rule_id'),
    runId: integer('run_id'),
    stepId: text('step_id'),
    /** Who sent it, or wrote it by hand. */
    personId: text('person_id').references(() => people.id),
    /** The other side: the contact for what goes out, whom it was sent to for what comes in. */
    fromName: text('from_name').notNull(),
    fromAddress: text('from_address').notNull(),
    name: text().notNull(),
    address: text().notNull(),
    subject: text().notNull(),
    text: text().notNull(),
    label: text().notNull(),
    templateId: integer('template_id'),
    /** As mails name each other (RFC 5322, 3.6.4), without the brackets. */
    messageId: text('message_id').notNull(),
    inReplyTo: text('in_reply_to'),
    state: text().$type<'waiting' | 'sent' | 'failed' | 'bounced' | 'received'>().notNull(),
    /** When it was handed over to the outbox, or came in. */
    atMs: integer('at_ms').notNull(),
    sentAt: integer('sent_at'),
    openedAt: integer('opened_at'),
    answeredAt: integer('answered_at'),
    /** Whoever got it wanted nothing more after it. */
    optedOutAt: integer('opted_out_at'),
    /** Of an answer: its kind, the phrase that decided it, and who corrected it. */
    kind: text().$type<AnswerKind | 'automatic'>(),
    phrase: text(),
    correctedBy: text('corrected_by'),
    /** Why it failed or came back. */
    reason: text(),
  },
  (t) => [
    index('messages_address').on(t.channel, t.address, t.atMs),
    index('messages_contact').on(t.contactId, t.atMs),
    index('messages_rule').on(t.ruleId, t.atMs),
    index('messages_run').on(t.runId),
    index('messages_message_id').on(t.messageId),
    index('messages_answers').on(t.inReplyTo),
  ],
)

/** Addresses that get nothing more: of one channel, or of any. */
export const stoppedAddresses = sqliteTable(
  'stopped_addresses',
  {
    channel: text().$type<MessageChannel | 'any'>().notNull(),
    /** A whole domain behind an @. */
    address: text().notNull(),
    because: text().$type<'optedOut' | 'never' | 'bounced'>().notNull(),
    how: text().notNull(),
    atMs: integer('at_ms').notNull(),
    personId: text('person_id').references(() => people.id),
  },
  (t) => [primaryKey({ columns: [t.channel, t.address] })],
)
