import { z } from 'zod'
import { zBoard, zFound, zLedger } from './screens'
import { zGroup } from '../../core/conditions/document'
import { contract, zId, zInstant, zNext, zObject, zPaging, zRef, zRefParams, zValues } from './contract'

const zRecord = z
  .strictObject({
    id: zId,
    version: z.number().int().positive().describe('number of its changes, from 1'),
    values: zValues,
  })
  .meta({ id: 'Record' })

const zLink = z
  .strictObject({
    ref: zRef,
    name: z.string(),
    role: z.string(),
    main: z.boolean().describe('whether rules use this link'),
  })
  .meta({ id: 'Link' })

const zDoer = z.looseObject({ by: z.string(), name: z.string() }).describe('author (person, rule, import …)')

export const zLabel = z.string().trim().min(1, 'is missing').max(100)

export const zFilterGroup = zGroup

export const filter = z.string().max(20_000).optional().describe('a group of conditions as JSON, as in a rule')

const zGone = z
  .strictObject({
    ref: zRef,
    name: z.string(),
    how: z.enum(['deleted', 'merged']),
    into: z.strictObject({ ref: zRef, name: z.string() }).nullable().describe('the record it was merged into'),
    atMs: zInstant,
    person: z.string(),
    canBringBack: z.boolean().describe('false while the record it was merged into is deleted'),
  })
  .meta({ id: 'GoneRecord' })

export const objectParams = z.object({ object: zObject })

export const records = {
  'GET /records/:object': contract({
    section: 'Records',
    does: 'List records by ID',
    more: 'With a filter, a page can be shorter than `limit`. Continue while there is a `next`.',
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
    does: 'Create a record (triggers rules)',
    params: objectParams,
    body: z.strictObject({ values: zValues, links: z.array(zRef).max(20).default([]) }),
    answer: z.strictObject({ ref: zRef, runs: z.number().int().describe('runs it triggered') }),
  }),
  'GET /records/:object/:id': contract({
    section: 'Records',
    does: 'Get a record with links, upcoming events and timeline',
    tagged: true,
    params: zRefParams,
    answer: z.strictObject({
      ref: zRef,
      version: z.number().int(),
      values: zValues,
      links: z.array(zLink),
      scores: z
        .array(z.looseObject({ points: z.number(), band: z.string().nullable() }))
        .describe('by line; see GET /records/{object}/{id}/scores'),
      writers: z
        .record(z.string(), z.strictObject({ doer: zDoer, atMs: zInstant }))
        .describe('who or what last set each field'),
      ahead: z
        .array(z.looseObject({ id: zId, title: z.string(), due: z.string() }))
        .describe('open tasks, soonest first'),
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
        .describe('what rules will do with it, soonest first'),
      note: z.string().nullable().describe('what is not stored any more'),
      timeline: z.array(z.looseObject({ atMs: zInstant, what: z.string() })).describe('newest first'),
    }),
  }),
  'PATCH /records/:object/:id': contract({
    section: 'Records',
    does: 'Update a record; triggered rules have run when it returns',
    tagged: true,
    more: 'With `If-Match`: error 412 if the record has changed. The response has the current `ETag`.',
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
    does: 'Delete a record (triggers rules)',
    more: 'History, runs and tasks are kept. The record can be restored.',
    params: zRefParams,
    answer: z.strictObject({ runs: z.number().int() }),
  }),
  'GET /records/:object/:id/merges/:other': contract({
    section: 'Records',
    does: 'Preview a merge',
    params: zRefParams.extend({ other: z.coerce.number().int().positive() }),
    answer: z.strictObject({
      name: z.string().describe('name of the other record'),
      links: z.number().int().describe('links that move'),
      tasks: z.number().int().describe('tasks that move'),
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
        .describe('fields that differ, with the value kept by default'),
    }),
  }),
  'POST /records/:object/:id/merges': contract({
    section: 'Records',
    does: 'Merge another record into this one',
    more: 'Links and tasks move to this record, its values fill empty fields, and both histories are shown. The merge can be undone.',
    params: zRefParams,
    body: z.strictObject({
      other: zId,
      take: z.array(z.string().max(100)).max(200).default([]).describe('fields that take the other record’s value'),
    }),
    answer: z.strictObject({ runs: z.number().int() }),
  }),
  'GET /deleted-records/:object': contract({
    section: 'Records',
    does: 'List deleted and merged records',
    params: objectParams,
    query: z.object(zPaging),
    answer: z.strictObject({ rows: z.array(zGone), next: zNext }),
  }),
  'GET /deleted-records/:object/:id': contract({
    section: 'Records',
    does: 'Get a deleted or merged record',
    params: zRefParams,
    answer: zGone,
  }),
  'POST /deleted-records/:object/:id': contract({
    section: 'Records',
    does: 'Restore a deleted or merged record',
    more: 'After a merge, links, tasks and unchanged values go back to their records. Rules are not triggered.',
    params: zRefParams,
    answer: z.strictObject({ ref: zRef, stayed: z.array(z.string()).describe('what could not be restored') }),
  }),
  'GET /records/:object/:id/fields/:key': contract({
    section: 'Records',
    does: 'Get the history of a field',
    params: zRefParams.extend({ key: z.string().max(100) }),
    answer: z.strictObject({
      label: z.string(),
      note: z.string().nullable().describe('what is not stored any more'),
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
    does: 'List links',
    params: zRefParams,
    answer: z.strictObject({ links: z.array(zLink) }),
  }),
  'POST /records/:object/:id/links': contract({
    section: 'Links',
    does: 'Create or update a link',
    more: 'The first link to a record type is the main one. For an existing link, its role changes, and with `main` it becomes the main one.',
    params: zRefParams,
    body: z.strictObject({ to: zRef, role: z.string().trim().max(100).default(''), main: z.boolean().default(false) }),
    answer: z.strictObject({ links: z.array(zLink) }),
  }),
  'DELETE /records/:object/:id/links/:other/:otherId': contract({
    section: 'Links',
    does: 'Remove a link',
    params: zRefParams.extend({ other: zObject, otherId: z.coerce.number().int().positive() }),
    answer: z.strictObject({ links: z.array(zLink) }),
  }),
  'GET /record-lists/:object': contract({
    section: 'Screens',
    does: 'Get a sorted page of records',
    params: objectParams,
    query: z.object({
      filter,
      words: z.string().max(100).default(''),
      sort: z.string().max(100).default('name'),
      down: z.enum(['true', 'false']).default('false'),
      offset: z.coerce.number().int().min(0).max(10_000_000).default(0),
      limit: z.coerce.number().int().min(1).max(500).default(100),
    }),
    answer: zLedger,
  }),
  'GET /boards/:pipeline': contract({
    section: 'Screens',
    does: 'Get a Board',
    params: z.object({ pipeline: z.string().max(100) }),
    query: z.object({ owner: z.string().max(100).optional() }),
    answer: zBoard,
  }),
  'GET /find': contract({
    section: 'Screens',
    does: 'Search records and rules',
    query: z.object({ words: z.string().trim().min(1).max(100) }),
    answer: zFound,
  }),
} as const
