import { z } from 'zod'
import { RUN_STATES } from '../../core/engine/world'
import { QUESTION_TYPES } from '../../core/rules/triggers/by-hand'
import { zFilterGroup } from './records'
import { contract, zId, zIdParam, zInstant, zNext, zObject, zPaging, zRef, zRefParams, zValues } from './contract'
import { zState, zSeen } from './rules'

const zRunLine = z
  .strictObject({
    id: zId,
    atMs: zInstant,
    ruleId: zId,
    ruleName: z.string(),
    ref: zRef,
    recordName: z.string(),
    state: z.enum(RUN_STATES),
    because: z.string().describe('what started it'),
    outcome: z.string().describe('what it did, or why it did nothing'),
  })
  .meta({ id: 'Run' })

const zPeriod = z.strictObject({ fromMs: zInstant, toMs: zInstant.describe('not part of it') })

const zUndo = z.strictObject({
  undone: z.array(z.string()).describe('what goes back'),
  left: z.array(z.string()).describe('what stays, and why'),
  already: z
    .strictObject({ person: z.string(), atMs: zInstant })
    .nullable()
    .describe('set when it was taken back before'),
})

const zUndoSurvey = z.strictObject({
  runs: z.number().int(),
  undone: z.number().int().describe('of those, how many have something that goes back'),
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
  questions: z.array(
    z.strictObject({
      key: z.string(),
      label: z.string(),
      type: z.enum(QUESTION_TYPES),
      choices: z.array(z.string()),
      required: z.boolean(),
    }),
  ),
  keeps: z.string().nullable().describe('the condition that keeps the record out, if one does'),
})

export const runs = {
  'GET /rules/:id/jobs': contract({
    section: 'Rules',
    does: 'Work of a rule over many records, the newest first, and whether it is paused',
    params: zIdParam,
    answer: z.strictObject({
      jobs: z.array(
        z.strictObject({
          id: zId,
          what: z.enum(['through', 'hand', 'undo', 'held']),
          state: z.enum(['running', 'stopped', 'done']),
          done: z.number().int(),
          total: z.number().int(),
          left: z.array(z.string()).describe('what could not be taken back'),
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
          held: z.number().int().describe('what would have started it since'),
        })
        .nullable(),
    }),
  }),
  'POST /rule-jobs/:id': contract({
    section: 'Rules',
    does: 'Stops work of a rule over many records, or goes on with it',
    params: zIdParam,
    body: z.strictObject({ act: z.enum(['stop', 'goOn']) }),
    answer: z.strictObject({ state: z.enum(['running', 'stopped', 'done']) }),
  }),
  'POST /rules/:id/pause': contract({
    section: 'Rules',
    does: 'Lets a paused rule go on',
    more: 'What would have started it meanwhile is done, or dropped.',
    params: zIdParam,
    body: z.strictObject({ act: z.enum(['goOn', 'drop']) }),
    answer: z.strictObject({ job: zId.nullable() }),
  }),
  'POST /rules/:id/undo/preview': contract({
    section: 'Runs',
    does: 'What taking back everything that a rule did in a period would do',
    params: zIdParam,
    body: zPeriod,
    answer: zUndoSurvey,
  }),
  'POST /rules/:id/undo': contract({
    section: 'Runs',
    does: 'Takes back everything that a rule did in a period',
    more: 'In the background, newest first. What something newer stands on stays and is named.',
    params: zIdParam,
    body: zPeriod,
    answer: z.strictObject({ job: zId }),
  }),
  'GET /runs/:id/undo': contract({
    section: 'Runs',
    does: 'What taking a run back would do',
    params: zIdParam,
    answer: zUndo,
  }),
  'POST /runs/:id/undo': contract({
    section: 'Runs',
    does: 'Takes a run back',
    more: 'As a change by whoever does it, that no rule looks at.',
    params: zIdParam,
    answer: zUndo,
  }),
  'POST /starts/:object': contract({
    section: 'Rules',
    does: 'Starts a rule by hand for all records that match',
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
  'GET /starts/:object': contract({
    section: 'Rules',
    does: 'The rules that can be started by hand for a kind of record',
    params: z.object({ object: zObject }),
    answer: z.strictObject({ buttons: z.array(zButton) }),
  }),
  'GET /records/:object/:id/starts': contract({
    section: 'Rules',
    does: 'The rules that can be started by hand for a record, with the facts that each shows',
    params: zRefParams,
    answer: z.strictObject({ buttons: z.array(zButton) }),
  }),
  'POST /records/:object/:id/starts': contract({
    section: 'Rules',
    does: 'Starts a rule by hand for a record',
    params: zRefParams,
    body: z.strictObject({
      rule: zId,
      trigger: z.string().max(40),
      answers: zValues.default({}).describe('by the keys of its questions'),
    }),
    answer: z.strictObject({
      run: zId.nullable().describe('null when the rule is not started after all'),
      state: z.enum(RUN_STATES).nullable(),
      text: z.string().describe('what it did, or why it did nothing'),
    }),
  }),
  'GET /records/:object/:id/rules': contract({
    section: 'Rules',
    does: 'The rules about a record, each with what it last did for it',
    params: zRefParams,
    answer: z.strictObject({
      rules: z.array(z.strictObject({ ruleId: zId, name: z.string(), state: zState, last: zRunLine.nullable() })),
    }),
  }),
  'GET /records/:object/:id/rules/:rule': contract({
    section: 'Rules',
    does: 'Why a rule ran for a record, or why it did not',
    params: zRefParams.extend({ rule: z.coerce.number().int().positive() }),
    more: 'When it did not run, `seen` holds what its conditions would have seen at the last change that starts it, as far as history tells, and otherwise now.',
    answer: z.strictObject({
      ruleId: zId,
      ruleName: z.string(),
      state: zState,
      ran: z.boolean(),
      answer: z.string().describe('in one sentence'),
      runs: z.array(zRunLine),
      seen: z.array(zSeen),
      seenAt: zInstant.nullable().describe('the moment of the values; null for now'),
      mode: z.enum(['all', 'any', 'none']),
      holds: z.boolean(),
    }),
  }),
  'GET /runs': contract({
    section: 'Runs',
    does: 'What rules did, newest first',
    query: z.object({
      rule: z.coerce.number().int().positive().optional(),
      state: z.enum(RUN_STATES).optional(),
      all: z
        .enum(['true', 'false'])
        .default('false')
        .describe('`true` gives runs that ended at their conditions as well'),
      ...zPaging,
    }),
    answer: z.strictObject({ lines: z.array(zRunLine), next: zNext }),
  }),
  'POST /run-retries': contract({
    section: 'Runs',
    does: 'Takes failed runs on from the step at which each failed',
    more: 'What was done stays and is not done again. Runs that did not fail are left alone.',
    body: z.strictObject({ ids: z.array(zId).min(1).max(200) }),
    answer: z.strictObject({
      done: z.number().int(),
      failed: z.number().int().describe('those that failed again'),
      left: z.number().int().describe('those that had not failed, or whose conditions do not hold'),
    }),
  }),
  'GET /runs/:id': contract({
    section: 'Runs',
    does: 'One run: what it saw and wrote',
    more: 'Whoever may see the record may see why it is as it is.',
    params: zIdParam,
    answer: zRunLine.extend({
      version: z.number().int(),
      endedMs: zInstant.nullable(),
      triggers: z.array(z.string()),
      doer: z.looseObject({ by: z.string(), name: z.string() }).nullable(),
      mode: z.enum(['all', 'any', 'none']),
      seen: z
        .array(z.looseObject({ text: z.string(), holds: z.boolean(), value: z.string() }))
        .describe('each condition with the value it saw'),
      stop: z.string().nullable(),
      waits: z
        .array(z.strictObject({ id: zId, stepId: z.string(), say: z.string() }))
        .describe('what it waits for now'),
      undone: z.strictObject({ person: z.string(), atMs: zInstant }).nullable().describe('set once it was taken back'),
      steps: z.array(z.looseObject({ id: z.string(), sentence: z.string(), result: z.string() })),
      messages: z.array(
        z.strictObject({
          recipient: z.string(),
          subject: z.string(),
          state: z.string(),
          deliveredAt: zInstant.nullable(),
        }),
      ),
      chain: z
        .array(z.looseObject({ what: z.enum(['change', 'run']), id: zId, depth: z.number().int(), text: z.string() }))
        .describe('the change that began it and everything that followed'),
    }),
  }),
} as const
