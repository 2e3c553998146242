import { z } from 'zod'
import { zCatalogue } from './screens'
import { AREAS } from '../../core/access/areas'
import { ROLES } from '../../core/fields/field'
import { isCommon } from '../auth/common-passwords'
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
  .refine((password) => !isCommon(password), 'Many people use this password. Choose another one.')
const zPerson = z.strictObject({ person: zPersonId })
const zKey = z.strictObject({
  id: zId,
  name: z.string(),
  start: z.string().describe('first characters of the key'),
  createdAt: zInstant,
  lastUsedAt: zInstant.nullable().describe('to the hour'),
  readOnly: z.boolean(),
  areas: z.array(z.enum(AREAS)).nullable().describe('null for all'),
  expiresAt: zInstant.nullable().describe('null for never'),
})
const zOut = z.strictObject({ state: z.literal('out') })

export const account = {
  'GET /session': contract({
    section: 'Account',
    does: 'Get the current session',
    more: 'A demo workspace also lists its accounts.',
    answer: z.strictObject({
      state: z.enum(['empty', 'out', 'in']),
      workspace: z.string(),
      needsCode: z.boolean().describe('whether setting it up from here takes the code that the server printed'),
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
      tokens: z.array(zKey),
    }),
  }),
  'GET /account/sessions': contract({
    section: 'Account',
    does: 'List the browsers in which you are signed in',
    answer: z.strictObject({
      sessions: z.array(
        z.strictObject({
          id: zId,
          agent: z.string().describe('`User-Agent` of the browser'),
          createdAt: zInstant,
          lastSeenAt: zInstant,
          current: z.boolean().describe('whether it is the one that asks'),
        }),
      ),
    }),
  }),
  'DELETE /account/sessions/:id': contract({
    section: 'Account',
    does: 'Sign out in one browser',
    params: zIdParam,
    answer: zOk,
  }),
  'GET /keys': contract({
    section: 'People',
    does: 'List everyone’s API keys',
    answer: z.strictObject({ keys: z.array(zKey.extend({ personId: zPersonId })) }),
  }),
  'DELETE /keys/:id': contract({
    section: 'People',
    does: 'Revoke an API key',
    more: 'Of any person.',
    params: zIdParam,
    answer: zOk,
  }),
  'POST /account/tokens': contract({
    section: 'Account',
    does: 'Create an API key',
    more: 'The key is only returned once. A key never opens this part of the API (Account).',
    body: z.strictObject({
      name: zTitle,
      readOnly: z.boolean().default(false).describe('whether it may change nothing'),
      areas: z.array(z.enum(AREAS)).min(1).nullable().default(null).describe('what it may be used for; null for all'),
      days: z.int().min(1).max(3650).nullable().default(90).describe('days until it expires; null for never'),
    }),
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
      code: z
        .string()
        .max(40)
        .default('')
        .describe('printed by the server when it started; not needed on the machine itself'),
    }),
    answer: zPerson,
  }),
  'GET /catalogue': contract({
    section: 'Screens',
    does: 'Get fields, pipelines, people and the current person',
    answer: zCatalogue,
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
