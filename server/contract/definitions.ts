import { z } from 'zod'
import { zCondition, zGroup } from '../../core/conditions/document'
import { FIELD_TYPE_NAMES } from '../../core/language/field-types'
import { zValue } from '../../core/language/value'
import { zBranch, zRule, zStep, zSteps } from '../../core/rules/schema'
import { zCount, zWhen } from '../../core/rules/when'
import { zWho } from '../../core/rules/who'
import { zLine } from '../../core/scoring/card'
import { zTable } from '../../core/tables/table'
import { zId, zObject } from './contract'

/** Schemas that stand once in the description and are led to from everywhere, by their names there. */
for (const [id, schema] of [
  ['Rule', zRule],
  ['Step', zStep],
  ['Conditions', zGroup],
  ['Condition', zCondition],
  ['DecisionTable', zTable],
  ['Value', zValue],
  ['Steps', zSteps],
  ['Branch', zBranch],
  ['Who', zWho],
  ['When', zWhen],
  ['Span', zCount],
  ['ScoreLine', zLine],
] as const)
  z.globalRegistry.add(schema, { id })

export const zPipeline = z
  .strictObject({
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
  })
  .meta({ id: 'Pipeline' })

/** A field as it is defined. */
export const zDefinition = z
  .strictObject({
    id: zId,
    object: zObject,
    key: z.string(),
    label: z.string(),
    phrase: z.string().nullable().optional().describe('its name in sentences; the label if null'),
    type: z.enum(FIELD_TYPE_NAMES),
    description: z.string(),
    keptBy: z.string().nullable().describe('why it is read-only; null if it can be edited'),
    required: z.boolean(),
    made: z
      .looseObject({ by: z.enum(['formula', 'rollUp', 'score', 'segment']) })
      .nullable()
      .optional()
      .describe('how it is calculated, if it is'),
    choices: z.array(z.strictObject({ id: z.string(), label: z.string() })),
    gone: z
      .array(z.strictObject({ id: z.string(), label: z.string() }))
      .optional()
      .describe('deleted choices'),
    currencyKey: z.string().nullable(),
    synonyms: zId.nullable(),
  })
  .meta({ id: 'Field' })
