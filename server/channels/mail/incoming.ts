import { simpleParser, type ParsedMail } from 'mailparser'

/** A mail that came in, as far as it concerns messages of ours. */
export interface MailIn {
  readonly from: string
  readonly subject: string
  readonly text: string
  readonly messageId: string | null
  /** Messages it says it answers, or is about, the nearest first; without brackets. */
  readonly answers: readonly string[]
  /** Whether a program wrote it by itself (RFC 3834). */
  readonly automatic: boolean
  readonly bounce: { readonly recipient: string; readonly final: boolean; readonly reason: string } | null
}

const bare = (id: string): string => id.trim().replace(/^<|>$/g, '')
const textOf = (header: unknown): string => (typeof header === 'string' ? header.toLowerCase() : '')

/** A mail that no person wrote: it says so, or comes from nowhere, as RFC 3834 (section 5) and long use have it. */
function isAutomatic({ headers }: ParsedMail): boolean {
  const submitted = textOf(headers.get('auto-submitted'))
  if (submitted !== '' && !submitted.startsWith('no')) return true
  if (headers.has('x-autoreply') || headers.has('x-autorespond')) return true
  return /^(auto_reply|bulk|junk)/.test(textOf(headers.get('precedence')))
}

/** The fields of the part of a report that tells of each recipient (RFC 3464, 2.3). */
function reportOf({ attachments, headers }: ParsedMail): MailIn['bounce'] {
  const type = headers.get('content-type')
  const isReport =
    typeof type === 'object' && 'value' in type && String((type as { value: unknown }).value) === 'multipart/report'
  const part = attachments.find((one) => one.contentType === 'message/delivery-status')
  if (!part || !isReport) return null
  // A line that begins with a blank goes on with the one before it (RFC 5322, 2.2.3).
  const lines = part.content
    .toString('utf8')
    .replace(/\r?\n[ \t]+/g, ' ')
    .split(/\r?\n/)
  const field = (name: string): string =>
    lines
      .find((line) => line.toLowerCase().startsWith(`${name}:`))
      ?.slice(name.length + 1)
      .trim() ?? ''
  const recipient = (field('final-recipient') || field('original-recipient')).replace(/^[^;]*;\s*/, '')
  if (!/^failed/i.test(field('action')) || recipient === '') return null
  const status = field('status')
  const why = field('diagnostic-code').replace(/^[^;]*;\s*/, '')
  return { recipient: recipient.toLowerCase(), final: status.startsWith('5'), reason: why === '' ? status : why }
}

/** The message that a report brings along, whole or by its headers. */
function idsWithin({ attachments }: ParsedMail): readonly string[] {
  return attachments
    .filter(({ contentType }) => contentType === 'message/rfc822' || contentType === 'text/rfc822-headers')
    .flatMap(({ content }) => {
      const [, id] = /^message-id:\s*(<[^>]+>)/im.exec(content.toString('utf8')) ?? []
      return id === undefined ? [] : [bare(id)]
    })
}

/** Reads a mail as it stands on the wire. */
export async function readMail(raw: Buffer | string): Promise<MailIn> {
  const mail = await simpleParser(raw, { skipImageLinks: true, keepDeliveryStatus: true })
  const references = mail.references === undefined ? [] : [mail.references].flat().map(bare).toReversed()
  const bounce = reportOf(mail)
  return {
    from: mail.from?.value[0]?.address?.toLowerCase() ?? '',
    subject: mail.subject ?? '',
    text: mail.text ?? '',
    messageId: mail.messageId === undefined ? null : bare(mail.messageId),
    answers: [
      ...new Set([
        ...(bounce ? idsWithin(mail) : []),
        ...(mail.inReplyTo ? [bare(mail.inReplyTo)] : []),
        ...references,
      ]),
    ],
    automatic: isAutomatic(mail),
    bounce,
  }
}
