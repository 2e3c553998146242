import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { openLarkmoor } from '../demo/fill'
import { Random } from '../demo/random'
import { bundle } from '../scripts/bundle.mjs'
import { SetClock } from '../server/engine/clock'
import { Workspace } from '../server/engine/workspace'
import { runChild } from './kill'
import { MIGRATIONS } from './setting'

const CHILD = '.worker/crash-mail-child.mjs'

/** The other side of something that goes out: it notes by what it knows what it took, in the order in which it did. */
export interface OtherSide {
  readonly taken: string[]
  close(): Promise<void>
  /** Puts so many into the outbox; answers by what each is known. */
  fill(workspace: Workspace, count: number): ReadonlySet<string>
}

export interface OutgoingReport {
  readonly messages: number
  readonly taken: number
  /** Taken more than once, each time counted. */
  readonly repeats: number
  readonly mostOfOne: number
  readonly wrong: readonly string[]
}

export interface Rounds {
  readonly messages: number
  readonly kills: number
  readonly seed: number
}

/**
 * Two processes send the same things to a real server and are killed again and again. Each arrives; again only under
 * its own id, and only where a process was killed while it was on its way.
 */
export async function outgoingRounds(
  open: () => Promise<OtherSide>,
  { messages, kills, seed }: Rounds,
): Promise<OutgoingReport> {
  const folder = mkdtempSync(join(tmpdir(), 'sky-lever-out-'))
  const dbFile = join(folder, 'out.db')
  const random = new Random(seed)
  const side = await open()
  const wrong: string[] = []
  try {
    await bundle('crash/mail-child.ts', CHILD)
    const nowMs = Date.now()
    const workspace = openLarkmoor(
      { dbFile, migrationsFolder: MIGRATIONS, nowMs, floodFrom: Infinity },
      new SetClock(nowMs),
    )
    const expected = workspace.db.atomically(() => side.fill(workspace, messages))
    workspace.close()
    const keepKilling = async (times: number): Promise<void> => {
      for (let round = 0; round < times; round++) await runChild(CHILD, [dbFile], random.int(1, 400))
      await runChild(CHILD, [dbFile], null)
    }
    await Promise.all([keepKilling(kills / 2), keepKilling(kills / 2)])
    const times = new Map<string, number>()
    for (const id of side.taken) times.set(id, (times.get(id) ?? 0) + 1)
    for (const id of times.keys()) if (!expected.has(id)) wrong.push(`“${id}” is no id of ours`)
    if (times.size !== messages) wrong.push(`${times.size} of ${messages} arrived`)
    const after = new Workspace({ dbFile, migrationsFolder: MIGRATIONS, floodFrom: Infinity })
    const pending = after.store.outbox.pending()
    if (pending > 0) wrong.push(`${pending} are still pending`)
    after.close()
    return {
      messages,
      taken: side.taken.length,
      repeats: side.taken.length - times.size,
      mostOfOne: Math.max(0, ...times.values()),
      wrong,
    }
  } finally {
    await side.close()
    rmSync(folder, { recursive: true, force: true })
  }
}

/** From the command line: `--messages N`, `--kills N`, `--seed N`. */
export async function outgoingMain(open: () => Promise<OtherSide>, args: readonly string[]): Promise<void> {
  const number = (name: string, otherwise: number) =>
    args.includes(`--${name}`) ? Number(args[args.indexOf(`--${name}`) + 1]) : otherwise
  const report = await outgoingRounds(open, {
    messages: number('messages', 5000),
    kills: number('kills', 200),
    seed: number('seed', 1),
  })
  console.log(
    `${report.messages} sent, taken ${report.taken} times: ${report.repeats} repeats,`,
    `one at most ${report.mostOfOne} times.`,
    report.wrong.length === 0 ? 'Nothing lost, nothing under a second id.' : report.wrong.join(' '),
  )
  if (report.wrong.length > 0) process.exitCode = 1
}
