import { z } from 'zod'
import { RULE_TEXT_MOST } from '../../core/formats/rule-text'
import { contract, zId, zIdParam, zInstant, zObject, zOk } from './contract'
import { zRule } from '../../core/rules/schema'

export const zState = z.enum(['draft', 'on', 'off', 'archived'])

export const zDocument = zRule.meta({ id: 'Rule' })

export const zSeen = z
  .looseObject({ id: z.string(), text: z.string(), value: z.string(), holds: z.boolean() })
  .describe('a condition with the value it saw')

export const rules = {
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
} as const
