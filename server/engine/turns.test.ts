import { Worker } from 'node:worker_threads'
import { describe, expect, it } from 'vitest'
import { TurnTaker } from './turns'

/** A thread that takes a turn as soon as it can, says so, and gives it back. */
const other = (buffer: SharedArrayBuffer): Worker =>
  new Worker(
    `const { parentPort, workerData } = require('node:worker_threads')
    const cells = new Int32Array(workerData)
    parentPort.postMessage('ready')
    while (Atomics.compareExchange(cells, 1, 0, 1) !== 0) Atomics.wait(cells, 1, 1)
    parentPort.postMessage('has it')
    Atomics.store(cells, 1, 0)
    Atomics.notify(cells, 1)`,
    { eval: true, workerData: buffer },
  )
const heard = (worker: Worker): Promise<unknown> => new Promise((resolve) => worker.once('message', resolve))

describe('turns between threads', () => {
  it('are seen through the one buffer that both share, and one inside of another is the same', () => {
    const pages = new TurnTaker()
    const bulk = new TurnTaker(pages.buffer, false)
    expect(bulk.awaited()).toBe(false)
    pages.before()
    pages.before()
    expect(bulk.awaited()).toBe(true)
    pages.after()
    expect(bulk.awaited()).toBe(true)
    pages.after()
    expect(bulk.awaited()).toBe(false)
    bulk.before()
    expect(pages.awaited()).toBe(false)
    bulk.after()
  })

  it('are had by one at a time, and by the next as soon as they are given back', async () => {
    const pages = new TurnTaker()
    pages.before()
    const worker = other(pages.buffer)
    expect(await heard(worker)).toBe('ready')
    const has = heard(worker)
    pages.after()
    expect(await has).toBe('has it')
    await worker.terminate()
  })

  it('come to the others when the thread that had one has ended', () => {
    const dead = new TurnTaker()
    dead.before()
    const pages = new TurnTaker(dead.buffer)
    pages.free()
    pages.before()
    expect(new Int32Array(dead.buffer)[1]).toBe(1)
    pages.after()
  })

  it('do not keep anybody for ever: SQLite has the last word', () => {
    const silent = new TurnTaker()
    silent.before()
    const pages = new TurnTaker(silent.buffer)
    pages.before()
    pages.after()
    // What it never had it does not give back.
    expect(new Int32Array(silent.buffer)[1]).toBe(1)
  })
})
