import fc from 'fast-check'
import type { APIRequestContext } from '@playwright/test'

/** The API as it describes itself, for tests that walk it. */
export interface JsonSchema {
  readonly $ref?: string
  readonly type?: string | readonly string[]
  readonly const?: unknown
  readonly enum?: readonly unknown[]
  readonly oneOf?: readonly JsonSchema[]
  readonly anyOf?: readonly JsonSchema[]
  readonly properties?: Readonly<Record<string, JsonSchema>>
  readonly required?: readonly string[]
  readonly items?: JsonSchema
  readonly additionalProperties?: JsonSchema | boolean
}

export interface Operation {
  readonly method: string
  /** `/records/{object}/{id}` */
  readonly path: string
  readonly security: readonly object[]
  readonly 'x-roles': readonly string[]
  readonly 'x-act': string
  readonly parameters: readonly Parameter[]
  readonly requestBody?: { readonly content: { readonly 'application/json': { readonly schema: JsonSchema } } }
  readonly responses: Readonly<
    Record<string, { readonly content: Readonly<Record<string, { readonly schema: JsonSchema }>> }>
  >
}

interface Parameter {
  readonly name: string
  readonly in: string
  readonly schema: JsonSchema
}
type Described = Omit<Operation, 'method' | 'path' | 'security' | 'parameters' | 'x-roles'> & {
  readonly security?: readonly object[]
  readonly parameters: readonly (Parameter | { readonly $ref: string })[]
}

export interface Description {
  readonly operations: readonly Operation[]
  readonly schemas: Readonly<Record<string, JsonSchema>>
}

export async function describeApi(request: APIRequestContext): Promise<Description> {
  const document = (await (await request.get('/api/v1/openapi.json')).json()) as {
    paths: Record<string, Record<string, Described>>
    security: readonly object[]
    'x-acts': Record<string, readonly string[]>
    components: { schemas: Record<string, JsonSchema>; parameters: Record<string, Parameter> }
  }
  const parameterOf = (given: Parameter | { readonly $ref: string }): Parameter => {
    if (!('$ref' in given)) return given
    const found = document.components.parameters[given.$ref.replace('#/components/parameters/', '')]
    if (!found) throw new Error(given.$ref)
    return found
  }
  return {
    schemas: document.components.schemas,
    operations: Object.entries(document.paths).flatMap(([path, methods]) =>
      Object.entries(methods).map(([method, operation]) => ({
        ...operation,
        // What nothing is said of is as everywhere.
        security: operation.security ?? document.security,
        'x-roles': document['x-acts'][operation['x-act']] ?? [],
        parameters: operation.parameters.map(parameterOf),
        method: method.toUpperCase(),
        path,
      })),
    ),
  }
}

const nasty = fc.oneof(
  fc.string(),
  fc.constantFrom(
    'deal',
    'hp',
    'hp-quoted',
    'rosa',
    'name',
    'amount',
    '1',
    '-1',
    '0',
    '1e9',
    '999999999999999999999',
    '../..',
    '%00',
    '{{deal.name}}',
    '<b>x</b>',
    'null',
    '2026-12-24',
    '',
  ),
)
const junk: fc.Arbitrary<unknown> = fc.oneof(
  nasty,
  fc.integer(),
  fc.double(),
  fc.boolean(),
  fc.constant(null),
  fc.jsonValue({ maxDepth: 2 }),
)

/** What a schema describes; now and then something else, so that what is refused is tried as well. */
export function arbitraryOf(schema: JsonSchema, schemas: Description['schemas'], depth = 0): fc.Arbitrary<unknown> {
  const fitting = fittingOf(schema, schemas, depth)
  return fc.oneof({ weight: 12, arbitrary: fitting }, { weight: 1, arbitrary: junk })
}

function fittingOf(schema: JsonSchema, schemas: Description['schemas'], depth: number): fc.Arbitrary<unknown> {
  if (depth > 6) return junk
  if (schema.$ref) return fittingOf(schemas[schema.$ref.split('/').at(-1) ?? ''] ?? {}, schemas, depth + 1)
  if (schema.const !== undefined) return fc.constant(schema.const)
  if (schema.enum) return fc.constantFrom(...schema.enum)
  const several = schema.oneOf ?? schema.anyOf
  if (several) return fc.oneof(...several.map((one) => fittingOf(one, schemas, depth + 1)))
  switch (Array.isArray(schema.type) ? (schema.type as readonly string[])[0] : schema.type) {
    case 'object': {
      const own = fc.record(
        Object.fromEntries(
          Object.entries(schema.properties ?? {}).map(([key, field]) => [key, arbitraryOf(field, schemas, depth + 1)]),
        ),
        { requiredKeys: [...(schema.required ?? [])] },
      )
      if (typeof schema.additionalProperties !== 'object') return own
      const more = fc.dictionary(
        fc.constantFrom('name', 'stage', 'amount', 'owner', 'units', 'closeDate', 'notes', 'email', '__proto__', 'x'),
        arbitraryOf(schema.additionalProperties, schemas, depth + 1),
        { maxKeys: 4 },
      )
      return fc.tuple(own, more).map(([a, b]) => ({ ...a, ...b }))
    }
    case 'array':
      return fc.array(arbitraryOf(schema.items ?? {}, schemas, depth + 1), { maxLength: 3 })
    case 'integer':
      return fc.oneof(fc.integer({ min: 1, max: 40 }), fc.integer())
    case 'number':
      return fc.oneof(fc.integer({ min: -5, max: 5000 }), fc.double())
    case 'boolean':
      return fc.boolean()
    case 'null':
      return fc.constant(null)
    case 'string':
      return nasty
    default:
      return junk
  }
}
