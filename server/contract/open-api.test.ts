import { readFileSync } from 'node:fs'
import SwaggerParser from '@apidevtools/swagger-parser'
import { Validator } from '@seriousme/openapi-schema-validator'
import { describe, expect, it } from 'vitest'
import { ROUTES } from '../utils/acts'
import { CONTRACTS } from '.'
import type { Contract } from './contract'
import { openApi } from './open-api'

interface Parameter {
  name: string
  in: string
  required: boolean
  schema: object
}
const made = JSON.parse(JSON.stringify(openApi())) as {
  openapi: string
  paths: Record<
    string,
    Record<
      string,
      {
        operationId: string
        summary: string
        tags: string[]
        parameters: (Parameter | { $ref: string })[]
        requestBody?: { content: object }
        responses: Record<string, object>
        security?: object[]
      }
    >
  >
  components: Record<string, Record<string, object>>
  tags: { name: string }[]
}
const operations = Object.entries(made.paths).flatMap(([path, methods]) =>
  Object.entries(methods).map(([method, operation]) => ({ path, method, operation })),
)

/** Every `$ref` anywhere in a part of the document. */
function refsOf(part: unknown): string[] {
  if (Array.isArray(part)) return part.flatMap(refsOf)
  if (typeof part !== 'object' || part === null) return []
  return Object.entries(part).flatMap(([key, value]) => (key === '$ref' ? [String(value)] : refsOf(value)))
}

describe('the OpenAPI document', () => {
  it('has every route once, with a name of its own', () => {
    expect(made.openapi).toBe('3.1.0')
    expect(
      operations.map(({ path, method }) => `${method.toUpperCase()} ${path.replace(/\{(\w+)\}/g, ':$1')}`).sort(),
    ).toEqual(Object.keys(ROUTES).sort())
    expect(new Set(operations.map(({ operation }) => operation.operationId)).size).toBe(operations.length)
  })

  it('every reference leads to a schema that is there', () => {
    const refs = refsOf(made)
    expect(refs.length).toBeGreaterThan(50)
    for (const ref of refs) {
      const [, kind = '', name = ''] = /^#\/components\/(\w+)\/(.+)$/.exec(ref) ?? []
      expect(made.components[kind]?.[name], ref).toBeDefined()
    }
    expect(JSON.stringify(made)).not.toContain('$defs')
  })

  it('says of each route its parameters, its body, and how it refuses', () => {
    for (const { path, method, operation } of operations) {
      const parameters = operation.parameters.map((one) =>
        '$ref' in one ? (made.components.parameters?.[one.$ref.split('/').at(-1) ?? ''] as Parameter) : one,
      )
      const places = [...path.matchAll(/\{(\w+)\}/g)].map((found) => found[1])
      expect(
        parameters.filter((one) => one.in === 'path').map((one) => one.name),
        path,
      ).toEqual(places)
      for (const one of parameters.filter((parameter) => parameter.in === 'path')) expect(one.required).toBe(true)
      const contract: Contract =
        CONTRACTS[`${method.toUpperCase()} ${path.replace(/\{(\w+)\}/g, ':$1')}` as keyof typeof CONTRACTS]
      expect(operation.requestBody !== undefined, path).toBe(contract.body !== undefined)
      if (operation.security === undefined)
        expect(Object.keys(operation.responses)).toEqual(expect.arrayContaining(['200', 'default']))
      expect(made.tags.map((tag) => tag.name)).toContain(operation.tags[0])
      expect(operation.summary).not.toMatch(/\.$/)
    }
  })

  it('describes requests as they are checked: a rule and a task can be told by it', () => {
    const schemas = JSON.stringify(made.components.schemas)
    for (const word of ['createTask', 'entersStage', 'RecordRef', 'Problem']) expect(schemas).toContain(word)
    expect(made.paths['/tasks/{id}']?.post?.requestBody?.content).toMatchObject({
      'application/json': { schema: { oneOf: expect.arrayContaining([expect.objectContaining({ type: 'object' })]) } },
    })
    expect(made.paths['/records/{object}/{id}']?.patch?.parameters).toEqual(
      expect.arrayContaining(
        ['IfMatch', 'IdempotencyKey'].map((name) => ({ $ref: `#/components/parameters/${name}` })),
      ),
    )
  })

  it('is not written by hand anywhere: the routes take nothing but their contract', () => {
    for (const route of Object.keys(ROUTES)) expect(CONTRACTS).toHaveProperty([route])
    expect(readFileSync('server/utils/route.ts', 'utf8')).toContain('CONTRACTS[route]')
  })
})

describe('the document as others read it', () => {
  it('is small enough to be loaded by anything', () => {
    expect(Buffer.byteLength(JSON.stringify(openApi()))).toBeLessThan(385_000)
  })

  it('is found whole by two validators of other people', async () => {
    const copy = (): Record<string, unknown> => JSON.parse(JSON.stringify(openApi())) as Record<string, unknown>
    const { valid, errors } = await new Validator().validate(copy())
    expect([valid, errors]).toEqual([true, undefined])
    await expect(SwaggerParser.validate(copy() as never)).resolves.toBeDefined()
  })

  it('says every schema once, and what goes in apart from what comes out only where they differ', () => {
    const names = Object.keys(made.components.schemas ?? {})
    const texts = names.map((name) => JSON.stringify(made.components.schemas?.[name]))
    expect(new Set(texts).size).toBe(texts.length)
    expect(names.filter((name) => /\d$|^__/.test(name))).toEqual([])
  })
})
