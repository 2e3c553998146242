import { createHmac, timingSafeEqual } from 'node:crypto'

/** Texts that stand in links and addresses, so that nobody can make one for another (HMAC-SHA-256, RFC 2104). */

/** Of the signature, 96 bits: a link stays short, and nobody guesses it. */
const SIGNATURE_LENGTH = 16

/** What such a text can be about: whoever follows it, something that only its people may change, or a message. */
export type Signed = 'contact' | 'appointment' | 'message' | 'answer' | 'call' | 'reply'

const signatureOf = (what: Signed, name: string, secret: string): string =>
  createHmac('sha256', secret).update(`${what} ${name}`).digest('base64url').slice(0, SIGNATURE_LENGTH)

/** A name with its signature. */
export const signedWith = (secret: string, what: Signed, name: string): string =>
  `${name}.${signatureOf(what, name, secret)}`

/** The name that such a text was made for; `null` for what was not made with the secret. */
export function readSignedWith(secret: string, what: Signed, text: string): string | null {
  const [, name, signature] = /^(\w{1,80})\.([\w-]+)$/.exec(text) ?? []
  if (name === undefined || signature?.length !== SIGNATURE_LENGTH) return null
  const right = signatureOf(what, name, secret)
  return timingSafeEqual(Buffer.from(right), Buffer.from(signature)) ? name : null
}
