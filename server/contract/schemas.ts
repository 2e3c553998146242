import { z } from 'zod'
import { zCondition } from '../../core/conditions/document'
import { OPERATOR_NAMES } from '../../core/conditions/operator-names'
import { OPERATORS } from '../../core/conditions/operators'

export type Json = { readonly [key: string]: unknown }
type Io = 'input' | 'output'

const IOS: readonly Io[] = ['input', 'output']
const COMPONENTS = '#/components/schemas/'
/** Where a reference leads until everything is known: which of both forms of which schema. */
const PLACE = '#/$defs/'

/** Answers may tell more one day: a client that refuses what it does not know would break by that. */
function mayGrow(part: unknown): unknown {
  if (Array.isArray(part)) return part.map(mayGrow)
  if (typeof part !== 'object' || part === null) return part
  return Object.fromEntries(
    Object.entries(part).flatMap(([key, value]): readonly (readonly [string, unknown])[] =>
      key === 'additionalProperties' && value === false ? [] : [[key, mayGrow(value)]],
    ),
  )
}

/**
 * The schemas of a document: those with a name stand once, under `components`. A schema that takes something else than
 * it gives (what may be left out is always there in answers) has a second one for requests, named `…Input`.
 */
export class Schemas {
  private readonly found: { readonly [I in Io]: Map<string, Json> } = { input: new Map(), output: new Map() }
  private readonly conditions: { [I in Io]?: Json } = {}

  /** The JSON Schema (2020-12, as OpenAPI 3.1 has it) of what goes in or comes out. */
  of(schema: z.ZodType, io: Io): Json {
    this.conditions[io] ??= this.conditionsOf(io)
    const read = this.read(schema, io)
    return io === 'output' ? (mayGrow(read) as Json) : read
  }

  private read(schema: z.ZodType, io: Io): Json {
    // `$schema` stands for the whole document; `id` is a name here and not an address.
    const {
      $defs = {},
      $schema: _,
      ...own
    } = z.toJSONSchema(schema, {
      io,
      unrepresentable: 'any',
      override: ({ zodSchema, jsonSchema }) => {
        delete jsonSchema.id
        // A whole number is one; that it is none that cannot be told apart is no news.
        if (jsonSchema.maximum === Number.MAX_SAFE_INTEGER) delete jsonSchema.maximum
        if (jsonSchema.minimum === Number.MIN_SAFE_INTEGER) delete jsonSchema.minimum
        const typed = zodSchema === zCondition ? this.conditions[io] : undefined
        if (!typed) return
        for (const key of Object.keys(jsonSchema)) Reflect.deleteProperty(jsonSchema, key)
        Object.assign(jsonSchema, typed)
      },
    }) as Json & { readonly $defs?: Record<string, Json> }
    for (const [name, given] of Object.entries($defs)) this.keep(name, io, given)
    const name = z.globalRegistry.get(schema)?.id
    if (name === undefined) return this.placed(own, io, '') as Json
    this.keep(name, io, own)
    return { $ref: `${PLACE}${io}/${name}` }
  }

  private keep(name: string, io: Io, given: Json): void {
    if (!this.found[io].has(name)) this.found[io].set(name, this.placed(given, io, name) as Json)
  }

  /** The params of a condition hang on its operator: one form for each, so that a client knows them. */
  private conditionsOf(io: Io): Json {
    interface Plain {
      readonly properties: Json
      readonly required: readonly string[]
    }
    const made = z.toJSONSchema(zCondition, { io }) as Plain & { readonly $defs?: Readonly<Record<string, Plain>> }
    // One that has a name stands behind it.
    const { properties, required } = Object.values(made.$defs ?? {}).find((one) => 'op' in one.properties) ?? made
    return {
      oneOf: OPERATOR_NAMES.map((op) => ({
        type: 'object',
        properties: { ...properties, op: { type: 'string', const: op }, params: this.read(OPERATORS[op].params, io) },
        required,
        additionalProperties: false,
      })),
    }
  }

  /** A part with its references leading to where they will be found. */
  private placed(part: unknown, io: Io, self: string): unknown {
    if (Array.isArray(part)) return part.map((one: unknown) => this.placed(one, io, self))
    if (typeof part !== 'object' || part === null) return part
    return Object.fromEntries(
      Object.entries(part).map(([key, value]): [string, unknown] => {
        if (key !== '$ref' || typeof value !== 'string') return [key, this.placed(value, io, self)]
        if (value === '#') return [key, `${PLACE}${io}/${self}`]
        const name = value.replace(PLACE, '')
        return [key, IOS.some((one) => name.startsWith(`${one}/`)) ? value : `${PLACE}${io}/${name}`]
      }),
    )
  }

  /** Names that have two forms: by themselves, or because something within them does. */
  private twofold(): ReadonlySet<string> {
    const alike = (io: Io, name: string): string =>
      JSON.stringify(this.found[io].get(name)).replaceAll(`${PLACE}${io}/`, PLACE)
    const both = [...this.found.input.keys()].filter((name) => this.found.output.has(name))
    const two = new Set(both.filter((name) => alike('input', name) !== alike('output', name)))
    for (let grows = true; grows;) {
      grows = false
      for (const name of both) {
        if (two.has(name) || ![...two].some((one) => alike('input', name).includes(`"${PLACE}${one}"`))) continue
        two.add(name)
        grows = true
      }
    }
    return two
  }

  /** A document with all references led to `components`, and the schemas that stand there. */
  finish<D extends Json>(document: D): { readonly document: D; readonly schemas: Readonly<Record<string, Json>> } {
    const two = this.twofold()
    const nameOf = (io: string, name: string): string => (io === 'input' && two.has(name) ? `${name}Input` : name)
    const led = (part: unknown): unknown => {
      if (Array.isArray(part)) return part.map(led)
      if (typeof part !== 'object' || part === null) return part
      return Object.fromEntries(
        Object.entries(part).map(([key, value]): [string, unknown] => {
          const [, io = '', name = ''] =
            key === '$ref' && typeof value === 'string' ? (/^#\/\$defs\/(input|output)\/(.+)$/.exec(value) ?? []) : []
          return [key, name === '' ? led(value) : COMPONENTS + nameOf(io, name)]
        }),
      )
    }
    const schemas: Record<string, Json> = {}
    for (const io of IOS) for (const [name, given] of this.found[io]) schemas[nameOf(io, name)] = led(given) as Json
    return {
      document: led(document) as D,
      schemas: Object.fromEntries(Object.entries(schemas).sort(([a], [b]) => (a < b ? -1 : 1))),
    }
  }
}
