import { SMTPServer } from 'smtp-server'
import { readMail } from '../channels/mail/incoming'
import { readSignedWith } from '../store/signature'
import { takeIncoming, type TakenAs } from './messages'
import type { Workspace } from './workspace'

/** Mail that comes in: answers, automatic replies, and reports of what did not arrive. */

const SIZE_MOST = 20 * 1024 * 1024
const CLIENTS_MOST = 20

/** The message that a signed reply address was made for; nothing for any other address. */
function answeredBy(workspace: Workspace, address: string): readonly string[] {
  const [, token = ''] = /^reply\+([\w.-]+)@/.exec(address) ?? []
  const name = readSignedWith(workspace.store.websites.secret(), 'message', token)
  const found = name === null ? null : workspace.store.messages.withLocalPart(name)
  return found ? [found.messageId] : []
}

/** Takes a mail as it stands on the wire, for those recipients. */
export async function takeMail(
  workspace: Workspace,
  raw: Buffer | string,
  recipients: readonly string[],
): Promise<TakenAs> {
  const mail = await readMail(raw)
  return takeIncoming(workspace, {
    channel: 'mail',
    ...mail,
    // Whoever answers from a program that forgets what it answers still writes to the address we gave.
    answers: [...mail.answers, ...recipients.flatMap((one) => answeredBy(workspace, one))],
  })
}

/** Whether this workspace receives mail for an address. */
function isOurs(workspace: Workspace, address: string): boolean {
  const domain = workspace.store.accounts.mail()?.replyDomain ?? ''
  return domain !== '' && address.toLowerCase().endsWith(`@${domain.toLowerCase()}`)
}

/** A receiver for one workspace (RFC 5321): what it cannot keep now it asks to be sent again. */
export function mailReceiver(workspace: Workspace, trouble: (error: unknown) => void): SMTPServer {
  const server = new SMTPServer({
    authOptional: true,
    disabledCommands: ['AUTH', 'STARTTLS'],
    size: SIZE_MOST,
    maxClients: CLIENTS_MOST,
    closeTimeout: 1000,
    onRcptTo({ address }, _session, callback) {
      callback(
        isOurs(workspace, address) ? null : Object.assign(new Error('No such mailbox here'), { responseCode: 550 }),
      )
    },
    onData(stream, session, callback) {
      const pieces: Buffer[] = []
      stream.on('data', (piece: Buffer) => pieces.push(piece))
      stream.on('end', () => {
        if (stream.sizeExceeded) {
          callback(Object.assign(new Error('Too large'), { responseCode: 552 }))
          return
        }
        takeMail(
          workspace,
          Buffer.concat(pieces),
          session.envelope.rcptTo.map(({ address }) => address),
        ).then(
          () => callback(null),
          (error: unknown) => {
            trouble(error)
            callback(Object.assign(new Error('Try again later'), { responseCode: 451 }))
          },
        )
      })
    },
  })
  // A connection that breaks is told here, and would otherwise end the process.
  server.on('error', trouble)
  return server
}
