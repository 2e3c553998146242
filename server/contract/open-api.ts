import { z } from 'zod'
import { ROUTES, type RouteName } from '../utils/acts'
import { CONTRACTS } from '.'
import { SECTIONS, zProblem, type Contract } from './contract'
import { ACTS, ACT_WORDS } from '../../core/access/acts'

type Json = { readonly [key: string]: unknown }

const COMPONENTS = '#/components/schemas/'

/** Schemas with a name of their own stand once, under `components`; what refers to them is led there. */
class Components {
  readonly schemas: Record<string, Json> = {}

  /** The JSON Schema (2020-12, as OpenAPI 3.1 has it) of what goes in or comes out. */
  of(schema: z.ZodType, io: 'input' | 'output'): Json {
    // `$schema` stands for the whole document; `id` is a name here and not an address.
    const {
      $defs = {},
      $schema: _,
      ...own
    } = z.toJSONSchema(schema, {
      io,
      unrepresentable: 'any',
      override: ({ jsonSchema }) => {
        delete jsonSchema.id
      },
    }) as Json & { readonly $defs?: Record<string, Json> }
    const names = new Map(Object.keys($defs).map((name) => [name, this.nameOf(name, $defs[name] ?? {}, io)]))
    for (const [name, given] of Object.entries($defs))
      this.schemas[names.get(name) ?? name] = this.led(given, names, '') as Json
    // A schema that refers to itself is named by where it stands.
    const self = JSON.stringify(own).includes('"$ref":"#"') ? `Recursive${Object.keys(this.schemas).length}` : ''
    const led = this.led(own, names, self) as Json
    if (self === '') return led
    this.schemas[self] = led
    return { $ref: COMPONENTS + self }
  }

  private nameOf(name: string, given: Json, io: 'input' | 'output'): string {
    const wanted = name.startsWith('__') ? `Part${name.replace(/\D/g, '')}` : name
    for (let n = 0; ; n++) {
      const tried = n === 0 ? wanted : `${wanted}${n === 1 && io === 'input' ? 'Input' : n}`
      const there = this.schemas[tried]
      if (
        !there ||
        (!name.startsWith('__') && JSON.stringify(there) === JSON.stringify(this.led(given, new Map(), '')))
      )
        return tried
    }
  }

  private led(part: unknown, names: ReadonlyMap<string, string>, self: string): unknown {
    if (Array.isArray(part)) return part.map((one: unknown) => this.led(one, names, self))
    if (typeof part !== 'object' || part === null) return part
    return Object.fromEntries(
      Object.entries(part).flatMap(([key, value]): [string, unknown][] => {
        if (key === 'id' && typeof value === 'string') return []
        if (key !== '$ref' || typeof value !== 'string') return [[key, this.led(value, names, self)]]
        if (value === '#') return [[key, COMPONENTS + self]]
        const name = value.replace('#/$defs/', '')
        return [[key, COMPONENTS + (names.get(name) ?? name)]]
      }),
    )
  }
}

/** Named after what they do: `PATCH /records/:object/:id` is `patchRecordsObjectId`. */
const operationId = (route: RouteName): string =>
  route
    .replace(/^\w+/, (method) => method.toLowerCase())
    .replace(/[^A-Za-z]+([A-Za-z]?)/g, (_, letter: string) => letter.toUpperCase())

function parameters(contract: Contract, components: Components): Json[] {
  const of = (schema: z.ZodType | undefined, where: 'path' | 'query'): Json[] => {
    if (!schema) return []
    const { properties = {}, required = [] } = components.of(schema, 'input') as {
      properties?: Record<string, Json>
      required?: string[]
    }
    return Object.entries(properties).map(([name, { description, ...given }]) => ({
      name,
      in: where,
      required: where === 'path' || required.includes(name),
      ...(description === undefined ? {} : { description }),
      schema: given,
    }))
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
const TAG: Json = { ETag: { description: 'Record version', schema: { type: 'string' } } }

function operation(route: RouteName, components: Components): Json {
  const contract: Contract = CONTRACTS[route]
  const act = ROUTES[route]
  const writes = !route.startsWith('GET ')
  const roles = Object.entries(ACTS)
    .filter(([, acts]) => acts.includes(act))
    .map(([role]) => role)
  const problem = (description: string): Json => ({
    description,
    content: { 'application/problem+json': { schema: components.of(zProblem, 'output') } },
  })
  const content = contract.media
    ? { [contract.media]: { schema: { type: 'string' } } }
    : {
        'application/json': {
          schema: contract.answer
            ? components.of(contract.answer, 'output')
            : { type: 'object', description: 'Internal response for one screen. May change without notice.' },
        },
      }
  return {
    operationId: operationId(route),
    summary: contract.does,
    ...(contract.more ? { description: contract.more } : {}),
    tags: [contract.section],
    security: act === 'enter' ? [] : [{ key: [] }, { cookie: [] }],
    'x-act': act,
    'x-roles': act === 'enter' ? ['anybody'] : roles,
    parameters: [
      ...parameters(contract, components),
      ...(writes && act !== 'enter' && act !== 'self' && contract.section !== 'People'
        ? [
            header(
              'Idempotency-Key',
              'A unique text. Requests with the same key are executed once; the response is repeated for a day.',
            ),
          ]
        : []),
      ...(writes && contract.tagged ? [header('If-Match', 'ETag of the version you are changing')] : []),
    ],
    ...(contract.body
      ? {
          requestBody: {
            required: true,
            content: { 'application/json': { schema: components.of(contract.body, 'input') } },
          },
        }
      : {}),
    responses: {
      200: { description: contract.does, ...(contract.tagged ? { headers: TAG } : {}), content },
      ...(contract.params || contract.query || contract.body
        ? { 400: problem('Invalid request: the field and the reason') }
        : {}),
      ...(act === 'enter'
        ? {}
        : { 401: problem('Not signed in'), 403: problem(`Only somebody who may ${ACT_WORDS[act]}`) }),
      ...(contract.params ? { 404: problem('Not found or no access') } : {}),
      ...(writes && contract.tagged ? { 412: problem('Changed by someone else') } : {}),
      ...(contract.body ? { 422: problem('Not accepted: the field and the reason. Nothing is saved.') } : {}),
    },
  }
}

/** The whole API as one OpenAPI 3.1.0 document, from the contracts that check its requests. */
export function openApi(): Json & { readonly openapi: '3.1.0' } {
  const components = new Components()
  const paths: Record<string, Record<string, Json>> = {}
  for (const route of Object.keys(ROUTES) as RouteName[]) {
    const [method = '', path = ''] = route.split(' ')
    const place = path.replace(/:(\w+)/g, '{$1}')
    ;(paths[place] ??= {})[method.toLowerCase()] = operation(route, components)
  }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Sky Lever',
      version: '1',
      description:
        'Records, rules and runs. Errors are problem details (RFC 9457) with the field and the reason. Lists use cursors for paging.',
    },
    servers: [{ url: '/api/v1' }],
    tags: SECTIONS.map((name) => ({ name })),
    paths,
    components: {
      schemas: components.schemas,
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
