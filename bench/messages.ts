import { mkdtempSync, rmSync } from 'node:fs'
import type { AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createTransport } from 'nodemailer'
import { SMTPServer } from 'smtp-server'
import { MIGRATIONS } from '../crash/setting'
import { openLarkmoor } from '../demo/fill'
import { mailOf } from '../server/channels/mail/compose'
import { SetClock } from '../server/engine/clock'
import { setMailAccount } from '../server/engine/message-settings'
import { postLetter } from '../server/engine/post'
import { row, say, type Row } from './measure'
import { withServer } from './served'

const MAILS = 10_000
const AT_ONCE = 50
const ROUNDS = 3
const PORT = '3198'
/** What is looked at while mails go out. */
const PAGES = ['/day-sheet', '/rules', '/journal', '/records/contacts/1', '/ahead']
const NOW_MS = Date.UTC(2026, 10, 24, 9)

/** A mail server on this computer that takes everything. */
async function taker() {
  const server = new SMTPServer({
    authOptional: true,
    disabledCommands: ['STARTTLS', 'AUTH'],
    closeTimeout: 100,
    onData(stream, _session, callback) {
      stream.resume()
      stream.on('end', () => callback())
    },
  })
  server.on('error', () => undefined)
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', () => resolve()))
  return {
    port: (server.server.address() as AddressInfo).port,
    close: () => new Promise<void>((resolve) => server.close(() => resolve())),
  }
}

const PLACE = { base: 'https://lever.example', personOf: String, replyTo: (_id: string, from: string) => from }

/** Mails that are due at one moment, handed over by the courier, beside the mail library by itself. */
export async function messages(): Promise<readonly Row[]> {
  const folder = mkdtempSync(join(tmpdir(), 'sky-lever-bench-'))
  const server = await taker()
  const dbFile = join(folder, 'mail.db')
  const workspace = openLarkmoor(
    { dbFile, migrationsFolder: MIGRATIONS, nowMs: NOW_MS, floodFrom: Infinity },
    new SetClock(NOW_MS),
  )
  try {
    const account = { host: '127.0.0.1', port: server.port, security: 'none' as const }
    setMailAccount(workspace, { ...account, user: '', password: '', replyDomain: '', dkim: null })
    const { ref } = workspace.create('contact', { name: 'Vera', email: 'v@x.example', owner: 'rosa' }, [], 'ines')
    // The very mails by the library alone, as many at once: half of them before and half after, so that neither side
    // has the warmer engine.
    const transport = createTransport({
      host: account.host,
      port: account.port,
      ignoreTLS: true,
      pool: true,
      maxConnections: 4,
      maxMessages: Infinity,
    })
    const mail = (n: number): ReturnType<typeof mailOf> =>
      mailOf(
        {
          key: `alone-${n}`,
          recipient: `v${n}@x.example`,
          subject: `Number ${n}`,
          body: 'Dear Vera,\n\nhere is our **offer**.\n\nRosa',
          atMs: NOW_MS,
          more: {
            from: { name: 'Rosa', address: 'rosa@larkmoor.example' },
            name: 'Vera',
            copy: [],
            messageId: `${n}@larkmoor.example`,
            inReplyTo: null,
            references: [],
            contactId: ref.id,
            optOut: true,
          },
        },
        PLACE,
      )
    const aloneMs = async (first: number, last: number): Promise<number> => {
      const begun = performance.now()
      let next = first
      const one = async (): Promise<void> => {
        while (next < last) await transport.sendMail(mail(next++))
      }
      await Promise.all(Array.from({ length: AT_ONCE }, one))
      return performance.now() - begun
    }
    /** As many as that wait, all due by now. */
    const due = (round: number): void =>
      workspace.db.atomically(() => {
        for (let n = 0; n < MAILS; n++)
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
              text: 'Dear Vera,\n\nhere is our **offer**.\n\nRosa',
              label: '',
              template: null,
              zone: 'UTC',
            },
            { personId: 'rosa', inReplyTo: null },
            `bench-${round}-${n}`,
            NOW_MS,
          )
      })
    const rounds: { readonly ours: number; readonly alone: number }[] = []
    for (let round = 0; round < ROUNDS; round++) {
      const before = await aloneMs(0, MAILS / 2)
      due(round)
      const begun = performance.now()
      const count = await workspace.courier.run()
      const ours = MAILS / ((performance.now() - begun) / 1000)
      if (count !== MAILS) throw new Error(`${count} of ${MAILS} mails went out`)
      rounds.push({ ours, alone: MAILS / ((before + (await aloneMs(MAILS / 2, MAILS))) / 1000) })
    }
    transport.close()
    const ratios = rounds.map(({ ours, alone }) => ours / alone).sort((a, b) => a - b)
    const looks = await withServer(PORT, dbFile, async (_call, look) => {
      for (const path of PAGES) await look(path)
      due(ROUNDS)
      const times: number[] = []
      for (let n = 0; workspace.store.outbox.pending() > 0; n++) times.push(await look(PAGES[n % PAGES.length] ?? '/'))
      return times.sort((a, b) => a - b)
    })
    const p95 = looks[Math.floor(looks.length * 0.95)] ?? 0
    const middle = rounds.find(({ ours, alone }) => ours / alone === ratios[Math.floor(ROUNDS / 2)])
    if (!middle) throw new Error('no round')
    return [
      row('Mails a second by the mail library alone', say(middle.alone)),
      row(`A page meanwhile, of ${looks.length}, p95 in ms`, say(p95), p95, { most: 100 }),
      row('Mails a second handed over, 10,000 due at one moment', say(middle.ours), middle.ours / middle.alone, {
        least: 0.8,
      }),
    ]
  } finally {
    await workspace.courier.stop()
    workspace.close()
    await server.close()
    rmSync(folder, { recursive: true, force: true })
  }
}
