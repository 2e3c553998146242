import type { z } from 'zod'
import { ROUTES, type RouteName } from '../utils/acts'
import { CONTRACTS } from '.'
import { SECTIONS, zProblem, type Contract } from './contract'
import { ACTS } from '../../core/access/acts'
import type { Role } from '../../core/fields/field'
import { OBJECTS } from '../../core/records/kinds'
import './definitions'
import { Schemas, type Json } from './schemas'

/** How a request is refused: each answer stands once, and is led to from the routes that give it. */
const REFUSALS = {
  404: ['NotFound', 'Not found or no access'],
  409: ['Conflict', 'It is not in a state in which this can be done'],
  410: ['Gone', 'It is not stored any more'],
  412: ['Outdated', 'Changed by someone else'],
  422: ['NotAccepted', 'Not accepted: the field and the reason. Nothing is saved.'],
  429: ['TooMany', 'Too many attempts: wait as long as `Retry-After` says'],
} as const
/** What any request may meet, said once for all. */
const ANY_OTHER =
  'Any other refusal: 401 (not signed in), 403 (not allowed for this role, API key or workspace), 400 (invalid: the field and the reason), 413 (the body is too large), 415 (it is not JSON), 421 (the server is not known under this name), 503 (busy; see `Retry-After`), 507 (the disk is full). Nothing is saved.'
type Refusal = keyof typeof REFUSALS

/** Which refusals a route can answer with. */
function refusalsOf(route: RouteName): readonly Refusal[] {
  const { params, query, body, tagged, section }: Contract = CONTRACTS[route]
  const writes = !route.startsWith('GET ')
  return [
    ...(params || query || body ? [404 as const] : []),
    ...(writes ? [409 as const] : []),
    ...(section === 'Files' ? [410 as const] : []),
    ...(writes && tagged ? [412 as const] : []),
    ...(writes ? [422 as const] : []),
    ...(section === 'Account' || route === 'POST /workspace' ? [429 as const] : []),
  ]
}

/** Named after what they do: `PATCH /records/:object/:id` is `patchRecordsObjectId`. */
const operationId = (route: RouteName): string =>
  route
    .replace(/^\w+/, (method) => method.toLowerCase())
    .replace(/[^A-Za-z]+([A-Za-z]?)/g, (_, letter: string) => letter.toUpperCase())

/** Parts of paths that many routes have: each stands once. */
const IN_PATHS: Readonly<Record<string, Json>> = {
  Id: { name: 'id', in: 'path', required: true, schema: { type: 'integer', exclusiveMinimum: 0 } },
  RecordType: {
    name: 'object',
    in: 'path',
    required: true,
    description: 'record type',
    schema: { type: 'string', enum: [...OBJECTS] },
  },
}

function parameters(contract: Contract, components: Schemas): Json[] {
  const of = (schema: z.ZodType | undefined, where: 'path' | 'query'): Json[] => {
    if (!schema) return []
    const { properties = {}, required = [] } = components.of(schema, 'input') as {
      properties?: Record<string, Json>
      required?: string[]
    }
    return Object.entries(properties).map(([name, { description, ...given }]) => {
      const made: Json = {
        name,
        in: where,
        required: where === 'path' || required.includes(name),
        ...(description === undefined ? {} : { description }),
        schema: given,
      }
      const text = JSON.stringify(made)
      const shared = Object.entries(IN_PATHS).find(([, one]) => JSON.stringify(one) === text)?.[0]
      return shared === undefined ? made : parameterAt(shared)
    })
  }
  return [...of(contract.params, 'path'), ...of(contract.query, 'query')]
}

const header = (name: string, description: string): Json => ({
  name,
  in: 'header',
  required: false,
  description,
  schema: { type: 'string' },
})
/** Headers that many routes take: each stands once. */
const HEADERS: Readonly<Record<string, Json>> = {
  IdempotencyKey: header(
    'Idempotency-Key',
    'A unique text. Requests with the same key are executed once; the response is repeated for a day.',
  ),
  IfMatch: header('If-Match', 'ETag of the version you are changing'),
}
const parameterAt = (name: string): Json => ({ $ref: `#/components/parameters/${name}` })
const TAG: Json = { ETag: { description: 'Record version', schema: { type: 'string' } } }

function operation(route: RouteName, components: Schemas): Json {
  const contract: Contract = CONTRACTS[route]
  const act = ROUTES[route]
  const writes = !route.startsWith('GET ')
  const content = contract.media
    ? { [contract.media]: { schema: { type: 'string' } } }
    : {
        'application/json': {
          schema: contract.answer ? components.of(contract.answer, 'output') : { type: 'object' },
        },
      }
  return {
    operationId: operationId(route),
    summary: contract.does,
    ...(contract.more ? { description: contract.more } : {}),
    tags: [contract.section],
    ...(act === 'enter' ? { security: [] } : {}),
    'x-act': act,
    parameters: [
      ...parameters(contract, components),
      ...(writes && act !== 'enter' && act !== 'self' && contract.section !== 'People'
        ? [parameterAt('IdempotencyKey')]
        : []),
      ...(writes && contract.tagged ? [parameterAt('IfMatch')] : []),
    ],
    ...(contract.body
      ? {
          requestBody: {
            required: true,
            content: Object.fromEntries(
              [['application/json', contract.body] as const, ...Object.entries(contract.bodies ?? {})].map(
                ([media, schema]) => [media, { schema: components.of(schema, 'input') }],
              ),
            ),
          },
        }
      : {}),
    responses: {
      200: { description: 'Done', ...(contract.tagged ? { headers: TAG } : {}), content },
      ...Object.fromEntries(
        refusalsOf(route).map((status) => [status, { $ref: `#/components/responses/${REFUSALS[status][0]}` }]),
      ),
      default: { $ref: '#/components/responses/Other' },
    },
  }
}

/** Which roles each act is open to: every operation names its act. */
const rolesByAct = (): Json =>
  Object.fromEntries(
    [...new Set(Object.values(ROUTES))].map((act) => [
      act,
      act === 'enter' ? ['anybody'] : Object.keys(ACTS).filter((role) => ACTS[role as Role].includes(act)),
    ]),
  )

/** The whole API as one OpenAPI 3.1.0 document, from the contracts that check its requests. */
export function openApi(): Json & { readonly openapi: '3.1.0' } {
  const components = new Schemas()
  const problem = components.of(zProblem, 'output')
  const paths: Record<string, Record<string, Json>> = {}
  for (const route of Object.keys(ROUTES) as RouteName[]) {
    const [method = '', path = ''] = route.split(' ')
    const place = path.replace(/:(\w+)/g, '{$1}')
    ;(paths[place] ??= {})[method.toLowerCase()] = operation(route, components)
  }
  const responses = Object.fromEntries(
    [...Object.values(REFUSALS), ['Other', ANY_OTHER] as const].map(([name, description]) => [
      name,
      { description, content: { 'application/problem+json': { schema: problem } } },
    ]),
  )
  const { document, schemas } = components.finish({ paths, responses })
  return {
    openapi: '3.1.0',
    info: {
      title: 'Sky Lever',
      version: '1',
      description:
        'Records, rules and runs. Errors are problem details (RFC 9457) with the field and the reason. Lists use cursors for paging.',
    },
    servers: [{ url: '/api/v1' }],
    tags: SECTIONS.map((name) =>
      name === 'Screens' ? { name, description: 'Made for one screen each; they may change with it.' } : { name },
    ),
    security: [{ key: [] }, { cookie: [] }],
    'x-acts': rolesByAct(),
    paths: document.paths,
    components: {
      schemas,
      responses: document.responses,
      parameters: { ...HEADERS, ...IN_PATHS },
      securitySchemes: {
        key: {
          type: 'http',
          scheme: 'bearer',
          description: 'An API key from “Account and API keys”',
        },
        cookie: {
          type: 'apiKey',
          in: 'cookie',
          name: 'sky-lever',
          description: 'Session cookie of a signed-in browser',
        },
      },
    },
  }
}
