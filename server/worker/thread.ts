import { Worker } from 'node:worker_threads'
import type { LiveMessage } from '../engine/live'
import type { Answer, Given, QuestionName } from './questions'
import { RefusedError } from '../engine/workspace'
import type { Wanted } from '../engine/rehearsal'
import type { Ask, Told, WorkerSetting } from './protocol'
import type { Load } from './rehearsals'

interface Pending {
  readonly resolve: (value: unknown) => void
  readonly reject: (error: Error) => void
}

/** How long a question may take, and how many may wait for it. */
export interface AskLimit {
  readonly ms: number
  readonly waiting: number
}

/** Thrown where a question is not answered because it took too long, or because too many others wait. */
export class UnansweredError extends Error {
  constructor(readonly code: 'serverBusy' | 'tooMuchAsked') {
    super(code)
  }
}

export interface ThreadEnds {
  /** What open screens shall hear of the work. */
  readonly live: (message: LiveMessage) => void
  readonly ran: (counts: Readonly<Record<string, number>>) => void
  readonly trouble: (text: string) => void
  /** Hears that the thread has ended: what it held is to be given back. */
  readonly ended: () => void
  readonly rehearsal?: (told: Extract<Told, { told: 'rehearsal' }>) => void
}

/**
 * A rehearsal over many records makes many things that live as long as it does: with the usual room for young ones most
 * of them are copied about again and again (a fifth of the time of a forecast over 100,000 records).
 */
const YOUNG_MB = 96

/**
 * The other end of a thread that works beside the one that serves pages. A thread that dies is started again; whoever
 * waited for it hears so.
 */
export class Thread {
  private worker: Worker
  private readonly pending = new Map<number, Pending>()
  /** Of a thread with a limit: questions that wait for the one it works on, so that ending it loses no other. */
  private readonly line: Ask[] = []
  private asked: { readonly n: number; readonly timer: NodeJS.Timeout } | null = null
  private last = 0
  private closing = false
  /** Whether the thread has come as far as hearing; one that never does is not started again and again. */
  private ready = false
  private ended = false

  constructor(
    private readonly file: string,
    private readonly setting: WorkerSetting,
    private readonly ends: ThreadEnds,
    private readonly limit: AskLimit | null = null,
  ) {
    this.worker = this.start()
  }

  private start(): Worker {
    this.ready = false
    const worker = new Worker(this.file, {
      workerData: this.setting,
      ...(this.setting.role === 'rehearsal' ? { resourceLimits: { maxYoungGenerationSizeMb: YOUNG_MB } } : {}),
    })
    worker.on('message', (told: Told) => this.hear(told))
    worker.on('error', (error) => this.ends.trouble(`a worker failed: ${error.stack ?? error.message}`))
    worker.on('exit', () => {
      this.ends.ended()
      const goesOn = this.ready && !this.closing
      const waits = new Set(goesOn ? this.line.map((ask) => ('n' in ask ? ask.n : 0)) : [])
      for (const [n, { reject }] of this.pending) {
        if (waits.has(n)) continue
        reject(new Error('The background worker stopped. Try again.'))
        this.pending.delete(n)
      }
      if (this.asked) clearTimeout(this.asked.timer)
      this.asked = null
      if (goesOn) {
        this.worker = this.start()
        this.next()
      } else this.ended = true
    })
    return worker
  }

  private hear(told: Told): void {
    switch (told.told) {
      case 'ready':
        this.ready = true
        return
      case 'live':
        this.ends.live(told.message)
        return
      case 'ran':
        this.ends.ran(told.counts)
        return
      case 'rehearsal':
        this.ends.rehearsal?.(told)
        return
      case 'trouble':
        this.ends.trouble(told.text)
        return
      case 'answer':
      case 'failed': {
        const waiting = this.pending.get(told.n)
        this.pending.delete(told.n)
        if (this.asked?.n === told.n) {
          clearTimeout(this.asked.timer)
          this.asked = null
          this.next()
        }
        if (told.told === 'answer') waiting?.resolve(told.value)
        else waiting?.reject(told.problems ? new RefusedError(told.problems) : new Error(told.text))
      }
    }
  }

  private say(ask: Ask): void {
    this.worker.postMessage(ask)
  }

  /** Whether the thread can be asked. */
  get running(): boolean {
    return this.ready && !this.ended
  }

  /** Asks about many records, without keeping whoever asks from serving others. */
  ask<K extends QuestionName>(name: K, given: Given<K>): Promise<Answer<K>> {
    return this.awaiting((n) => ({ ask: 'question', n, name, given }))
  }

  /** What rules will give people to do, in the days to come. */
  load(days: number): Promise<Load> {
    return this.awaiting((n) => ({ ask: 'load', n, days }))
  }

  private awaiting<T>(question: (n: number) => Ask): Promise<T> {
    const n = ++this.last
    if (this.ended) return Promise.reject(new Error('The background worker could not start. See the log.'))
    return new Promise((resolve, reject) => {
      const ask = question(n)
      if (this.limit && this.line.length >= this.limit.waiting) {
        reject(new UnansweredError('serverBusy'))
        return
      }
      this.pending.set(n, { resolve: (value) => resolve(value as T), reject })
      if (!this.limit) {
        this.say(ask)
        return
      }
      this.line.push(ask)
      this.next()
    })
  }

  /** Hands over the question that has waited longest. One that takes too long ends with its thread. */
  private next(): void {
    if (this.asked || !this.limit) return
    const ask = this.line.shift()
    if (!ask || !('n' in ask)) return
    const { n } = ask
    const timer = setTimeout(() => {
      this.pending.get(n)?.reject(new UnansweredError('tooMuchAsked'))
      this.pending.delete(n)
      void this.worker.terminate()
    }, this.limit.ms)
    this.asked = { n, timer }
    this.say(ask)
  }

  /** Begins an import, or goes on with one that stopped; answers at once. */
  import(id: number): void {
    this.say({ ask: 'import', id })
  }

  /** Takes up an order of a rule over many records; answers at once. */
  job(id: number): void {
    this.say({ ask: 'job', id })
  }

  /** Begins a rehearsal; answers at once. */
  rehearse(id: number, wanted: Wanted, other: Wanted | null): void {
    this.say({ ask: 'rehearse', id, wanted, other })
  }

  endRehearsal(id: number): void {
    this.say({ ask: 'endRehearsal', id })
  }

  /** Turns the clock of a demo workspace forward; answers at once. */
  turn(toMs: number): void {
    this.say({ ask: 'turn', toMs })
  }

  /** Ends the thread between two commits. */
  async close(): Promise<void> {
    this.closing = true
    if (this.ended) return
    const ended = new Promise<void>((resolve) => this.worker.once('exit', () => resolve()))
    this.say({ ask: 'close' })
    await ended
  }
}
