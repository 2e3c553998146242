import { z } from 'zod'
import { valuesOfSchema } from '../../core/activities/from-schema'
import type { ActivityValue } from '../../core/activities/kind'
import { activityOfEvent, zCloudEvent } from '../../core/formats/cloud-events'
import { zValue } from '../../core/language/value'
import { contract, zActivityKind, zId, zIdParam, zInstant, zNext, zOk, zPaging, zRef } from './contract'

/** A host as a browser names it in `Origin`, with its port where that is not the usual one. */
const zHost = z
  .string()
  .trim()
  .toLowerCase()
  .max(253)
  .regex(/^[a-z\d]([a-z\d.-]*[a-z\d])?(:\d{1,5})?$/, 'is not a host such as www.larkmoor.example')
const zActivity = z
  .strictObject({
    ref: zRef.optional(),
    email: z.string().max(300).optional().describe('a contact’s email, instead of a record'),
    kind: zActivityKind,
    about: z.string().trim().max(500).default('').describe('page, form or subject'),
    data: z.record(z.string().max(60), zValue).default({}).describe('more of it, by the keys of its kind'),
    atMs: zInstant.nullable().default(null).describe('now if omitted'),
    key: z.string().max(200).nullable().default(null).describe('your own key; the same key is stored only once'),
  })
  .refine((one) => one.ref !== undefined || one.email !== undefined, 'names no record')
const zTold = z.strictObject({
  kept: z.number().int(),
  known: z.number().int().describe('items with a known key'),
  unknown: z.number().int().describe('items of people who are no contacts yet; kept until they are'),
  refused: z.array(z.strictObject({ row: z.number().int(), text: z.string() })),
})

const zKindWord = z.string().trim().min(1).max(60)
const zKindWords = z.strictObject({
  did: zKindWord.describe('in a timeline: “visited the showroom”'),
  does: zKindWord.describe('in a rule: “visits the showroom”'),
  one: zKindWord.describe('“showroom visit”'),
  many: zKindWord.describe('“showroom visits”'),
  about: zKindWord.describe('what its one line of text is, as “showroom”'),
})
const zValueChoices = z.array(z.strictObject({ id: z.string().min(1).max(100), label: zKindWord })).max(60)
const zActivityValue = z
  .strictObject({
    key: z.string().max(40),
    label: z.string().trim().min(1).max(100),
    type: z.enum(['text', 'longText', 'number', 'yesNo', 'choice', 'dateTime']),
    choices: zValueChoices.optional(),
  })
  .meta({ id: 'ActivityValue' })
const zKindData = z
  .array(zActivityValue)
  .max(30)
  .transform((data) => data.map(({ choices, ...one }): ActivityValue => (choices ? { ...one, choices } : one)))
const zKindExample = z.strictObject({ about: z.string().max(500), data: z.record(z.string(), zValue) })
/** The values that a schema describes; what it cannot be is refused by its place. */
const zKindSchema = z
  .record(z.string(), z.unknown())
  .transform((schema, context): readonly ActivityValue[] => {
    const found = valuesOfSchema(schema)
    if ('data' in found) return found.data
    context.addIssue({ code: 'custom', path: found.path.split('.'), message: found.text })
    return z.NEVER
  })
  .meta({ id: 'ActivitySchema' })

/** An event as one item of those that are told plainly; what it cannot be is refused by its attribute. */
const zEventItem = zCloudEvent
  .transform((event, context) => {
    const found = activityOfEvent(event)
    if ('activity' in found) return found.activity
    context.addIssue({ code: 'custom', path: [found.wrong], message: found.text })
    return z.NEVER
  })
  .meta({ id: 'ActivityEvent' })

export const activities = {
  'GET /activities': contract({
    section: 'Activities',
    does: 'List activity',
    query: z.object(zPaging),
    answer: z.strictObject({
      activities: z.array(
        z.strictObject({
          id: zId,
          ref: zRef,
          name: z.string(),
          kind: zActivityKind,
          about: z.string(),
          data: z.record(z.string(), zValue),
          atMs: zInstant,
        }),
      ),
      next: zNext,
    }),
  }),
  'POST /activities': contract({
    section: 'Activities',
    does: 'Add activity',
    more: 'Scores change and rules start at once. Also as CloudEvents 1.0, one or a batch.',
    body: z.strictObject({ activities: z.array(zActivity).min(1).max(1000) }),
    bodies: {
      'application/cloudevents+json': zEventItem.transform((one) => ({ activities: [one] })),
      'application/cloudevents-batch+json': z
        .array(zEventItem)
        .min(1)
        .max(1000)
        .transform((activities) => ({ activities })),
    },
    answer: zTold,
  }),
  'POST /activities/files': contract({
    section: 'Activities',
    does: 'Add activity from CSV',
    more: 'Columns: kind, about, at, key; and email, contact, company or deal.',
    most: 6_000_000,
    body: z.strictObject({ text: z.string().max(5_000_000) }),
    answer: zTold,
  }),
  'GET /activity-kinds': contract({
    section: 'Activities',
    does: 'List kinds of activities with the schema of their data',
    answer: z.strictObject({
      kinds: z.array(
        z.strictObject({
          kind: zActivityKind,
          own: z.boolean().describe('made by this workspace'),
          archived: z.boolean(),
          ...zKindWords.shape,
          data: z.array(zActivityValue),
          kept: z.int().describe('how many there are'),
          schema: z.record(z.string(), z.unknown()).describe('JSON Schema of `data`, draft 2020-12'),
          example: z.strictObject({ about: z.string(), data: z.record(z.string(), zValue) }),
        }),
      ),
    }),
  }),
  'POST /activity-kinds': contract({
    section: 'Activities',
    does: 'Create a kind of activity',
    more: 'What it tells is given as `data`, or as a JSON Schema of an object with plain values.',
    body: zKindWords
      .extend({ data: zKindData.optional(), schema: zKindSchema.optional(), example: zKindExample.optional() })
      .transform(({ schema, data, ...rest }) => ({ ...rest, data: schema ?? data ?? [] })),
    answer: z.strictObject({ kind: zActivityKind }),
  }),
  'PATCH /activity-kinds/:kind': contract({
    section: 'Activities',
    does: 'Change or archive a kind of your own',
    more: 'A value that rules use is not removed, and keeps its type. Refused while rules use a kind that is archived.',
    params: z.object({ kind: zActivityKind }),
    body: zKindWords
      .partial()
      .extend({
        data: zKindData.optional(),
        schema: zKindSchema.optional(),
        example: zKindExample.optional(),
        archived: z.boolean().optional(),
      })
      .transform(({ schema, data, ...rest }) => {
        const values = schema ?? data
        return values ? { ...rest, data: values } : rest
      }),
    answer: zOk,
  }),
  'GET /websites': contract({
    section: 'Activities',
    does: 'List websites that may send visits',
    answer: z.strictObject({
      hosts: z.array(z.strictObject({ host: z.string(), addedAt: zInstant })),
      unknown: z
        .strictObject({ visitors: z.int(), activities: z.int() })
        .describe('visitors who are no contacts yet, and what they did'),
      simulated: z.array(z.string()).describe('pages of the simulated website of a demo workspace'),
    }),
  }),
  'POST /websites': contract({
    section: 'Activities',
    does: 'Let a website send visits',
    body: z.strictObject({ host: zHost }),
    answer: zOk,
  }),
  'DELETE /websites/:host': contract({
    section: 'Activities',
    does: 'Let a website send visits no more',
    params: z.object({ host: zHost }),
    answer: zOk,
  }),
  'GET /personal-links/:id': contract({
    section: 'Activities',
    does: 'Get what makes a link personal',
    more: 'Add `?for=` with it to a link: who follows the link to your website is known as that contact.',
    params: zIdParam,
    answer: z.strictObject({ person: z.string() }),
  }),
  'GET /people-data/:id': contract({
    section: 'Activities',
    does: 'Get everything that is kept of a contact',
    params: zIdParam,
    answer: z.looseObject({ contact: zRef, values: z.record(z.string(), z.string()) }),
  }),
  'POST /simulated-visitors': contract({
    section: 'Activities',
    does: 'Send visitors to the simulated website',
    body: z.strictObject({ visitors: z.int().min(1).max(100) }),
    answer: z.strictObject({ pages: z.int() }),
  }),
}
