import type Mail from 'nodemailer/lib/mailer'
import MailComposer from 'nodemailer/lib/mail-composer'
import type { Parcel } from '../channel'
import { htmlOf } from './formatted'

/** A mail as it goes out, in text and in HTML, with everything by which answers and objections find their way back. */

/** Where links in mails lead, and where answers go. */
export interface MailPlace {
  /** Address of the workspace, without a slash at its end. */
  readonly base: string
  /** What stands in a link that is a contact’s alone. */
  readonly personOf: (contactId: number) => string
  /** The address that answers to a message go to, where the workspace receives mail; otherwise the sender’s. */
  readonly replyTo: (messageId: string, from: string) => string
}

const PREFERENCES = 'To choose what you get from us, or to get nothing more:'

/** What a mail is made of, for whatever sends it. */
export function mailOf({ key, recipient, subject, body, more }: Parcel, place: MailPlace): Mail.Options {
  // A colleague is told of something: nothing has to find its way back.
  if (more === null)
    return {
      from: { name: 'Sky Lever', address: `notifications@${recipient.split('@')[1] ?? 'localhost'}` },
      to: recipient,
      subject,
      text: body,
      messageId: `<${key}@notifications.invalid>`,
      headers: { 'auto-submitted': 'auto-generated' },
    }
  const { from, name, copy, messageId, inReplyTo, references, contactId, optOut } = more
  const person = place.personOf(contactId)
  const preferences = `${place.base}/preferences/${person}`
  const brackets = (id: string): string => `<${id}>`
  return {
    from,
    to: { name, address: recipient },
    ...(copy.length > 0 ? { cc: [...copy] } : {}),
    replyTo: place.replyTo(messageId, from.address),
    subject,
    text: optOut ? `${body}\n\n-- \n${PREFERENCES} ${preferences}\n` : body,
    html: optOut
      ? `${htmlOf(body)}<hr><p style="font-size:12px;color:#555">${PREFERENCES} <a href="${preferences}">${preferences}</a></p>`
      : htmlOf(body),
    messageId: brackets(messageId),
    ...(inReplyTo === null
      ? {}
      : { inReplyTo: brackets(inReplyTo), references: [...new Set([...references, inReplyTo])].map(brackets) }),
    headers: {
      // Written by a rule: what answers by itself is not to answer it (RFC 3834, section 5).
      ...(optOut ? { 'auto-submitted': 'auto-generated' } : {}),
      // One click, without a page between (RFC 8058).
      ...(optOut
        ? {
            'list-unsubscribe': brackets(`${place.base}/opt-out/${person}?channel=mail`),
            'list-unsubscribe-post': 'List-Unsubscribe=One-Click',
          }
        : {}),
    },
  }
}

/** The mail as it stands on the wire (RFC 5322). */
export const rawMail = (parcel: Parcel, place: MailPlace): Promise<Buffer> =>
  new MailComposer(mailOf(parcel, place)).compile().build()
