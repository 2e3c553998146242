import { describe, expect, it } from 'vitest'
import { workCalendar } from '../core/time/calendar'
import { planWrite } from '../core/records/plan-write'
import { DEMO_SIZE, generate } from './generate'
import { Random } from './random'
import { catalogue } from '../core/testing/setting'

const when = {
  today: '2026-11-24',
  zone: 'Europe/Lisbon',
  nowMs: Date.UTC(2026, 10, 24, 9),
  calendar: workCalendar(catalogue.workspace),
}

describe('the demo’s generator', () => {
  const acts = generate(20_261, DEMO_SIZE, when)

  it('gives the same for the same seed, and another for another', () => {
    expect(generate(20_261, DEMO_SIZE, when)).toEqual(acts)
    expect(generate(1, DEMO_SIZE, when)).not.toEqual(acts)
  })

  it('tells of the past only, in order, within 90 days', () => {
    const times = acts.map((act) => act.atMs)
    expect([...times].sort((a, b) => a - b)).toEqual(times)
    expect(Math.max(...times)).toBeLessThan(when.nowMs)
    expect(Math.min(...times)).toBeGreaterThan(when.nowMs - 91 * 86_400_000)
  })

  it('makes as many as asked, all of them valid', () => {
    const count = (act: string) => acts.filter((one) => one.act === act).length
    expect([count('company'), count('contact'), count('deal')]).toEqual([60, 150, 110])
    for (const act of acts)
      if (act.act === 'company' || act.act === 'contact' || act.act === 'deal')
        expect(planWrite(act.act, null, act.values, act.atMs, catalogue).problems).toEqual([])
  })

  it('chance is even enough', () => {
    const random = new Random(1)
    const counts = Array.from({ length: 6000 }, () => random.int(1, 6)).reduce<Record<number, number>>(
      (sum, n) => ({ ...sum, [n]: (sum[n] ?? 0) + 1 }),
      {},
    )
    for (let n = 1; n <= 6; n++) expect(Math.abs((counts[n] ?? 0) - 1000)).toBeLessThan(150)
    expect(() => random.pick([])).toThrow(RangeError)
  })
})
