import { spawn, spawnSync, type ChildProcess } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect } from './app'

export interface OwnServer {
  readonly base: string
  readonly dbFile: string
  /** Asks it to stop and waits until it has ended by itself. Answers how it ended. */
  readonly stop: () => Promise<number | null>
  readonly clear: () => void
}

/** A server with a database of its own, for tests that must not touch what the others use. */
export async function ownServer(port: number, demo: boolean): Promise<OwnServer> {
  const folder = mkdtempSync(join(tmpdir(), 'sky-lever-own-'))
  const dbFile = join(folder, 'own.db')
  const env = { ...process.env, PORT: String(port), SKY_LEVER_DB: dbFile, SKY_LEVER_LOG: 'error' }
  if (demo)
    expect(spawnSync('node', ['scripts/bundled.mjs', 'demo/fill.ts', '--fresh'], { env, stdio: 'ignore' }).status).toBe(
      0,
    )
  const server: ChildProcess = spawn('node', ['.output/server/index.mjs'], { env, stdio: 'ignore' })
  const base = `http://localhost:${port}`
  await expect
    .poll(
      () =>
        fetch(`${base}/api/v1/session`).then(
          (answer) => answer.status,
          () => 0,
        ),
      { timeout: 60_000 },
    )
    .toBe(200)
  return {
    base,
    dbFile,
    async stop() {
      const ended = new Promise<number | null>((resolve) => server.once('exit', (code) => resolve(code)))
      server.kill('SIGTERM')
      return await ended
    },
    clear: () => rmSync(folder, { recursive: true, force: true }),
  }
}
