import { describe, expect, it } from 'vitest'
import { all, condition } from '../testing/rules'
import { catalogue, moment } from '../testing/setting'
import type { Activity } from '../records/activity'
import { compileGroup, sayItem } from './compile'
import { checkDid, newDid, setDidWord } from './did'
import type { Did } from './document'
import { alone, type AskingRun, type Subject } from './subject'

const HOUR_MS = 3_600_000
const did = (more: Partial<Did>): Did => ({ ...newDid('d1', 'contact'), activity: 'visit', ...more })
const priced = all(condition('visit.about', 'contains', { value: 'price' }))

let ids = 0
const visited = (hoursAgo: number, about = '/prices', more: Partial<Activity> = {}): Activity => ({
  id: ++ids,
  kind: 'visit',
  about,
  data: {},
  atMs: moment.nowMs - hoursAgo * HOUR_MS,
  ...more,
})
const who = (done: readonly Activity[], run: AskingRun | null = null): Subject => ({
  ...alone({ name: 'Ada' }),
  run,
  done: () => done,
})
const ask = (item: Did, subject: Subject) => compileGroup(all(item), 'contact', catalogue).test(subject, moment)

describe('A question about what people did', () => {
  it('counts those of its kind, in its span, that answer yes', () => {
    const done = [visited(24 * 20), visited(30), visited(5, '/about'), visited(2, '/PRICES?size=2')]
    const atLeast = (count: number, more: Partial<Did> = {}) =>
      ask(did({ how: 'atLeast', count, group: priced, ...more }), who(done))
    expect([1, 2, 3].map((count) => atLeast(count))).toEqual([true, true, false])
    expect(atLeast(3, { span: 'ever' })).toBe(true)
    expect(atLeast(1, { activity: 'call' })).toBe(false)
    expect(ask(did({ how: 'none', group: priced }), who(done))).toBe(false)
    expect(ask(did({ how: 'none', activity: 'call' }), who(done))).toBe(true)
    expect(ask(did({ how: 'any', days: 0 }), who([visited(30)]))).toBe(false)
  })

  it('asks the last one, and nothing of what is still to come', () => {
    const last = did({ how: 'last', group: priced })
    expect(ask(last, who([visited(5), visited(2, '/about')]))).toBe(false)
    expect(ask(last, who([visited(5, '/about'), visited(2), visited(-3, '/about')]))).toBe(true)
    expect(ask(did({ how: 'last' }), who([]))).toBe(false)
  })

  it('asks the very one that started the run, and the last one where none runs', () => {
    const missed = did({
      how: 'this',
      activity: 'appointmentMissed',
      group: all(condition('appointmentMissed.missedBefore', 'moreThan', { value: 0 })),
    })
    const one = (missedBefore: number, by: 'contact' | 'deal' = 'contact') => ({
      kind: 'appointmentMissed' as const,
      about: 'Site visit',
      data: { missedBefore },
      atMs: moment.nowMs,
      by,
    })
    const later = visited(0, 'Site visit', { kind: 'appointmentMissed', data: { missedBefore: 0 } })
    expect(ask(missed, who([later], { startedMs: moment.nowMs, steps: new Map(), activity: one(1) }))).toBe(true)
    expect(ask(missed, who([later], { startedMs: moment.nowMs, steps: new Map(), activity: one(0) }))).toBe(false)
    expect(ask(missed, who([later], { startedMs: moment.nowMs, steps: new Map(), activity: one(1, 'deal') }))).toBe(
      false,
    )
    expect(ask(missed, who([later], { startedMs: moment.nowMs, steps: new Map(), activity: null }))).toBe(false)
    expect(ask(missed, who([later]))).toBe(false)
    expect(ask(missed, who([{ ...later, data: { missedBefore: 2 } }]))).toBe(true)
  })

  it('counts since the run began', () => {
    const since = did({ how: 'any', span: 'run' })
    const run = { startedMs: moment.nowMs - 3 * HOUR_MS, steps: new Map(), activity: null }
    expect(ask(since, who([visited(4)], run))).toBe(false)
    expect(ask(since, who([visited(4), visited(2)], run))).toBe(true)
  })

  it('counts since a step was done, and nothing before it is', () => {
    const since = did({ how: 'any', span: 'step', step: 's2' })
    const run = (steps: readonly [string, number][]): AskingRun => ({
      startedMs: moment.nowMs - 9 * HOUR_MS,
      steps: new Map(steps),
      activity: null,
    })
    const two: [string, number] = ['s2', moment.nowMs - 3 * HOUR_MS]
    expect(ask(since, who([visited(4)], run([two])))).toBe(false)
    expect(ask(since, who([visited(4), visited(3)], run([two])))).toBe(true)
    expect(ask(since, who([visited(2)], run([['s1', moment.nowMs - 5 * HOUR_MS]])))).toBe(false)
    const here = catalogue.with([], [{ id: 's2', label: '2' }])
    expect(sayItem(since, 'contact', here)).toBe('has a page visit of its own since step 2')
    expect(checkDid(since, 'contact', here)).toBeNull()
    expect(checkDid(since, 'contact', catalogue)).toMatchObject({ param: 'step' })
  })

  it('is told in words, with what was seen', () => {
    expect(sayItem(did({ how: 'atLeast', count: 3, group: priced }), 'contact', catalogue)).toBe(
      'has at least 3 page visits of its own in the last 14 days where the address contains “price”',
    )
    expect(sayItem(did({ how: 'none', by: 'deal', span: 'run' }), 'contact', catalogue)).toBe(
      'has no page visits of a deal since this run began',
    )
    expect(sayItem(did({ how: 'this', activity: 'appointmentMissed' }), 'contact', catalogue)).toBe(
      'was started by a missed appointment of its own',
    )
    expect(sayItem(did({ how: 'last', activity: 'call', span: 'ever' }), 'contact', catalogue)).toBe(
      'the last call of its own at any time is there',
    )
    const seen = (item: Did, done: readonly Activity[]) =>
      compileGroup(all(item), 'contact', catalogue).explain(who(done), moment)[0]?.value
    expect(seen(did({ group: priced }), [visited(3, '/about'), visited(2)])).toBe('1 of 2 page visits matches')
    expect(seen(did({ group: priced }), [])).toBe('no page visits')
    expect(seen(did({ how: 'last' }), [visited(2)])).toBe('page visit: /prices')
  })

  it('says what is missing, and forgets what was asked of another kind', () => {
    expect(checkDid(newDid('d', 'deal'), 'deal', catalogue)).toMatchObject({ param: 'activity' })
    expect(checkDid(did({ by: 'contact' }), 'contact', catalogue)).toBeNull()
    expect(ask(newDid('d', 'contact'), who([visited(1)]))).toBe(false)
    expect(setDidWord(did({ group: priced }), 'activity', 'call')).toMatchObject({
      activity: 'call',
      group: { items: [] },
    })
  })
})
