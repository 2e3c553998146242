import { z } from 'zod'
import { zGroup } from '../../core/conditions/document'
import { contract, zId, zInstant, zNext, zObject, zPaging, zRef, zRefParams, zValues } from './contract'

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

export const zLabel = z.string().trim().min(1, 'is missing').max(100)

export const zFilterGroup = zGroup.meta({ id: 'Conditions' })

export const filter = z.string().max(20_000).optional().describe('a group of conditions as JSON, the same as in a rule')

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

export const objectParams = z.object({ object: zObject })

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
