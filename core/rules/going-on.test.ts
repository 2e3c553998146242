import { describe, expect, it } from 'vitest'
import { plainSentence } from '../language/sentence'
import { daysBefore, document, enters, set } from '../testing/rules'
import { GRACE_HOURS } from './document'
import { goesByTime, goesOnAsUsual, goingOnOf, goingOnSentence, withGoingOn } from './going-on'

const rule = document({ when: [enters('hp-quoted')], then: [set('units', 1)] })

describe('how a rule goes on', () => {
  it('is as usual where nothing is said', () => {
    expect(goingOnOf(rule)).toEqual({ recheck: true, graceHours: GRACE_HOURS })
    expect(goesOnAsUsual(rule)).toBe(true)
  })

  it.each([
    { recheck: false, graceHours: GRACE_HOURS },
    { recheck: true, graceHours: 1 },
    { recheck: false, graceHours: 0 },
  ])('is kept where it is other: %j', (given) => {
    const changed = withGoingOn(rule, given)
    expect(goingOnOf(changed)).toEqual(given)
    expect(goesOnAsUsual(changed)).toBe(false)
    // Back to what is usual leaves nothing behind.
    expect(withGoingOn(changed, { recheck: true, graceHours: GRACE_HOURS })).toEqual(rule)
  })

  it.each([
    [{}, 'conditions are checked again after each wait; times missed during downtime are caught up within 24 hours'],
    [
      { recheck: false, graceHours: 1 },
      'conditions are checked only at the start; times missed during downtime are caught up within 1 hour',
    ],
    [{ graceHours: 1000 }, /caught up within 1,000 hours$/],
  ])('%j is said', (given, said) => {
    expect(plainSentence(goingOnSentence(given))).toMatch(said)
  })

  it('is said only where time plays a part', () => {
    const wait = [
      'wait',
      { until: { at: 'after', amount: { count: 1, unit: 'days' }, minute: null }, recheck: true },
    ] as const
    expect(goesByTime(rule)).toBe(false)
    expect(goesByTime(document({ when: [daysBefore()], then: [] }))).toBe(true)
    expect(goesByTime(document({ when: [enters('hp-quoted')], then: [wait] }))).toBe(true)
  })
})
