import { describe, expect, it } from 'vitest'
import { sameValue, type Values } from '../../language/value'
import { plainSentence } from '../../language/sentence'
import { names } from '../../testing/setting'
import { TRIGGERS, TRIGGER_NAMES } from '.'

/** What a kind of trigger says of itself holds for what starts it: preflight, the sheet and the steps go by it. */
describe.each(TRIGGER_NAMES)('what trigger %s says of itself', (name) => {
  const trigger = TRIGGERS[name]
  const examples = trigger.examples.map((one) => [one.say, one] as const)

  it.each(examples)('what the record surely holds behind it is what it holds: %s', (_say, one) => {
    const { event, params, starts } = one
    if (!starts) return
    const held: Values = Object.fromEntries(event.changes.map(({ field, new: value }) => [field, value]))
    for (const [field, value] of Object.entries(trigger.after(params)))
      // What did not change the event says nothing of.
      if (field in held) expect(sameValue(held[field], value ?? null), field).toBe(true)
  })

  it.each(examples)('it gives no result but those that it says: %s', (_say, one) => {
    const { event, params, object, starts } = one
    const keys = trigger.gives(params, names(object)).map(({ key }) => key)
    expect(new Set(keys).size).toBe(keys.length)
    if (starts) for (const key of Object.keys(trigger.given(params, event))) expect(keys).toContain(key)
  })

  it.each(examples)('an event is a start or a near miss, never both: %s', (_say, one) => {
    const { event, params, object, starts } = one
    const near = trigger.nearly(params, event, names(object))
    if (starts) expect(near).toBe(null)
    else if (near !== null) expect(near).not.toMatch(/undefined|null|\[object/)
  })

  it.each(examples)('it says itself and why it started in whole words: %s', (_say, one) => {
    const { event, params, object, starts } = one
    expect(plainSentence(trigger.sentence(params, names(object)))).not.toMatch(/undefined|null|\[object|\s{2}|\s,/)
    if (starts) expect(trigger.because(params, event, names(object))).toMatch(/\S/)
  })

  it.each(examples)('nothing is missing in what can start it: %s', (_say, one) => {
    const { params, object } = one
    for (const { param } of trigger.check(params, names(object))) expect(Object.keys(trigger.form)).toContain(param)
    // The same event asked about twice starts it twice or not at all: nothing is remembered in between.
    const started = trigger.compile(params, names(object))
    expect(started(one.event)).toBe(started(one.event))
  })

  it('listens to something, or goes by the clock', () => {
    for (const { params, object } of trigger.examples)
      if (!trigger.byClock) expect(trigger.listen(params, names(object)).length).toBeGreaterThan(0)
  })
})
