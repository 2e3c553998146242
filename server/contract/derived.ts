import { z } from 'zod'
import { zRollUp } from '../../core/derived/making'
import { HAPPENING_KINDS } from '../../core/records/happening'
import { contract, zId, zIdParam, zInstant, zNext, zObject, zOk, zPaging, zRef, zRefParams } from './contract'
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
    key: z.string().describe('the field of its points; that of its band has “Band” behind it'),
    lines: z.array(zLine),
    least: z.number().nullable(),
    most: z.number().nullable(),
    bands: z.array(zBand),
  })
  .meta({ id: 'Scorecard' })
const zHappening = z
  .strictObject({
    ref: zRef.optional(),
    email: z.string().max(300).optional().describe('of a contact, in place of a record'),
    kind: z.enum(HAPPENING_KINDS),
    about: z.string().trim().max(500).default('').describe('the page, the form, the subject'),
    atMs: zInstant.nullable().default(null).describe('now, when left out'),
    key: z.string().max(200).nullable().default(null).describe('what you call it: told again, it is not kept again'),
  })
  .refine((one) => one.ref !== undefined || one.email !== undefined, 'names no record')
const zTold = z.strictObject({
  kept: z.number().int(),
  known: z.number().int().describe('those whose key was there already'),
  refused: z.array(z.strictObject({ row: z.number().int(), text: z.string() })),
})

export const derived = {
  'GET /derived-fields': contract({
    section: 'Fields',
    does: 'Which fields are being worked out for all records just now',
    answer: z.strictObject({
      jobs: z.array(
        z.strictObject({ id: zId, fieldIds: z.array(zId), done: z.number().int(), total: z.number().int() }),
      ),
    }),
  }),
  'POST /derived-fields': contract({
    section: 'Fields',
    does: 'Makes a calculated field or a roll-up',
    more: 'Refused (422) with the place in the formula, and where fields would hang on one another in a circle.',
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
    does: 'Says anew what a calculated field or a roll-up comes to',
    more: 'It is worked out for all records in the background, as no change of theirs: no rule hears of it.',
    params: zIdParam,
    body: z.strictObject({ label: zLabel.optional(), description: zDescription.optional(), made: zMaking }),
    answer: zOk,
  }),
  'POST /derived-fields/preview': contract({
    section: 'Fields',
    does: 'What a formula or a roll-up would come to on the records that are there',
    body: z.strictObject({ object: zObject, type: z.enum(FIELD_TYPE_NAMES).nullable().default(null), made: zMaking }),
  }),
  'GET /scorecards': contract({
    section: 'Scores',
    does: 'The scorecards',
    answer: z.strictObject({ scorecards: z.array(zScorecard) }),
  }),
  'POST /scorecards': contract({
    section: 'Scores',
    does: 'Makes a scorecard for contacts or companies',
    more: 'It keeps two fields, of the points and of the band.',
    body: zCard.extend({ object: zObject }),
    answer: z.strictObject({ id: zId }),
  }),
  'PUT /scorecards/:id': contract({
    section: 'Scores',
    does: 'Changes a scorecard',
    more: 'Everybody’s score is worked out anew in the background; no rule hears of it.',
    params: zIdParam,
    body: zCard,
    answer: zOk,
  }),
  'DELETE /scorecards/:id': contract({
    section: 'Scores',
    does: 'Takes a scorecard away with its fields',
    more: 'Refused (422) while a rule names it.',
    params: zIdParam,
    answer: zOk,
  }),
  'POST /scorecards/preview': contract({
    section: 'Scores',
    does: 'What a scorecard as it is written comes to, beside what records have now',
    body: zCard.extend({ object: zObject, id: zId.nullable() }),
  }),
  'GET /records/:object/:id/scores': contract({
    section: 'Scores',
    does: 'The scores of a record, line by line',
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
  'GET /happenings': contract({
    section: 'Scores',
    does: 'What happened around records, the newest first',
    query: z.object(zPaging),
    answer: z.strictObject({
      happenings: z.array(
        z.strictObject({
          id: zId,
          ref: zRef,
          name: z.string(),
          kind: z.enum(HAPPENING_KINDS),
          about: z.string(),
          atMs: zInstant,
        }),
      ),
      next: zNext,
    }),
  }),
  'POST /happenings': contract({
    section: 'Scores',
    does: 'Tells what happened around records',
    more: 'Scores follow in the same moment, and rules that go by them.',
    body: z.strictObject({ happenings: z.array(zHappening).min(1).max(1000) }),
    answer: zTold,
  }),
  'POST /happenings/files': contract({
    section: 'Scores',
    does: 'The same from a CSV file',
    more: 'Columns: kind, about, at, key; and email, contact, company or deal.',
    body: z.strictObject({ text: z.string().max(5_000_000) }),
    answer: zTold,
  }),
} as const
