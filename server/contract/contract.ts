import { ACTIVITY_NAMES, zActivityName } from '../../core/activities'
import '../../core/language/issues'
import { z } from 'zod'
import { OBJECTS, RULE_OBJECTS } from '../../core/records/kinds'
import { zValue } from '../../core/language/value'

/** The parts of the API, in the order in which they are read about. */
export const SECTIONS = [
  'Records',
  'Links',
  'Fields',
  'Rules',
  'Runs',
  'Tasks',
  'Scores',
  'Activities',
  'Appointments',
  'Messages',
  'Web requests',
  'Files',
  'People',
  'Account',
  'Workspace',
  'Screens',
] as const
export type Section = (typeof SECTIONS)[number]

/** What a route takes and gives. The same schemas check requests, make the OpenAPI document, and test the answers. */
export interface Contract {
  readonly section: Section
  /** What it does, as one sentence without a full stop. */
  readonly does: string
  /** What else somebody who calls it should know. */
  readonly more?: string
  readonly params?: z.ZodType
  readonly query?: z.ZodType
  readonly body?: z.ZodType
  /** Other forms of the body, by their media type; each is read to the same. */
  readonly bodies?: Readonly<Record<string, z.ZodType>>
  /** What the body may be at the most, in bytes; 1 MB usually. */
  readonly most?: number
  /** Left out where the answer is made for one screen and changes with it. */
  readonly answer?: z.ZodType
  /** When it does not answer in JSON. */
  readonly media?:
    'text/csv' | 'application/yaml' | 'application/xml' | 'application/schema+json' | 'text/plain' | 'text/event-stream'
  /** Answers carry the record's version as an entity tag (RFC 9110, 8.8.3); writes take it back in `If-Match`. */
  readonly tagged?: true
}

export const contract = <const C extends Contract>(given: C): C => given

/** What somebody does. */
export const zActivityKind = zActivityName
  .describe(`${ACTIVITY_NAMES.join(', ')}, or one of your own`)
  .meta({ id: 'ActivityKind' })
export const zObject = z.enum(OBJECTS).describe('record type')
export const zId = z.number().int().positive()
export const zIdParam = z.object({ id: z.coerce.number().int().positive() })
export const zRef = z.strictObject({ object: zObject, id: zId }).meta({ id: 'RecordRef' })
/** What a rule is about: a kind of records, or none at all. */
export const zAbout = z.enum(RULE_OBJECTS).describe('record type, or `none` for a rule about no record')
export const zAboutRef = z.strictObject({ object: zAbout, id: zId }).meta({ id: 'RunRef' })
export const zRefParams = z.object({ object: zObject, id: z.coerce.number().int().positive() })
export const zInstant = z.number().int().describe('time in milliseconds since 1970, UTC').meta({ id: 'Instant' })
/** No kind of record has so many fields. */
const VALUES_MOST = 1000
export const zValues = z
  .record(z.string().max(100), zValue)
  .refine((values) => Object.keys(values).length <= VALUES_MOST, `Has more than ${VALUES_MOST} values.`)
  .describe('values by field key; see GET /fields for the types')
  .meta({ id: 'Values' })
export const zPersonId = z.string().max(100).describe('person ID')
export const zOk = z.strictObject({ ok: z.literal(true) }).meta({ id: 'Done' })

/** Where the following page begins; `null` after the last. */
export const zNext = z.string().nullable().describe('pass it as `cursor` to get the next page; null on the last page')
export const zPaging = {
  cursor: z.string().max(200).optional().describe('`next` of the previous page'),
  limit: z.coerce.number().int().min(1).max(200).default(100),
}

/** Problem details as RFC 9457 has them, with the places that are wrong. */
export const zProblem = z
  .strictObject({
    type: z.literal('about:blank'),
    code: z.string().describe('what kind of problem it is; stays the same when its words change'),
    title: z.string(),
    status: z.number().int(),
    detail: z.string(),
    places: z.array(
      z.strictObject({
        path: z.string().describe('which part of the request'),
        text: z.string().describe('the problem'),
      }),
    ),
  })
  .meta({ id: 'Problem' })
