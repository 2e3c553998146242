import { z } from 'zod'
import { VERIFY, zInto } from '../../core/web/intake'
import { METHODS } from '../../core/web/request'
import { contract, zId, zIdParam, zInstant, zNext, zOk, zPaging, zRef } from './contract'

const zName = z.string().trim().min(1).max(100)
const zAddress = z
  .union([z.literal(''), z.url({ protocol: /^https?$/ }).max(500)])
  .describe('without a slash at its end; empty for the simulated receiver')
const zHeaders = z
  .record(
    z
      .string()
      .regex(/^[A-Za-z][A-Za-z\d-]{0,60}$/, 'is no name of a header')
      .refine(
        (name) => !/^(host|content-length|connection|transfer-encoding|webhook-.*)$/i.test(name),
        'is set by itself',
      ),
    z
      .string()
      .max(2000)
      .regex(/^[\x20-\x7e]*$/, 'may hold plain characters only'),
  )
  .describe('with their values, which are never shown again')

const zConnection = z.strictObject({
  id: zId,
  name: z.string(),
  address: z.string(),
  headers: z.array(z.string()),
  archived: z.boolean(),
})

export const web = {
  'GET /connections': contract({
    section: 'Web requests',
    does: 'List connections to services outside',
    answer: z.strictObject({
      connections: z.array(zConnection),
      simulated: z
        .strictObject({ status: z.number().int(), body: z.string() })
        .describe('what the simulated receiver answers'),
    }),
  }),
  'POST /connections': contract({
    section: 'Web requests',
    does: 'Create a connection',
    body: z.strictObject({ name: zName, address: zAddress, headers: zHeaders.default({}) }),
    answer: z.strictObject({ id: zId, secret: z.string().describe('for checking signatures; shown this once') }),
  }),
  'PATCH /connections/:id': contract({
    section: 'Web requests',
    does: 'Change or archive a connection, or give it a new secret',
    params: zIdParam,
    body: z.strictObject({
      name: zName.optional(),
      address: zAddress.optional(),
      headers: zHeaders.optional().describe('instead of those it has'),
      archived: z.boolean().optional(),
      newSecret: z.literal(true).optional(),
    }),
    answer: z.strictObject({ secret: z.string().nullable().describe('where a new one was asked for') }),
  }),
  'GET /intakes': contract({
    section: 'Web requests',
    does: 'List addresses for incoming web requests, and what came in',
    answer: z.strictObject({
      intakes: z.array(
        z.strictObject({
          id: zId,
          name: z.string(),
          address: z.string(),
          verify: z.enum(VERIFY),
          into: zInto,
          says: z.string().describe('what becomes of it'),
        }),
      ),
      requests: z
        .array(
          z.strictObject({
            id: zId,
            intakeId: zId,
            name: z.string(),
            body: z.string(),
            state: z.enum(['taken', 'refused']),
            says: z.string(),
            ref: zRef.nullable(),
            recordName: z.string(),
            atMs: zInstant,
          }),
        )
        .describe('newest first'),
    }),
  }),
  'POST /intakes': contract({
    section: 'Web requests',
    does: 'Make an address for incoming web requests',
    body: z.strictObject({ name: zName, verify: z.enum(VERIFY), into: zInto }),
    answer: z.strictObject({ id: zId, address: z.string(), secret: z.string().describe('shown this once') }),
  }),
  'PATCH /intakes/:id': contract({
    section: 'Web requests',
    does: 'Change or archive an address for incoming web requests, or give it a new secret',
    params: zIdParam,
    body: z.strictObject({
      name: zName.optional(),
      verify: z.enum(VERIFY).optional(),
      into: zInto.optional(),
      archived: z.boolean().optional(),
      newSecret: z.literal(true).optional(),
    }),
    answer: z.strictObject({ secret: z.string().nullable() }),
  }),
  'GET /web-requests': contract({
    section: 'Web requests',
    does: 'List web requests with their answers, newest first',
    query: z.object({ ...zPaging, connection: z.coerce.number().int().optional() }),
    answer: z.strictObject({
      requests: z.array(
        z.strictObject({
          id: zId,
          connection: z.string(),
          ref: zRef,
          recordName: z.string(),
          ruleName: z.string(),
          runId: zId,
          method: z.enum(METHODS),
          path: z.string(),
          body: z.string().nullable(),
          later: z.boolean().describe('its answer comes later, at an address that went with it'),
          simulated: z.boolean().describe('goes to the simulated receiver'),
          outcome: z.enum(['taken', 'refused']).nullable().describe('`null` while it is on its way'),
          status: z.number().int().nullable(),
          answer: z.string().nullable(),
          attempts: z.number().int(),
          lastError: z.string().nullable(),
          atMs: zInstant,
          answeredAt: zInstant.nullable(),
        }),
      ),
      next: zNext,
    }),
  }),
  'POST /web-requests/:id/again': contract({
    section: 'Web requests',
    does: 'Send a web request again, under its id',
    more: 'What a rule did because of the first answer stays as it is.',
    params: zIdParam,
    answer: zOk,
  }),
  'POST /web-requests/:id/answer': contract({
    section: 'Web requests',
    does: 'Answer a web request later, as the simulated receiver',
    params: zIdParam,
    body: z.strictObject({ body: z.string().max(20_000) }),
    answer: zOk,
  }),
  'POST /web-request-previews': contract({
    section: 'Web requests',
    does: 'Preview a web request for a record',
    body: z.strictObject({ ref: zRef, params: z.record(z.string(), z.unknown()) }),
    answer: z.strictObject({
      method: z.string(),
      url: z.string(),
      body: z.string().nullable(),
      problem: z.string().nullable(),
    }),
  }),
  'PUT /simulated-answer': contract({
    section: 'Web requests',
    does: 'Set what the simulated receiver answers',
    body: z.strictObject({ status: z.number().int().min(200).max(599), body: z.string().max(20_000) }),
    answer: zOk,
  }),
} as const
