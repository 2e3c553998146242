import { effectScope, nextTick, ref, type EffectScope } from 'vue'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { useForecast, type ForecastChoice } from './useForecast'

interface Call {
  readonly path: string
  readonly method: string
  readonly body: unknown
}
let calls: Call[]
/** What the server says of a forecast each time it is asked, by its number. */
let states: Map<number, object[]>
let scope: EffectScope
let nextId: number
let refuses: boolean
const choice = ref<ForecastChoice>({ backfill: false, again: false, passedDays: 0 })

beforeEach(() => {
  vi.useFakeTimers()
  setActivePinia(createPinia())
  calls = []
  states = new Map()
  nextId = 0
  refuses = false
  scope = effectScope()
  choice.value = { backfill: false, again: false, passedDays: 0 }
  vi.stubGlobal('$fetch', (path: string, { method = 'GET', body }: Partial<Call>) => {
    calls.push({ path, method, body })
    if (path.endsWith('/forecasts'))
      return refuses ? Promise.reject(new Error('no')) : Promise.resolve({ id: ++nextId })
    const [, id = 0] = /forecasts\/(\d+)/.exec(path) ?? []
    const left = states.get(Number(id)) ?? []
    return Promise.resolve(left.length > 1 ? left.shift() : left[0])
  })
})
afterEach(() => {
  scope.stop()
  vi.unstubAllGlobals()
  vi.useRealTimers()
})

const RUNNING = { state: 'running', progress: 0.5, text: '', forecast: null }
const done = (runs: number) => ({ state: 'done', progress: 1, text: '', forecast: { runs } })
const made = () => scope.run(() => useForecast(7, () => choice.value))!
const pathsOf = (method: string): readonly string[] => calls.flatMap((one) => (one.method === method ? [one.path] : []))

describe('what switching a rule on would bring', () => {
  it('is asked for with what is chosen, and looked after until it is there', async () => {
    states.set(1, [RUNNING, RUNNING, done(12)])
    const told = made()
    void told.begin()
    await vi.advanceTimersByTimeAsync(0)
    expect(calls[0]).toMatchObject({ path: '/api/v1/rules/7/forecasts', method: 'POST', body: choice.value })
    expect([told.running.value, told.progress.value, told.forecast.value]).toEqual([true, 0.5, null])
    await vi.advanceTimersByTimeAsync(240)
    expect([told.running.value, told.progress.value, told.forecast.value]).toEqual([false, 1, { runs: 12 }])
    await vi.advanceTimersByTimeAsync(60_000)
    expect(pathsOf('GET')).toHaveLength(3)
  })
  it('is asked for anew when something else is chosen, once for all that is typed at a time', async () => {
    states.set(1, [done(1)])
    states.set(2, [done(2)])
    const told = made()
    void told.begin()
    await vi.advanceTimersByTimeAsync(0)
    for (const passedDays of [1, 12, 120]) {
      choice.value = { ...choice.value, passedDays }
      await nextTick()
      await vi.advanceTimersByTimeAsync(100)
    }
    expect(told.running.value).toBe(true)
    // What was told before stays to be seen until the new one is there.
    expect(told.forecast.value).toEqual({ runs: 1 })
    await vi.advanceTimersByTimeAsync(250)
    expect(told.forecast.value).toEqual({ runs: 2 })
    expect(calls.filter(({ path }) => path.endsWith('/forecasts')).map(({ body }) => body)).toEqual([
      { backfill: false, again: false, passedDays: 0 },
      { backfill: false, again: false, passedDays: 120 },
    ])
  })
  it('stops the one that nobody waits for any more, and never shows it', async () => {
    states.set(1, [RUNNING])
    states.set(2, [done(2)])
    const told = made()
    void told.begin()
    await vi.advanceTimersByTimeAsync(0)
    choice.value = { ...choice.value, backfill: true }
    await nextTick()
    expect(pathsOf('POST')).toContain('/api/v1/rehearsals/1/stop')
    states.set(1, [done(1)])
    await vi.advanceTimersByTimeAsync(1000)
    expect(told.forecast.value).toEqual({ runs: 2 })
  })
  it('stops with the page that asked', async () => {
    states.set(1, [RUNNING])
    void made().begin()
    await vi.advanceTimersByTimeAsync(0)
    scope.stop()
    const asked = calls.length
    expect(pathsOf('POST').at(-1)).toBe('/api/v1/rehearsals/1/stop')
    await vi.advanceTimersByTimeAsync(10_000)
    expect(calls).toHaveLength(asked)
  })
  it('says when nobody has to wait for it any longer', async () => {
    states.set(1, [RUNNING])
    const told = made()
    void told.begin()
    await vi.advanceTimersByTimeAsync(4999)
    expect(told.late.value).toBe(false)
    await vi.advanceTimersByTimeAsync(1)
    expect(told.late.value).toBe(true)
  })
  it.each([
    ['is refused', () => (refuses = true), 'The forecast could not be started.'],
    ['fails with a reason', () => states.set(1, [{ state: 'failed', text: 'Too many records.' }]), 'Too many records.'],
    ['fails without one', () => states.set(1, [{ state: 'failed', text: '' }]), 'The forecast could not be made.'],
    ['is gone', () => states.set(1, []), 'The forecast could not be made.'],
  ])('tells when it %s, and can be asked for again', async (_how, given, text) => {
    given()
    const told = made()
    void told.begin()
    await vi.advanceTimersByTimeAsync(0)
    expect([told.running.value, told.trouble.value]).toEqual([false, text])
    refuses = false
    states.set(nextId + 1, [done(3)])
    void told.begin()
    await vi.advanceTimersByTimeAsync(0)
    expect([told.trouble.value, told.forecast.value]).toEqual(['', { runs: 3 }])
  })
})
