import { z } from 'zod'
import { zMakingShown, zScorePreview } from './screens'
import { zRollUp } from '../../core/derived/making'
import { contract, zId, zIdParam, zInstant, zObject, zOk, zRefParams } from './contract'
import { zBand, zCard, zLine } from '../../core/scoring/card'
import { FIELD_TYPE_NAMES } from '../../core/language/field-types'

const zText = z.string().max(2000).describe('a FEEL expression; see docs/formulas.md')
const zMaking = z
  .discriminatedUnion('by', [
    z.strictObject({ by: z.literal('formula'), text: zText }),
    zRollUp.extend({ by: z.literal('rollUp') }),
  ])
  .meta({ id: 'Making' })
const zLabel = z.string().trim().min(1, 'is missing').max(100)
const zDescription = z.string().trim().max(500)
const zScorecard = z
  .strictObject({
    id: zId,
    object: zObject,
    name: z.string(),
    key: z.string().describe('field of its points; the field of its band ends in “Band”'),
    lines: z.array(zLine),
    least: z.number().nullable(),
    most: z.number().nullable(),
    bands: z.array(zBand),
  })
  .meta({ id: 'Scorecard' })
export const derived = {
  'GET /derived-fields': contract({
    section: 'Fields',
    does: 'List running calculations',
    answer: z.strictObject({
      jobs: z.array(
        z.strictObject({ id: zId, fieldIds: z.array(zId), done: z.number().int(), total: z.number().int() }),
      ),
    }),
  }),
  'POST /derived-fields': contract({
    section: 'Fields',
    does: 'Create a calculated field or roll-up',
    more: 'Error 422 with the position in the formula, or if fields would depend on each other in a circle.',
    body: z.strictObject({
      object: zObject,
      label: zLabel,
      description: zDescription.default(''),
      type: z.enum(FIELD_TYPE_NAMES),
      made: zMaking,
    }),
    answer: z.strictObject({ id: zId, key: z.string() }),
  }),
  'PUT /derived-fields/:id': contract({
    section: 'Fields',
    does: 'Change its formula',
    more: 'It is recalculated in the background. Rules are not triggered.',
    params: zIdParam,
    body: z.strictObject({ label: zLabel.optional(), description: zDescription.optional(), made: zMaking }),
    answer: zOk,
  }),
  'POST /derived-fields/preview': contract({
    section: 'Fields',
    does: 'Preview a formula or roll-up',
    body: z.strictObject({ object: zObject, type: z.enum(FIELD_TYPE_NAMES).nullable().default(null), made: zMaking }),
    answer: zMakingShown,
  }),
  'GET /scorecards': contract({
    section: 'Scores',
    does: 'List scorecards',
    answer: z.strictObject({ scorecards: z.array(zScorecard) }),
  }),
  'POST /scorecards': contract({
    section: 'Scores',
    does: 'Create a scorecard',
    more: 'It creates two fields: points and band.',
    body: zCard.extend({ object: zObject }),
    answer: z.strictObject({ id: zId }),
  }),
  'PUT /scorecards/:id': contract({
    section: 'Scores',
    does: 'Update a scorecard',
    more: 'Scores are recalculated in the background. Rules are not triggered.',
    params: zIdParam,
    body: zCard,
    answer: zOk,
  }),
  'DELETE /scorecards/:id': contract({
    section: 'Scores',
    does: 'Delete a scorecard and its fields',
    more: 'Error 422 if a rule uses it.',
    params: zIdParam,
    answer: zOk,
  }),
  'POST /scorecards/preview': contract({
    section: 'Scores',
    does: 'Preview a scorecard',
    body: zCard.extend({ object: zObject, id: zId.nullable() }),
    answer: zScorePreview,
  }),
  'GET /records/:object/:id/scores': contract({
    section: 'Scores',
    does: 'Get a record’s scores by line',
    params: zRefParams,
    answer: z.strictObject({
      scores: z.array(
        z.strictObject({
          card: z.strictObject({ id: zId, name: z.string(), key: z.string() }),
          points: z.number(),
          band: z.string().nullable(),
          lines: z.array(
            z.strictObject({
              id: z.string(),
              points: z.number(),
              times: z.number().int(),
              lastMs: zInstant.nullable(),
              capped: z.boolean(),
              text: z.string(),
            }),
          ),
        }),
      ),
    }),
  }),
} as const
