import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { useCalm } from './useCalm'

beforeEach(() => vi.useFakeTimers())
// Tests share their globals: clocks of one must not stand still in the next.
afterEach(() => vi.useRealTimers())

/** Something that takes so long each time it is read. */
function reading(takesMs: number) {
  const begun: number[] = []
  const started = performance.now()
  const work = async (): Promise<void> => {
    begun.push(performance.now() - started)
    await new Promise((done) => setTimeout(done, takesMs))
  }
  return { work, begun }
}

describe('reading a screen anew', () => {
  it('happens at once, and once more where it was asked for while it was read', async () => {
    const { work, begun } = reading(100)
    const again = useCalm(work)
    again()
    expect(begun).toEqual([0])
    for (let i = 0; i < 20; i++) again()
    await vi.advanceTimersByTimeAsync(399)
    expect(begun).toEqual([0])
    // Three times what it took, behind its end.
    await vi.advanceTimersByTimeAsync(1)
    expect(begun).toEqual([0, 400])
    await vi.advanceTimersByTimeAsync(60_000)
    expect(begun).toHaveLength(2)
  })
  it('rests four seconds at the most, however long it takes', async () => {
    const { work, begun } = reading(10_000)
    const again = useCalm(work)
    again()
    again()
    await vi.advanceTimersByTimeAsync(13_999)
    expect(begun).toHaveLength(1)
    await vi.advanceTimersByTimeAsync(1)
    expect(begun).toHaveLength(2)
  })
  it('goes on behind a reading that failed', async () => {
    let times = 0
    const again = useCalm(async () => {
      times++
      await Promise.reject(new Error('the server does not answer'))
    })
    again()
    await vi.advanceTimersByTimeAsync(0)
    again()
    await vi.advanceTimersByTimeAsync(0)
    expect(times).toBe(2)
  })
})
