import { z } from 'zod'
import { RUN_STATES } from '../../core/engine/world'
import { CATEGORIES } from '../../core/language/category'
import { zQuestion } from './asks'
import { zFilterGroup } from './records'
import { contract, zAboutRef, zId, zIdParam, zInstant, zNext, zObject, zPaging, zRefParams, zValues } from './contract'
import { zState, zSeen } from './rules'

const zRunLine = z
  .strictObject({
    id: zId,
    atMs: zInstant.describe('when it began'),
    lastMs: zInstant.describe('when it did something last; runs are listed by it'),
    ruleId: zId,
    ruleName: z.string(),
    ref: zAboutRef,
    recordName: z.string(),
    state: z.enum(RUN_STATES),
    because: z.string().describe('trigger'),
    outcome: z.string().describe('result, or the reason for none'),
    more: z.number().int().describe('other runs that this one stands for, all missed on the same day'),
    category: z.enum(CATEGORIES).nullable().describe('the kind of thing it did'),
  })
  .meta({ id: 'Run' })

const zPeriod = z.strictObject({ fromMs: zInstant, toMs: zInstant.describe('exclusive') })

const zUndo = z.strictObject({
  undone: z.array(z.string()).describe('what is undone'),
  left: z.array(z.string()).describe('what can’t be undone, and why'),
  already: z.strictObject({ person: z.string(), atMs: zInstant }).nullable().describe('set if it was already undone'),
})

const zUndoSurvey = z.strictObject({
  runs: z.number().int(),
  undone: z.number().int().describe('of these, runs that can be undone'),
  fields: z.number().int(),
  tasks: z.number().int(),
  links: z.number().int(),
  records: z.number().int(),
  left: z.array(z.strictObject({ name: z.string(), what: z.string() })),
  leftCount: z.number().int(),
})

const zButton = z.strictObject({
  ruleId: zId,
  ruleName: z.string(),
  trigger: z.string(),
  button: z.string(),
  facts: z.array(z.strictObject({ label: z.string(), value: z.string() })),
  questions: z.array(zQuestion),
  keeps: z.string().nullable().describe('the first condition that is not true, if any'),
})

export const runs = {
  'GET /rules/:id/jobs': contract({
    section: 'Rules',
    does: 'List a rule’s bulk jobs and pause state',
    params: zIdParam,
    answer: z.strictObject({
      jobs: z.array(
        z.strictObject({
          id: zId,
          what: z.enum(['backfill', 'hand', 'undo', 'held']),
          state: z.enum(['running', 'stopped', 'done']),
          done: z.number().int(),
          total: z.number().int(),
          left: z.array(z.string()).describe('what could not be undone'),
          person: z.string(),
          createdAt: zInstant,
          endedAt: zInstant.nullable(),
        }),
      ),
      paused: z
        .strictObject({
          atMs: zInstant,
          starts: z.number().int(),
          usual: z.number(),
          messages: z.number().int().nullable().describe('messages sent in an hour, if that was why'),
          held: z.number().int().describe('triggers since then'),
        })
        .nullable(),
    }),
  }),
  'POST /rule-jobs/:id': contract({
    section: 'Rules',
    does: 'Stop or continue a bulk job',
    params: zIdParam,
    body: z.strictObject({ act: z.enum(['stop', 'continue']) }),
    answer: z.strictObject({ state: z.enum(['running', 'stopped', 'done']) }),
  }),
  'POST /rules/:id/pause': contract({
    section: 'Rules',
    does: 'Resume a paused rule',
    more: 'Triggers in the meantime are run or dropped.',
    params: zIdParam,
    body: z.strictObject({ act: z.enum(['continue', 'drop']) }),
    answer: z.strictObject({ job: zId.nullable() }),
  }),
  'POST /rules/:id/undo/preview': contract({
    section: 'Runs',
    does: 'Preview undo for a period',
    params: zIdParam,
    body: zPeriod,
    answer: zUndoSurvey,
  }),
  'POST /rules/:id/undo': contract({
    section: 'Runs',
    does: 'Undo a rule’s changes in a period',
    more: 'In the background, newest first. Values that have changed since are kept and listed.',
    params: zIdParam,
    body: zPeriod,
    answer: z.strictObject({ job: zId }),
  }),
  'GET /runs/:id/undo': contract({
    section: 'Runs',
    does: 'Preview undo of a run',
    params: zIdParam,
    answer: zUndo,
  }),
  'POST /runs/:id/undo': contract({
    section: 'Runs',
    does: 'Undo a run',
    more: 'Counted as your change. Rules are not triggered.',
    params: zIdParam,
    answer: zUndo,
  }),
  'POST /manual-runs/:object': contract({
    section: 'Rules',
    does: 'Run a rule by hand for matching records',
    params: z.object({ object: zObject }),
    body: z.strictObject({
      rule: zId,
      trigger: z.string().max(40),
      filter: zFilterGroup,
      words: z.string().max(100).default(''),
      answers: zValues.default({}),
    }),
    answer: z.strictObject({ job: zId, total: z.number().int() }),
  }),
  'GET /manual-runs/:object': contract({
    section: 'Rules',
    does: 'List rules that can be run by hand for a record type',
    params: z.object({ object: zObject }),
    answer: z.strictObject({
      buttons: z.array(zButton),
      others: z
        .array(z.strictObject({ ruleId: zId, ruleName: z.string(), when: z.string() }))
        .describe('rules that are on and start otherwise; see `POST /rules/{id}/existing`'),
    }),
  }),
  'GET /records/:object/:id/manual-runs': contract({
    section: 'Rules',
    does: 'List rules that can be run by hand for a record',
    params: zRefParams,
    answer: z.strictObject({ buttons: z.array(zButton) }),
  }),
  'POST /records/:object/:id/manual-runs': contract({
    section: 'Rules',
    does: 'Run a rule by hand for a record',
    params: zRefParams,
    body: z.strictObject({
      rule: zId,
      trigger: z.string().max(40),
      answers: zValues.default({}).describe('by question key'),
    }),
    answer: z.strictObject({
      run: zId.nullable().describe('null if the rule did not run'),
      state: z.enum(RUN_STATES).nullable(),
      text: z.string().describe('result, or the reason for none'),
    }),
  }),
  'GET /records/:object/:id/rules': contract({
    section: 'Rules',
    does: 'List rules for a record with their last run',
    params: zRefParams,
    answer: z.strictObject({
      rules: z.array(z.strictObject({ ruleId: zId, name: z.string(), state: zState, last: zRunLine.nullable() })),
    }),
  }),
  'GET /records/:object/:id/rules/:rule': contract({
    section: 'Rules',
    does: 'Explain why a rule ran or did not run',
    params: zRefParams.extend({ rule: z.coerce.number().int().positive() }),
    more: 'If it did not run, `seen` shows the conditions at the last matching change, or now if there was none.',
    answer: z.strictObject({
      ruleId: zId,
      ruleName: z.string(),
      state: zState,
      ran: z.boolean(),
      answer: z.string().describe('in one sentence'),
      runs: z.array(zRunLine),
      seen: z.array(zSeen),
      seenAt: zInstant.nullable().describe('time of the values; null for now'),
      mode: z.enum(['all', 'any', 'none']),
      holds: z.boolean(),
    }),
  }),
  'GET /runs': contract({
    section: 'Runs',
    does: 'List runs',
    query: z.object({
      rule: z.coerce.number().int().positive().optional(),
      state: z.enum(RUN_STATES).optional(),
      bundle: z.coerce.number().int().positive().optional().describe('runs that this run stands for, with it'),
      all: z.enum(['true', 'false']).default('false').describe('`true` includes runs that stopped at their conditions'),
      ...zPaging,
    }),
    answer: z.strictObject({ lines: z.array(zRunLine), next: zNext }),
  }),
  'POST /run-retries': contract({
    section: 'Runs',
    does: 'Retry failed runs from the failed step',
    more: 'Completed steps are not repeated. Runs that did not fail are skipped.',
    body: z.strictObject({ ids: z.array(zId).min(1).max(200) }),
    answer: z.strictObject({
      done: z.number().int(),
      failed: z.number().int().describe('those that failed again'),
      left: z.number().int().describe('those that had not failed, or whose conditions are not true'),
    }),
  }),
  'GET /runs/:id': contract({
    section: 'Runs',
    does: 'Get a run',
    more: 'For anyone who can see the record.',
    params: zIdParam,
    answer: zRunLine.extend({
      version: z.number().int(),
      endedMs: zInstant.nullable(),
      triggers: z.array(z.string()),
      doer: z.looseObject({ by: z.string(), name: z.string() }).nullable(),
      mode: z.enum(['all', 'any', 'none']),
      seen: z
        .array(z.looseObject({ text: z.string(), holds: z.boolean(), value: z.string() }))
        .describe('each condition with the value it used'),
      stop: z.string().nullable(),
      waits: z
        .array(z.strictObject({ id: zId, stepId: z.string(), say: z.string() }))
        .describe('what it is waiting for'),
      undone: z.strictObject({ person: z.string(), atMs: zInstant }).nullable().describe('set if it was undone'),
      steps: z.array(z.looseObject({ id: z.string(), sentence: z.string(), result: z.string() })),
      messages: z.array(
        z.strictObject({
          recipient: z.string(),
          subject: z.string(),
          state: z.string(),
          deliveredAt: zInstant.nullable(),
        }),
      ),
      notes: z.array(z.string()).describe('what is not stored any more'),
      chain: z
        .array(z.looseObject({ what: z.enum(['change', 'run']), id: zId, depth: z.number().int(), text: z.string() }))
        .describe('the change that started it and everything that followed'),
    }),
  }),
} as const
