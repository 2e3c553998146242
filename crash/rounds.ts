import { spawn } from 'node:child_process'
import { createInterface } from 'node:readline'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { bundle } from '../scripts/bundle.mjs'
import { Random } from '../demo/random'
import { checkAfter } from './check'
import { prepare } from './setting'

const CHILD = '.worker/crash-child.mjs'

export interface Rounds {
  readonly rounds: number
  readonly seed: number
  readonly tell?: (line: string) => void
}

export interface CrashReport {
  readonly killed: number
  readonly acknowledged: number
  /** What was found wrong; empty when nothing was lost and nothing done twice. */
  readonly wrong: readonly string[]
}

/** Runs the child until `killAfterMs` after it is ready (or to its end); answers what it acknowledged. */
function runChild(
  dbFile: string,
  seed: number,
  killAfterMs: number | null,
): Promise<{ readonly acknowledged: number[]; readonly said: string }> {
  return new Promise((resolve, reject) => {
    const child = spawn('node', [CHILD, dbFile, String(seed), ...(killAfterMs === null ? ['--finish'] : [])], {
      stdio: ['ignore', 'pipe', 'pipe'],
    })
    const acknowledged: number[] = []
    let last = ''
    let complaint = ''
    createInterface({ input: child.stdout }).on('line', (line) => {
      last = line
      if (line === 'ready' && killAfterMs !== null) setTimeout(() => child.kill('SIGKILL'), killAfterMs)
      if (line.startsWith('changed ')) acknowledged.push(Number(line.slice(8)))
    })
    child.stderr.on('data', (part: Buffer) => {
      complaint += part.toString()
    })
    child.on('error', reject)
    child.on('close', (code, signal) => {
      if (signal === 'SIGKILL' || code === 0) resolve({ acknowledged, said: last })
      else reject(new Error(`the child ended with ${code}: ${complaint.slice(-2000)}`))
    })
  })
}

/** Kills a workspace at work again and again at random moments, lets the last one finish, and checks what is left. */
export async function crashRounds({ rounds, seed, tell = () => undefined }: Rounds): Promise<CrashReport> {
  const folder = mkdtempSync(join(tmpdir(), 'sky-lever-crash-'))
  const dbFile = join(folder, 'crash.db')
  const random = new Random(seed)
  const files = Math.max(2, Math.ceil(rounds / 4))
  const rows = 120
  try {
    await bundle('crash/child.ts', CHILD)
    prepare(dbFile, files, rows)
    const acknowledged: number[] = []
    for (let round = 1; round <= rounds; round++) {
      const killAfterMs = random.int(1, 400)
      const heard = await runChild(dbFile, seed * 1000 + round, killAfterMs)
      acknowledged.push(...heard.acknowledged)
      tell(
        `round ${round}: killed ${killAfterMs} ms after it was ready, ${heard.acknowledged.length} changes acknowledged`,
      )
    }
    await runChild(dbFile, seed, null)
    return { killed: rounds, acknowledged: acknowledged.length, wrong: checkAfter(dbFile, acknowledged, files * rows) }
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}

/** From the command line: `--rounds N`, `--seed N`. */
export async function main(args: readonly string[]): Promise<void> {
  const number = (name: string, otherwise: number) =>
    Number(args[args.indexOf(`--${name}`) + 1] ?? otherwise) || otherwise
  const rounds = args.includes('--rounds') ? number('rounds', 20) : 20
  const seed = args.includes('--seed') ? number('seed', 1) : 1
  const report = await crashRounds({ rounds, seed, tell: (line) => console.log(line) })
  console.log(
    `${report.killed} crashes, ${report.acknowledged} acknowledged changes: ${report.wrong.length === 0 ? 'nothing lost, nothing twice' : report.wrong.join('\n')}`,
  )
  if (report.wrong.length > 0) process.exitCode = 1
}
