import { z } from 'zod'
import { contract, zAbout, zAboutRef, zId, zInstant } from './contract'

const zAheadItem = z.union([
  z.strictObject({ wait: zId }).describe('what a run is waiting for'),
  z
    .strictObject({
      rule: zId,
      trigger: z.string().max(40),
      ref: zAboutRef,
      occurrence: z.string().max(300),
      dueMs: zInstant,
    })
    .describe('an upcoming time of a record'),
])

const zAheadLine = z
  .strictObject({
    key: z.string(),
    kind: z
      .enum(['wait', 'task', 'start', 'again'])
      .describe(
        '`wait` a run continues, `task` a task is created later, `start` a date is reached, `again` a schedule',
      ),
    dueMs: zInstant.nullable().describe('null if there is no time limit'),
    ruleId: zId,
    ruleName: z.string(),
    ref: zAboutRef.nullable(),
    recordName: z.string(),
    ownerId: z.string().nullable(),
    what: z.string().describe('what happens then'),
    count: z
      .number()
      .int()
      .nullable()
      .describe('for a schedule, how many records match now; `null` for a rule about no record'),
    runId: zId.nullable(),
    moved: z.string().nullable().describe('who postponed it'),
    item: zAheadItem.nullable(),
  })
  .meta({ id: 'Ahead' })

const zDayCounts = z.array(z.number().int())

export const ahead = {
  'GET /ahead': contract({
    section: 'Rules',
    does: 'List upcoming events',
    more: 'Waiting runs and tasks, upcoming dates of records that meet the conditions now, and schedules. Default: next 92 days.',
    query: z.object({
      from: z.coerce.number().int().optional(),
      to: z.coerce.number().int().optional(),
      rule: z.coerce.number().int().positive().optional(),
      owner: z.string().max(100).optional(),
      object: zAbout.optional(),
      record: z.coerce.number().int().positive().optional(),
      limit: z.coerce.number().int().min(1).max(1000).default(300),
    }),
    answer: z.strictObject({
      lines: z.array(zAheadLine),
      total: z.number().int(),
      more: z.boolean().describe('whether there may be more than counted'),
    }),
  }),
  'GET /ahead/load': contract({
    section: 'Rules',
    does: 'Forecast tasks by person and due date',
    more: 'A rehearsal of all rules that are on: waiting runs, upcoming dates and schedules.',
    query: z.object({ days: z.coerce.number().int().min(1).max(92).default(14) }),
    answer: z.strictObject({
      atMs: zInstant,
      days: z.array(z.string()),
      owners: z.array(z.strictObject({ id: z.string(), counts: zDayCounts })),
    }),
  }),
  'GET /ahead/grid': contract({
    section: 'Rules',
    does: 'Count upcoming events by owner and day',
    query: z.object({
      days: z.coerce.number().int().min(1).max(92).default(14),
      rule: z.coerce.number().int().positive().optional(),
    }),
    answer: z.strictObject({
      days: z.array(z.string()),
      owners: z.array(z.strictObject({ id: z.string().nullable(), counts: zDayCounts })),
      tasks: z.array(z.strictObject({ id: z.string(), counts: zDayCounts })).describe('Open tasks by due date'),
      total: z.number().int(),
      more: z.boolean(),
    }),
  }),
  'POST /ahead': contract({
    section: 'Rules',
    does: 'End, postpone or run upcoming events now',
    more: 'An ended or postponed date counts as reached and does not trigger the rule again.',
    body: z.strictObject({
      act: z.enum(['end', 'now', 'postpone']),
      items: z.array(zAheadItem).min(1).max(500),
      toMs: zInstant.optional().describe('new time when postponing'),
      reason: z.string().trim().max(500).default(''),
    }),
    answer: z.strictObject({ done: z.number().int(), gone: z.number().int().describe('items that no longer existed') }),
  }),
} as const
