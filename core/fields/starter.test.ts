import { describe, expect, it } from 'vitest'
import { OBJECTS } from '../records/kinds'
import { STARTER_FIELDS, STARTER_PIPELINE } from './starter'

describe('what a new workspace begins with', () => {
  it('has every kind of record with a name, and no field twice', () => {
    for (const object of OBJECTS) {
      const keys = STARTER_FIELDS.filter((field) => field.object === object).map((field) => field.key)
      expect(keys, object).toContain('name')
      expect(new Set(keys).size, object).toBe(keys.length)
    }
  })

  it('has amounts in currencies that it has', () => {
    for (const field of STARTER_FIELDS.filter(({ type }) => type === 'currency'))
      expect(
        STARTER_FIELDS.find((one) => one.object === field.object && one.key === field.currencyKey)?.type,
        field.key,
      ).toBe('choice')
  })

  it('has choices for what is chosen, each once', () => {
    for (const field of STARTER_FIELDS.filter(({ type }) => type === 'choice' || type === 'choices')) {
      const ids = field.choices.map(({ id }) => id)
      expect(ids.length, field.key).toBeGreaterThan(0)
      expect(new Set(ids).size, field.key).toBe(ids.length)
    }
  })

  it('has a pipeline in which a deal can be open, won and lost', () => {
    const { id, stages } = STARTER_PIPELINE
    expect(new Set(stages.map(({ outcome }) => outcome))).toEqual(new Set(['open', 'won', 'lost']))
    expect(new Set(stages.map((stage) => stage.id)).size).toBe(stages.length)
    for (const stage of stages) expect(stage.id.startsWith(`${id}-`)).toBe(true)
  })
})
