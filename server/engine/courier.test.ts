import { describe, expect, it } from 'vitest'
import { document, enters, task } from '../../core/testing/rules'
import type { Handed, Parcel } from '../channels/channel'
import { larkmoor, switchOn } from '../testing/workspace'
import { runPage } from '../views/journal'
import { ruleLines } from '../views/rule-list'
import { Courier } from './courier'
import { messageGivenUp } from './given-up'
import { retry } from './retry'

const MINUTE = 60_000

/** A workspace in which a rule has messages to send, and a receiver that takes them only when told to. */
function withMessages(count = 1) {
  const { workspace, clock, reopen } = larkmoor()
  switchOn(workspace, document({ when: [enters('hp-quoted')], then: [task('Ring', { email: true })] }))
  const refs = Array.from(
    { length: count },
    (_, n) => workspace.create('deal', { name: `Room ${n}`, stage: 'hp-sized', owner: 'rosa' }, [], 'ines').ref,
  )
  workspace.close()
  const receiver = { takes: false, keys: [] as string[] }
  const live = reopen(({ key }) => {
    receiver.keys.push(key)
    if (!receiver.takes) throw new Error('busy')
  })
  for (const ref of refs) live.change(ref, { stage: 'hp-quoted' }, 'rosa')
  const state = () => live.db.sqlite.prepare('SELECT state, attempts, last_error AS error FROM outbox').get()
  /** Somebody else on the same file, with a receiver of its own. */
  const another = (deliver: (parcel: Parcel, signal: AbortSignal) => Promise<Handed>, leaseMs?: number) =>
    new Courier({
      db: live.db,
      outbox: live.store.outbox,
      channels: {
        mail: { name: 'mail', deliver },
        text: { name: 'text', deliver },
        call: { name: 'call', deliver },
        web: { name: 'web', deliver },
      },
      nowMs: () => clock.nowMs(),
      gaveUp: (row, because) => messageGivenUp(live, row, because),
      ...(leaseMs === undefined ? {} : { leaseMs }),
    })
  return { workspace: live, clock, receiver, state, another }
}
const taken: Handed = { is: 'taken' }

describe('what is to leave the house', () => {
  it('is tried again after growing pauses, always under the same key, and given up in the end', async () => {
    const { workspace, clock, receiver, state } = withMessages()
    await workspace.courier.run()
    expect(state()).toEqual({ state: 'pending', attempts: 1, error: 'busy' })
    const waits: number[] = []
    let last = clock.nowMs()
    for (let minute = 0; minute < 12 * 60; minute++) {
      clock.set(clock.nowMs() + MINUTE / 6)
      if ((await workspace.courier.run()) === 0) {
        clock.set(clock.nowMs() + (5 * MINUTE) / 6)
        if ((await workspace.courier.run()) === 0) continue
      }
      waits.push(Math.round((clock.nowMs() - last) / MINUTE))
      last = clock.nowMs()
    }
    expect(state()).toEqual({ state: 'givenUp', attempts: 6, error: 'busy' })
    expect(waits).toEqual(
      [0, 1, 10, 60, 360].map((minutes) => expect.toSatisfy((wait: number) => Math.abs(wait - minutes) <= 1)),
    )
    expect(new Set(receiver.keys).size).toBe(1)
    expect(await workspace.courier.run()).toBe(0)
  })

  it('is handed over once the receiver takes it, and never again', async () => {
    const { workspace, clock, receiver, state } = withMessages()
    await workspace.courier.run()
    receiver.takes = true
    expect(await workspace.courier.run()).toBe(0)
    clock.set(clock.nowMs() + MINUTE)
    expect(await workspace.courier.run()).toBe(1)
    expect(state()).toEqual({ state: 'delivered', attempts: 2, error: null })
    clock.set(clock.nowMs() + 600 * MINUTE)
    expect(await workspace.courier.run()).toBe(0)
    expect(receiver.keys).toHaveLength(2)
  })

  it('goes without anybody asking for it, after the commit', async () => {
    const { workspace, receiver } = withMessages()
    receiver.takes = true
    expect(receiver.keys).toEqual([])
    await new Promise((resolve) => setImmediate(resolve))
    await workspace.courier.run()
    expect(receiver.keys).toHaveLength(1)
  })

  it('is carried by one courier at a time, and by another once the claim of the first has run out', async () => {
    const { workspace, another, state } = withMessages()
    const [first, second]: [string[], string[]] = [[], []]
    let arrive: (what: Handed) => void = () => {}
    const slow = another(({ key }) => {
      first.push(key)
      return new Promise((resolve) => (arrive = resolve))
    })
    const other = another(({ key }) => {
      second.push(key)
      return Promise.resolve(taken)
    })
    const under = slow.run()
    while (first.length === 0) await new Promise((resolve) => setImmediate(resolve))
    expect(await other.run()).toBe(0)
    workspace.db.sqlite.exec('UPDATE outbox SET leased_until = 1')
    expect(await other.run()).toBe(1)
    expect([first, second]).toEqual([second, first])
    // What the first says of it now is of no account: it is not its any more.
    arrive({ is: 'never', because: 'unknown' })
    await under
    expect(state()).toEqual({ state: 'delivered', attempts: 1, error: null })
  })

  it('holds up nothing else when it is not taken, and is given up at once when there is no hope', async () => {
    const { workspace, another } = withMessages(3)
    const handed: string[] = []
    await another(({ key }) => {
      handed.push(key)
      if (key.startsWith('run-2')) return Promise.resolve({ is: 'never', because: 'no such address' })
      return key.startsWith('run-1') ? Promise.reject(new Error('no')) : Promise.resolve(taken)
    }).run()
    expect(handed).toEqual(['run-1-s1', 'run-2-s1', 'run-3-s1'])
    const rows = workspace.db.sqlite.prepare('SELECT state, last_error AS error FROM outbox ORDER BY id').all()
    expect(rows).toEqual([
      { state: 'pending', error: 'no' },
      { state: 'givenUp', error: 'no such address' },
      { state: 'delivered', error: null },
    ])
  })

  it('fails its run at the step when it is given up, tells whoever changed the rule, and can be tried again', async () => {
    const { workspace, clock, receiver, state } = withMessages()
    const run = workspace.store.runs.list({ limit: 1 })[0]!.id
    for (let n = 0; n < 6; n++) {
      await workspace.courier.run()
      clock.set(clock.nowMs() + 24 * 60 * MINUTE)
    }
    expect(state()).toMatchObject({ state: 'givenUp' })
    const page = runPage(workspace, run)
    expect([page?.state, page?.steps.map((step) => `${step.state} ${step.result}`)]).toEqual([
      'failed',
      [
        'done created task for Rosa Amara, due 26 Nov: “Ring”; emailed rosa@larkmoor.example',
        'failed failed: the email to rosa@larkmoor.example was not delivered: busy',
      ],
    ])
    expect(workspace.store.notices.of('ines', null, 5)).toMatchObject([
      { subject: 'Email to rosa@larkmoor.example was not delivered', runId: run },
    ])
    expect(ruleLines(workspace)[0]).toMatchObject({ runs: 1, failed: 1 })
    // It goes under the key of before, and what was done is not done again.
    receiver.takes = true
    expect(retry(workspace, run, 'ines')).toMatchObject({ state: 'done' })
    await workspace.courier.run()
    expect(state()).toMatchObject({ state: 'delivered' })
    expect(new Set(receiver.keys).size).toBe(1)
    expect(ruleLines(workspace)[0]).toMatchObject({ runs: 1, failed: 0 })
    expect(workspace.store.tasks.ofRun(run)).toHaveLength(1)
    expect(runPage(workspace, run)?.state).toBe('done')
  })

  it('does not go through what comes behind a stop when it is tried again', async () => {
    const { workspace, clock, another } = withMessages()
    switchOn(
      workspace,
      document({
        when: [enters('hp-terms')],
        then: [task('Ring', { email: true }), ['stop', { because: 'enough' }], task('Never', { again: true })],
      }),
    )
    workspace.change({ object: 'deal', id: 1 }, { stage: 'hp-terms' }, 'rosa')
    await another(() => Promise.resolve({ is: 'never', because: 'no such address' })).run()
    clock.set(clock.nowMs() + MINUTE)
    const titles = () => workspace.store.tasks.list({ people: null, before: null, limit: 9 }).map((one) => one.title)
    const before = titles()
    for (const { id } of workspace.store.runs.list({ state: 'failed', limit: 5 })) retry(workspace, id, 'ines')
    expect(titles()).toEqual(before)
    expect(titles()).not.toContain('Never')
  })

  it('is not taken when it takes too long', async () => {
    const { another, state } = withMessages()
    await another(
      (_parcel, signal) =>
        new Promise((_resolve, reject) =>
          signal.addEventListener('abort', () => reject(new Error('no answer in time')), { once: true }),
        ),
      2_000,
    ).run()
    expect(state()).toEqual({ state: 'pending', attempts: 1, error: 'no answer in time' })
  })

  it('stays for others when the courier stops', async () => {
    const { another } = withMessages(2)
    const one = another(() => Promise.resolve(taken))
    await one.stop()
    expect(await one.run()).toBe(0)
    expect(await another(() => Promise.resolve(taken)).run()).toBe(2)
  })
})
