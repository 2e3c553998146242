import { z } from 'zod'
import { zAsks } from './asks'
import { zDaySheet } from './screens'
import { ROLES } from '../../core/fields/field'
import { RATES_FILE_MOST } from '../../core/formats/rates-csv'
import { RATES_FROM } from '../../core/money/rates'
import { RETENTION_KINDS, RETENTION_MOST } from '../../core/records/retention'
import { isZone } from '../../core/rules/clock'
import { isDate } from '../../core/time/dates'
import { zFilterGroup } from './records'
import { contract, zAboutRef, zId, zIdParam, zInstant, zNext, zObject, zOk, zPaging, zPersonId } from './contract'
import { zEmail, zPassword, zTitle } from './account'

const zZone = z.string().refine(isZone, 'is no time zone of the IANA database')
const zDay = z.string().refine(isDate, 'is not a date. Use 24 Nov 2026 or 2026-11-24.').meta({ format: 'date' })
const zRateParams = z.object({
  code: z.string().regex(/^[A-Z]{3}$/, 'is not a currency code'),
  day: zDay,
})
const zRatesText = z.strictObject({ text: z.string().max(RATES_FILE_MOST) })
const zRatesPlan = z.strictObject({
  days: z.number().int(),
  from: z.string().nullable(),
  to: z.string().nullable(),
  added: z.number().int(),
  changed: z.number().int(),
  same: z.number().int(),
  left: z.array(z.string()).describe('currencies that no record can be in'),
})
const zTask = z
  .strictObject({
    id: zId,
    ref: zAboutRef,
    title: z.string(),
    notes: z.string(),
    kind: z.string(),
    priority: z.string(),
    due: z.string(),
    assigneeId: z.string().nullable().describe('null while in a queue'),
    queue: z.string().nullable().describe('team of the queue'),
    remindAt: zInstant.nullable().describe('time of the reminder'),
    state: z.enum(['open', 'done', 'withdrawn']),
    outcome: z.string(),
    asks: zAsks.describe('what it asks for; completed with `answers`'),
    because: z.string().describe('reason'),
    ruleId: zId,
    runId: zId,
    createdAt: zInstant,
    doneAt: zInstant.nullable(),
    doneBy: z.string().nullable(),
  })
  .meta({ id: 'Task' })
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
    zone: z.string().nullable().describe('time zone; null for the workspace’s'),
  })
  .meta({ id: 'Person' })

const HOURS = {
  workdays: z.array(z.int().min(1).max(7)).min(1).max(7).describe('ISO weekdays, 1 is Monday'),
  opensAt: z.int().min(0).max(1439).describe('minutes from midnight'),
  closesAt: z.int().min(1).max(1440),
  holidays: z.array(z.strictObject({ date: zDay, name: z.string().trim().max(200) })).max(1000),
}

const zHours = z
  .strictObject({
    zone: zZone,
    ...HOURS,
    teams: z
      .array(z.strictObject({ team: z.string().max(100), ...HOURS }))
      .max(100)
      .optional()
      .describe('teams with other hours, used for their people’s records'),
  })
  .meta({ id: 'Hours' })

export const work = {
  'GET /notifications': contract({
    section: 'Account',
    does: 'List your notifications',
    query: z.object({ ...zPaging }),
    answer: z.strictObject({
      unread: z.number().int(),
      problems: z.number().int().describe('open problems, for those who see rules'),
      asked: z
        .array(
          z.strictObject({
            taskId: zId,
            title: z.string(),
            ref: zAboutRef,
            recordName: z.string().describe('empty for a record that you can’t see'),
            ruleName: z.string(),
            due: z.string(),
            asks: zAsks,
          }),
        )
        .describe('approvals and questions that wait for your answer, at most 20; answered by completing the task'),
      notices: z.array(
        z.strictObject({
          id: zId,
          atMs: zInstant,
          subject: z.string(),
          body: z.string(),
          ref: zAboutRef,
          recordName: z.string(),
          ruleId: zId,
          ruleName: z.string(),
          runId: zId,
          read: z.boolean(),
          moreCount: z.number().int().describe('others of the rule within ten minutes, which this one stands for'),
          more: z
            .array(z.strictObject({ ref: zAboutRef, recordName: z.string(), subject: z.string(), runId: zId }))
            .describe('the first 20 of them'),
        }),
      ),
      next: zNext,
    }),
  }),
  'POST /notifications/read': contract({
    section: 'Account',
    does: 'Mark notifications as read',
    body: z.strictObject({ ids: z.array(zId).max(200).nullable().describe('null for all') }),
    answer: z.strictObject({ read: z.number().int() }),
  }),
  'GET /tasks': contract({
    section: 'Tasks',
    does: 'List tasks',
    query: z.object({
      person: zPersonId.optional(),
      queue: z.string().max(100).optional().describe('team of the queue'),
      state: z.enum(['open', 'done', 'withdrawn']).optional(),
      rule: z.coerce.number().int().positive().optional(),
      ...zPaging,
    }),
    answer: z.strictObject({ tasks: z.array(zTask), next: zNext }),
  }),
  'POST /tasks/:id': contract({
    section: 'Tasks',
    does: 'Complete, reopen, postpone, hand over or take a task',
    more: 'Completing a completed task changes nothing.',
    params: zIdParam,
    body: z.discriminatedUnion('act', [
      z.strictObject({
        act: z.literal('finish'),
        outcome: z.string().trim().max(1000).default(''),
        answers: z.record(z.string(), z.unknown()).optional().describe('where the task asks for something'),
      }),
      z.strictObject({ act: z.literal('reopen') }),
      z.strictObject({ act: z.literal('pull') }).describe('take it from a queue'),
      z.strictObject({ act: z.literal('return') }).describe('return it to its queue'),
      z.strictObject({ act: z.literal('postpone'), due: zDay }),
      z.strictObject({ act: z.literal('handOver'), personId: zPersonId }),
    ]),
    answer: z.strictObject({ state: z.enum(['open', 'done', 'withdrawn']) }),
  }),
  'GET /day-sheet': contract({
    section: 'Screens',
    does: 'Get a Day sheet',
    query: z.object({ person: zPersonId.optional() }),
    answer: zDaySheet,
  }),
  'GET /exports/:object': contract({
    section: 'Files',
    does: 'Export all records of a type',
    more: 'Importing it again changes nothing.',
    params: z.object({ object: zObject }),
    media: 'text/csv',
  }),
  'GET /clock': contract({
    section: 'Workspace',
    does: 'Get the workspace clock',
    answer: z.strictObject({
      nowMs: zInstant,
      aheadMs: z.number().int().describe('how far a demo clock was moved forward'),
      zone: z.string(),
      nextMs: zInstant.nullable().describe('when the next event is due'),
      demo: z.boolean(),
    }),
  }),
  'POST /clock': contract({
    section: 'Workspace',
    does: 'Move the demo clock forward',
    more: 'Returns immediately. Everything due in between runs in order. Error 409 if the workspace is not a demo.',
    body: z.strictObject({ toMs: zInstant }),
    answer: z.strictObject({ nowMs: zInstant, toMs: zInstant }),
  }),
  'PUT /territories': contract({
    section: 'People',
    does: 'Replace the list of territories',
    more: 'The first territory that matches a company applies. Replaces the whole list.',
    body: z.strictObject({
      territories: z.array(z.strictObject({ name: zTitle, filter: zFilterGroup, personId: zPersonId })).max(200),
    }),
    answer: zOk,
  }),
  'PUT /hours': contract({
    section: 'Workspace',
    does: 'Set working hours and holidays',
    more: 'Scheduled times that depend on working days or hours are recalculated.',
    body: zHours,
    answer: zOk,
  }),
  'POST /hours/moves': contract({
    section: 'Workspace',
    does: 'Preview what new hours would move',
    more: 'Nothing is saved. Waiting runs and rules whose next time would change.',
    body: zHours,
    answer: z.strictObject({
      waits: z.array(
        z.strictObject({ ruleName: z.string(), recordName: z.string(), fromMs: zInstant, toMs: zInstant }),
      ),
      waitsTotal: z.number().int(),
      rules: z.array(z.strictObject({ ruleName: z.string(), fromMs: zInstant.nullable(), toMs: zInstant.nullable() })),
      reminders: z.number().int(),
    }),
  }),
  'POST /hours/holidays': contract({
    section: 'Workspace',
    does: 'Read holidays from an iCalendar file (nothing is saved)',
    most: 3_000_000,
    body: z.strictObject({ text: z.string().max(2_000_000) }),
    answer: z.strictObject({
      holidays: z.array(z.strictObject({ date: z.string(), name: z.string() })),
      passed: z.number().int().describe('entries that are not whole days'),
      over: z.number().int().describe('entries that ended before last year'),
    }),
  }),
  'GET /storage': contract({
    section: 'Workspace',
    does: 'Show how long data is kept and how much space it takes',
    answer: z.strictObject({
      bytes: z.number().describe('size of the database'),
      freeBytes: z.number().describe('of it, free for new data'),
      kinds: z.array(
        z.strictObject({
          kind: z.enum(RETENTION_KINDS),
          days: z.number().int().nullable().describe('null for always'),
          count: z.number().int(),
          bytes: z.number().describe('including indexes'),
          oldestMs: zInstant.nullable(),
          cutMs: zInstant.nullable().describe('some from before this time were deleted'),
        }),
      ),
    }),
  }),
  'GET /storage/:kind/older': contract({
    section: 'Workspace',
    does: 'Count what a shorter time would delete',
    params: z.object({ kind: z.enum(RETENTION_KINDS) }),
    query: z.object({ days: z.coerce.number().int().min(1).max(RETENTION_MOST).default(365) }),
    answer: z.strictObject({ count: z.number().int() }),
  }),
  'PUT /storage/:kind': contract({
    section: 'Workspace',
    does: 'Set how long data is kept',
    more: 'Older data is deleted in the background, once a day. It cannot be restored. Error 422 below the least time.',
    params: z.object({ kind: z.enum(RETENTION_KINDS) }),
    body: z.strictObject({ days: z.int().min(1).max(RETENTION_MOST).nullable().describe('null for always') }),
    answer: zOk,
  }),
  'GET /rates': contract({
    section: 'Workspace',
    does: 'List exchange rates by day',
    more: 'Amounts meet in the currency of the workspace. Open records use the newest rate, closed deals the rate of the day they were closed.',
    query: z.object({ before: z.iso.date().optional().describe('a day; only days before it') }),
    answer: z.strictObject({
      own: z.string().describe('currency of the workspace'),
      from: z.enum(RATES_FROM).nullable().describe('who delivers rates'),
      currencies: z.array(
        z.strictObject({
          code: z.string(),
          amounts: z.number().int().describe('records with an amount in it'),
          perOwn: z.number().nullable().describe('newest rate: units for one of the own currency'),
          since: z.string().nullable(),
          first: z.string().nullable(),
        }),
      ),
      days: z.array(z.strictObject({ day: z.string(), rates: z.record(z.string(), z.number()) })),
      next: z.string().nullable().describe('value of “before” for older days'),
    }),
  }),
  'PUT /rates/:code/:day': contract({
    section: 'Workspace',
    does: 'Set the rate of a currency from a day on',
    params: zRateParams,
    body: z.strictObject({ perOwn: z.number().positive().max(1e9).describe('units for one of the own currency') }),
    answer: zOk,
  }),
  'DELETE /rates/:code/:day': contract({
    section: 'Workspace',
    does: 'Delete a rate',
    params: zRateParams,
    answer: zOk,
  }),
  'POST /rates/preview': contract({
    section: 'Workspace',
    does: 'Preview a file of rates',
    more: 'CSV in the layout of the European Central Bank. Nothing is saved.',
    most: 8_000_000,
    body: zRatesText,
    answer: zRatesPlan,
  }),
  'POST /rates/files': contract({
    section: 'Workspace',
    does: 'Import a file of rates',
    more: 'CSV in the layout of the European Central Bank. Replaces the rates of the same days.',
    most: 8_000_000,
    body: zRatesText,
    answer: zRatesPlan,
  }),
  'PUT /rates/source': contract({
    section: 'Workspace',
    does: 'Choose who delivers rates on working days',
    body: z.strictObject({ from: z.enum(RATES_FROM).nullable().describe('null for no one') }),
    answer: zOk,
  }),
  'GET /people': contract({
    section: 'People',
    does: 'List people',
    answer: z.strictObject({ people: z.array(zPerson) }),
  }),
  'POST /people': contract({
    section: 'People',
    does: 'Add a person with an initial password',
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
  'GET /people/:id/planned': contract({
    section: 'People',
    does: 'Show what is planned for a person',
    more: 'To be read before a person is made inactive.',
    params: z.object({ id: zPersonId }),
    answer: z.strictObject({
      lines: z.array(z.string()),
      then: z.string().describe('where new tasks for the person go'),
    }),
  }),
  'PATCH /people/:id': contract({
    section: 'People',
    does: 'Update a person',
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
    does: 'List backups',
    answer: z.strictObject({
      backups: z.array(z.looseObject({ name: z.string(), bytes: z.number(), atMs: zInstant })),
    }),
  }),
  'POST /backups': contract({
    section: 'Workspace',
    does: 'Create a backup',
    more: 'Returns when the copy has been verified.',
    answer: z.looseObject({ name: z.string() }),
  }),
} as const
