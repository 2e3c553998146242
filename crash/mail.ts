import type { AddressInfo } from 'node:net'
import { SMTPServer } from 'smtp-server'
import { setMailAccount } from '../server/engine/message-settings'
import { postLetter } from '../server/engine/post'
import { outgoingMain, type OtherSide } from './outgoing'

/** A mail server on this computer; mails are known by their Message-ID. */
export async function mailSide(): Promise<OtherSide> {
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
  const { port } = server.server.address() as AddressInfo
  return {
    taken,
    close: () => new Promise<void>((resolve) => server.close(() => resolve())),
    fill(workspace, count) {
      const account = { host: '127.0.0.1', port, security: 'none' as const, user: '', password: '' }
      setMailAccount(workspace, { ...account, replyDomain: '', dkim: null })
      const { ref } = workspace.create('contact', { name: 'Vera', email: 'v@x.example', owner: 'rosa' }, [], 'ines')
      const expected = new Set<string>()
      for (let n = 0; n < count; n++) {
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
          workspace.clock.nowMs(),
        )
        expected.add(workspace.store.messages.byKey(key)?.messageId ?? '')
      }
      return expected
    },
  }
}

export const main = (args: readonly string[]): Promise<void> => outgoingMain(mailSide, args)
