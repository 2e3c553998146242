import { z } from 'zod'
import { zSpellings } from '../../core/synonyms/check'
import { contract, zId, zIdParam, zOk, zObject } from './contract'
import { FIELD_TYPE_NAMES } from '../../core/language/field-types'
import { zLabel, objectParams } from './records'

const zSynonymSet = z
  .strictObject({
    id: zId,
    name: z.string(),
    groups: z
      .array(z.array(z.string()))
      .describe('each group is one value; its first spelling is what the others count as'),
  })
  .meta({ id: 'SynonymSet' })

const zOutcome = z.enum(['open', 'won', 'lost'])

const zProbability = z.number().int().min(0).max(100).nullable().describe('in percent')

const zDescription = z.string().trim().max(500)

export const fields = {
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
} as const
