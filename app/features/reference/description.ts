/** The parts of an OpenAPI 3.1 document that the page shows. */
export interface Schema {
  readonly $ref?: string
  readonly type?: string | readonly string[]
  readonly format?: string
  readonly description?: string
  readonly properties?: Readonly<Record<string, Schema>>
  readonly required?: readonly string[]
  readonly items?: Schema
  readonly enum?: readonly unknown[]
  readonly const?: unknown
  readonly default?: unknown
  readonly oneOf?: readonly Schema[]
  readonly anyOf?: readonly Schema[]
  readonly additionalProperties?: Schema | boolean
  readonly minimum?: number
  readonly maximum?: number
  readonly minLength?: number
  readonly maxLength?: number
  readonly maxItems?: number
  readonly exclusiveMinimum?: number
}
export interface Parameter {
  readonly name: string
  readonly in: 'path' | 'query' | 'header'
  readonly required: boolean
  readonly description?: string
  readonly schema: Schema
}
/** What stands once, and is led to from where it holds. */
type Led<T> = T | { readonly $ref: string }
type Content = Readonly<Record<string, { readonly schema: Schema }>>
interface Response {
  readonly description: string
  readonly content: Content
}
interface Described {
  readonly operationId: string
  readonly summary: string
  readonly description?: string
  readonly tags: readonly string[]
  readonly parameters: readonly Led<Parameter>[]
  readonly requestBody?: { readonly content: Content }
  readonly responses: Readonly<Record<string, Led<Response>>>
  readonly 'x-act': string
}
export const OPERATION_METHODS = ['get', 'post', 'put', 'patch', 'delete'] as const
export interface Operation extends Omit<Described, 'parameters' | 'responses'> {
  readonly parameters: readonly Parameter[]
  readonly responses: Readonly<Record<string, Response>>
  readonly method: (typeof OPERATION_METHODS)[number]
  readonly path: string
  readonly id: string
}
export interface Description {
  readonly info: { readonly description: string }
  readonly tags: readonly { readonly name: string }[]
  readonly paths: Readonly<Record<string, Readonly<Partial<Record<(typeof OPERATION_METHODS)[number], Described>>>>>
  readonly components: {
    readonly schemas: Readonly<Record<string, Schema>>
    readonly parameters: Readonly<Record<string, Parameter>>
    readonly responses: Readonly<Record<string, Response>>
  }
}

/** Every operation of a description, with what it leads to put in its place. */
export function operationsOf({ paths, components }: Description): readonly Operation[] {
  const whole = <T extends object>(given: Led<T>, of: Readonly<Record<string, T>>): T => {
    if (!('$ref' in given)) return given
    const found = of[nameOf(given.$ref)]
    if (!found) throw new Error(`the description lacks ${given.$ref}`)
    return found
  }
  return Object.entries(paths).flatMap(([path, methods]) =>
    OPERATION_METHODS.flatMap((method) => {
      const one = methods[method]
      if (!one) return []
      const responses = Object.entries(one.responses).map(
        ([status, given]) => [status, whole(given, components.responses)] as const,
      )
      return {
        ...one,
        method,
        path,
        id: one.operationId,
        parameters: one.parameters.map((given) => whole(given, components.parameters)),
        responses: Object.fromEntries(responses),
      }
    }),
  )
}

export const groupBy = (operations: readonly Operation[], tag: string): readonly Operation[] =>
  operations.filter((one) => one.tags.includes(tag))

const nameOf = (ref: string): string => ref.split('/').at(-1) ?? ref
const some = (items: readonly unknown[]): string =>
  items
    .slice(0, 12)
    .map((item) => JSON.stringify(item))
    .join(' | ') + (items.length > 12 ? ' | …' : '')

/** A schema as one line: `integer, minimum 1`, `"on" | "off"`, `list of Record`. */
export function sayType(schema: Schema): string {
  if (schema.$ref) return nameOf(schema.$ref)
  if (schema.const !== undefined) return JSON.stringify(schema.const)
  if (schema.enum) return some(schema.enum)
  const several = schema.oneOf ?? schema.anyOf
  if (several) return [...new Set(several.map(sayType))].join(' or ')
  if (schema.type === 'array') return `list of ${schema.items ? sayType(schema.items) : 'any'}`
  if (schema.type === 'object')
    return typeof schema.additionalProperties === 'object' && Object.keys(schema.additionalProperties).length > 0
      ? `map of ${sayType(schema.additionalProperties)}`
      : 'object'
  const limits = [
    schema.minimum !== undefined && schema.minimum > -1e15
      ? `minimum ${schema.minimum}`
      : schema.exclusiveMinimum === 0
        ? 'above 0'
        : '',
    schema.maximum !== undefined && schema.maximum < 1e15 ? `maximum ${schema.maximum.toLocaleString('en')}` : '',
    schema.maxLength !== undefined ? `max. ${schema.maxLength.toLocaleString('en')} characters` : '',
    schema.default !== undefined ? `default ${JSON.stringify(schema.default)}` : '',
  ].filter(Boolean)
  return [
    schema.format === 'date' ? 'date' : Array.isArray(schema.type) ? schema.type.join(' or ') : (schema.type ?? 'any'),
    ...limits,
  ].join(', ')
}

export interface SchemaLine {
  readonly path: string
  readonly depth: number
  readonly type: string
  readonly required: boolean
  readonly description: string
}

/**
 * The fields of a schema as lines, those of objects inside it behind them. Schemas with a name are shown once they are
 * asked for.
 */
export function linesOf(schema: Schema, schemas: Readonly<Record<string, Schema>>, depth = 0): readonly SchemaLine[] {
  const own = schema.$ref && depth === 0 ? (schemas[nameOf(schema.$ref)] ?? {}) : schema
  const variants = own.oneOf ?? own.anyOf
  if (depth === 0 && variants && variants.some((one) => one.properties))
    return variants.flatMap((one) => linesOf(one, schemas, 0))
  if (own.type === 'array' && own.items && depth < 3) return linesOf(own.items, schemas, depth)
  return Object.entries(own.properties ?? {}).flatMap(([name, field]): SchemaLine[] => [
    {
      path: name,
      depth,
      type: sayType(field),
      required: own.required?.includes(name) ?? false,
      description: field.description ?? '',
    },
    ...(depth < 2 && !field.$ref ? linesOf(field, schemas, depth + 1) : []),
  ])
}

/** The named schemas that a schema speaks of, each once, those inside them as well. */
export function namesIn(
  schema: Schema,
  schemas: Readonly<Record<string, Schema>>,
  seen = new Set<string>(),
): ReadonlySet<string> {
  const walk = (part: unknown): void => {
    if (Array.isArray(part)) part.forEach(walk)
    else if (typeof part === 'object' && part !== null) {
      for (const [key, value] of Object.entries(part)) {
        if (key !== '$ref' || typeof value !== 'string') walk(value)
        else if (!seen.has(nameOf(value))) {
          seen.add(nameOf(value))
          walk(schemas[nameOf(value)])
        }
      }
    }
  }
  walk(schema)
  return seen
}
