import { describe, expect, it } from 'vitest'
import { sameValue } from '../../language/value'
import { plainSentence } from '../../language/sentence'
import { nothingAround } from '../../testing/around'
import { names } from '../../testing/setting'
import { STEPS, STEP_NAMES } from '.'

/**
 * What a kind of step says of itself holds for what it does: preflight, the sheet and steps further down go by what it
 * says.
 */
describe.each(STEP_NAMES)('what step %s says of itself', (name) => {
  const step = STEPS[name]
  const done = step.examples.map((example) => {
    const { object = 'deal', record = {}, params } = example
    return { say: example.say, object, record, params, outcome: step.run(params, nothingAround(object, record)) }
  })

  it.each(done.map((one) => [one.say, one] as const))('it writes no field but those that it says: %s', (_say, one) => {
    const { outcome, params, object, record } = one
    if (outcome.go !== 'on' && outcome.go !== 'wait') return
    const touches = step.touches(params, names(object), record)
    for (const effect of outcome.effects ?? []) {
      if (effect.effect === 'fields')
        for (const [field, value] of Object.entries(effect.values)) {
          const mine = touches.filter((touch) => touch.object === effect.ref.object && touch.field === field)
          expect(mine.length, field).toBeGreaterThan(0)
          for (const touch of mine)
            if (touch.value !== undefined) expect(sameValue(touch.value, value ?? null), field).toBe(true)
        }
      if (effect.effect === 'label')
        expect(touches.map(({ object: of, field }) => `${of} ${field}`)).toContain(
          `${effect.ref.object} ${effect.field}`,
        )
    }
  })

  it.each(done.map((one) => [one.say, one] as const))('it gives no result but those that it says: %s', (_say, one) => {
    const { outcome, params, object } = one
    const said = step.gives(params, names(object))
    expect(new Set(said.map(({ key }) => key)).size).toBe(said.length)
    const gives = 'gives' in outcome ? (outcome.gives ?? {}) : {}
    for (const [key, value] of Object.entries(gives)) {
      const spec = said.find((one) => one.key === key)
      expect(spec, key).toBeDefined()
      // A choice is one of those that are offered for paths.
      if (spec?.choices && typeof value === 'string') expect(spec.choices.map(({ id }) => id)).toContain(value)
    }
  })

  it('it waits only where it says that it may', () => {
    for (const { outcome, params } of done)
      if (outcome.go === 'wait') expect(step.mayWait(params), JSON.stringify(params)).toBe(true)
  })

  it('every word that can be edited is said once, and a finished step has none that is missing', () => {
    for (const { params, object } of done) {
      const parts = step.sentence(params, names(object))
      expect(plainSentence(parts)).not.toMatch(/undefined|null|\[object|\s{2}|\s,/)
      const broken = step.check(params, names(object)).map(({ param }) => param)
      for (const param of broken) expect(Object.keys(step.form), param).toContain(param)
    }
  })

  it('the time beside it is said in words, or not at all', () => {
    for (const { params, object } of done) {
      const { own, next } = step.rail(params, names(object))
      for (const said of [own, next]) if (said) expect(said).not.toMatch(/undefined|null|NaN/)
    }
  })

  it('how a wait ends is told, and gives only what it says', () => {
    for (const { params, object } of done) {
      if (!step.mayWait(params)) continue
      const keys = step.gives(params, names(object)).map(({ key }) => key)
      for (const how of ['due', 'byHand', 'emptied'] as const) {
        const { say, gives = {} } = step.over(params, how, names(object), null)
        expect(say).not.toMatch(/undefined|null/)
        for (const key of Object.keys(gives)) expect(keys, how).toContain(key)
        if (step.ways?.end) {
          const way = step.ways.end(how, gives)
          const begun = step.ways.begin(params, names(object), (letter) => `${letter}1`)
          expect(way).toBeGreaterThanOrEqual(0)
          expect(way).toBeLessThan(begun.length)
        }
      }
    }
  })

  it('ways that it begins with fit it, and are each called something of their own', () => {
    for (const { params, object } of done.slice(0, 1)) {
      const { ways } = step
      if (!ways) continue
      let n = 0
      const branches = ways.begin(params, names(object), (letter) => `${letter}${++n}`)
      for (const branch of branches) expect(ways.misfit(branches, branch)).toBeNull()
      const labels = branches.map((branch, at) => ways.label(branch, at, branches, params, names(object)))
      if (!ways.single) expect(new Set(labels).size).toBe(labels.length)
      expect(branches.every(({ steps }) => steps.length === 0)).toBe(true)
    }
  })
})
