import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ACTIVITIES, ACTIVITY_NAMES } from '.'
import { activitySchema, dataProblem, exampleOf } from './data'
import { valuesOfSchema, valuesProblem } from './from-schema'
import type { ActivityKind, ActivityValue } from './kind'

const kind = (data: readonly ActivityValue[]): ActivityKind => ({
  kind: 'showroomVisit',
  did: 'visited the showroom',
  does: 'visits the showroom',
  one: 'showroom visit',
  many: 'showroom visits',
  about: 'showroom',
  data,
  example: { about: '', data: {} },
})

describe('data by a JSON Schema', () => {
  it('comes back as it was written: names, labels and types', () => {
    const key = fc.stringMatching(/^[a-z][A-Za-z0-9]{0,12}$/).filter((one) => one !== 'about' && one !== 'atMs')
    const type = fc.constantFrom('text', 'longText', 'number', 'yesNo', 'dateTime', 'choice')
    fc.assert(
      fc.property(
        fc.uniqueArray(key, { maxLength: 8 }),
        fc.array(type, { minLength: 8, maxLength: 8 }),
        (keys, types) => {
          const data = keys.map((one, i): ActivityValue => ({
            key: one,
            label: `label ${i}`,
            type: types[i] ?? 'text',
            ...(types[i] === 'choice' ? { choices: [{ id: 'one', label: 'one' }] } : {}),
          }))
          // In a schema, names that look like numbers would change places; none of these does.
          expect(valuesOfSchema(activitySchema(kind(data)))).toEqual({ data })
        },
      ),
    )
  })

  it('reads that of every kind that comes with the product', () => {
    for (const name of ACTIVITY_NAMES)
      expect(valuesOfSchema(activitySchema(ACTIVITIES[name])), name).toHaveProperty('data')
  })

  it('has an example that fits, made from its values where nobody wrote one', () => {
    const own = kind([
      { key: 'rooms', label: 'rooms', type: 'number' },
      { key: 'again', label: 'again', type: 'yesNo' },
      { key: 'mood', label: 'mood', type: 'choice', choices: [{ id: 'keen', label: 'keen' }] },
    ])
    expect(exampleOf(own)).toEqual({ about: 'showroom', data: { rooms: 1, again: true, mood: 'keen' } })
    for (const one of [own, ...ACTIVITY_NAMES.map((name) => ACTIVITIES[name])])
      expect(dataProblem(one, exampleOf(one).data), one.kind).toBeNull()
  })

  it('names the place and the reason of what it cannot read', () => {
    expect(valuesOfSchema([])).toMatchObject({ path: '' })
    expect(valuesOfSchema({ type: 'array' })).toMatchObject({ path: 'type' })
    expect(valuesOfSchema({ type: 'object', properties: { rooms: { type: 'array' } } })).toEqual({
      path: 'properties.rooms.type',
      text: 'Only texts, numbers, yes or no, and texts with “enum” can be kept.',
    })
    expect(valuesOfSchema({ type: 'object', properties: { 'a b': { type: 'string' } } })).toMatchObject({
      path: 'properties.a b',
    })
  })

  it('has no value twice, none of those that are there anyway, and no choice without choices', () => {
    const rooms: ActivityValue = { key: 'rooms', label: 'rooms', type: 'number' }
    expect(valuesProblem([rooms])).toBeNull()
    expect(valuesProblem([rooms, { ...rooms, label: 'other' }])).toMatchObject({ key: 'rooms' })
    expect(valuesProblem([rooms, { ...rooms, key: 'other', label: 'Rooms' }])).toMatchObject({ key: 'other' })
    expect(valuesProblem([{ ...rooms, key: 'about' }])).toMatchObject({ key: 'about' })
    expect(valuesProblem([{ ...rooms, type: 'choice' }])).toMatchObject({
      problem: { code: 'noChoices', field: 'rooms' },
    })
  })
})
