import { createHmac, timingSafeEqual } from 'node:crypto'
import type { Workspace } from './workspace'

/** Of the signature, 96 bits: a link stays short, and nobody guesses it. */
const SIGNATURE_LENGTH = 16
/** What a link can be about: whoever follows it, or something that only its people may change. */
type Signed = 'contact' | 'appointment' | 'message'

const signatureOf = (what: Signed, id: string, secret: string): string =>
  createHmac('sha256', secret).update(`${what} ${id}`).digest('base64url').slice(0, SIGNATURE_LENGTH)

/** What stands in a link for a record, so that nobody can make one for another (HMAC-SHA-256, RFC 2104). */
export const signed = (workspace: Workspace, what: Signed, id: number): string =>
  signedWith(workspace.store.websites.secret(), what, String(id))

/** The same with the secret at hand, for anything that has a name. */
export const signedWith = (secret: string, what: Signed, id: string): string => `${id}.${signatureOf(what, id, secret)}`

/** The number of the record that such a link was made for; `null` for what was not made here. */
export function readSigned(workspace: Workspace, what: Signed, text: string): number | null {
  const id = readSignedName(workspace, what, text)
  return id !== null && /^\d{1,15}$/.test(id) ? Number(id) : null
}

/** The name that such a text was made for; `null` for what was not made here. */
export function readSignedName(workspace: Workspace, what: Signed, text: string): string | null {
  const [, id, signature] = /^(\w{1,80})\.([\w-]+)$/.exec(text) ?? []
  if (id === undefined || signature?.length !== SIGNATURE_LENGTH) return null
  const right = signatureOf(what, id, workspace.store.websites.secret())
  return timingSafeEqual(Buffer.from(right), Buffer.from(signature)) ? id : null
}
