import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { EMPTY_GROUP } from '../../core/conditions/document'
import { readCursor, readPlace, sayCursor } from './cursor'
import { readFilter } from './filter'
import { ProblemError } from './problem'

const refusal = (work: () => unknown): ProblemError => {
  try {
    work()
  } catch (error) {
    if (error instanceof ProblemError) return error
    throw error
  }
  throw new Error('it was not refused')
}

describe('cursors', () => {
  it('lead back to where they were made', () => {
    fc.assert(
      fc.property(fc.nat(), (id) => {
        expect(readCursor(sayCursor(id) ?? undefined)).toBe(id)
      }),
      { seed: 1 },
    )
    fc.assert(
      fc.property(fc.array(fc.nat(), { minLength: 1, maxLength: 4 }), fc.nat({ max: 4 }), (place, other) => {
        const cursor = sayCursor(place) ?? undefined
        expect(readPlace(cursor, place.length)).toEqual(place)
        if (other !== place.length) expect(refusal(() => readPlace(cursor, other)).places[0]?.path).toBe('cursor')
      }),
      { seed: 1 },
    )
    expect([readCursor(undefined), readPlace(undefined, 2), sayCursor(null)]).toEqual([null, null, null])
  })

  it('of anybody else are refused with their place', () => {
    fc.assert(
      fc.property(fc.string(), (text) => {
        expect(refusal(() => readCursor(text)).places[0]?.path).toBe('cursor')
      }),
      { seed: 2 },
    )
    expect(refusal(() => readCursor(Buffer.from('after 9999999999999999').toString('base64url'))).status).toBe(400)
  })
})

describe('filters', () => {
  const condition = {
    kind: 'condition',
    id: 'c1',
    field: 'stage',
    op: 'is',
    not: false,
    params: { value: 'hp-quoted' },
  }
  const group = { kind: 'group', id: 'c0', mode: 'all', items: [condition] }

  it('are the groups of conditions that rules have; nothing lets everything through', () => {
    expect(readFilter(JSON.stringify(group), 'deal')).toEqual(group)
    expect([readFilter(undefined, 'deal'), readFilter('', 'deal')]).toEqual([EMPTY_GROUP, EMPTY_GROUP])
  })

  it.each([
    ['{', 'The filter is not JSON.'],
    ['[]', /Must be an object/],
    [JSON.stringify({ ...group, mode: 'some' }), /Must be all, any or none/],
    [JSON.stringify({ ...group, items: [{ ...condition, params: {} }] }), /./, 'filter.c1.params.value'],
  ])('%s is refused with its reason', (text, reason, path = 'filter') => {
    const { status, places } = refusal(() => readFilter(text, 'deal'))
    expect([status, places[0]?.path]).toEqual([400, path])
    if (typeof reason === 'string') expect(places[0]?.text).toBe(reason)
    else expect(places[0]?.text).toMatch(reason)
  })
})
