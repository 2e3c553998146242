import { z } from 'zod'
import { zFilterGroup } from './records'
import { contract, zId, zIdParam, zInstant, zObject, zOk, zValues } from './contract'
import { zDocument } from './rules'

const zScript = z
  .array(
    z.strictObject({
      day: z.int().min(0).max(800),
      minute: z.int().min(0).max(1439),
      id: zId.nullable().describe('a record; null for each that takes part'),
      values: zValues,
    }),
  )
  .max(100)
  .default([])
  .describe('what is assumed to happen')

export const rehearsals = {
  'GET /cases': contract({
    section: 'Rules',
    does: 'Rehearsals that were kept with what is expected of them',
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
    does: 'Keeps records as they are now, and what rules come to on them from now on, as a case',
    more: 'With what is linked to them, up to 300 records. It is run again before a rule of it is published.',
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
    does: 'Runs the cases of a rule, or all of them, by the rules as they are written now',
    more: 'Nothing is written.',
    body: z.strictObject({
      rule: zId.optional(),
      document: zDocument.optional().describe('the rule as it is being edited'),
    }),
    answer: z.strictObject({
      cases: z.array(
        z.strictObject({
          id: zId,
          name: z.string(),
          wrong: z.array(z.string()).describe('what did not come as expected; empty when all did'),
          starts: z.number().int(),
          tasks: z.number().int(),
        }),
      ),
    }),
  }),
  'GET /cases/:id': contract({
    section: 'Rules',
    does: 'A case as text to be edited, and as a file for the command line',
    params: zIdParam,
    answer: z.strictObject({ id: zId, name: z.string(), text: z.string(), file: z.string() }),
  }),
  'PUT /cases/:id': contract({
    section: 'Rules',
    does: 'Puts a text in place of a case',
    more: 'Refused (422) with the line or the path when it cannot be run. Its rules stay those of the workspace.',
    params: zIdParam,
    body: z.strictObject({ text: z.string().max(2_000_000) }),
    answer: zOk,
  }),
  'DELETE /cases/:id': contract({ section: 'Rules', does: 'Takes a case away', params: zIdParam, answer: zOk }),
  'POST /cases/:id/accept': contract({
    section: 'Rules',
    does: 'Expects of a case from now on what comes by the rules as they are written now',
    params: zIdParam,
    answer: zOk,
  }),
  'POST /rehearsals': contract({
    section: 'Rules',
    does: 'Begins a rehearsal: rules on a copy of the records, with a clock that jumps',
    more: 'Answers at once; nothing is written and nothing leaves. Drafts and unsaved edits can take part.',
    body: z.strictObject({
      rules: z
        .array(
          z.strictObject({
            rule: zId,
            document: zDocument.optional().describe('an edit that is not saved; otherwise the draft'),
          }),
        )
        .min(1)
        .max(20),
      ids: z.array(zId).max(5000).optional().describe('the records that take part'),
      filter: zFilterGroup.optional().describe('or those that match; all when neither is given'),
      days: z.int().min(1).max(800).default(90),
      back: z.boolean().default(false).describe('goes through what really happened in the last days instead'),
      script: zScript,
      compare: z.boolean().default(false).describe('beside the version that runs'),
    }),
    answer: z.strictObject({ id: zId }),
  }),
  'GET /rehearsals/:id': contract({
    section: 'Rules',
    does: 'How far a rehearsal has come',
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
    does: 'What came of a rehearsal, in the order in which it would happen',
    more: 'Kept for the last dozen, until the server stops.',
    params: zIdParam,
    query: z.object({
      object: zObject.optional(),
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
    does: 'One run of a rehearsal as its sheet, and every text as it would read',
    more: 'Of the last three rehearsals.',
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
  'POST /rehearsals/:id/stop': contract({
    section: 'Rules',
    does: 'Stops a rehearsal; what has come of it so far is shown',
    params: zIdParam,
    answer: zOk,
  }),
} as const
