import { z } from 'zod'
import { zDefinition, zPipeline } from './definitions'
import { zFieldSheet, zPipelineSheet } from './screens'
import { zSpellings } from '../../core/synonyms/check'
import { contract, zId, zIdParam, zOk, zObject } from './contract'
import { FIELD_TYPE_NAMES } from '../../core/language/field-types'
import { zLabel, objectParams } from './records'

const zSynonymSet = z
  .strictObject({
    id: zId,
    name: z.string(),
    groups: z.array(z.array(z.string())).describe('each group is one value; the first spelling is the main one'),
  })
  .meta({ id: 'SynonymSet' })

export const zOutcome = z.enum(['open', 'won', 'lost'])

const zProbability = z.number().int().min(0).max(100).nullable().describe('in percent')

const zDescription = z.string().trim().max(500)

export const fields = {
  'POST /fields': contract({
    section: 'Fields',
    does: 'Create a field',
    more: 'The key is generated from the label and never changes.',
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
    does: 'Update, archive or restore a field',
    more: 'Error 422 if a rule uses the field. Values are kept and available again after restoring.',
    params: zIdParam,
    body: z.strictObject({
      label: zLabel.optional(),
      phrase: z
        .string()
        .trim()
        .min(1)
        .max(60)
        .nullable()
        .optional()
        .describe('its name in sentences; the label if null'),
      description: zDescription.optional(),
      required: z.boolean().optional(),
      archived: z.boolean().optional(),
      synonyms: zId.nullable().optional().describe('synonym set used to compare its texts; null for none'),
    }),
    answer: zOk,
  }),
  'PUT /fields/order': contract({
    section: 'Fields',
    does: 'Reorder fields',
    body: z.strictObject({ object: zObject, ids: z.array(zId).max(500) }),
    answer: zOk,
  }),
  'POST /fields/:id/choices': contract({
    section: 'Fields',
    does: 'Add a choice',
    more: 'Available immediately. If the choice exists, its ID is returned.',
    params: zIdParam,
    body: z.strictObject({ label: zLabel }),
    answer: z.strictObject({ id: z.string(), added: z.boolean() }),
  }),
  'PATCH /fields/:id/choices/:choice': contract({
    section: 'Fields',
    does: 'Rename or move a choice',
    more: 'Records and rules use the ID, so the new name applies everywhere.',
    params: zIdParam.extend({ choice: z.string().max(200) }),
    body: z.strictObject({
      label: zLabel.optional(),
      before: z.string().max(200).nullable().optional().describe('the choice to place it before; null for the end'),
    }),
    answer: zOk,
  }),
  'DELETE /fields/:id/choices/:choice': contract({
    section: 'Fields',
    does: 'Remove a choice or replace it with another',
    more: 'Error 422 if a rule or segment uses it, or if records have it and `into` is missing. Records that have it get the other choice. Rules are not triggered.',
    params: zIdParam.extend({ choice: z.string().max(200) }),
    query: z.object({ into: z.string().max(200).optional() }),
    answer: z.strictObject({ changed: z.number().int() }),
  }),
  'POST /fields/:id/type': contract({
    section: 'Fields',
    does: 'Change a field’s type, or preview it with `try`',
    more: 'Error 422 if a value can’t be converted, or a rule or segment uses the field. No values are lost.',
    params: zIdParam,
    body: z.strictObject({ type: z.enum(FIELD_TYPE_NAMES), try: z.boolean().default(false) }),
    answer: z.strictObject({
      fit: z.number().int().describe('records that can be converted'),
      wrongRecords: z.number().int(),
      choices: z.array(z.string()).describe('choices created from the values'),
      wrong: z
        .array(z.strictObject({ text: z.string(), count: z.number().int(), why: z.string() }))
        .describe('values that can’t be converted, most frequent first'),
    }),
  }),
  'GET /pipeline-sheets': contract({
    section: 'Screens',
    does: 'Get pipelines with usage',
    answer: zPipelineSheet,
  }),
  'POST /pipelines': contract({
    section: 'Fields',
    does: 'Create a pipeline',
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
    does: 'Rename or move a pipeline',
    params: z.object({ pipeline: z.string().max(100) }),
    body: z.strictObject({ name: zLabel.optional(), before: z.string().max(100).nullable().optional() }),
    answer: zOk,
  }),
  'POST /pipelines/:pipeline/stages': contract({
    section: 'Fields',
    does: 'Add a stage',
    params: z.object({ pipeline: z.string().max(100) }),
    body: z.strictObject({ name: zLabel, outcome: zOutcome.default('open'), probability: zProbability.default(null) }),
    answer: z.strictObject({ id: z.string() }),
  }),
  'PATCH /stages/:stage': contract({
    section: 'Fields',
    does: 'Update or move a stage',
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
    does: 'Remove a stage (moves its deals first)',
    more: 'Error 422 if a rule or segment uses it. Its history is kept.',
    params: z.object({ stage: z.string().max(100) }),
    query: z.object({ to: z.string().max(100).optional() }),
    answer: z.strictObject({ moved: z.number().int() }),
  }),
  'GET /synonyms': contract({
    section: 'Fields',
    does: 'List synonym sets',
    answer: z.strictObject({ sets: z.array(zSynonymSet) }),
  }),
  'GET /synonyms/:id': contract({
    section: 'Fields',
    does: 'Get a synonym set with its fields and values',
    params: zIdParam,
    answer: z.strictObject({
      set: zSynonymSet,
      fields: z.array(z.strictObject({ id: zId, object: zObject, label: z.string() })),
      seen: z
        .array(
          z.strictObject({ spelling: z.string(), countsAs: z.string(), known: z.boolean(), count: z.number().int() }),
        )
        .describe('values in records, most frequent first; `known` if the set has them'),
    }),
  }),
  'POST /synonyms': contract({
    section: 'Fields',
    does: 'Create a synonym set',
    more: 'Records keep their spelling. Conditions, links and imports compare the main spelling.',
    body: z.strictObject({ name: zLabel, groups: zSpellings.default([]) }),
    answer: z.strictObject({ id: zId }),
  }),
  'PATCH /synonyms/:id': contract({
    section: 'Fields',
    does: 'Update a synonym set',
    more: 'Error 422 if a spelling is listed twice.',
    params: zIdParam,
    body: z.strictObject({ name: zLabel.optional(), groups: zSpellings.optional() }),
    answer: zOk,
  }),
  'DELETE /synonyms/:id': contract({
    section: 'Fields',
    does: 'Delete an unused synonym set',
    params: zIdParam,
    answer: zOk,
  }),
  'GET /field-sheets/:object': contract({
    section: 'Screens',
    does: 'Get fields with usage',
    params: objectParams,
    answer: zFieldSheet,
  }),
  'GET /fields': contract({
    section: 'Fields',
    does: 'List fields',
    query: z.object({ object: zObject.optional() }),
    answer: z.strictObject({
      fields: z.array(zDefinition),
      pipelines: z.array(zPipeline),
    }),
  }),
} as const
