import { z } from 'zod'
import { MATCH_PARTS, SEVERAL } from '../../core/linking/link-by'
import { contract, zId, zIdParam, zOk, zObject } from './contract'
import { zValue } from '../../core/language/value'
import { zLabel, zFilterGroup, filter, objectParams } from './records'

const zColumns = z.array(z.string().max(100)).max(60)

const zSegmentParts = {
  name: zLabel,
  filter: zFilterGroup,
  columns: zColumns.default([]).describe('field keys in order; empty for the default columns'),
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
  object: zObject.describe('record type'),
  to: zObject,
  ownField: z.string().max(100),
  theirField: z.string().max(100),
  part: z.enum(MATCH_PARTS),
  several: z.enum(SEVERAL).describe('what happens when several match'),
  publicToo: z.boolean().default(false).describe('whether public email domains count'),
  leftOut: z.array(z.string().max(200)).max(500).default([]),
})

export const segments = {
  'POST /link-plans': contract({
    section: 'Links',
    does: 'Preview automatic linking',
    body: zLinkOrder,
    answer: z.looseObject({
      total: z.number().int(),
      links: z.number().int().describe('links to create'),
      counts: z.record(z.string(), z.number().int()).describe('records by result'),
    }),
  }),
  'POST /link-plans/make': contract({
    section: 'Links',
    does: 'Create automatic links',
    more: 'Existing links are not changed.',
    body: zLinkOrder,
    answer: z.strictObject({ made: z.number().int() }),
  }),
  'GET /segments': contract({
    section: 'Records',
    does: 'List segments with record counts',
    query: z.object({ object: zObject }),
    answer: z.strictObject({ segments: z.array(zSegment) }),
  }),
  'POST /segments': contract({
    section: 'Records',
    does: 'Create a segment',
    body: z.strictObject({ object: zObject, ...zSegmentParts }),
    answer: z.strictObject({ id: zId }),
  }),
  'PATCH /segments/:id': contract({
    section: 'Records',
    does: 'Update a segment',
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
    does: 'Delete a segment (records are kept)',
    params: zIdParam,
    answer: zOk,
  }),
  'POST /bulk-edits/preview': contract({
    section: 'Records',
    does: 'Preview a bulk edit',
    body: zBulkEdit,
    answer: z.looseObject({
      matched: z.number().int(),
      changed: z.number().int(),
      same: z.number().int(),
      tooMany: z.boolean().describe('more than can be changed at once'),
    }),
  }),
  'POST /bulk-edits': contract({
    section: 'Records',
    does: 'Set a field for all matching records (triggers rules)',
    body: zBulkEdit,
    answer: z.strictObject({ changed: z.number().int(), runs: z.number().int() }),
  }),
  'GET /list-exports/:object': contract({
    section: 'Files',
    does: 'Export a filtered list as CSV',
    params: objectParams,
    media: 'text/csv',
    query: z.object({
      filter,
      words: z.string().max(100).default(''),
      sort: z.string().max(100).default('name'),
      down: z.enum(['true', 'false']).default('false'),
      columns: z.string().max(5000).default('name').describe('field keys, separated by commas'),
    }),
  }),
} as const
