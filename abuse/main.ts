import { spawn } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { request } from 'node:http'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { HOSTILE, type Hostile } from './inputs'

/**
 * Sends hostile requests to a server of its own, built and filled as a demo, and looks meanwhile whether it lives:
 * prints the longest time that `/healthz` did not answer, and the most memory that the process had.
 */

const PORT = 3127
const MOST_SILENT_MS = 250
const MOST_MORE_MB = 200
/** No answer takes longer; a request that does has stopped something. */
const PATIENCE_MS = 60_000
const EVERY_MS = 10

interface Answer {
  readonly status: number
  readonly cookie: string
  readonly text: string
}

const ask = (
  method: string,
  path: string,
  {
    body,
    type = 'application/json',
    cookie = '',
    ms = PATIENCE_MS,
  }: {
    readonly body?: string | undefined
    readonly type?: string | undefined
    readonly cookie?: string
    readonly ms?: number
  } = {},
): Promise<Answer> =>
  new Promise((resolve, reject) => {
    const going = request(
      {
        port: PORT,
        method,
        path,
        headers: {
          cookie,
          ...(body === undefined ? {} : { 'content-type': type, 'content-length': Buffer.byteLength(body) }),
        },
      },
      (answer) => {
        const status = answer.statusCode ?? 0
        const made = { status, cookie: (answer.headers['set-cookie']?.[0] ?? '').split(';')[0] ?? '' }
        // A stream has no end: its head is the answer.
        if (answer.headers['content-type']?.startsWith('text/event-stream')) {
          resolve({ ...made, text: '' })
          setTimeout(() => answer.destroy(), 500).unref()
          return
        }
        let text = ''
        answer.on('data', (piece: Buffer) => {
          if (text.length < 1000) text += piece.toString()
        })
        answer.on('end', () => resolve({ ...made, text }))
        answer.on('error', reject)
      },
    )
    going.setTimeout(ms, () => going.destroy(new Error(`no answer within ${ms / 1000} s`)))
    going.on('error', (error: Error & { readonly code?: string }) =>
      // A server that has read enough may close the connection while the rest is still on its way.
      error.code === 'EPIPE' || error.code === 'ECONNRESET'
        ? resolve({ status: 413, cookie: '', text: 'cut off' })
        : reject(error),
    )
    going.end(body)
  })

/** Resident memory of a process in MB, and the most it ever was (Linux, proc(5)). */
function memory(pid: number): { readonly now: number; readonly most: number } {
  const text = readFileSync(`/proc/${pid}/status`, 'utf8')
  const of = (name: string): number => Number(new RegExp(`${name}:\\s+(\\d+)`).exec(text)?.[1] ?? 0) / 1024
  return { now: of('VmRSS'), most: of('VmHWM') }
}

/** Asks `/healthz` again and again; tells how long the server was silent at most since it was last asked. */
function watch(): { readonly longest: () => number; readonly stop: () => void } {
  let [longest, open, since] = [0, true, performance.now()]
  const beat = async (): Promise<void> => {
    while (open) {
      since = performance.now()
      await ask('GET', '/healthz').catch(() => {})
      longest = Math.max(longest, performance.now() - since)
      await new Promise((resolve) => setTimeout(resolve, EVERY_MS))
    }
  }
  void beat()
  return {
    longest() {
      const found = Math.max(longest, performance.now() - since)
      longest = 0
      return found
    },
    stop() {
      open = false
    },
  }
}

async function send(one: Hostile, cookie: string): Promise<string> {
  const sent = Array.from({ length: one.times ?? 1 }, () =>
    ask(one.method, `/api/v1${one.path}`, {
      body: one.body,
      type: one.type,
      cookie: one.stranger ? '' : cookie,
    }).then(
      ({ status }) => String(status),
      (error: unknown) => (error instanceof Error ? error.message : String(error)),
    ),
  )
  const found = new Map<string, number>()
  for (const one of await Promise.all(sent)) found.set(one, (found.get(one) ?? 0) + 1)
  return [...found].map(([status, times]) => (times > 1 ? `${times} × ${status}` : status)).join(', ')
}

/** Prints a line a hostile input and the sum; sets the exit code when a target is missed. */
export async function main(args: readonly string[]): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'sky-lever-abuse-'))
  const dbFile = join(folder, 'abuse.db')
  const env = { ...process.env, PORT: String(PORT), SKY_LEVER_DB: dbFile, SKY_LEVER_LOG: 'silent' }
  const run = (command: string, ...given: readonly string[]): Promise<void> =>
    new Promise((resolve, reject) => {
      spawn(command, given, { env, stdio: ['ignore', 'ignore', 'inherit'] }).once('exit', (code) =>
        code === 0 ? resolve() : reject(new Error(`${command} ended with ${code}`)),
      )
    })
  await run('node', 'scripts/bundled.mjs', 'demo/fill.ts')
  const server = spawn('node', ['.output/server/index.mjs'], { env, stdio: ['ignore', 'ignore', 'inherit'] })
  try {
    for (let tries = 0; tries < 300; tries++) {
      if (
        await ask('GET', '/readyz').then(
          ({ status }) => status === 200,
          () => false,
        )
      )
        break
      await new Promise((resolve) => setTimeout(resolve, 100))
    }
    const { cookie } = await ask('POST', '/api/v1/session/demo', { body: JSON.stringify({ personId: 'ines' }) })
    // Quiet for a while: what a first page brings in is not what is measured.
    for (const path of ['/rules', '/record-lists/deal', '/ahead']) await ask('GET', `/api/v1${path}`, { cookie })
    const before = memory(server.pid ?? 0).now
    const pulse = watch()
    let [silent, wrong] = [0, 0]
    for (const one of HOSTILE.filter(({ name }) => args.length === 0 || args.some((word) => name.includes(word)))) {
      // What came before may still be at work.
      await ask('GET', '/healthz').catch(() => {})
      pulse.longest()
      const from = performance.now()
      const told = await send(one, cookie)
      const [ms, quiet] = [performance.now() - from, pulse.longest()]
      silent = Math.max(silent, quiet)
      const bad = /\b5\d\d\b(?<!503)|no answer|socket/.test(told)
      if (bad) wrong++
      console.log(
        `${quiet > MOST_SILENT_MS || bad ? '✗' : ' '} ${one.name}: ${told}, ${Math.round(ms)} ms, silent ${Math.round(quiet)} ms, ${Math.round(memory(server.pid ?? 0).most - before)} MB more at most`,
      )
    }
    pulse.stop()
    const more = memory(server.pid ?? 0).most - before
    console.log(
      `\nlongest silence ${Math.round(silent)} ms (at most ${MOST_SILENT_MS}), ` +
        `memory + ${Math.round(more)} MB (at most ${MOST_MORE_MB}), ${wrong} wrong answers`,
    )
    if (silent > MOST_SILENT_MS || more > MOST_MORE_MB || wrong > 0) process.exitCode = 1
  } finally {
    server.kill()
    rmSync(folder, { recursive: true, force: true })
  }
}
