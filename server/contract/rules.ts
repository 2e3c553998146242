import { z } from 'zod'
import { RULE_TEXT_MOST } from '../../core/formats/rule-text'
import { contract, zAbout, zId, zIdParam, zInstant, zOk, zRef } from './contract'
import { zRule } from '../../core/rules/schema'
import { zGroup } from '../../core/conditions/document'

export const zState = z.enum(['draft', 'on', 'off', 'archived'])

export const zDocument = zRule

export const zSeen = z
  .looseObject({ id: z.string(), text: z.string(), value: z.string(), holds: z.boolean() })
  .describe('a condition with the value it used')

/** Counts of existing records, as `GET /rules/:id/existing` and the evidence tell them. */
export const zExisting = z.strictObject({
  says: z.array(z.string()).describe('which records those are; empty if no trigger has any'),
  passed: z.boolean().describe('whether dates that passed in the last `passedDays` days count'),
  standing: z.number().int().describe('records its triggers would have found'),
  matching: z.number().int().describe('of those, records that meet its conditions now'),
  already: z.number().int().describe('of the matching ones, those the rule already ran for'),
})
export const zPassedDays = z.coerce
  .number()
  .int()
  .min(1)
  .max(366)
  .default(30)
  .describe('for dates: how long ago they may have passed, in days')

export const rules = {
  'GET /rules': contract({
    section: 'Rules',
    does: 'List rules',
    answer: z.strictObject({
      rules: z.array(
        z.strictObject({
          id: zId,
          state: zState,
          name: z.string(),
          object: zAbout,
          when: z.string(),
          onlyIf: z.string(),
          then: z.array(z.string()),
          order: z.number().int().describe('order among rules with the same trigger, then by age'),
          description: z.string(),
          folder: z.string().nullable(),
          labels: z.array(z.string()),
          triggers: z.array(z.string()).describe('kinds of its triggers'),
          fields: z.array(z.string()).describe('fields it uses, for example deal.amount'),
          unreadable: z.string().nullable().describe('why it can’t be read'),
          paused: z.boolean(),
          createdBy: z.string(),
          version: z.number().int().nullable(),
          unpublished: z.boolean(),
          problems: z.number().int(),
          changedBy: z.string(),
          changedAt: zInstant,
          pulse: z.array(z.number().int()).describe('runs per day in the last 30 days, oldest first'),
          runs: z.number().int(),
          failed: z.number().int(),
          lastAt: zInstant.nullable(),
        }),
      ),
    }),
  }),
  'POST /rules': contract({
    section: 'Rules',
    does: 'Create a draft rule',
    more: 'New rules are off.',
    body: z.strictObject({ name: z.string().trim().min(1).max(200), object: zAbout }),
    answer: z.strictObject({ id: zId }),
  }),
  'GET /rules/:id': contract({
    section: 'Rules',
    does: 'Get a rule',
    params: zIdParam,
    answer: z.strictObject({
      id: zId,
      state: zState,
      draft: zDocument,
      draftRev: z.number().int().describe('number of saved edits'),
      version: z.number().int().nullable(),
      unpublished: z.boolean(),
      unreadable: z.string().nullable().describe('why it, or its draft, can’t be read'),
      draftUnreadable: z.boolean(),
      changedBy: z.string(),
      changedAt: zInstant,
      runs: z.number().int(),
      lastAt: zInstant.nullable(),
      waiting: z.number().int().describe('number of waiting runs'),
      cases: z.number().int().describe('number of test cases'),
    }),
  }),
  'PUT /rules/:id/draft': contract({
    section: 'Rules',
    does: 'Save a draft',
    more: 'Error 409 if someone else saved since `rev`.',
    params: zIdParam,
    body: z.strictObject({ document: zDocument, rev: z.number().int().positive() }),
    answer: z.strictObject({ rev: z.number().int() }),
  }),
  'POST /rules/:id/state': contract({
    section: 'Rules',
    does: 'Switch a rule on or off, or archive it',
    more: 'Switching on publishes the draft. Error 422 if it is incomplete, 409 if a test case fails and `anyway` is not set.',
    params: zIdParam,
    body: z.strictObject({
      state: z.enum(['on', 'off', 'archived']),
      waiting: z
        .enum(['finish', 'end', 'move'])
        .default('finish')
        .describe(
          'what becomes of runs that wait, when it is switched off, archived or another version is published: they finish on their version, end, or (at publishing) go on by the new one where it still has their step',
        ),
      anyway: z.boolean().default(false).describe('publish although test cases fail'),
      backfill: z
        .boolean()
        .default(false)
        .describe(
          'also run it for existing records that its triggers would have found, in the background; see `GET /rules/{id}/existing`',
        ),
      again: z.boolean().default(false).describe('of those, also the ones it already ran for'),
      passedDays: zPassedDays,
      note: z.string().trim().max(500).default('').describe('note for the published version'),
    }),
    answer: z.strictObject({
      state: z.enum(['on', 'off', 'archived']),
      version: z.number().int().nullable(),
      job: zId.nullable().describe('the bulk job for records that already match'),
    }),
  }),
  'DELETE /rules/:id': contract({
    section: 'Rules',
    does: 'Delete a rule permanently',
    more: 'Only archived rules that were never switched on can be deleted.',
    params: zIdParam,
    answer: zOk,
  }),
  'GET /rules/:id/existing': contract({
    section: 'Rules',
    does: 'Count existing records the draft would run for',
    more: 'Records that are already where its triggers would have found them: in the stage or segment, beyond the limit, or with a date that passed lately.',
    params: zIdParam,
    query: z.object({ passedDays: zPassedDays }),
    answer: zExisting,
  }),
  'POST /rules/:id/existing': contract({
    section: 'Rules',
    does: 'Run a rule for chosen existing records',
    more: 'Whatever its triggers are: every record of the filter that meets its conditions, in the background. Error 409 if the rule is off.',
    params: zIdParam,
    body: z.strictObject({ filter: zGroup, words: z.string().max(100).default('') }),
    answer: z.strictObject({ job: zId, total: z.number().int() }),
  }),
  'GET /rules/:id/waiting': contract({
    section: 'Rules',
    does: 'List the steps at which records wait',
    more: 'In the order of the rule, each with the records that go on first.',
    params: zIdParam,
    answer: z.strictObject({
      steps: z.array(
        z.strictObject({
          stepId: z.string(),
          label: z.string(),
          says: z.string(),
          count: z.number().int(),
          records: z.array(
            z.strictObject({
              ref: zRef,
              name: z.string(),
              runId: zId,
              sinceMs: zInstant,
              dueMs: zInstant.nullable().describe('`null` if it waits for something to happen, however long'),
            }),
          ),
        }),
      ),
    }),
  }),
  'GET /rules/:id/versions': contract({
    section: 'Rules',
    does: 'List versions with changes',
    params: zIdParam,
    answer: z.strictObject({
      draft: z.array(z.string()).describe('changes since the newest version'),
      draftDiffers: z.boolean(),
      versions: z.array(
        z.strictObject({
          number: z.number().int(),
          atMs: zInstant,
          person: z.string(),
          note: z.string(),
          running: z.boolean(),
          changes: z.array(z.string()).describe('compared with the previous version'),
          problem: z.string().nullable().describe('why it can’t be read'),
        }),
      ),
    }),
  }),
  'POST /rules/:id/versions/:version': contract({
    section: 'Rules',
    does: 'Restore a version to the draft',
    more: 'The published version stays active until the draft is published. Error 409 if someone else saved since `rev`.',
    params: zIdParam.extend({ version: z.coerce.number().int().positive().describe('version number') }),
    body: z.strictObject({ rev: z.number().int().positive() }),
    answer: z.strictObject({ rev: z.number().int() }),
  }),
  'PUT /rules/:id/order': contract({
    section: 'Rules',
    does: 'Change a rule’s order',
    params: zIdParam,
    body: z.strictObject({ order: z.number().int().min(0).max(1_000_000) }),
    answer: zOk,
  }),
  'GET /rules/:id/text': contract({
    section: 'Rules',
    does: 'Export a rule',
    more: 'The draft or the published version; see GET /rule-schema.',
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
    does: 'Import a rule',
    more: 'YAML or JSON. Error 422 with the line or path and the reason; nothing is ignored silently.',
    body: z.strictObject({
      text: z.string().max(RULE_TEXT_MOST),
      into: zId.optional().describe('replace the draft of this rule instead of creating one'),
      rev: z.number().int().positive().optional().describe('`draftRev` of the draft it replaces'),
    }),
    answer: z.strictObject({ id: zId, rev: z.number().int(), document: zDocument }),
  }),
  'GET /rule-schema': contract({
    section: 'Rules',
    does: 'Get the JSON Schema of rule files',
    answer: z.looseObject({}),
    media: 'application/schema+json',
  }),
} as const
