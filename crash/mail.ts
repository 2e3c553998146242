import { mkdtempSync, rmSync } from 'node:fs'
import type { AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { SMTPServer } from 'smtp-server'
import { openLarkmoor } from '../demo/fill'
import { Random } from '../demo/random'
import { bundle } from '../scripts/bundle.mjs'
import { SetClock } from '../server/engine/clock'
import { setMailAccount } from '../server/engine/message-settings'
import { postLetter } from '../server/engine/post'
import { Workspace } from '../server/engine/workspace'
import { runChild } from './kill'
import { MIGRATIONS } from './setting'

const CHILD = '.worker/crash-mail-child.mjs'

/** A mail server on this computer that notes which Message-IDs it took, in the order in which it did. */
async function receiver() {
  const taken: string[] = []
  const server = new SMTPServer({
    authOptional: true,
    disabledCommands: ['STARTTLS', 'AUTH'],
    closeTimeout: 100,
    onData(stream, _session, callback) {
      let head = ''
      stream.on('data', (piece: Buffer) => {
        if (head.length < 8000) head += piece.toString('latin1')
      })
      stream.on('end', () => {
        taken.push(/^message-id:\s*<([^>]+)>/im.exec(head)?.[1] ?? '')
        callback()
      })
    },
  })
  // Whoever is killed resets its connections.
  server.on('error', () => undefined)
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', () => resolve()))
  return {
    taken,
    port: (server.server.address() as AddressInfo).port,
    close: () => new Promise<void>((resolve) => server.close(() => resolve())),
  }
}

export interface MailReport {
  readonly messages: number
  readonly taken: number
  /** Taken more than once, each time counted. */
  readonly repeats: number
  readonly mostOfOne: number
  readonly wrong: readonly string[]
}

/**
 * Two processes send the same messages through a real SMTP server and are killed again and again. Each arrives; again
 * only under its own Message-ID, and only where a process was killed while it was on its way.
 */
export async function mailRounds({
  messages,
  kills,
  seed,
}: {
  readonly messages: number
  readonly kills: number
  readonly seed: number
}): Promise<MailReport> {
  const folder = mkdtempSync(join(tmpdir(), 'sky-lever-mail-'))
  const dbFile = join(folder, 'mail.db')
  const random = new Random(seed)
  const server = await receiver()
  const wrong: string[] = []
  try {
    await bundle('crash/mail-child.ts', CHILD)
    const nowMs = Date.now()
    const workspace = openLarkmoor(
      { dbFile, migrationsFolder: MIGRATIONS, nowMs, floodFrom: Infinity },
      new SetClock(nowMs),
    )
    setMailAccount(workspace, {
      host: '127.0.0.1',
      port: server.port,
      security: 'none',
      user: '',
      password: '',
      replyDomain: '',
      dkim: null,
    })
    const { ref } = workspace.create('contact', { name: 'Vera', email: 'v@x.example', owner: 'rosa' }, [], 'ines')
    const expected = new Set<string>()
    workspace.db.atomically(() => {
      for (let n = 0; n < messages; n++) {
        const key = `many-${n}`
        postLetter(
          workspace.store,
          {
            channel: 'mail',
            who: ref,
            name: 'Vera',
            address: `v${n}@x.example`,
            from: { name: 'Rosa', address: 'rosa@larkmoor.example', personId: 'rosa' },
            copy: [],
            subject: `Number ${n}`,
            text: 'Hello.',
            label: '',
            template: null,
            zone: 'UTC',
          },
          { personId: 'rosa', inReplyTo: null },
          key,
          nowMs,
        )
        expected.add(workspace.store.messages.byKey(key)?.messageId ?? '')
      }
    })
    workspace.close()
    const keepKilling = async (times: number): Promise<void> => {
      for (let round = 0; round < times; round++) await runChild(CHILD, [dbFile], random.int(1, 400))
      await runChild(CHILD, [dbFile], null)
    }
    await Promise.all([keepKilling(kills / 2), keepKilling(kills / 2)])
    const times = new Map<string, number>()
    for (const id of server.taken) times.set(id, (times.get(id) ?? 0) + 1)
    for (const id of times.keys()) if (!expected.has(id)) wrong.push(`“${id}” is no Message-ID of ours`)
    if (times.size !== messages) wrong.push(`${times.size} of ${messages} arrived`)
    const after = new Workspace({ dbFile, migrationsFolder: MIGRATIONS, floodFrom: Infinity })
    const pending = after.store.outbox.pending()
    if (pending > 0) wrong.push(`${pending} are still pending`)
    after.close()
    return {
      messages,
      taken: server.taken.length,
      repeats: server.taken.length - times.size,
      mostOfOne: Math.max(0, ...times.values()),
      wrong,
    }
  } finally {
    await server.close()
    rmSync(folder, { recursive: true, force: true })
  }
}

/** From the command line: `--messages N`, `--kills N`, `--seed N`. */
export async function main(args: readonly string[]): Promise<void> {
  const number = (name: string, otherwise: number) =>
    args.includes(`--${name}`) ? Number(args[args.indexOf(`--${name}`) + 1]) : otherwise
  const report = await mailRounds({
    messages: number('messages', 5000),
    kills: number('kills', 200),
    seed: number('seed', 1),
  })
  console.log(
    `${report.messages} messages, taken ${report.taken} times: ${report.repeats} repeats, one at most ${report.mostOfOne} times. ${report.wrong.length === 0 ? 'Nothing lost, nothing under a second Message-ID.' : report.wrong.join(' ')}`,
  )
  if (report.wrong.length > 0) process.exitCode = 1
}
