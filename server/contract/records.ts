import { z } from 'zod'
import { zGroup } from '../../core/conditions/document'
import { MATCH_PARTS, SEVERAL } from '../../core/linking/link-by'
import { zSpellings } from '../../core/synonyms/check'
import { contract, zId, zIdParam, zInstant, zOk, zNext, zObject, zPaging, zRef, zRefParams, zValues } from './contract'
import { zValue } from '../../core/language/value'
import { FIELD_TYPE_NAMES } from '../../core/language/field-types'

const zRecord = z
  .strictObject({
    id: zId,
    version: z.number().int().positive().describe('counts its committed changes from 1'),
    values: zValues,
  })
  .meta({ id: 'Record' })
const zLink = z
  .strictObject({
    ref: zRef,
    name: z.string(),
    role: z.string(),
    main: z.boolean().describe('whether it is the one that rules follow'),
  })
  .meta({ id: 'Link' })
const zDoer = z.looseObject({ by: z.string(), name: z.string() }).describe('who or what did it')
const zSynonymSet = z
  .strictObject({
    id: zId,
    name: z.string(),
    groups: z
      .array(z.array(z.string()))
      .describe('each group is one value; its first spelling is what the others count as'),
  })
  .meta({ id: 'SynonymSet' })
const zLabel = z.string().trim().min(1, 'is missing').max(100)
const zOutcome = z.enum(['open', 'won', 'lost'])
const zProbability = z.number().int().min(0).max(100).nullable().describe('in percent')
export const zFilterGroup = zGroup.meta({ id: 'Conditions' })
const zColumns = z.array(z.string().max(100)).max(60)
const zSegmentParts = {
  name: zLabel,
  filter: zFilterGroup,
  columns: zColumns.default([]).describe('field keys in their order; empty for the usual ones'),
  sort: z.string().max(100).default('name'),
  down: z.boolean().default(false),
}
const zSegment = z
  .strictObject({
    id: zId,
    object: zObject,
    name: z.string(),
    filter: zFilterGroup,
    columns: z.array(z.string()),
    sort: z.string(),
    down: z.boolean(),
    count: z.number().int(),
  })
  .meta({ id: 'Segment' })
const zBulkEdit = z.strictObject({
  object: zObject,
  filter: zFilterGroup,
  words: z.string().max(100).default(''),
  field: z.string().max(100),
  value: zValue.describe('null empties the field'),
})
const zLinkOrder = z.strictObject({
  object: zObject.describe('the kind of record that is gone through'),
  to: zObject,
  ownField: z.string().max(100),
  theirField: z.string().max(100),
  part: z.enum(MATCH_PARTS),
  several: z.enum(SEVERAL).describe('what happens when several match'),
  publicToo: z.boolean().default(false).describe('whether public mail domains count'),
  leftOut: z.array(z.string().max(200)).max(500).default([]),
})
const zDescription = z.string().trim().max(500)
const filter = z.string().max(20_000).optional().describe('a group of conditions as JSON, the same as in a rule')
const zGone = z
  .strictObject({
    ref: zRef,
    name: z.string(),
    how: z.enum(['deleted', 'merged']),
    into: z.strictObject({ ref: zRef, name: z.string() }).nullable().describe('the record it went into'),
    atMs: zInstant,
    person: z.string(),
    canBringBack: z.boolean().describe('false while the record it went into is gone itself'),
  })
  .meta({ id: 'GoneRecord' })
const objectParams = z.object({ object: zObject })

export const records = {
  'GET /records/:object': contract({
    section: 'Records',
    does: 'Lists records in the order of their ids',
    more: 'A page can be shorter than asked for when a filter lets few records through; go on while there is a `next`.',
    params: objectParams,
    query: z.object({
      filter,
      words: z.string().max(100).default('').describe('words the name must contain'),
      ...zPaging,
    }),
    answer: z.strictObject({ rows: z.array(zRecord), next: zNext }),
  }),
  'POST /records/:object': contract({
    section: 'Records',
    does: 'Creates a record and lets rules see it',
    params: objectParams,
    body: z.strictObject({ values: zValues, links: z.array(zRef).max(20).default([]) }),
    answer: z.strictObject({ ref: zRef, runs: z.number().int().describe('runs that rules made because of it') }),
  }),
  'GET /records/:object/:id': contract({
    section: 'Records',
    does: 'One record with its links, what is ahead of it and what happened to it',
    tagged: true,
    params: zRefParams,
    answer: z.strictObject({
      ref: zRef,
      version: z.number().int(),
      values: zValues,
      links: z.array(zLink),
      scores: z
        .array(z.looseObject({ points: z.number(), band: z.string().nullable() }))
        .describe('line by line; see the route of its own'),
      writers: z
        .record(z.string(), z.strictObject({ doer: zDoer, atMs: zInstant }))
        .describe('who or what wrote each field last'),
      ahead: z
        .array(z.looseObject({ id: zId, title: z.string(), due: z.string() }))
        .describe('open tasks, the soonest first'),
      waiting: z
        .array(
          z.looseObject({
            key: z.string(),
            kind: z.string(),
            dueMs: zInstant.nullable(),
            ruleId: zId,
            what: z.string(),
          }),
        )
        .describe('what rules will do with it, the soonest first'),
      timeline: z.array(z.looseObject({ atMs: zInstant, what: z.string() })).describe('newest first'),
    }),
  }),
  'PATCH /records/:object/:id': contract({
    section: 'Records',
    does: 'Changes fields of a record; rules that it starts have run when this answers',
    tagged: true,
    more: 'With `If-Match` it is refused (412) when somebody changed the record meanwhile; the `ETag` of the answer is then that of the version that is there.',
    params: zRefParams,
    body: z.strictObject({ values: zValues }),
    answer: z.strictObject({
      changed: z.boolean(),
      runs: z.number().int(),
      version: z.number().int(),
      values: zValues,
    }),
  }),
  'DELETE /records/:object/:id': contract({
    section: 'Records',
    does: 'Deletes a record and lets rules see it',
    more: 'Its history, runs and tasks stay, and it can be brought back as it was.',
    params: zRefParams,
    answer: z.strictObject({ runs: z.number().int() }),
  }),
  'GET /records/:object/:id/merges/:other': contract({
    section: 'Records',
    does: 'What merging another record of the kind into this one would do',
    params: zRefParams.extend({ other: z.coerce.number().int().positive() }),
    answer: z.strictObject({
      name: z.string().describe('of the other one'),
      links: z.number().int().describe('links that come with it'),
      tasks: z.number().int().describe('tasks that come with it'),
      fields: z
        .array(
          z.strictObject({
            key: z.string(),
            label: z.string(),
            kept: z.string(),
            other: z.string(),
            from: z.enum(['kept', 'other']),
          }),
        )
        .describe('those in which the two differ, with whose value stays unless told otherwise'),
    }),
  }),
  'POST /records/:object/:id/merges': contract({
    section: 'Records',
    does: 'Merges another record of the kind into this one',
    more: 'Its links and tasks become this one’s, its values fill what this one lacks, and its history is told here. It can be brought back.',
    params: zRefParams,
    body: z.strictObject({
      other: zId,
      take: z
        .array(z.string().max(100))
        .max(200)
        .default([])
        .describe('fields whose value is taken from the other one'),
    }),
    answer: z.strictObject({ runs: z.number().int() }),
  }),
  'GET /gone/:object': contract({
    section: 'Records',
    does: 'Records that were deleted or merged, the newest first',
    params: objectParams,
    query: z.object(zPaging),
    answer: z.strictObject({ rows: z.array(zGone), next: zNext }),
  }),
  'GET /gone/:object/:id': contract({
    section: 'Records',
    does: 'What became of a record that is no longer there',
    params: zRefParams,
    answer: zGone,
  }),
  'POST /gone/:object/:id': contract({
    section: 'Records',
    does: 'Brings back a record that was deleted or merged',
    more: 'After a merge, links and tasks go back to it, and the other record gets its old values back where nobody has written since. No rule hears of it.',
    params: zRefParams,
    answer: z.strictObject({ ref: zRef, stayed: z.array(z.string()).describe('what could not be put as it was') }),
  }),
  'GET /records/:object/:id/fields/:key': contract({
    section: 'Records',
    does: 'Who or what set a field of a record, when, and from what',
    params: zRefParams.extend({ key: z.string().max(100) }),
    answer: z.strictObject({
      label: z.string(),
      changes: z
        .array(
          z.strictObject({
            seq: zId,
            atMs: zInstant,
            old: z.string(),
            new: z.string(),
            doer: zDoer,
            created: z.boolean(),
          }),
        )
        .describe('newest first'),
    }),
  }),
  'GET /records/:object/:id/links': contract({
    section: 'Links',
    does: 'The records a record is linked to, in both directions',
    params: zRefParams,
    answer: z.strictObject({ links: z.array(zLink) }),
  }),
  'POST /records/:object/:id/links': contract({
    section: 'Links',
    does: 'Links a deal to a contact or company, or a contact to a company',
    more: 'The first link to a kind of record is the main one. Linking what is linked already changes its role and, when asked, makes it the main one.',
    params: zRefParams,
    body: z.strictObject({ to: zRef, role: z.string().trim().max(100).default(''), main: z.boolean().default(false) }),
    answer: z.strictObject({ links: z.array(zLink) }),
  }),
  'DELETE /records/:object/:id/links/:other/:otherId': contract({
    section: 'Links',
    does: 'Takes a link away',
    params: zRefParams.extend({ other: zObject, otherId: z.coerce.number().int().positive() }),
    answer: z.strictObject({ links: z.array(zLink) }),
  }),
  'POST /link-plans': contract({
    section: 'Links',
    does: 'What linking all records of a kind by what they hold would do',
    body: zLinkOrder,
    answer: z.looseObject({
      total: z.number().int(),
      links: z.number().int().describe('links that would be made'),
      counts: z.record(z.string(), z.number().int()).describe('records by what becomes of them'),
    }),
  }),
  'POST /link-plans/make': contract({
    section: 'Links',
    does: 'Links all records of a kind by what they hold',
    more: 'A second time nothing is left to do: records that are linked already stay as they are.',
    body: zLinkOrder,
    answer: z.strictObject({ made: z.number().int() }),
  }),
  'POST /fields': contract({
    section: 'Fields',
    does: 'Makes a field',
    more: 'Its key, by which rules and programs name it, is made of its label and stays.',
    body: z.strictObject({
      object: zObject,
      label: zLabel,
      type: z.enum(FIELD_TYPE_NAMES),
      description: zDescription.default(''),
      choices: z.array(zLabel).max(500).default([]).describe('for choice fields, in order'),
    }),
    answer: z.strictObject({ id: zId, key: z.string() }),
  }),
  'PATCH /fields/:id': contract({
    section: 'Fields',
    does: 'Renames a field, describes it, makes it required, puts it away or brings it back',
    more: 'A field that a rule names cannot be put away (422, with the rules). Its values stay, and are there again when it comes back.',
    params: zIdParam,
    body: z.strictObject({
      label: zLabel.optional(),
      description: zDescription.optional(),
      required: z.boolean().optional(),
      archived: z.boolean().optional(),
      synonyms: zId.nullable().optional().describe('the synonym set that its texts are compared by; null for none'),
    }),
    answer: zOk,
  }),
  'PUT /fields/order': contract({
    section: 'Fields',
    does: 'Puts the fields of a kind of record in order',
    body: z.strictObject({ object: zObject, ids: z.array(zId).max(500) }),
    answer: zOk,
  }),
  'POST /fields/:id/choices': contract({
    section: 'Fields',
    does: 'Adds a choice',
    more: 'Everybody can choose it at once. One that reads the same is given back instead of a second one.',
    params: zIdParam,
    body: z.strictObject({ label: zLabel }),
    answer: z.strictObject({ id: z.string(), added: z.boolean() }),
  }),
  'PATCH /fields/:id/choices/:choice': contract({
    section: 'Fields',
    does: 'Renames a choice or moves it in the order',
    more: 'Records and rules hold its id and follow the new word.',
    params: zIdParam.extend({ choice: z.string().max(200) }),
    body: z.strictObject({
      label: zLabel.optional(),
      before: z.string().max(200).nullable().optional().describe('the choice it shall stand before; null for the end'),
    }),
    answer: zOk,
  }),
  'GET /segments': contract({
    section: 'Records',
    does: 'The segments of a kind of record, each with how many are in it now',
    query: z.object({ object: zObject }),
    answer: z.strictObject({ segments: z.array(zSegment) }),
  }),
  'POST /segments': contract({
    section: 'Records',
    does: 'Saves a filter under a name',
    body: z.strictObject({ object: zObject, ...zSegmentParts }),
    answer: z.strictObject({ id: zId }),
  }),
  'PATCH /segments/:id': contract({
    section: 'Records',
    does: 'Renames a segment or changes what is in it',
    params: zIdParam,
    body: z.strictObject({
      name: zLabel.optional(),
      filter: zFilterGroup.optional(),
      columns: zColumns.optional(),
      sort: z.string().max(100).optional(),
      down: z.boolean().optional(),
    }),
    answer: zOk,
  }),
  'DELETE /segments/:id': contract({
    section: 'Records',
    does: 'Takes a segment away; its records stay',
    params: zIdParam,
    answer: zOk,
  }),
  'POST /bulk-edits/preview': contract({
    section: 'Records',
    does: 'What writing one value into a field of all records that fit would do',
    body: zBulkEdit,
    answer: z.looseObject({
      matched: z.number().int(),
      changed: z.number().int(),
      same: z.number().int(),
      tooMany: z.boolean().describe('more than can be changed in one go'),
    }),
  }),
  'POST /bulk-edits': contract({
    section: 'Records',
    does: 'Writes one value into a field of all records that fit; rules run as for any change',
    body: zBulkEdit,
    answer: z.strictObject({ changed: z.number().int(), runs: z.number().int() }),
  }),
  'GET /seen/:object': contract({
    section: 'Files',
    does: 'What is seen of a table as a file: filtered, in its order, with its columns',
    params: objectParams,
    media: 'text/csv',
    query: z.object({
      filter,
      words: z.string().max(100).default(''),
      sort: z.string().max(100).default('name'),
      down: z.enum(['true', 'false']).default('false'),
      columns: z.string().max(5000).default('name').describe('field keys with commas between'),
    }),
  }),
  'DELETE /fields/:id/choices/:choice': contract({
    section: 'Fields',
    does: 'Takes a choice out, or merges it into another one',
    more: 'Refused (422) while a rule or segment names it, and without `into` while records hold it. Records that hold it get the other one, as changes that rules do not look at.',
    params: zIdParam.extend({ choice: z.string().max(200) }),
    query: z.object({ into: z.string().max(200).optional() }),
    answer: z.strictObject({ changed: z.number().int() }),
  }),
  'POST /fields/:id/type': contract({
    section: 'Fields',
    does: 'Gives a field another type, or with `try` tells what that would come to',
    more: 'Refused (422) while a value does not fit, or a rule or segment names the field: nothing is lost.',
    params: zIdParam,
    body: z.strictObject({ type: z.enum(FIELD_TYPE_NAMES), try: z.boolean().default(false) }),
    answer: z.strictObject({
      fit: z.number().int().describe('records whose value fits'),
      wrongRecords: z.number().int(),
      choices: z.array(z.string()).describe('choices that are made of what is written'),
      wrong: z
        .array(z.strictObject({ text: z.string(), count: z.number().int(), why: z.string() }))
        .describe('values that do not fit, the commonest first'),
    }),
  }),
  'GET /pipeline-sheets': contract({
    section: 'Screens',
    does: 'Every pipeline with how many deals each stage holds and which rules name it',
  }),
  'POST /pipelines': contract({
    section: 'Fields',
    does: 'Makes a pipeline',
    body: z.strictObject({
      name: zLabel,
      stages: z
        .array(z.strictObject({ name: zLabel, outcome: zOutcome }))
        .min(1)
        .max(50),
    }),
    answer: z.strictObject({ id: z.string() }),
  }),
  'PATCH /pipelines/:pipeline': contract({
    section: 'Fields',
    does: 'Renames a pipeline or moves it in the order',
    params: z.object({ pipeline: z.string().max(100) }),
    body: z.strictObject({ name: zLabel.optional(), before: z.string().max(100).nullable().optional() }),
    answer: zOk,
  }),
  'POST /pipelines/:pipeline/stages': contract({
    section: 'Fields',
    does: 'Adds a stage at the end of a pipeline',
    params: z.object({ pipeline: z.string().max(100) }),
    body: z.strictObject({ name: zLabel, outcome: zOutcome.default('open'), probability: zProbability.default(null) }),
    answer: z.strictObject({ id: z.string() }),
  }),
  'PATCH /stages/:stage': contract({
    section: 'Fields',
    does: 'Renames a stage, says what it counts as and how likely it is won, or moves it in the order',
    params: z.object({ stage: z.string().max(100) }),
    body: z.strictObject({
      name: zLabel.optional(),
      outcome: zOutcome.optional(),
      probability: zProbability.optional(),
      before: z.string().max(100).nullable().optional(),
    }),
    answer: zOk,
  }),
  'DELETE /stages/:stage': contract({
    section: 'Fields',
    does: 'Takes a stage out of its pipeline; its deals go to another one first',
    more: 'Refused (422) while a rule or segment names it. What happened in it can still be told.',
    params: z.object({ stage: z.string().max(100) }),
    query: z.object({ to: z.string().max(100).optional() }),
    answer: z.strictObject({ moved: z.number().int() }),
  }),
  'GET /synonyms': contract({
    section: 'Fields',
    does: 'The sets of spellings that count as one value',
    answer: z.strictObject({ sets: z.array(zSynonymSet) }),
  }),
  'GET /synonyms/:id': contract({
    section: 'Fields',
    does: 'A set of spellings with the fields that are compared by it and what is written in them',
    params: zIdParam,
    answer: z.strictObject({
      set: zSynonymSet,
      fields: z.array(z.strictObject({ id: zId, object: zObject, label: z.string() })),
      seen: z
        .array(
          z.strictObject({ spelling: z.string(), countsAs: z.string(), known: z.boolean(), count: z.number().int() }),
        )
        .describe('what is written in records, the commonest first; `known` when the set has it'),
    }),
  }),
  'POST /synonyms': contract({
    section: 'Fields',
    does: 'Makes a set of spellings',
    more: 'Records keep what was written; conditions, links and imports compare it as what it counts as.',
    body: z.strictObject({ name: zLabel, groups: zSpellings.default([]) }),
    answer: z.strictObject({ id: zId }),
  }),
  'PATCH /synonyms/:id': contract({
    section: 'Fields',
    does: 'Renames a set or gives it other spellings',
    more: 'A spelling that would count as two things is refused (422).',
    params: zIdParam,
    body: z.strictObject({ name: zLabel.optional(), groups: zSpellings.optional() }),
    answer: zOk,
  }),
  'DELETE /synonyms/:id': contract({
    section: 'Fields',
    does: 'Takes away a set that no field is compared by',
    params: zIdParam,
    answer: zOk,
  }),
  'GET /field-sheets/:object': contract({
    section: 'Screens',
    does: 'The fields of a kind of record with how far they are filled, what stands in them, and which rules name them',
    params: objectParams,
  }),
  'GET /fields': contract({
    section: 'Fields',
    does: 'Every field of every kind of record, with what it may hold',
    query: z.object({ object: zObject.optional() }),
    answer: z.strictObject({
      fields: z.array(
        z
          .strictObject({
            id: zId,
            object: zObject,
            key: z.string(),
            label: z.string(),
            type: z.enum(FIELD_TYPE_NAMES),
            description: z.string(),
            keptBy: z.string().nullable().describe('what keeps it when nobody may write it'),
            required: z.boolean(),
            made: z
              .looseObject({ by: z.enum(['formula', 'rollUp', 'score', 'segment']) })
              .nullable()
              .optional()
              .describe('how its value comes about, where it is worked out'),
            choices: z.array(z.strictObject({ id: z.string(), label: z.string() })),
            currencyKey: z.string().nullable(),
            synonyms: zId.nullable(),
          })
          .meta({ id: 'Field' }),
      ),
      pipelines: z.array(
        z.strictObject({
          id: z.string(),
          name: z.string(),
          stages: z.array(
            z.strictObject({
              id: z.string(),
              pipelineId: z.string(),
              name: z.string(),
              position: z.number().int(),
              outcome: z.enum(['open', 'won', 'lost']),
              probability: z.number().int().nullable().describe('in percent'),
            }),
          ),
        }),
      ),
    }),
  }),
  'GET /ledgers/:object': contract({
    section: 'Screens',
    does: 'A page of the table of records, sorted',
    params: objectParams,
    query: z.object({
      filter,
      words: z.string().max(100).default(''),
      sort: z.string().max(100).default('name'),
      down: z.enum(['true', 'false']).default('false'),
      offset: z.coerce.number().int().min(0).max(10_000_000).default(0),
      limit: z.coerce.number().int().min(1).max(500).default(100),
    }),
  }),
  'GET /boards/:pipeline': contract({
    section: 'Screens',
    does: 'The deals of a pipeline by stage',
    params: z.object({ pipeline: z.string().max(100) }),
    query: z.object({ owner: z.string().max(100).optional() }),
  }),
  'GET /find': contract({
    section: 'Screens',
    does: 'Records and rules by name',
    query: z.object({ words: z.string().trim().min(1).max(100) }),
  }),
} as const
