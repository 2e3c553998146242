import { describe, expect, it } from 'vitest'
import { document, enters, task } from '../../core/testing/rules'
import { larkmoor, switchOn } from '../testing/workspace'
import { deliverDue } from './outbox'
import { TurnTaker } from './turns'

const MINUTE = 60_000

/** A workspace in which a rule has a message to send, and a receiver that takes it only when told to. */
function withMessage() {
  const { workspace, clock, reopen } = larkmoor()
  switchOn(workspace, document({ when: [enters('hp-quoted')], then: [task('Ring', { email: true })] }))
  const ref = workspace.create('deal', { name: 'Two rooms', stage: 'hp-sized', owner: 'rosa' }, [], 'ines').ref
  workspace.close()
  const receiver = { takes: false, keys: [] as string[] }
  const live = reopen(({ key }) => {
    receiver.keys.push(key)
    if (!receiver.takes) throw new Error('busy')
  })
  live.change(ref, { stage: 'hp-quoted' }, 'rosa')
  const state = () => live.db.sqlite.prepare('SELECT state, attempts, last_error AS error FROM outbox').get()
  return { workspace: live, clock, receiver, state }
}

describe('the outbox', () => {
  it('tries again after growing pauses, always under the same key, and gives up in the end', () => {
    const { workspace, clock, receiver, state } = withMessage()
    expect(state()).toEqual({ state: 'pending', attempts: 1, error: 'busy' })
    const waits: number[] = []
    let last = clock.nowMs()
    for (let minute = 0; minute < 12 * 60; minute++) {
      clock.set(clock.nowMs() + MINUTE / 6)
      if (workspace.deliverDue() === 0) {
        clock.set(clock.nowMs() + (5 * MINUTE) / 6)
        if (workspace.deliverDue() === 0) continue
      }
      waits.push(Math.round((clock.nowMs() - last) / MINUTE))
      last = clock.nowMs()
    }
    expect(state()).toEqual({ state: 'givenUp', attempts: 6, error: 'busy' })
    expect(waits).toEqual(
      [0, 1, 10, 60, 360].map((minutes) => expect.toSatisfy((wait: number) => Math.abs(wait - minutes) <= 1)),
    )
    expect(new Set(receiver.keys).size).toBe(1)
    expect(workspace.deliverDue()).toBe(0)
  })

  it('delivers once the receiver takes it, and never again', () => {
    const { workspace, clock, receiver, state } = withMessage()
    receiver.takes = true
    expect(workspace.deliverDue()).toBe(0)
    clock.set(clock.nowMs() + MINUTE)
    expect(workspace.deliverDue()).toBe(1)
    expect(state()).toEqual({ state: 'delivered', attempts: 2, error: null })
    clock.set(clock.nowMs() + 600 * MINUTE)
    expect(workspace.deliverDue()).toBe(0)
    expect(receiver.keys).toHaveLength(2)
  })

  it('one message that is not taken holds up no other', () => {
    const taken: string[] = []
    const notes: string[] = []
    const rows = ['a', 'b', 'c'].map((key, id) => ({ id, key, attempts: 0 }))
    const store = {
      due: () => rows,
      delivered: (id: number) => notes.push(`delivered ${id}`),
      failed: (id: number, error: string) => notes.push(`failed ${id} ${error}`),
    }
    const count = deliverDue(
      store as unknown as Parameters<typeof deliverDue>[0],
      ({ key }) => {
        if (key === 'b') throw new Error('no')
        taken.push(key)
      },
      0,
    )
    expect([count, taken, notes]).toEqual([3, ['a', 'c'], ['delivered 0', 'failed 1 no', 'delivered 2']])
  })
})

describe('turns between threads', () => {
  it('are seen through the one buffer that both share', () => {
    const pages = new TurnTaker()
    const bulk = new TurnTaker(pages.buffer)
    expect(bulk.awaited()).toBe(false)
    pages.before()
    pages.before()
    expect(bulk.awaited()).toBe(true)
    pages.after()
    expect(bulk.awaited()).toBe(true)
    pages.after()
    expect(bulk.awaited()).toBe(false)
  })
})
