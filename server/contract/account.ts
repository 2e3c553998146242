import { z } from 'zod'
import { ROLES } from '../../core/fields/field'
import { PASSWORD_LEAST, PASSWORD_MOST } from '../auth/password'
import { contract, zId, zIdParam, zInstant, zOk, zPersonId } from './contract'

const isZone = (zone: string): boolean => Intl.supportedValuesOf('timeZone').includes(zone) || zone === 'UTC'
export const zTitle = z.string().trim().min(1, 'is missing').max(100)
export const zEmail = z
  .email('is not an email address')
  .max(300)
  .transform((email) => email.toLowerCase())
export const zPassword = z
  .string()
  .min(PASSWORD_LEAST, `needs at least ${PASSWORD_LEAST} characters`)
  .max(PASSWORD_MOST)
const zPerson = z.strictObject({ person: zPersonId })
const zOut = z.strictObject({ state: z.literal('out') })

export const account = {
  'GET /session': contract({
    section: 'Account',
    does: 'Who is signed in, and what the sign-in page needs to know',
    more: 'A demo workspace shows its accounts, no other does.',
    answer: z.strictObject({
      state: z.enum(['empty', 'out', 'in']),
      workspace: z.string(),
      person: zPersonId.nullable(),
      demo: z
        .strictObject({
          password: z.string(),
          people: z.array(
            z.strictObject({
              id: zPersonId,
              name: z.string(),
              email: z.string(),
              role: z.enum(ROLES),
              title: z.string(),
            }),
          ),
        })
        .nullable(),
    }),
  }),
  'POST /session': contract({
    section: 'Account',
    does: 'Signs in',
    more: 'Says the same for a wrong password and for an address that nobody has. Programs bring a key instead: `Authorization: Bearer …`.',
    body: z.strictObject({ email: z.string().trim().toLowerCase().max(300), password: z.string().max(PASSWORD_MOST) }),
    answer: zPerson,
  }),
  'DELETE /session': contract({ section: 'Account', does: 'Signs out in this browser', answer: zOut }),
  'DELETE /session/all': contract({
    section: 'Account',
    does: 'Signs out everywhere: every cookie of the person is void from now on',
    answer: zOut,
  }),
  'POST /session/demo': contract({
    section: 'Account',
    does: 'Changes to another person of a demo workspace',
    more: 'Anywhere else it is refused (403).',
    body: z.strictObject({ personId: zPersonId }),
    answer: zPerson,
  }),
  'PUT /account/password': contract({
    section: 'Account',
    does: 'Changes one’s own password; signs out everywhere else',
    body: z.strictObject({ current: z.string().max(PASSWORD_MOST), next: zPassword }),
    answer: zOk,
  }),
  'GET /account/tokens': contract({
    section: 'Account',
    does: 'One’s own keys for the API, without the keys themselves',
    answer: z.strictObject({
      tokens: z.array(
        z.strictObject({
          id: zId,
          name: z.string(),
          start: z.string(),
          createdAt: zInstant,
          lastUsedAt: zInstant.nullable(),
        }),
      ),
    }),
  }),
  'POST /account/tokens': contract({
    section: 'Account',
    does: 'Makes a key for the API',
    more: 'This answer is the only place where it can be read.',
    body: z.strictObject({ name: zTitle }),
    answer: z.strictObject({ token: z.string() }),
  }),
  'DELETE /account/tokens/:id': contract({
    section: 'Account',
    does: 'Revokes one of one’s own keys',
    params: zIdParam,
    answer: zOk,
  }),
  'POST /workspace': contract({
    section: 'Workspace',
    does: 'Sets an empty workspace up and signs its first specialist in',
    more: 'Refused (409) once there is one.',
    body: z.strictObject({
      name: zTitle,
      zone: z.string().max(60).refine(isZone, 'is not a time zone'),
      currency: z.string().regex(/^[A-Z]{3}$/, 'is not a currency code of three letters'),
      person: z.strictObject({ name: zTitle, email: zEmail, password: zPassword }),
    }),
    answer: zPerson,
  }),
  'GET /catalogue': contract({
    section: 'Screens',
    does: 'Everything screens need to speak about records: fields, pipelines, people, and who is looking',
  }),
  'GET /live': contract({
    section: 'Workspace',
    does: 'Tells what changes, as server-sent events (WHATWG HTML, 9.2)',
    media: 'text/event-stream',
    query: z.object({
      after: z.string().max(100).optional().describe('`live` of the catalogue: from where on to tell'),
    }),
    more: 'Each message has an id; a connection that comes back with `Last-Event-ID` gets what it missed, or hears `anew` when that is too long ago.',
  }),
  'GET /metrics': contract({
    section: 'Workspace',
    does: 'How it is doing, in the text format of Prometheus',
    media: 'text/plain',
  }),
  'GET /openapi.json': contract({
    section: 'Workspace',
    does: 'This description, as an OpenAPI 3.1 document',
    answer: z.looseObject({ openapi: z.literal('3.1.0') }),
  }),
} as const
