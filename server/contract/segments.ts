import { z } from 'zod'
import { MATCH_PARTS, SEVERAL } from '../../core/linking/link-by'
import { contract, zId, zIdParam, zOk, zObject } from './contract'
import { zValue } from '../../core/language/value'
import { zLabel, zFilterGroup, filter, objectParams } from './records'

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

export const segments = {
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
} as const
