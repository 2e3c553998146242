import { z } from 'zod'
import { ROLES } from '../../core/fields/field'
import { PASSWORD_LEAST, PASSWORD_MOST } from '../auth/password'
import { contract, zId, zIdParam, zInstant, zOk, zPersonId } from './contract'

const isZone = (zone: string): boolean => Intl.supportedValuesOf('timeZone').includes(zone) || zone === 'UTC'
export const zTitle = z.string().trim().min(1, 'is missing').max(100)
export const zEmail = z
  .email('Enter a valid email address.')
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
    does: 'Get the current session',
    more: 'A demo workspace also lists its accounts.',
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
    does: 'Sign in',
    more: 'The error is the same for a wrong password and an unknown email. Programs use an API key: `Authorization: Bearer …`.',
    body: z.strictObject({ email: z.string().trim().toLowerCase().max(300), password: z.string().max(PASSWORD_MOST) }),
    answer: zPerson,
  }),
  'DELETE /session': contract({ section: 'Account', does: 'Sign out', answer: zOut }),
  'DELETE /session/all': contract({
    section: 'Account',
    does: 'Sign out in all browsers',
    answer: zOut,
  }),
  'POST /session/demo': contract({
    section: 'Account',
    does: 'Switch person (demo only)',
    more: 'Error 403 outside a demo.',
    body: z.strictObject({ personId: zPersonId }),
    answer: zPerson,
  }),
  'PUT /account/password': contract({
    section: 'Account',
    does: 'Change your password and sign out other browsers',
    body: z.strictObject({ current: z.string().max(PASSWORD_MOST), next: zPassword }),
    answer: zOk,
  }),
  'GET /account/tokens': contract({
    section: 'Account',
    does: 'List your API keys',
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
    does: 'Create an API key',
    more: 'The key is only returned once.',
    body: z.strictObject({ name: zTitle }),
    answer: z.strictObject({ token: z.string() }),
  }),
  'DELETE /account/tokens/:id': contract({
    section: 'Account',
    does: 'Revoke an API key',
    params: zIdParam,
    answer: zOk,
  }),
  'POST /workspace': contract({
    section: 'Workspace',
    does: 'Set up a new workspace and sign in its first specialist',
    more: 'Error 409 if the workspace exists.',
    body: z.strictObject({
      name: zTitle,
      zone: z.string().max(60).refine(isZone, 'Choose a time zone from the list.'),
      currency: z.string().regex(/^[A-Z]{3}$/, 'Enter a three-letter currency code, for example EUR.'),
      person: z.strictObject({ name: zTitle, email: zEmail, password: zPassword }),
    }),
    answer: zPerson,
  }),
  'GET /catalogue': contract({
    section: 'Screens',
    does: 'Get fields, pipelines, people and the current person',
  }),
  'GET /live': contract({
    section: 'Workspace',
    does: 'Stream changes as server-sent events (WHATWG HTML, 9.2)',
    media: 'text/event-stream',
    query: z.object({
      after: z.string().max(100).optional().describe('Position to continue from (`live` of the catalogue)'),
    }),
    more: 'Each message has an id. A connection with `Last-Event-ID` gets what it missed, or `anew` if the position is too old.',
  }),
  'GET /metrics': contract({
    section: 'Workspace',
    does: 'Get metrics in Prometheus format',
    media: 'text/plain',
  }),
  'GET /openapi.json': contract({
    section: 'Workspace',
    does: 'Get this description as OpenAPI 3.1',
    answer: z.looseObject({ openapi: z.literal('3.1.0') }),
  }),
} as const
