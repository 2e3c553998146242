import { z } from 'zod'
import { ROLES } from '../../core/fields/field'
import { zMapping } from '../../core/formats/csv/import'
import { isZone } from '../../core/rules/clock'
import { isDate } from '../../core/time/dates'
import { zFilterGroup } from './records'
import { contract, zId, zIdParam, zInstant, zNext, zObject, zOk, zPaging, zPersonId, zRef } from './contract'
import { zEmail, zPassword, zTitle } from './account'

const zZone = z.string().refine(isZone, 'is no time zone of the IANA database')
const zDay = z.string().refine(isDate, 'is not a date').meta({ format: 'date' })
const zTask = z
  .strictObject({
    id: zId,
    ref: zRef,
    title: z.string(),
    notes: z.string(),
    kind: z.string(),
    priority: z.string(),
    due: z.string(),
    assigneeId: z.string().nullable().describe('null while it lies in a queue'),
    queue: z.string().nullable().describe('the team whose queue it was put into'),
    remindAt: zInstant.nullable().describe('when whoever has it is reminded'),
    state: z.enum(['open', 'done', 'withdrawn']),
    outcome: z.string(),
    because: z.string().describe('why it exists'),
    ruleId: zId,
    runId: zId,
    createdAt: zInstant,
    doneAt: zInstant.nullable(),
    doneBy: z.string().nullable(),
  })
  .meta({ id: 'Task' })
const zImportState = z.enum(['ready', 'running', 'stopped', 'done'])
const zCounts = z
  .strictObject({
    new: z.number().int(),
    changed: z.number().int(),
    same: z.number().int(),
    refused: z.number().int(),
    companies: z.number().int().describe('companies made on the way'),
    contacts: z.number().int(),
  })
  .meta({ id: 'ImportCounts' })
const zImportLine = z
  .strictObject({
    id: zId,
    object: zObject,
    fileName: z.string(),
    state: zImportState,
    rulesOn: z.boolean(),
    counts: zCounts.nullable(),
    position: z.number().int().describe('the row written last'),
    personId: z.string(),
    createdAt: zInstant,
    endedAt: zInstant.nullable(),
  })
  .meta({ id: 'Import' })
const zRowProblem = z.strictObject({ heading: z.string(), text: z.string() })
const zPerson = z
  .strictObject({
    id: z.string(),
    name: z.string(),
    email: z.string(),
    role: z.enum(ROLES),
    team: z.string(),
    title: z.string(),
    awayFrom: z.string().nullable(),
    awayTo: z.string().nullable(),
    deputyId: z.string().nullable(),
    active: z.boolean(),
    zone: z.string().nullable().describe('the time zone they live by; null for the firm’s'),
  })
  .meta({ id: 'Person' })

/** 32 million letters: a hundred thousand deals with ten columns are a third of it. */
const CONTENT_MOST = 32_000_000

const HOURS = {
  workdays: z.array(z.int().min(1).max(7)).min(1).max(7).describe('ISO weekdays, 1 is Monday'),
  opensAt: z.int().min(0).max(1439).describe('minutes from midnight'),
  closesAt: z.int().min(1).max(1440),
  holidays: z.array(z.strictObject({ date: zDay, name: z.string().trim().max(200) })).max(1000),
}

export const work = {
  'GET /notices': contract({
    section: 'Account',
    does: 'What one was told by rules, newest first',
    query: z.object({ ...zPaging }),
    answer: z.strictObject({
      unread: z.number().int(),
      notices: z.array(
        z.strictObject({
          id: zId,
          atMs: zInstant,
          subject: z.string(),
          body: z.string(),
          ref: zRef,
          recordName: z.string(),
          ruleId: zId,
          ruleName: z.string(),
          runId: zId,
          read: z.boolean(),
        }),
      ),
      next: zNext,
    }),
  }),
  'POST /notices/read': contract({
    section: 'Account',
    does: 'Marks notices as read',
    body: z.strictObject({ ids: z.array(zId).max(200).nullable().describe('null for all') }),
    answer: z.strictObject({ read: z.number().int() }),
  }),
  'GET /tasks': contract({
    section: 'Tasks',
    does: 'Lists follow-up tasks, newest first',
    query: z.object({
      person: zPersonId.optional(),
      queue: z.string().max(100).optional().describe('the team whose queue is looked at'),
      state: z.enum(['open', 'done', 'withdrawn']).optional(),
      rule: z.coerce.number().int().positive().optional(),
      ...zPaging,
    }),
    answer: z.strictObject({ tasks: z.array(zTask), next: zNext }),
  }),
  'POST /tasks/:id': contract({
    section: 'Tasks',
    does: 'Finishes a task, opens it again, puts it off, hands it over, or takes it from a queue',
    more: 'Finishing a finished one changes nothing, so that a repeated key does no harm.',
    params: zIdParam,
    body: z.discriminatedUnion('act', [
      z.strictObject({ act: z.literal('finish'), outcome: z.string().trim().max(1000) }),
      z.strictObject({ act: z.literal('reopen') }),
      z.strictObject({ act: z.literal('pull') }).describe('takes it out of a queue'),
      z.strictObject({ act: z.literal('putBack') }).describe('puts it back into its queue'),
      z.strictObject({ act: z.literal('postpone'), due: zDay }),
      z.strictObject({ act: z.literal('handOver'), personId: zPersonId }),
    ]),
    answer: z.strictObject({ state: z.enum(['open', 'done', 'withdrawn']) }),
  }),
  'GET /day-sheet': contract({
    section: 'Screens',
    does: 'A person’s follow-ups in the order to do them',
    query: z.object({ person: zPersonId.optional() }),
  }),
  'GET /imports': contract({
    section: 'Files',
    does: 'The last 50 files brought in',
    answer: z.strictObject({ imports: z.array(zImportLine) }),
  }),
  'POST /imports': contract({
    section: 'Files',
    does: 'Takes a CSV file in and guesses its columns',
    more: 'Nothing is written to records yet. A file with headings that were brought in before gets the columns of that time.',
    body: z.strictObject({
      fileName: z.string().trim().min(1).max(300),
      content: z.string().max(CONTENT_MOST, 'is larger than 32 MB').describe('the text of the file'),
      object: zObject.optional().describe('what its rows are; guessed from the headings when left out'),
    }),
    answer: z.strictObject({ id: zId }),
  }),
  'GET /imports/:id': contract({
    section: 'Files',
    does: 'A file with its columns, and what it would do as long as it has not been brought in',
    params: zIdParam,
    answer: zImportLine.extend({
      mapping: zMapping,
      refused: z.array(z.strictObject({ row: z.number().int(), problems: z.array(zRowProblem) })).nullable(),
      preview: z
        .looseObject({ headings: z.array(z.string()), counts: zCounts, mappingProblems: z.array(zRowProblem) })
        .nullable(),
    }),
  }),
  'PUT /imports/:id/mapping': contract({
    section: 'Files',
    does: 'Says what the rows of a file are and where each column goes',
    params: zIdParam,
    body: zMapping.meta({ id: 'ImportMapping' }),
    answer: zOk,
  }),
  'POST /imports/:id/run': contract({
    section: 'Files',
    does: 'Begins an import, or goes on with one that was stopped',
    more: 'Answers at once; open screens hear how far it has come.',
    params: zIdParam,
    body: z.strictObject({ rulesOn: z.boolean().describe('whether rules run for what changes') }),
    answer: z.strictObject({ state: zImportState }),
  }),
  'POST /imports/:id/stop': contract({
    section: 'Files',
    does: 'Stops an import after the rows that are being written',
    more: 'What is in stays; the rest waits until somebody goes on.',
    params: zIdParam,
    answer: z.strictObject({ state: zImportState }),
  }),
  'GET /imports/:id/refused': contract({
    section: 'Files',
    does: 'The refused rows as a file of the same shape, with the reason at the end',
    params: zIdParam,
    media: 'text/csv',
  }),
  'GET /exports/:object': contract({
    section: 'Files',
    does: 'All records of a kind as a file',
    more: 'Brought in again it changes nothing.',
    params: z.object({ object: zObject }),
    media: 'text/csv',
  }),
  'GET /clock': contract({
    section: 'Workspace',
    does: 'The clock that the workspace lives by',
    answer: z.strictObject({
      nowMs: zInstant,
      aheadMs: z.number().int().describe('how far that of a demo was turned forward'),
      zone: z.string(),
      nextMs: zInstant.nullable().describe('when the next thing is due'),
      demo: z.boolean(),
    }),
  }),
  'POST /clock': contract({
    section: 'Workspace',
    does: 'Turns the clock of a demo workspace forward',
    more: 'Answers at once. Everything that falls due on the way is done in its order. Refused (409) where the clock is the real one.',
    body: z.strictObject({ toMs: zInstant }),
    answer: z.strictObject({ nowMs: zInstant, toMs: zInstant }),
  }),
  'PUT /territories': contract({
    section: 'People',
    does: 'Says who covers where, in the order in which it is tried',
    more: 'The first whose conditions a company meets. The list is put in place of the one that is there; it is part of the catalogue.',
    body: z.strictObject({
      territories: z.array(z.strictObject({ name: zTitle, filter: zFilterGroup, personId: zPersonId })).max(200),
    }),
    answer: zOk,
  }),
  'PUT /hours': contract({
    section: 'Workspace',
    does: 'Says when the firm works',
    more: 'What waits for working days or office hours is planned anew where it has not begun to wait.',
    body: z.strictObject({
      zone: zZone,
      ...HOURS,
      teams: z
        .array(z.strictObject({ team: z.string().max(100), ...HOURS }))
        .max(100)
        .optional()
        .describe('teams that work at other hours; theirs count for the records of their people'),
    }),
    answer: zOk,
  }),
  'POST /hours/holidays': contract({
    section: 'Workspace',
    does: 'Reads holidays from an iCalendar file, without keeping them yet',
    body: z.strictObject({ text: z.string().max(2_000_000) }),
    answer: z.strictObject({
      holidays: z.array(z.strictObject({ date: z.string(), name: z.string() })),
      passed: z.number().int().describe('entries that are no whole days'),
    }),
  }),
  'GET /people': contract({
    section: 'People',
    does: 'Everybody who works or worked here',
    answer: z.strictObject({ people: z.array(zPerson) }),
  }),
  'POST /people': contract({
    section: 'People',
    does: 'Takes somebody in, with a first password that they change themselves',
    body: z.strictObject({
      name: zTitle,
      email: zEmail,
      role: z.enum(ROLES),
      team: z.string().trim().max(100),
      title: z.string().trim().max(100),
      password: zPassword,
    }),
    answer: z.strictObject({ id: z.string() }),
  }),
  'PATCH /people/:id': contract({
    section: 'People',
    does: 'Changes somebody: role, team, away dates, deputy, whether they still work here, or a new first password',
    params: z.object({ id: zPersonId }),
    body: z.strictObject({
      name: zTitle.optional(),
      role: z.enum(ROLES).optional(),
      team: z.string().trim().max(100).optional(),
      title: z.string().trim().max(100).optional(),
      active: z.boolean().optional(),
      awayFrom: zDay.nullable().optional(),
      awayTo: zDay.nullable().optional(),
      deputyId: z.string().max(100).nullable().optional(),
      password: zPassword.optional(),
      zone: zZone.nullable().optional(),
    }),
    answer: zOk,
  }),
  'GET /backups': contract({
    section: 'Workspace',
    does: 'The backups that lie beside the database',
    answer: z.strictObject({
      backups: z.array(z.looseObject({ name: z.string(), bytes: z.number(), atMs: zInstant })),
    }),
  }),
  'POST /backups': contract({
    section: 'Workspace',
    does: 'Copies the database as it is now, while everything goes on',
    more: 'Answers when the copy has been checked.',
    answer: z.looseObject({ name: z.string() }),
  }),
} as const
