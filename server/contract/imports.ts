import { z } from 'zod'
import { zMapping } from '../../core/formats/csv/import'
import { WORDS_MOST } from '../../core/formats/csv/missing'
import { COLUMNS_MOST } from '../../core/formats/csv/read'
import { FIELD_TYPE_NAMES } from '../../core/language/field-types'
import { zTitle } from './account'
import { contract, zId, zIdParam, zInstant, zObject, zOk } from './contract'
import { zOutcome } from './fields'
import { zLabel } from './records'

/** Files that records are brought in from. */

/** Letters of a file: a hundred thousand deals with ten columns are two thirds of it. */
const CONTENT_MOST = 16_000_000
const zImportState = z.enum(['ready', 'running', 'stopped', 'done'])
const zCounts = z
  .strictObject({
    new: z.number().int(),
    changed: z.number().int(),
    same: z.number().int(),
    refused: z.number().int(),
    companies: z.number().int().describe('companies created by the import'),
    contacts: z.number().int(),
  })
  .meta({ id: 'ImportCounts' })
const zImportLine = z
  .strictObject({
    id: zId,
    object: zObject,
    fileName: z.string(),
    state: zImportState,
    rulesOn: z.boolean(),
    counts: zCounts.nullable(),
    position: z.number().int().describe('last imported row'),
    personId: z.string(),
    createdAt: zInstant,
    endedAt: zInstant.nullable(),
  })
  .meta({ id: 'Import' })
const zWordRows = z.number().int().describe('rows that have it')
const zMissing = z
  .strictObject({
    choices: z
      .array(
        z.strictObject({
          field: z.string().max(100),
          words: z.array(z.strictObject({ text: zLabel, rows: zWordRows })).max(WORDS_MOST),
        }),
      )
      .max(200),
    stages: z
      .array(
        z.strictObject({
          pipeline: z.string().max(100).nullable().describe('null for a new one'),
          named: zLabel.nullable().describe('name of the new pipeline'),
          stages: z.array(z.strictObject({ text: zLabel, rows: zWordRows, outcome: zOutcome })).max(WORDS_MOST),
        }),
      )
      .max(50),
    people: z
      .array(
        z.strictObject({
          text: zLabel,
          rows: zWordRows,
          name: zTitle,
          email: z.email('Enter a valid email address.').max(300).nullable(),
        }),
      )
      .max(WORDS_MOST),
    fields: z
      .array(
        z.strictObject({
          column: z
            .number()
            .int()
            .min(0)
            .max(COLUMNS_MOST - 1),
          label: zLabel,
          type: z.enum(FIELD_TYPE_NAMES),
          choices: z.array(zLabel).max(500),
          rows: zWordRows,
        }),
      )
      .max(200),
  })
  .meta({ id: 'ImportMissing' })
const zRowProblem = z.strictObject({ heading: z.string(), text: z.string() })

export const imports = {
  'GET /imports': contract({
    section: 'Files',
    does: 'List the last 50 imports',
    answer: z.strictObject({ imports: z.array(zImportLine) }),
  }),
  'POST /imports': contract({
    section: 'Files',
    does: 'Upload a CSV file and match its columns',
    more: 'No records are changed yet. Column settings of an earlier import with the same columns are reused.',
    most: 20_000_000,
    body: z.strictObject({
      fileName: z.string().trim().min(1).max(300),
      content: z
        .string()
        .max(CONTENT_MOST, 'The file is larger than 16 MB. Split it into several files.')
        .describe('text of the file'),
      object: zObject.optional().describe('record type of the rows; detected if omitted'),
    }),
    answer: z.strictObject({ id: zId }),
  }),
  'GET /imports/:id': contract({
    section: 'Files',
    does: 'Get an import with its columns and preview',
    params: zIdParam,
    answer: zImportLine.extend({
      mapping: zMapping,
      hasFile: z.boolean().describe('whether the file is still stored'),
      refused: z.array(z.strictObject({ row: z.number().int(), problems: z.array(zRowProblem) })).nullable(),
      preview: z
        .looseObject({
          headings: z.array(z.string()),
          counts: zCounts,
          mappingProblems: z.array(zRowProblem),
          missing: zMissing,
        })
        .nullable(),
    }),
  }),
  'PUT /imports/:id/mapping': contract({
    section: 'Files',
    does: 'Set record type and columns',
    params: zIdParam,
    body: zMapping.meta({ id: 'ImportMapping' }),
    answer: zOk,
  }),
  'POST /imports/:id/missing': contract({
    section: 'Files',
    does: 'Create what the file names and the workspace does not have',
    more: 'Send the preview’s `missing`, without what is not wanted. All of it is created, or nothing.',
    params: zIdParam,
    body: zMissing,
    answer: zOk,
  }),
  'POST /imports/:id/run': contract({
    section: 'Files',
    does: 'Start or continue an import',
    more: 'Returns immediately. Progress is sent to open screens.',
    params: zIdParam,
    body: z.strictObject({ rulesOn: z.boolean().describe('whether rules run for these changes') }),
    answer: z.strictObject({ state: zImportState }),
  }),
  'POST /imports/:id/stop': contract({
    section: 'Files',
    does: 'Stop an import',
    more: 'Imported rows are kept. Continue to import the rest.',
    params: zIdParam,
    answer: z.strictObject({ state: zImportState }),
  }),
  'GET /imports/:id/refused': contract({
    section: 'Files',
    does: 'Download rejected rows',
    params: zIdParam,
    media: 'text/csv',
  }),
} as const
