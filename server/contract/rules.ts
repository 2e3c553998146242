import { z } from 'zod'
import { DMN_MOST } from '../../core/formats/dmn'
import { RULE_TEXT_MOST } from '../../core/formats/rule-text'
import { SEVERITIES } from '../../core/rules/preflight/finding'
import { zTable } from '../../core/tables/table'
import { RUN_STATES } from '../../core/engine/world'
import { QUESTION_TYPES } from '../../core/rules/triggers/by-hand'
import { zFilterGroup } from './records'
import { contract, zId, zIdParam, zInstant, zNext, zObject, zOk, zPaging, zRef, zRefParams, zValues } from './contract'
import { zRule } from '../../core/rules/schema'

const zState = z.enum(['draft', 'on', 'off', 'archived'])
const zDocument = zRule.meta({ id: 'Rule' })
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

const zFinding = z
  .strictObject({
    kind: z.string(),
    severity: z.enum(SEVERITIES).describe('`grave` will go wrong, `likely` is hardly meant, `note` is good to know'),
    ruleId: zId,
    ruleName: z.string(),
    part: z.enum(['rule', 'trigger', 'condition', 'step', 'branch']).describe('what it is about'),
    id: z.string(),
    param: z.string(),
    text: z.string(),
    why: z.string(),
    fix: z.strictObject({ say: z.string(), rule: zDocument.describe('the rule with it mended') }).nullable(),
    others: z.array(zId).describe('the other rules that have to do with it'),
    key: z.string().describe('what it is told apart by when it is let stand'),
    accepted: z.strictObject({ reason: z.string(), person: z.string(), atMs: zInstant }).nullable(),
  })
  .meta({ id: 'Finding' })

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

const zSeen = z
  .looseObject({ id: z.string(), text: z.string(), value: z.string(), holds: z.boolean() })
  .describe('a condition with the value it saw')

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

export const rules = {
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
  'GET /rules': contract({
    section: 'Rules',
    does: 'Every rule as a line: its sentence, its state, and how it has been doing',
    answer: z.strictObject({
      rules: z.array(
        z.strictObject({
          id: zId,
          state: zState,
          name: z.string(),
          object: zObject,
          when: z.string(),
          onlyIf: z.string(),
          then: z.array(z.string()),
          order: z.number().int().describe('rules that start on the same go by it, then by age'),
          description: z.string(),
          triggers: z.array(z.string()).describe('kinds of what starts it'),
          fields: z.array(z.string()).describe('what it names, as deal.amount'),
          paused: z.boolean(),
          createdBy: z.string(),
          version: z.number().int().nullable(),
          unpublished: z.boolean(),
          problems: z.number().int(),
          changedBy: z.string(),
          changedAt: zInstant,
          pulse: z.array(z.number().int()).describe('runs a day over the last 30 days, oldest first'),
          runs: z.number().int(),
          failed: z.number().int(),
          lastAt: zInstant.nullable(),
        }),
      ),
    }),
  }),
  'POST /rules': contract({
    section: 'Rules',
    does: 'Begins a rule as a draft',
    more: 'New rules are off until somebody switches them on.',
    body: z.strictObject({ name: z.string().trim().min(1).max(200), object: zObject }),
    answer: z.strictObject({ id: zId }),
  }),
  'GET /rules/:id': contract({
    section: 'Rules',
    does: 'A rule with its draft',
    params: zIdParam,
    answer: z.strictObject({
      id: zId,
      state: zState,
      draft: zDocument,
      draftRev: z.number().int().describe('counts the saved edits'),
      version: z.number().int().nullable(),
      unpublished: z.boolean(),
      changedBy: z.string(),
      changedAt: zInstant,
      runs: z.number().int(),
      lastAt: zInstant.nullable(),
      waiting: z.number().int().describe('how many runs wait in it'),
      cases: z.number().int().describe('rehearsals of it that were kept'),
    }),
  }),
  'PUT /rules/:id/draft': contract({
    section: 'Rules',
    does: 'Saves the draft',
    more: 'Refused (409) when somebody saved another edit since `rev`, so that nobody’s work is overwritten unseen.',
    params: zIdParam,
    body: z.strictObject({ document: zDocument, rev: z.number().int().positive() }),
    answer: z.strictObject({ rev: z.number().int() }),
  }),
  'POST /rules/:id/state': contract({
    section: 'Rules',
    does: 'Switches a rule on, off, or puts it away',
    more: 'Switching on publishes the draft, and refuses (422) one that is not finished, and (409) one by which a case of it comes otherwise than expected, unless that is wanted.',
    params: zIdParam,
    body: z.strictObject({
      state: z.enum(['on', 'off', 'archived']),
      waiting: z
        .enum(['finish', 'end', 'move'])
        .default('finish')
        .describe(
          'what becomes of runs that wait, when it is switched off, put away or another version is published: they finish on their version, end, or (at publishing) go on by the new one where it still has their step',
        ),
      anyway: z.boolean().default(false).describe('publishes although cases come otherwise'),
      through: z.boolean().default(false).describe('lets the records through that match already, in the background'),
      note: z
        .string()
        .trim()
        .max(500)
        .default('')
        .describe('what is to be remembered of the version that this publishes'),
    }),
    answer: z.strictObject({
      state: z.enum(['on', 'off', 'archived']),
      version: z.number().int().nullable(),
      job: zId.nullable().describe('the work of letting records through'),
    }),
  }),
  'DELETE /rules/:id': contract({
    section: 'Rules',
    does: 'Deletes a rule for good',
    more: 'Only one that was put away and has never been on: whatever ran is told of by its runs, which name it.',
    params: zIdParam,
    answer: zOk,
  }),
  'GET /rules/:id/versions': contract({
    section: 'Rules',
    does: 'Every version of a rule, the newest first, with what each changed in words',
    params: zIdParam,
    answer: z.strictObject({
      draft: z.array(z.string()).describe('what the draft says differently from the newest version'),
      versions: z.array(
        z.strictObject({
          number: z.number().int(),
          atMs: zInstant,
          person: z.string(),
          note: z.string(),
          running: z.boolean(),
          changes: z.array(z.string()).describe('against the version before it'),
        }),
      ),
    }),
  }),
  'POST /rules/:id/versions/:version': contract({
    section: 'Rules',
    does: 'Makes an older version the draft again',
    more: 'What runs goes on until the draft is published. Refused (409) when somebody saved another edit since `rev`.',
    params: zIdParam.extend({ version: z.coerce.number().int().positive().describe('its number') }),
    body: z.strictObject({ rev: z.number().int().positive() }),
    answer: z.strictObject({ rev: z.number().int() }),
  }),
  'PUT /rules/:id/order': contract({
    section: 'Rules',
    does: 'Gives a rule another place among those that start on the same',
    params: zIdParam,
    body: z.strictObject({ order: z.number().int().min(0).max(1_000_000) }),
    answer: zOk,
  }),
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
  'GET /rules/:id/text': contract({
    section: 'Rules',
    does: 'A rule as a file or as readable text',
    more: 'The file holds the draft, or the version that runs, as the published schema describes it.',
    params: zIdParam,
    query: z.object({
      as: z.enum(['yaml', 'json', 'words']).default('yaml'),
      what: z.enum(['draft', 'version']).default('draft'),
    }),
    answer: z.string(),
    media: 'application/yaml',
  }),
  'POST /rules/files': contract({
    section: 'Rules',
    does: 'Begins a rule from a file',
    more: 'Takes YAML or JSON. Refused (422) with the line or the path and the reason; nothing is ever left out silently.',
    body: z.strictObject({
      text: z.string().max(RULE_TEXT_MOST),
      into: zId.optional().describe('puts it into the draft of this rule instead of beginning one'),
      rev: z.number().int().positive().optional().describe('the saved edit of that draft that it replaces'),
    }),
    answer: z.strictObject({ id: zId, rev: z.number().int(), document: zDocument }),
  }),
  'GET /rule-schema': contract({
    section: 'Rules',
    does: 'The JSON Schema of rule files',
    answer: z.looseObject({}),
    media: 'application/schema+json',
  }),
  'GET /preflight': contract({
    section: 'Rules',
    does: 'What reading all rules together brings to light',
    more: 'Rules that are put away are left out.',
    answer: z.strictObject({ findings: z.array(zFinding) }),
  }),
  'POST /preflight': contract({
    section: 'Rules',
    does: 'The same for one rule, unsaved edits included',
    body: z.strictObject({ ruleId: zId, document: zDocument }),
    answer: z.strictObject({ findings: z.array(zFinding) }),
  }),
  'POST /rules/:id/accepted-findings': contract({
    section: 'Rules',
    does: 'Lets a finding stand, with the reason',
    params: zIdParam,
    body: z.strictObject({ key: z.string().min(1).max(2000), reason: z.string().trim().min(1).max(500) }),
    answer: zOk,
  }),
  'DELETE /rules/:id/accepted-findings': contract({
    section: 'Rules',
    does: 'Takes a finding up again',
    params: zIdParam,
    query: z.object({ key: z.string().min(1).max(2000) }),
    answer: zOk,
  }),
  'POST /tables/read': contract({
    section: 'Rules',
    does: 'Reads a decision table from a DMN 1.3 file',
    more: 'What is not covered is refused (422) by its name.',
    body: z.strictObject({
      document: zDocument.describe('the rule that the table is for'),
      step: z.string().max(40).describe('the step that will hold it'),
      text: z.string().max(DMN_MOST),
    }),
    answer: z.strictObject({ name: z.string(), table: zTable.meta({ id: 'DecisionTable' }) }),
  }),
  'POST /tables/write': contract({
    section: 'Rules',
    does: 'A decision table of a rule as a DMN 1.3 file',
    body: z.strictObject({ document: zDocument, step: z.string().max(40) }),
    answer: z.string(),
    media: 'application/xml',
  }),
  'POST /evidence': contract({
    section: 'Screens',
    does: 'What a rule comes to on the records that are there, unsaved edits included',
    body: z.strictObject({ document: zDocument }),
  }),
  'POST /evidence/record': contract({
    section: 'Rules',
    does: 'Each condition of a rule with what it sees on one record now, unsaved edits included',
    body: z.strictObject({ document: zDocument, id: zId.describe('the record') }),
    answer: z.strictObject({
      name: z.string(),
      holds: z.boolean(),
      seen: z.array(zSeen),
      ways: z.array(z.string()).describe('the paths that it would go with the values it has now, by their ids'),
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
