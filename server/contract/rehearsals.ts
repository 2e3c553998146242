import { z } from 'zod'
import { zFilterGroup } from './records'
import { contract, zAbout, zAboutRef, zActivityKind, zId, zIdParam, zInstant, zObject, zOk, zValues } from './contract'
import { zDocument, zPassedDays } from './rules'

const zScript = z
  .array(
    z.strictObject({
      day: z.int().min(0).max(800),
      minute: z.int().min(0).max(1439),
      id: zId.nullable().describe('a record; null for all of them'),
      values: zValues.default({}),
      does: z
        .strictObject({ by: zObject, kind: zActivityKind, about: z.string().max(500).default('') })
        .optional()
        .describe('an activity of the record, or of records of this type that are linked to it'),
      finishes: z
        .strictObject({
          title: z.string().max(300),
          outcome: z.string().max(1000).default(''),
          answers: zValues.default({}),
        })
        .optional()
        .describe('a task of the record whose title begins so is completed, with answers where it asks for something'),
    }),
  )
  .max(100)
  .default([])
  .describe('assumed changes')

export const rehearsals = {
  'GET /cases': contract({
    section: 'Rules',
    does: 'List test cases',
    query: z.object({ rule: z.coerce.number().int().positive().optional() }),
    answer: z.strictObject({
      cases: z.array(
        z.strictObject({
          id: zId,
          name: z.string(),
          changedBy: z.string(),
          changedAt: zInstant,
          start: z.string(),
          until: z.string(),
          records: z.number().int(),
          rules: z.array(z.strictObject({ id: zId, name: z.string() })),
        }),
      ),
    }),
  }),
  'POST /cases': contract({
    section: 'Rules',
    does: 'Create a test case from current records',
    more: 'Includes linked records, 300 at most. Runs before one of its rules is published.',
    body: z.strictObject({
      name: z.string().trim().min(1).max(300),
      rules: z
        .array(z.strictObject({ rule: zId }))
        .min(1)
        .max(20),
      ids: z.array(zId).min(1).max(50),
      days: z.int().min(1).max(800),
      script: zScript,
    }),
    answer: z.strictObject({ id: zId }),
  }),
  'POST /cases/runs': contract({
    section: 'Rules',
    does: 'Run test cases',
    more: 'Nothing is written.',
    body: z.strictObject({
      rule: zId.optional(),
      document: zDocument.optional().describe('the rule with unsaved edits'),
    }),
    answer: z.strictObject({
      cases: z.array(
        z.strictObject({
          id: zId,
          name: z.string(),
          wrong: z.array(z.string()).describe('differences from the expected result; empty if it passed'),
          starts: z.number().int(),
          tasks: z.number().int(),
        }),
      ),
    }),
  }),
  'GET /cases/:id': contract({
    section: 'Rules',
    does: 'Get a test case as text',
    params: zIdParam,
    answer: z.strictObject({ id: zId, name: z.string(), text: z.string(), file: z.string() }),
  }),
  'PUT /cases/:id': contract({
    section: 'Rules',
    does: 'Replace a test case',
    more: 'Error 422 with the line or path if it can’t be run. It keeps using the workspace’s rules.',
    params: zIdParam,
    body: z.strictObject({ text: z.string().max(500_000) }),
    answer: zOk,
  }),
  'DELETE /cases/:id': contract({ section: 'Rules', does: 'Delete a test case', params: zIdParam, answer: zOk }),
  'POST /cases/:id/accept': contract({
    section: 'Rules',
    does: 'Accept the current result as expected',
    params: zIdParam,
    answer: zOk,
  }),
  'POST /rehearsals': contract({
    section: 'Rules',
    does: 'Start a rehearsal',
    more: 'Returns immediately. Nothing is changed or sent. Drafts and unsaved edits can be included.',
    body: z.strictObject({
      rules: z
        .array(
          z.strictObject({
            rule: zId,
            document: zDocument.optional().describe('the rule with unsaved edits; the draft if omitted'),
          }),
        )
        .min(1)
        .max(20),
      ids: z.array(zId).max(5000).optional().describe('records to use'),
      filter: zFilterGroup.optional().describe('or a filter for them; all records if both are omitted'),
      days: z.int().min(1).max(800).default(90),
      back: z.boolean().default(false).describe('replay the changes of the last days instead'),
      script: zScript,
      compare: z.boolean().default(false).describe('Compare with published version'),
    }),
    answer: z.strictObject({ id: zId }),
  }),
  'GET /rehearsals/:id': contract({
    section: 'Rules',
    does: 'Get rehearsal progress',
    params: zIdParam,
    answer: z.strictObject({
      id: zId,
      name: z.string(),
      state: z.enum(['running', 'done', 'stopped', 'failed']),
      progress: z.number().describe('from 0 to 1'),
      text: z.string().describe('why it failed'),
    }),
  }),
  'GET /rehearsals/:id/lines': contract({
    section: 'Rules',
    does: 'Get rehearsal results',
    more: 'Available for the last 12 rehearsals until a restart.',
    params: zIdParam,
    query: z.object({
      object: zAbout.optional(),
      record: z.coerce.number().int().positive().optional(),
      day: z.iso.date().optional(),
      owner: z.string().max(100).optional(),
      limit: z.coerce.number().int().min(1).max(2000).default(400),
    }),
    answer: z.looseObject({
      fromMs: zInstant,
      toMs: zInstant,
      endMs: zInstant,
      lines: z.array(z.looseObject({ atMs: zInstant, say: z.string() })),
      warnings: z.array(z.looseObject({ kind: z.string(), text: z.string() })),
    }),
  }),
  'GET /rehearsals/:id/runs/:run': contract({
    section: 'Rules',
    does: 'Get one rehearsed run',
    more: 'Available for the last 3 rehearsals.',
    params: z.object({ id: z.coerce.number().int().positive(), run: z.coerce.number().int().positive() }),
    answer: z.looseObject({
      run: z.looseObject({ id: zId, ruleName: z.string(), state: z.string() }),
      lines: z.array(
        z.looseObject({ id: z.string(), sentence: z.string(), result: z.string(), atMs: zInstant.nullable() }),
      ),
      texts: z.array(
        z.strictObject({
          atMs: zInstant,
          what: z.enum(['task', 'mail', 'notice']),
          to: z.string(),
          subject: z.string(),
          body: z.string(),
        }),
      ),
    }),
  }),
  'POST /rules/:id/forecasts': contract({
    section: 'Rules',
    does: 'Start a forecast of the draft',
    more: 'A rehearsal of the next days as if it were switched on now. Returns immediately; see `GET /forecasts/{id}`.',
    params: zIdParam,
    body: z.strictObject({
      days: z.int().min(1).max(92).default(30),
      backfill: z.boolean().default(false).describe('also for existing records; see `GET /rules/{id}/existing`'),
      again: z.boolean().default(false).describe('of those, also the ones it already ran for'),
      passedDays: zPassedDays,
    }),
    answer: z.strictObject({ id: zId }),
  }),
  'GET /forecasts/:id': contract({
    section: 'Rules',
    does: 'Get a forecast, or how far it is',
    more: 'Available for the last 12 forecasts until a restart.',
    params: zIdParam,
    answer: z.strictObject({
      state: z.enum(['running', 'done', 'stopped', 'failed']),
      progress: z.number().describe('from 0 to 1'),
      text: z.string().describe('why it failed'),
      forecast: z
        .strictObject({
          object: zAbout,
          fromMs: zInstant,
          toMs: zInstant,
          endMs: zInstant.describe('before `toMs` if it ended early'),
          cut: z.string().nullable().describe('why it ended early'),
          starts: z.number().int(),
          records: z.number().int(),
          keptOut: z.number().int().describe('runs that conditions stopped'),
          tasks: z.number().int(),
          notices: z.number().int(),
          emails: z.number().int(),
          byDay: z.array(z.tuple([z.string(), z.number().int()])).describe('runs by day'),
          people: z.array(z.strictObject({ id: z.string(), tasks: z.number().int(), notices: z.number().int() })),
          most: z.array(z.strictObject({ ref: zAboutRef, name: z.string(), starts: z.number().int() })),
          limits: z
            .array(z.strictObject({ code: z.enum(['manyRecords', 'manyToOne', 'sameText']), text: z.string() }))
            .describe('more than anyone would want unseen'),
        })
        .nullable()
        .describe('null while it is running, and when it is no longer kept'),
    }),
  }),
  'POST /rehearsals/:id/stop': contract({
    section: 'Rules',
    does: 'Stop a rehearsal',
    params: zIdParam,
    answer: zOk,
  }),
} as const
