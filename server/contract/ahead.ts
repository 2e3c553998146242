import { z } from 'zod'
import { contract, zId, zInstant, zObject, zRef } from './contract'

const zAheadItem = z.union([
  z.strictObject({ wait: zId }).describe('what a run waits for'),
  z
    .strictObject({
      rule: zId,
      trigger: z.string().max(40),
      ref: zRef,
      occurrence: z.string().max(300),
      dueMs: zInstant,
    })
    .describe('the moment of a record that has not come yet'),
])

const zAheadLine = z
  .strictObject({
    key: z.string(),
    kind: z
      .enum(['wait', 'task', 'start', 'again'])
      .describe(
        '`wait` a run goes on, `task` a task that was put off, `start` a date comes, `again` a recurring moment for all that match',
      ),
    dueMs: zInstant.nullable().describe('null for what is waited for however long it takes'),
    ruleId: zId,
    ruleName: z.string(),
    ref: zRef.nullable(),
    recordName: z.string(),
    ownerId: z.string().nullable(),
    what: z.string().describe('what happens then'),
    count: z.number().int().nullable().describe('for a recurring moment, how many records match now'),
    runId: zId.nullable(),
    moved: z.string().nullable().describe('who put it off'),
    item: zAheadItem.nullable(),
  })
  .meta({ id: 'Ahead' })

const zDayCounts = z.array(z.number().int())

export const ahead = {
  'GET /ahead': contract({
    section: 'Rules',
    does: 'What will happen later over all rules, soonest first',
    more: 'Waiting runs and tasks, dates that come for records whose conditions hold now, and recurring moments. For the next 92 days unless told otherwise.',
    query: z.object({
      from: z.coerce.number().int().optional(),
      to: z.coerce.number().int().optional(),
      rule: z.coerce.number().int().positive().optional(),
      owner: z.string().max(100).optional(),
      object: zObject.optional(),
      record: z.coerce.number().int().positive().optional(),
      limit: z.coerce.number().int().min(1).max(1000).default(300),
    }),
    answer: z.strictObject({
      lines: z.array(zAheadLine),
      total: z.number().int(),
      more: z.boolean().describe('whether there may be more than were counted'),
    }),
  }),
  'GET /ahead/load': contract({
    section: 'Rules',
    does: 'The tasks that rules will make, by whoever gets them and the day they are due',
    more: 'What runs now, rehearsed from now on: runs that wait, dates that come, days that come again.',
    query: z.object({ days: z.coerce.number().int().min(1).max(92).default(14) }),
    answer: z.strictObject({
      atMs: zInstant,
      days: z.array(z.string()),
      owners: z.array(z.strictObject({ id: z.string(), counts: zDayCounts })),
    }),
  }),
  'GET /ahead/grid': contract({
    section: 'Rules',
    does: 'How much is ahead, by owner and day',
    query: z.object({
      days: z.coerce.number().int().min(1).max(92).default(14),
      rule: z.coerce.number().int().positive().optional(),
    }),
    answer: z.strictObject({
      days: z.array(z.string()),
      owners: z.array(z.strictObject({ id: z.string().nullable(), counts: zDayCounts })),
      tasks: z
        .array(z.strictObject({ id: z.string(), counts: zDayCounts }))
        .describe('tasks that are open already, by the day they are due'),
      total: z.number().int(),
      more: z.boolean(),
    }),
  }),
  'POST /ahead': contract({
    section: 'Rules',
    does: 'Ends, puts off or does now what is ahead',
    more: 'A date that is called off or put off counts as come: the same moment does not start the rule again.',
    body: z.strictObject({
      act: z.enum(['end', 'now', 'postpone']),
      items: z.array(zAheadItem).min(1).max(500),
      toMs: zInstant.optional().describe('to when it is put off'),
      reason: z.string().trim().max(500).default(''),
    }),
    answer: z.strictObject({ done: z.number().int(), gone: z.number().int().describe('what was no longer there') }),
  }),
} as const
