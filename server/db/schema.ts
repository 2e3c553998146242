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
import type { Group } from '../../core/conditions/document'
import type { Seen } from '../../core/conditions/compile'
import type { Priority, TaskKind } from '../../core/engine/effects'
import type { RunState, StepRecord, StopReason, WaitMoved, WaitThen } from '../../core/engine/world'
import type { FormerName } from '../../core/fields/catalogue'
import type { Role, TeamHours } from '../../core/fields/field'
import type { Value } from '../../core/language/value'
import type { ImportCounts, ImportMapping, RefusedRow } from '../../core/formats/csv/import'
import type { ObjectKind } from '../../core/records/kinds'
import type { Cause, EventKind, FieldChange, Link } from '../../core/records/record'
import type { RuleDocument } from '../../core/rules/document'
import type { Making } from '../../core/derived/making'
import type { HappeningKind } from '../../core/records/happening'
import type { Band, ScoreLine } from '../../core/scoring/card'
import type { FieldTypeName } from '../../core/language/field-types'

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
  /** Grows when a person signs out everywhere or gets another password: cookies of an earlier number are void. */
  sessionEpoch: integer('session_epoch').notNull().default(0),
})

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

export const choices = sqliteTable(
  'choices',
  {
    fieldId: integer()
      .notNull()
      .references(() => fields.id),
    id: text().notNull(),
    label: text().notNull(),
    position: integer().notNull(),
    /** Merged into another one, or taken out: nobody chooses it any more, and what happened with it can still be told. */
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

/** What fields, choices, stages and pipelines were called before, so that what happened then is told in the words of then. */
export const formerNames = sqliteTable('former_names', {
  id: integer().primaryKey({ autoIncrement: true }),
  what: text().$type<FormerName['what']>().notNull(),
  of: text().notNull(),
  name: text().notNull(),
  untilMs: integer('until_ms').notNull(),
})

/** Why a rule was paused: it was started so many times in an hour, when so many are usual. */
export interface Pause {
  readonly atMs: number
  readonly starts: number
  readonly usual: number
}

/** What a job of a rule is to do. */
export type RuleJobOrder =
  | { readonly what: 'through'; readonly object: ObjectKind; readonly filter: Group }
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

const recordColumns = {
  id: integer().primaryKey({ autoIncrement: true }),
  version: integer().notNull(),
  createdAt: integer('created_at').notNull(),
  updatedAt: integer('updated_at').notNull(),
}
export const deals = sqliteTable('deals', recordColumns)
export const contacts = sqliteTable('contacts', recordColumns)
export const companies = sqliteTable('companies', recordColumns)

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
    happeningsGiven: text('happenings_given', { mode: 'json' }).$type<readonly number[]>().notNull().default([]),
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

/** Counts the changes of what every process and thread keeps in memory, so that each notices when it is out of date. */
export const revisions = sqliteTable('revisions', {
  what: text().$type<'rules' | 'catalogue' | 'stock' | 'clock'>().primaryKey(),
  n: integer().notNull(),
})

/** How far each reader of the log has come. */
export const eventPositions = sqliteTable('event_positions', { reader: text().primaryKey(), seq: integer().notNull() })

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

/** Work of a rule over many records, done in small commits: letting records through, starting by hand, taking runs back. */
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
    /** Set once somebody has taken it back. */
    undoneBy: text('undone_by').references(() => people.id),
    undoneAt: integer('undone_at'),
  },
  (t) => [
    uniqueIndex('runs_identity').on(t.ruleId, t.object, t.recordId, t.occurrence),
    index('runs_chain').on(t.chainId, t.ruleId),
    index('runs_record').on(t.object, t.recordId, t.id),
    index('runs_event').on(t.eventSeq),
  ],
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
    /** The field whose becoming something is waited for. */
    awaited: text(),
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
  },
  (t) => [index('notices_person').on(t.personId, t.readAt, t.id)],
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
      .$type<'done' | 'reopened' | 'postponed' | 'handedOver' | 'withdrawn' | 'pulled' | 'putBack'>()
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
    channel: text().$type<'mail'>().notNull(),
    recipient: text().notNull(),
    subject: text().notNull(),
    body: text().notNull(),
    runId: integer('run_id')
      .notNull()
      .references(() => runs.id),
    state: text().$type<'pending' | 'delivered' | 'givenUp'>().notNull(),
    attempts: integer().notNull(),
    nextAt: integer('next_at').notNull(),
    createdAt: integer('created_at').notNull(),
    deliveredAt: integer('delivered_at'),
    lastError: text('last_error'),
  },
  (t) => [index('outbox_due').on(t.state, t.nextAt)],
)

export const imports = sqliteTable('imports', {
  id: integer().primaryKey({ autoIncrement: true }),
  fileName: text('file_name').notNull(),
  content: text().notNull(),
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
  createdAt: integer('created_at').notNull(),
  endedAt: integer('ended_at'),
})

/** Where the columns of a file went that had these headings: the next one with the same begins there. */
export const knownHeadings = sqliteTable('known_headings', {
  /** The headings, folded and in order, as JSON. */
  headings: text().primaryKey(),
  mapping: text({ mode: 'json' }).$type<ImportMapping>().notNull(),
  usedAt: integer('used_at').notNull(),
})

/** Answers to requests that came with a key of their own: the same request again gets the same answer and does nothing. */
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

/** The mailbox of the simulated mail service that ships with the app. */
export const standInMail = sqliteTable('stand_in_mail', {
  key: text().primaryKey(),
  recipient: text().notNull(),
  subject: text().notNull(),
  body: text().notNull(),
  receivedAt: integer('received_at').notNull(),
})

/** Rehearsals that were kept with what is expected of them. The rules of the document are those of `ruleIds`, in that order. */
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

/** What happened around records. */
export const happenings = sqliteTable(
  'happenings',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    object: text().$type<ObjectKind>().notNull(),
    recordId: integer('record_id').notNull(),
    kind: text().$type<HappeningKind>().notNull(),
    about: text().notNull(),
    atMs: integer('at_ms').notNull(),
    /** What whoever told of it calls it, so that it is kept once. */
    key: text().unique(),
    toldAt: integer('told_at').notNull(),
  },
  (t) => [index('happenings_record').on(t.object, t.recordId, t.atMs), index('happenings_at').on(t.atMs)],
)

/** How far values that hang on the day were worked out for the day it is. */
export const dayTurn = sqliteTable('day_turn', {
  id: integer().primaryKey(),
  through: text().notNull(),
  turning: text(),
  object: text().$type<ObjectKind>(),
  afterId: integer('after_id').notNull(),
})

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
