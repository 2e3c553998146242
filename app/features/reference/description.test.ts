import { describe, expect, it } from 'vitest'
import { groupBy, linesOf, namesIn, operationsOf, sayType, type Description, type Schema } from './description'

const record: Schema = {
  type: 'object',
  required: ['id'],
  properties: {
    id: { type: 'integer', minimum: 1, description: 'its number' },
    owner: { $ref: '#/components/schemas/Person' },
    place: { type: 'object', properties: { town: { type: 'string', maxLength: 60 } } },
    tags: { type: 'array', items: { type: 'string' } },
  },
}
const schemas: Readonly<Record<string, Schema>> = {
  Record: record,
  Person: { type: 'object', properties: { name: { type: 'string' }, deputy: { $ref: '#/components/schemas/Person' } } },
}
const limit = { name: 'limit', in: 'query', required: false, schema: { type: 'integer' } } as const
const description: Description = {
  info: { description: '' },
  tags: [{ name: 'Records' }],
  paths: {
    '/records': {
      get: {
        operationId: 'listRecords',
        summary: 'List records',
        tags: ['Records'],
        parameters: [{ $ref: '#/components/parameters/limit' }],
        responses: { 200: { $ref: '#/components/responses/Fine' } },
        'x-act': 'read',
      },
      post: {
        operationId: 'createRecord',
        summary: 'Create a record',
        tags: ['Records', 'Rules'],
        parameters: [],
        responses: { 201: { description: 'made', content: {} } },
        'x-act': 'work',
      },
    },
  },
  components: { schemas, parameters: { limit }, responses: { Fine: { description: 'fine', content: {} } } },
}

describe('a description of the API', () => {
  it('gives its operations with what they lead to put in its place', () => {
    const [list, create] = operationsOf(description)
    expect(list).toMatchObject({ method: 'get', path: '/records', id: 'listRecords', parameters: [limit] })
    expect(list?.responses).toEqual({ 200: { description: 'fine', content: {} } })
    expect(create).toMatchObject({ method: 'post', parameters: [] })
    expect(groupBy(operationsOf(description), 'Rules').map(({ id }) => id)).toEqual(['createRecord'])
  })
  it('that leads to something it lacks is refused by its name', () => {
    const broken = { ...description, components: { ...description.components, parameters: {} } }
    expect(() => operationsOf(broken)).toThrow('the description lacks #/components/parameters/limit')
  })
})

describe('a type', () => {
  it.each<[Schema, string]>([
    [{}, 'any'],
    [{ $ref: '#/components/schemas/Person' }, 'Person'],
    [{ const: 2 }, '2'],
    [{ enum: ['on', 'off'] }, '"on" | "off"'],
    [{ enum: Array.from({ length: 14 }, (_, i) => i) }, '0 | 1 | 2 | 3 | 4 | 5 | 6 | 7 | 8 | 9 | 10 | 11 | …'],
    [{ oneOf: [{ type: 'string' }, { type: 'null' }, { type: 'string' }] }, 'string or null'],
    [{ type: ['string', 'null'] }, 'string or null'],
    [{ type: 'array' }, 'list of any'],
    [{ type: 'array', items: { $ref: '#/components/schemas/Record' } }, 'list of Record'],
    [{ type: 'object', additionalProperties: { type: 'number' } }, 'map of number'],
    [{ type: 'object', additionalProperties: false }, 'object'],
    [{ type: 'string', format: 'date' }, 'date'],
    [{ type: 'integer', minimum: 1, maximum: 5000, default: 40 }, 'integer, minimum 1, maximum 5,000, default 40'],
    [{ type: 'integer', exclusiveMinimum: 0 }, 'integer, above 0'],
    // The ends of what a number can hold are no limits that somebody set.
    [{ type: 'integer', minimum: -Number.MAX_SAFE_INTEGER, maximum: Number.MAX_SAFE_INTEGER }, 'integer'],
    [{ type: 'string', maxLength: 1000 }, 'string, max. 1,000 characters'],
  ])('%# is said as one line', (schema, said) => expect(sayType(schema)).toBe(said))
})

describe('the fields of a schema', () => {
  it('are lines, those of objects inside it behind them, and named ones are left to themselves', () => {
    expect(linesOf(record, schemas).map(({ path, depth, type }) => [path, depth, type])).toEqual([
      ['id', 0, 'integer, minimum 1'],
      ['owner', 0, 'Person'],
      ['place', 0, 'object'],
      ['town', 1, 'string, max. 60 characters'],
      ['tags', 0, 'list of string'],
    ])
    expect(linesOf(record, schemas)[0]).toMatchObject({ required: true, description: 'its number' })
  })
  it('of a named one are those of what is meant by it, and of a list those of its items', () => {
    const named = linesOf({ $ref: '#/components/schemas/Person' }, schemas).map(({ path }) => path)
    expect(named).toEqual(['name', 'deputy'])
    expect(linesOf({ type: 'array', items: record }, schemas)).toEqual(linesOf(record, schemas))
  })
  it('of one of several are those of all of them', () => {
    const either: Schema = {
      oneOf: [{ properties: { on: { type: 'boolean' } } }, { properties: { at: { type: 'string' } } }],
    }
    expect(linesOf(either, schemas).map(({ path }) => path)).toEqual(['on', 'at'])
    expect(linesOf({ $ref: '#/components/schemas/Unknown' }, schemas)).toEqual([])
  })
  it('name each schema that is spoken of once, also where they speak of themselves', () => {
    expect([...namesIn({ properties: { of: { $ref: '#/components/schemas/Record' } } }, schemas)]).toEqual([
      'Record',
      'Person',
    ])
    expect([...namesIn({}, schemas)]).toEqual([])
  })
})
