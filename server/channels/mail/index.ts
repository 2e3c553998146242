import { createTransport, type Transporter } from 'nodemailer'
import type { Mailbox } from '../../stand-ins/mailbox'
import type { Channel, Handed, Parcel } from '../channel'
import type { MailAccount } from './account'
import { mailOf, rawMail, type MailPlace } from './compose'

/** Email: by SMTP (RFC 5321) where an account is set, otherwise into the simulated mailbox that ships with the app. */

interface Given {
  /** The account to send by; `null` for the simulated mailbox. */
  readonly account: () => MailAccount | null
  readonly place: MailPlace
  readonly mailbox: Mailbox
}

const transportOf = ({ host, port, security, user, password, dkim }: MailAccount): Transporter =>
  createTransport({
    host,
    port,
    secure: security === 'tls',
    requireTLS: security === 'startTls',
    ignoreTLS: security === 'none',
    ...(user === '' ? {} : { auth: { user, pass: password } }),
    ...(dkim ? { dkim: { domainName: dkim.domain, keySelector: dkim.selector, privateKey: dkim.privateKey } } : {}),
    pool: true,
    maxConnections: 4,
    maxMessages: Infinity,
    connectionTimeout: 10_000,
    greetingTimeout: 10_000,
    socketTimeout: 20_000,
    disableFileAccess: true,
    disableUrlAccess: true,
  })

/** What a refusal means: a code from 500 on is final, everything else may pass (RFC 5321, 4.2.1). */
function refused(code: number | undefined, because: string): Handed {
  // That nobody may sign in concerns the account and not this message.
  const final = code !== undefined && code >= 500 && code !== 530 && code !== 535
  return { is: final ? 'never' : 'later', because }
}

interface Refusal {
  readonly recipient?: string
  readonly responseCode?: number
  readonly message?: string
}

/** The refusal of whom the message is for; colleagues in copy do not matter, whatever becomes of theirs. */
const refusalOf = (recipient: string, all: readonly Refusal[] | undefined): Refusal | undefined =>
  all?.find((one) => one.recipient?.toLowerCase() === recipient.toLowerCase())

export function mail({ account, place, mailbox }: Given): Channel & { readonly name: 'mail' } {
  let kept: { readonly account: MailAccount; readonly transport: Transporter } | null = null
  const transport = (given: MailAccount): Transporter => {
    if (kept?.account !== given) {
      kept?.transport.close()
      kept = { account: given, transport: transportOf(given) }
    }
    return kept.transport
  }
  return {
    name: 'mail',
    close: () => kept?.transport.close(),
    async deliver(parcel: Parcel) {
      const given = account()
      if (!given) {
        mailbox(parcel, await rawMail(parcel, place))
        return { is: 'taken' }
      }
      try {
        const sent = (await transport(given).sendMail(mailOf(parcel, place))) as { readonly rejectedErrors?: Refusal[] }
        const own = refusalOf(parcel.recipient, sent.rejectedErrors)
        return own ? refused(own.responseCode, own.message ?? 'refused') : { is: 'taken' }
      } catch (error) {
        const whole = error as Refusal & { readonly rejectedErrors?: Refusal[] }
        const { responseCode, message } = refusalOf(parcel.recipient, whole.rejectedErrors) ?? whole
        return refused(responseCode, message ?? String(error))
      }
    },
  }
}
