import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { LiveHub } from './live'

describe('what open screens are told', () => {
  it('is kept for those whose connection broke off, without a gap and without a repeat', () => {
    fc.assert(
      fc.property(fc.array(fc.nat(300), { minLength: 1, maxLength: 40 }), (gaps) => {
        const hub = new LiveHub()
        let n = 0
        for (const gap of gaps) {
          const from = hub.position
          for (let i = 0; i < gap; i++) hub.tell({ about: 'imports', id: ++n })
          const missed = hub.since(from)
          expect(hub.sinceMark(hub.markOf(from))).toEqual(missed)
          expect(missed?.map((told) => [told.n, told.message])).toEqual(
            Array.from({ length: gap }, (_, i) => [from + i + 1, { about: 'imports', id: from + i + 1 }]),
          )
        }
        expect(hub.since(hub.position)).toEqual([])
      }),
      { seed: 9, numRuns: 30 },
    )
  })

  it('says so when it is too long ago, or was never told here', () => {
    const hub = new LiveHub()
    expect(hub.since(0)).toEqual([])
    for (let i = 0; i < 9_000; i++) hub.tell({ about: 'rules' })
    expect(hub.since(1)).toBeNull()
    expect(hub.since(8_000)).toHaveLength(1_000)
    expect(hub.since(9_001)).toBeNull()
    expect([new LiveHub().sinceMark(hub.markOf()), hub.sinceMark('x'), hub.sinceMark(`${hub.markOf()}x`)]).toEqual([
      null,
      null,
      null,
    ])
  })

  it('a listener that throws is left out, and the others hear', () => {
    const hub = new LiveHub()
    const heard: number[] = []
    hub.listen(() => {
      throw new Error('gone')
    })
    const stop = hub.listen(({ n }) => {
      heard.push(n)
    })
    hub.tell({ about: 'rules' })
    hub.tell({ about: 'rules' })
    stop()
    hub.tell({ about: 'rules' })
    expect([heard, hub.size]).toEqual([[1, 2], 0])
  })
})
