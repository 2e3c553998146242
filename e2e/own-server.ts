import { spawn } from 'node:child_process'
import { copyFileSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { FILLED } from './address'

export interface RunningServer {
  readonly base: string
  readonly dbFile: string
  /** What it has written on its standard output. */
  readonly said: () => string
  /** Asks it to stop and waits until it has ended by itself. Answers how it ended. */
  readonly stop: () => Promise<number | null>
  /** Ends it without asking, as a cut of power would. */
  readonly kill: () => Promise<void>
  readonly clear: () => void
}

const LONGEST_START_MS = 60_000
const answers = (base: string): Promise<boolean> =>
  fetch(`${base}/api/v1/session`).then(
    ({ status }) => status === 200,
    () => false,
  )

/**
 * Starts the built server over a database of its own: a copy of the filled demo, or an empty one; or as a second
 * process over that of another one.
 */
export async function startServer(
  port: number,
  demo: boolean,
  name = 'own.db',
  beside: RunningServer | null = null,
  more: Readonly<Record<string, string>> = {},
): Promise<RunningServer> {
  const folder = mkdtempSync(join(tmpdir(), 'sky-lever-own-'))
  const dbFile = beside?.dbFile ?? join(folder, name)
  if (demo && !beside) copyFileSync(FILLED, dbFile)
  const env = { ...process.env, PORT: String(port), SKY_LEVER_DB: dbFile, SKY_LEVER_LOG: 'error', ...more }
  const server = spawn('node', ['.output/server/index.mjs'], { env, stdio: ['ignore', 'pipe', 'inherit'] })
  let said = ''
  server.stdout.on('data', (piece: Buffer) => (said += piece.toString()))
  const base = `http://localhost:${port}`
  for (const from = Date.now(); !(await answers(base)); await new Promise((resolve) => setTimeout(resolve, 100))) {
    if (server.exitCode !== null) throw new Error(`the server on port ${port} ended with ${server.exitCode}`)
    if (Date.now() - from > LONGEST_START_MS) throw new Error(`the server on port ${port} does not answer`)
  }
  return {
    base,
    dbFile,
    said: () => said,
    async stop() {
      if (server.exitCode !== null) return server.exitCode
      const ended = new Promise<number | null>((resolve) => server.once('exit', (code) => resolve(code)))
      server.kill('SIGTERM')
      return await ended
    },
    async kill() {
      const ended = new Promise((resolve) => server.once('exit', resolve))
      server.kill('SIGKILL')
      await ended
    },
    clear: () => rmSync(folder, { recursive: true, force: true }),
  }
}
